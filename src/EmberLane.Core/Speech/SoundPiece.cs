namespace EmberLane.Core.Speech;

/// <summary>
/// A piece of a sound that is recognised by itself: from <paramref name="First"/> to before <paramref name="End"/>, in 10 ms steps.
/// </summary>
public readonly record struct SoundPiece(int First, int End)
{
    /// <summary>How many steps of 10 ms it has.</summary>
    public int Steps => End - First;

    /// <summary>How long it lasts.</summary>
    public MediaTime Length => MediaTime.FromMilliseconds(Steps * 10L);
}
