using System.CommandLine;
using System.Globalization;
using EmberLane.Application.Backups;
using EmberLane.Application.Gathering;
using EmberLane.Application.Rooms;
using EmberLane.Store;

namespace EmberLane.Web.Commands;

/// <summary><c>ember backup [--data DIR] [--backups DIR]</c>: a backup of the database, also while its server runs.</summary>
internal static class BackupCommand
{
    public static Command Make(TextWriter output)
    {
        var data = CommandLine.Data();
        var backups = CommandLine.Backups();
        var list = new Option<bool>("--list") { Description = "Names the backups that there are, looks each through, and makes none." };
        var uploads = new Option<bool>("--with-uploads")
        {
            Description = "Copies uploaded footage beside them too, what is not there yet.",
        };
        var command = new Command("backup", "A backup of the database: whole, looked through, also while the server runs.")
        {
            data,
            backups,
            list,
            uploads,
        };
        command.SetAction(
            (asked, cancel) =>
            {
                var shelf = ShelfOf(asked.GetValue(data)!, asked.GetValue(backups));
                return asked.GetValue(list)
                    ? ListAsync(shelf, output)
                    : MakeAsync(shelf, asked.GetValue(data)!, asked.GetValue(uploads), output, cancel);
            }
        );
        return command;
    }

    /// <summary>The shelf of a data folder.</summary>
    public static BackupShelf ShelfOf(string data, string? backups) =>
        BackupShelf.Of(new Options { Data = data, Backups = backups }, new DiskSpace(), TimeProvider.System);

    /// <summary>What a backup holds, in words.</summary>
    public static string Holds(BackupContents contents) =>
        (
            contents.Productions.Count == 0
                ? "no production"
                : string.Join("; ", contents.Productions.Select(p => $"{p.Name} ({Counted(p)})"))
        )
        + (
            contents.LastChange is { } at
                ? string.Create(CultureInfo.InvariantCulture, $"; last changed {at.UtcDateTime:yyyy-MM-dd HH:mm} UTC")
                : ""
        );

    private static string Counted(BackedUpProduction p) =>
        $"{Many.Of(p.Sittings, "sitting")}, {Many.Of(p.Bites, "bite")}, {Many.Of(p.Stories, "story", "stories")}";

    private static async Task<int> MakeAsync(BackupShelf shelf, string data, bool uploads, TextWriter output, CancellationToken cancel)
    {
        if (!File.Exists(Path.Combine(data, "ember.sqlite")))
        {
            throw new StoreException($"{data} holds no database. Name the data folder of your server with --data.");
        }
        var (backup, contents) = shelf.Make();
        await output.WriteLineAsync(string.Create(CultureInfo.InvariantCulture, $"{backup.Path}  {backup.Bytes} bytes, whole"));
        await output.WriteLineAsync(Holds(contents));
        if (uploads)
        {
            var (copied, there) = await UploadMirror.CopyAsync(UploadMirror.Of(data), UploadMirror.Of(shelf.Folder), cancel);
            await output.WriteLineAsync(FormattableString.Invariant($"uploads: {Many.Of(copied, "file")} copied, {there} there already"));
        }
        return 0;
    }

    // 1 where one of them is not whole.
    private static async Task<int> ListAsync(BackupShelf shelf, TextWriter output)
    {
        var odd = 0;
        foreach (var backup in shelf.All())
        {
            var says = "";
            try
            {
                says = Holds(DatabaseBackup.Look(backup.Path));
            }
            catch (StoreException e)
            {
                (says, odd) = (e.Message, odd + 1);
            }
            await output.WriteLineAsync(string.Create(CultureInfo.InvariantCulture, $"{backup.Name}  {backup.Bytes} bytes  {says}"));
        }
        await output.WriteLineAsync(
            $"{Many.Of(shelf.All().Count, "backup")} in {shelf.Folder}{(odd > 0 ? FormattableString.Invariant($", {odd} not whole") : "")}"
        );
        return odd == 0 ? 0 : 1;
    }
}
