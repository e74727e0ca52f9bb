namespace EmberLane.Engines.Speech.Models;

/// <summary>A file that was laid where models lie: the model that it is, or why it is none.</summary>
public sealed record FoundModel(string Path, SpeechModel? Model, string? WhyNot);

/// <summary>Finds speech models: all files of a folder that end in <c>.bin</c>, and others that somebody named.</summary>
public static class SpeechModels
{
    /// <summary>What the file of a model ends in.</summary>
    public const string Ending = ".bin";

    /// <summary>The files of a folder that may be models, by name, then the named ones; a folder that is not there holds none.</summary>
    public static IReadOnlyList<string> Paths(string folder, IEnumerable<string> named) =>
        [
            .. (Directory.Exists(folder) ? Directory.EnumerateFiles(folder) : [])
                .Where(f => Path.GetExtension(f) == Ending)
                .Order(StringComparer.Ordinal)
                .Concat(named)
                .Distinct(),
        ];

    /// <summary>The model that a file is, or why it is none.</summary>
    public static FoundModel Look(string path)
    {
        try
        {
            return new FoundModel(path, SpeechModelFile.Read(path), null);
        }
        catch (FormatException bad)
        {
            return new FoundModel(path, null, bad.Message);
        }
    }
}
