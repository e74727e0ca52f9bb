namespace EmberLane.Engines.Speech.Models;

/// <summary>
/// A speech model in the ggml form, as the head of its file tells it: how large it is by name (“base”), whether it knows many languages or
/// English only, and which of its known forms tells times of words best (null for another form).
/// </summary>
public sealed record SpeechModel(string Path, long Bytes, string Size, bool KnowsManyLanguages, string? Heads)
{
    /// <summary>The file's name, by which people know it.</summary>
    public string Name => System.IO.Path.GetFileName(Path);
}
