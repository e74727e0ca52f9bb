namespace EmberLane.Core.Transcripts;

/// <summary>
/// Where a voice of a text speaks by the sound, whether its words were recognised or not. The voice is null where it is not known whose of
/// the text's it is.
/// </summary>
public sealed record SaidStretch(int? Voice, SittingRange Range);
