using System.CommandLine;
using EmberLane.Application.Exports;
using EmberLane.Application.Gathering;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Web.Commands;

/// <summary>
/// <c>ember export NAME [--data DIR] [--out FILE]</c>: a production whole, to be brought in elsewhere; also while the server runs.
/// </summary>
internal static class ExportCommand
{
    public static Command Make(TextWriter output)
    {
        var name = new Argument<string>("NAME") { Description = "The production." };
        var data = CommandLine.Data();
        var file = new Option<string?>("--out") { Description = "The file to write; usually one of its name here.", HelpName = "FILE" };
        var command = new Command("export", "A production whole, without its footage, to be brought in elsewhere.") { name, data, file };
        command.SetAction((asked, cancel) => RunAsync(asked.GetValue(name)!, asked.GetValue(data)!, asked.GetValue(file), output, cancel));
        return command;
    }

    private static async Task<int> RunAsync(string name, string data, string? file, TextWriter output, CancellationToken cancel)
    {
        await using var services = ImportCommand.Services(data);
        var all = services.GetRequiredService<Footage>().Productions();
        var production =
            all.FirstOrDefault(p => string.Equals(p.Name, name, StringComparison.OrdinalIgnoreCase))
            ?? throw new ArgumentException($"There is no production “{name}”. There are: {string.Join(", ", all.Select(p => p.Name))}.");
        var path = Path.GetFullPath(file ?? ProductionMoves.FileName(production));
        if (File.Exists(path))
        {
            throw new ArgumentException($"{path} is there already. Move it away, or name another file with --out.");
        }
        if (!Directory.Exists(Path.GetDirectoryName(path)))
        {
            throw new ArgumentException($"There is no folder {Path.GetDirectoryName(path)}. Make it, or name another file with --out.");
        }
        var rows = await services.GetRequiredService<ProductionMoves>().WriteAsync(production.Id, path);
        var files = services.GetRequiredService<Footage>().Sources(production.Id);
        await output.WriteLineAsync(
            FormattableString
                .Invariant($"{path}  {new FileInfo(path).Length} bytes: {production.Name}, {rows} rows, {files.Count} files listed")
                .AsMemory(),
            cancel
        );
        return 0;
    }
}
