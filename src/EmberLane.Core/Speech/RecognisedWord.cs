namespace EmberLane.Core.Speech;

/// <summary>
/// A word as a recogniser or an import gives it, on the clock of the sound that was recognised. Confidence is per mille, 0–1000, or null
/// when unknown; the voice is a label, or null; how sure it is, per mille, or null when nobody doubts it.
/// </summary>
public sealed record RecognisedWord(string Text, SourceRange Range, int? Confidence = null, string? Voice = null, int? VoiceSure = null);
