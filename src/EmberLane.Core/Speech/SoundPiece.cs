namespace EmberLane.Core.Speech;

/// <summary>
/// A piece of a sound that is recognised by itself: from <paramref name="First"/> to before <paramref name="End"/>, in 10 ms steps.
/// </summary>
public readonly record struct SoundPiece(int First, int End)
{
    public int Steps => End - First;

    public MediaTime Length => MediaTime.FromMilliseconds(Steps * 10L);
}
