using System.CommandLine;
using EmberLane.Application.Backups;
using EmberLane.Application.Rooms;

namespace EmberLane.Web.Commands;

/// <summary><c>ember restore BACKUP [--data DIR]</c>: brings a backup back in place of the database.</summary>
internal static class RestoreCommand
{
    public static Command Make(TextWriter output)
    {
        var backup = new Argument<string>("BACKUP")
        {
            Description = "A backup: its path, its name as ember backup --list tells it, or newest.",
        };
        var data = CommandLine.Data();
        var backups = CommandLine.Backups();
        var command = new Command("restore", "Brings a backup back. Stop the server first; what is there now is kept as a backup.")
        {
            backup,
            data,
            backups,
        };
        command.SetAction(
            (asked, cancel) => RunAsync(asked.GetValue(backup)!, asked.GetValue(data)!, asked.GetValue(backups), output, cancel)
        );
        return command;
    }

    /// <summary>
    /// Throws <see cref="Store.StoreException"/> while a server has the folder, or when the backup can not be brought back.
    /// </summary>
    private static async Task<int> RunAsync(string named, string data, string? backups, TextWriter output, CancellationToken cancel)
    {
        var shelf = BackupCommand.ShelfOf(data, backups);
        var backup = shelf.Find(named);
        using var held = DataFolder.Take(data);
        var restored = Restoring.Run(backup, data, shelf);
        await output.WriteLineAsync($"{backup} is in place. It holds: {BackupCommand.Holds(restored.Contents)}");
        if (restored.Before is { } before)
        {
            await output.WriteLineAsync($"What was there before is kept: {before}");
        }
        var beside = UploadMirror.Of(Path.GetDirectoryName(backup)!);
        if (Directory.Exists(beside))
        {
            var (copied, _) = await UploadMirror.CopyAsync(beside, UploadMirror.Of(data), cancel);
            await output.WriteLineAsync($"uploads: {Many.Of(copied, "file")} brought back");
        }
        return 0;
    }
}
