using EmberLane.Application.Hands;
using EmberLane.Application.Work;
using EmberLane.Engines.Speech;
using EmberLane.Engines.Speech.Models;

namespace EmberLane.Queue;

/// <summary>
/// The recognisers of a worker's machine: the local one, a command, the speech models of a folder, and the simulated service where there is
/// a script for it to answer from. Each is null where there is none.
/// </summary>
public sealed record WorkerRecognisers(string? Command, string? Models, string? Script)
{
    /// <summary>The one that is asked for; null where it is not here, or is a model of the same name that is another file.</summary>
    public IRecogniser? Find(SpeechAsked asked) =>
        asked.Recogniser switch
        {
            Recognisers.Local => new PocketSphinx(),
            Recognisers.OwnCommand when Command is not null => new CommandRecogniser(Command),
            Recognisers.Simulated when Script is not null => new SimulatedService(Script, Recognisers.SimulatedTakes),
            _ when Models is not null && Recognisers.FileOfModel(asked.Recogniser) is { } file => Model(Path.Combine(Models, file), asked),
            _ => null,
        };

    private static ModelRecogniser? Model(string path, SpeechAsked asked) =>
        File.Exists(path) && SpeechModels.Look(path).Model is { } model && model.Bytes == asked.ModelBytes
            ? new ModelRecogniser(model)
            : null;
}
