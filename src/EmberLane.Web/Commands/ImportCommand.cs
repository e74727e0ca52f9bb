using System.CommandLine;
using EmberLane.Application.Backups;
using EmberLane.Application.Exports;
using EmberLane.Application.Gathering;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Web.Commands;

/// <summary><c>ember import FILE [--data DIR]</c>: brings in a production that was exported elsewhere, beside what is there.</summary>
internal static class ImportCommand
{
    public static Command Make(TextWriter output)
    {
        var file = new Argument<string>("FILE") { Description = "What ember export wrote." };
        var data = CommandLine.Data();
        var command = new Command("import", "Brings in a production that was exported elsewhere. Stop the server first.") { file, data };
        command.SetAction((asked, cancel) => RunAsync(asked.GetValue(file)!, asked.GetValue(data)!, output, cancel));
        return command;
    }

    /// <summary>
    /// What moves productions in and out of a data folder. Throws <see cref="StoreException"/> for one without a database.
    /// </summary>
    public static ServiceProvider Services(string data, bool isMade = false) =>
        isMade || File.Exists(Path.Combine(data, "ember.sqlite"))
            ? new ServiceCollection()
                .AddSingleton(new Options { Data = data })
                .AddSingleton(BackupShelf.Open(data))
                .AddSingleton(TimeProvider.System)
                .AddSingleton<IDiskSpace, DiskSpace>()
                .AddSingleton<Footage>()
                .AddSingleton<Store.Transcripts>()
                .AddSingleton<Jobs>()
                .AddSingleton<ProductionMoves>()
                .BuildServiceProvider()
            : throw new StoreException($"{data} holds no database. Name the data folder of your server with --data.");

    private static async Task<int> RunAsync(string file, string data, TextWriter output, CancellationToken cancel)
    {
        if (!File.Exists(file))
        {
            throw new ArgumentException($"There is no file {Path.GetFullPath(file)}.");
        }
        using var held = DataFolder.Take(data);
        await using var services = Services(data, isMade: true);
        await using var export = new FileStream(file, FileMode.Open, FileAccess.Read);
        var imported = services.GetRequiredService<ProductionMoves>().Bring(export);
        await output.WriteLineAsync(
            FormattableString
                .Invariant($"{imported.Name} is in place, {imported.Rows} rows. When the server starts it looks for the files (--footage).")
                .AsMemory(),
            cancel
        );
        return 0;
    }
}
