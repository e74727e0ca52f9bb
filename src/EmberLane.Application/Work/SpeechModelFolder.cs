using System.Collections.Concurrent;
using System.Text.Json;
using EmberLane.Engines.Speech.Models;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>
/// The speech models that a studio laid into <c>models</c> of the data folder, and those that lie elsewhere and were named. What a file
/// says of itself is read again only when the file has changed.
/// </summary>
public sealed class SpeechModelFolder(Options options, Settings? settings)
{
    private const string Setting = "models";

    private readonly ConcurrentDictionary<string, (long Bytes, DateTime Written, FoundModel Found)> looked = new();

    /// <summary>Where models lie in this installation.</summary>
    public string Folder { get; } = Path.Combine(options.Data, "models");

    /// <summary>All files that might be models, with what they are.</summary>
    public IReadOnlyList<FoundModel> All => [.. SpeechModels.Paths(Folder, Named).Select(Looked)];

    /// <summary>Full paths of the models that lie elsewhere.</summary>
    public IReadOnlyList<string> Named =>
        settings?.Get(Setting) is { } paths ? JsonSerializer.Deserialize<IReadOnlyList<string>>(paths)! : [];

    /// <summary>
    /// Names a model that lies elsewhere; a second time is no harm. Why the file is none is returned and nothing is kept; null when it is
    /// one.
    /// </summary>
    public string? Name(string path)
    {
        if (!Path.IsPathFullyQualified(path) || Path.GetExtension(path) != SpeechModels.Ending)
        {
            return $"Type the whole path of a speech model's file: it begins with / and ends in {SpeechModels.Ending}.";
        }
        if (SpeechModels.Look(path) is { WhyNot: { } reason })
        {
            return reason;
        }
        Keep([.. Named.Where(n => n != path), path]);
        return null;
    }

    /// <summary>Forgets a model that was named; its file stays.</summary>
    public void Forget(string path) => Keep([.. Named.Where(n => n != path)]);

    private void Keep(IReadOnlyList<string> paths) => settings!.Set(Setting, JsonSerializer.Serialize(paths));

    private FoundModel Looked(string path)
    {
        var file = new FileInfo(path);
        var now = (Bytes: file.Exists ? file.Length : 0, Written: file.Exists ? file.LastWriteTimeUtc : default);
        if (looked.TryGetValue(path, out var known) && (known.Bytes, known.Written) == now)
        {
            return known.Found;
        }
        var found = SpeechModels.Look(path);
        looked[path] = (now.Bytes, now.Written, found);
        return found;
    }
}
