using System.CommandLine;
using EmberLane.Application.Backups;
using EmberLane.Store;

namespace EmberLane.Web.Commands;

/// <summary><c>ember rebuild [--data DIR]</c>: makes the read models anew, from what people decided and what was recognised.</summary>
internal static class RebuildCommand
{
    public static Command Make(TextWriter output)
    {
        var data = CommandLine.Data();
        var command = new Command("rebuild", "Makes what lists show anew, from what people decided. Stop the server first.") { data };
        command.SetAction((asked, _) => RunAsync(asked.GetValue(data)!, output));
        return command;
    }

    /// <summary>
    /// Returns 0 when everything was as it should be, 1 when something was not and was mended. Throws <see cref="StoreException"/> while a
    /// server has the folder, or when there is no database.
    /// </summary>
    private static async Task<int> RunAsync(string data, TextWriter output)
    {
        var path = Path.Combine(data, "ember.sqlite");
        if (!File.Exists(path))
        {
            throw new StoreException($"{data} holds no database. Name the data folder of your server with --data.");
        }
        using var folderHeld = DataFolder.Take(data);
        var database = BackupShelf.Open(data);
        var readings = new Readings(database, new Store.Transcripts(database, TimeProvider.System));
        // A database of an older version has none yet: that is no fault of anybody's.
        readings.MakeFirst();
        var odd = readings.Rebuild();
        foreach (var one in odd)
        {
            await output.WriteLineAsync(
                FormattableString.Invariant($"sitting {one.SittingId} was not as it should be and is mended: {one.What}")
            );
        }
        await output.WriteLineAsync(
            odd.Count == 0
                ? "Everything that lists show was as it should be."
                : FormattableString.Invariant($"{odd.Count} sittings mended; nothing that anybody decided was touched.")
        );
        return odd.Count == 0 ? 0 : 1;
    }
}
