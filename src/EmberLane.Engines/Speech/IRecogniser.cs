using EmberLane.Core.Speech;

namespace EmberLane.Engines.Speech;

/// <summary>A recogniser of speech: takes 16 kHz mono WAV and gives words on that file's clock.</summary>
public interface IRecogniser
{
    /// <summary>Whether it may be given quiet-cut pieces of a sound, several at once. If not it gets the whole.</summary>
    bool TakesPieces { get; }

    /// <summary>
    /// Why it can not be used here, or not for this language (two letters, as <c>en</c>), and what to do about it; null when it can.
    /// </summary>
    string? WhyNot(string language = "en");

    /// <summary>
    /// The words in order. <paramref name="title"/> is the sitting's. Throws <see cref="ToolException"/> with the reason when it fails; can
    /// be cancelled.
    /// </summary>
    Task<IReadOnlyList<RecognisedWord>> RecogniseAsync(string wavPath, string title, string language, CancellationToken cancel);
}
