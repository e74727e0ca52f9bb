namespace EmberLane.Core.Cameras;

/// <summary>
/// What a plan costs, in hundredths of a point: what lasts costs so much a second, what happens so much at once. One point is a second in
/// which the one who speaks is out of view. In words in docs/decisions/cameras.md.
/// </summary>
public static class CameraCosts
{
    /// <summary>A second in which the one who speaks alone is out of view.</summary>
    public const int Unseen = 100;

    /// <summary>A second in which some of those who talk together are out of view, and the wide view is wanted.</summary>
    public const int SomeUnseen = 40;

    /// <summary>
    /// To leave out the wide view where it should return, or a listener where one should be shown, beyond the two cuts that are saved.
    /// </summary>
    public const int Missed = 100;

    /// <summary>A second without the wide view in a silence, where it is wanted.</summary>
    public const int SilenceMissed = 40;

    /// <summary>A second of a view that shows nobody of the people, where others roll.</summary>
    public const int NobodyShown = 150;

    /// <summary>A cut at a moment where no voice begins.</summary>
    public const int CutOffBeat = 20;

    /// <summary>A cut into the words of one who goes on.</summary>
    public const int CutIntoTalk = 30;

    /// <summary>A cut while several talk.</summary>
    public const int CutIntoCrossTalk = 150;

    /// <summary>A cut into laughter or applause: only the longest shot outweighs it.</summary>
    public const int CutIntoCrowd = 2_000;

    /// <summary>The same angle on both sides of a seam.</summary>
    public const int Jump = 400;

    /// <summary>A second beyond the longest shot.</summary>
    public const int TooLong = 3_000;

    /// <summary>A shot under the shortest.</summary>
    public const int TooShort = 20_000;

    /// <summary>Each second that it lacks.</summary>
    public const int TooShortSecond = 10_000;
}
