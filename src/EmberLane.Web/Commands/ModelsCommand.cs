using System.CommandLine;
using EmberLane.Application.Backups;
using EmberLane.Application.Work;
using EmberLane.Store;

namespace EmberLane.Web.Commands;

/// <summary><c>ember models [--data DIR]</c>: the speech models that the server of a data folder finds, and files that are none.</summary>
internal static class ModelsCommand
{
    public static Command Make(TextWriter output)
    {
        var data = CommandLine.Data();
        var command = new Command("models", "The speech models that words can be recognised by.") { data };
        command.SetAction((asked, _) => RunAsync(asked.GetValue(data)!, output));
        return command;
    }

    private static async Task<int> RunAsync(string data, TextWriter output)
    {
        var file = Path.Combine(data, "ember.sqlite");
        var database = File.Exists(file) ? BackupShelf.Open(data) : null;
        var models = new SpeechModelFolder(new Options { Data = data }, database is null ? null : new Settings(database));
        foreach (var (path, model, why) in models.All)
        {
            await output.WriteLineAsync(model is null ? $"{path}: no speech model. {why}" : $"{path}: {Recognisers.WordsOf(model)}");
        }
        if (models.All.Count == 0)
        {
            await output.WriteLineAsync(
                $"No speech model is there. Lay a Whisper speech model in the ggml form, such as ggml-small.bin, into {models.Folder}."
            );
        }
        return 0;
    }
}
