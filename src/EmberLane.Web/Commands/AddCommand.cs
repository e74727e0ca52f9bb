using System.CommandLine;
using EmberLane.Application.Backups;
using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Store;

namespace EmberLane.Web.Commands;

/// <summary>
/// <c>ember add FOLDER --production NAME [--data DIR]</c>: brings a folder with its subfolders in; the production is begun when there is
/// none of that name.
/// </summary>
internal static class AddCommand
{
    private const int LongestName = 120;

    public static Command Make(TextWriter output)
    {
        var folder = new Argument<string>("FOLDER")
        {
            Description = "The folder, taken with its subfolders.",
            CustomParser = a => Path.GetFullPath(a.Tokens[0].Value),
        };
        var name = new Option<string>("--production")
        {
            Description = "The production; it is begun when there is none of that name.",
            HelpName = "NAME",
            Required = true,
            CustomParser = a => TypedText.OneLine(a.Tokens[0].Value),
        };
        name.Validators.Add(asked =>
        {
            if (asked.GetValue(name) is not { Length: > 0 and <= LongestName })
            {
                asked.AddError($"--production takes a name of 1 to {LongestName} characters.");
            }
        });
        var data = CommandLine.Data();
        var command = new Command("add", "Brings all files of a folder and its subfolders into a production.") { folder, name, data };
        command.SetAction(
            (asked, cancel) => RunAsync(asked.GetValue(folder)!, asked.GetValue(name)!, asked.GetValue(data)!, output, cancel)
        );
        return command;
    }

    /// <summary>
    /// Returns 0, also when files were left out; they are listed. What is made from the files is queued for the server. Throws
    /// <see cref="ArgumentException"/>, <see cref="IOException"/> or <see cref="Engines.ToolException"/> with what to do.
    /// </summary>
    private static async Task<int> RunAsync(string folder, string name, string data, TextWriter output, CancellationToken cancel)
    {
        if (!Directory.Exists(folder))
        {
            throw new ArgumentException($"{folder}: there is no such folder.");
        }
        Directory.CreateDirectory(data);
        var database = BackupShelf.Open(data);
        var footage = new Footage(database, TimeProvider.System);
        var production = footage.Productions().FirstOrDefault(p => p.Name == name)?.Id ?? footage.AddProduction(name);
        var (jobs, news) = (new Jobs(database), new News());
        var options = new Options { Data = data, Footage = [folder] };
        var intake = new Intake(footage, new FootageFolders(options), jobs, new SittingChanges(footage, jobs, news), news);
        var (taken, known, left) = await intake.BringFolderInAsync(production, folder, (_, _) => { }, cancel);
        await output.WriteLineAsync(
            FormattableString.Invariant($"{name}: {taken} files brought in, {known} there already, {left.Count} left out")
        );
        foreach (var file in left)
        {
            await output.WriteLineAsync($"  {file.Name}: {file.Reason}");
        }
        await output.WriteLineAsync($"Start the server with --footage {folder}, so that it may read them.");
        return 0;
    }
}
