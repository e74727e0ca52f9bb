using EmberLane.Core.Speech;

namespace EmberLane.Engines.Speech;

/// <summary>
/// What a recogniser is given: a 16 kHz mono WAV file, the sitting's title, the language that is spoken (its code, as <c>en</c>, or
/// <see cref="SpokenLanguage.Found"/>), and names and terms that may come up.
/// </summary>
public sealed record ToRecognise(string WavPath, string Title, string Language, IReadOnlyList<string> Terms);

/// <summary>
/// Into what pieces a recogniser's sound is cut: their shortest and longest in steps, and how many are recognised at once.
/// </summary>
public sealed record PiecesTaken(int Shortest, int Longest, int AtOnce);

/// <summary>A recogniser of speech: takes 16 kHz mono WAV and gives words on that file's clock.</summary>
public interface IRecogniser
{
    /// <summary>The pieces, cut at quiet places, that it may be given of a sound; null when it gets the whole.</summary>
    PiecesTaken? Pieces { get; }

    /// <summary>
    /// Codes of the languages that it knows, <see cref="SpokenLanguage.Found"/> among them when it finds out by itself; null when it may be
    /// asked for any.
    /// </summary>
    IReadOnlyList<string>? Languages { get; }

    /// <summary>Why it can not be used here, or not for this language, and what to do about it; null when it can.</summary>
    string? WhyNot(string language = "en");

    /// <summary>
    /// The words in order, with the language that they are in. Throws <see cref="ToolException"/> with the reason when it fails; can be
    /// cancelled.
    /// </summary>
    Task<WordList> RecogniseAsync(ToRecognise sound, CancellationToken cancel);
}
