using System.CommandLine;
using System.CommandLine.Help;

namespace EmberLane.Web.Commands;

/// <summary>The commands of <c>ember</c> with what they take; <c>--help</c> behind any of them lists it.</summary>
internal static class CommandLine
{
    /// <summary>
    /// Runs what the arguments ask for and returns the exit code. Throws <see cref="ArgumentException"/> with a sentence for arguments that
    /// are not understood, and what the command throws.
    /// </summary>
    public static async Task<int> RunAsync(IReadOnlyList<string> arguments, TextWriter output, CancellationToken cancel)
    {
        var root = new Command("ember", "From talk to an edit decision list: the server, and its work from the command line.")
        {
            new HelpOption(),
            ServeCommand.Make(),
            WorkCommand.Make(output),
            AddCommand.Make(output),
            TranscribeCommand.Make(output),
            SyncCommand.Make(output),
            TidyCommand.Make(output),
            SeamsCommand.Make(output),
            CamerasCommand.Make(output),
            FindCommand.Make(output),
            CaptionsCommand.Make(output),
            HandoffCommand.Make(output),
            CheckCommand.Make(output),
            ModelsCommand.Make(output),
            BackupCommand.Make(output),
            RestoreCommand.Make(output),
            ExportCommand.Make(output),
            ImportCommand.Make(output),
            PeopleCommand.Make(output),
            RebuildCommand.Make(output),
        };
        // A file may be called “@1”: that is no list of further arguments.
        var asked = root.Parse(arguments, new ParserConfiguration { ResponseFileTokenReplacer = null });
        if (asked.Action is not HelpAction && asked.Errors.Count > 0)
        {
            var name = asked.CommandResult.Command is { Name: not "ember" } command ? "ember " + command.Name : "ember";
            throw new ArgumentException($"{string.Join(" ", asked.Errors.Select(e => e.Message))} See: {name} --help");
        }
        return await asked.InvokeAsync(new InvocationConfiguration { EnableDefaultExceptionHandler = false, Output = output }, cancel);
    }

    /// <summary>
    /// The media files that a command is about. What looks like an option is refused here, where it would be taken for a file.
    /// </summary>
    public static Argument<string[]> Files(string description, int least, int most)
    {
        var files = new Argument<string[]>("FILE") { Description = description, Arity = new ArgumentArity(least, most) };
        files.Validators.Add(asked =>
        {
            if (asked.Tokens.FirstOrDefault(t => t.Value.StartsWith("--", StringComparison.Ordinal)) is { } option)
            {
                asked.AddError($"{option.Value} is not an option here. A file of that name is written ./{option.Value}.");
            }
        });
        return files;
    }

    /// <summary>The data folder that a command works on.</summary>
    public static Option<string> Data() =>
        new("--data")
        {
            Description = "The data folder of your server.",
            HelpName = "DIR",
            CustomParser = value => Path.GetFullPath(value.Tokens[0].Value),
            DefaultValueFactory = _ => Path.Combine(Environment.CurrentDirectory, "data"),
        };

    /// <summary>The folder that a data folder's backups are kept in; null for the usual one.</summary>
    public static Option<string?> Backups() =>
        new("--backups")
        {
            Description = "Where backups of the database are kept, best on another disk. Usually the folder “backups” of the data folder.",
            HelpName = "DIR",
            CustomParser = value => Path.GetFullPath(value.Tokens[0].Value),
        };
}
