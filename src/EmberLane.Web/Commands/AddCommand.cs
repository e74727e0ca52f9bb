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
    /// <summary>
    /// Returns 0, also when files were left out; they are listed. What is made from the files is queued for the server. Throws
    /// <see cref="ArgumentException"/>, <see cref="IOException"/> or <see cref="Engines.ToolException"/> with what to do.
    /// </summary>
    public static async Task<int> RunAsync(IReadOnlyList<string> arguments, TextWriter output, CancellationToken cancel)
    {
        string? folder = null,
            name = null,
            data = Path.Combine(Environment.CurrentDirectory, "data");
        for (var i = 0; i < arguments.Count; i++)
        {
            switch (arguments[i])
            {
                case "--production" when i + 1 < arguments.Count:
                    name = TypedText.OneLine(arguments[++i]);
                    break;
                case "--data" when i + 1 < arguments.Count:
                    data = Path.GetFullPath(arguments[++i]);
                    break;
                case var other when folder is null && !other.StartsWith("--", StringComparison.Ordinal):
                    folder = Path.GetFullPath(other);
                    break;
                default:
                    throw new ArgumentException(Use);
            }
        }
        if (folder is null || name is not { Length: > 0 and <= 120 })
        {
            throw new ArgumentException(Use);
        }
        if (!Directory.Exists(folder))
        {
            throw new ArgumentException($"{folder}: there is no such folder.");
        }
        Directory.CreateDirectory(data);
        var database = new Database(Path.Combine(data, "ember.sqlite"));
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

    private const string Use = "Use: ember add FOLDER --production NAME [--data DIR]. A name takes at most 120 characters.";
}
