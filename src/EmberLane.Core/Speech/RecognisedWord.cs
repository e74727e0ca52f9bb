namespace EmberLane.Core.Speech;

/// <summary>
/// A word as a recogniser or an import gives it, on the clock of the sound that was recognised. Confidence is null when unknown;
/// the voice is a label, or null; how sure it is is null when nobody doubts it.
/// </summary>
public sealed record RecognisedWord(
    string Text,
    SourceRange Range,
    PerMille? Confidence = null,
    string? Voice = null,
    PerMille? VoiceSure = null
);
