namespace EmberLane.Application.Rooms;

/// <summary>How a person is told apart: a shape, a letter and a hue, never the hue alone. Number −1 is a voice without a name.</summary>
public sealed record SpeakerMark(int Number, string Letter)
{
    /// <summary>Of a voice without a name, as “Voice B” is called: its letter, in an empty shape.</summary>
    public static SpeakerMark Unnamed(string voice) => new(-1, voice.Split(' ')[^1] is { Length: > 0 and <= 2 } letter ? letter : "?");
}
