using System.Collections.Immutable;

namespace EmberLane.Core.Tidy;

/// <summary>What a person wants done with pauses. Lengths are whole milliseconds.</summary>
/// <param name="From">From this length on a pause is set aside.</param>
/// <param name="To">What is left of it; null sets all of it aside but for what is kept at its ends.</param>
/// <param name="Before">Kept behind the word before, where all of it goes.</param>
/// <param name="After">Kept before the next word, where all of it goes.</param>
/// <param name="KeepNoisy">Whether a pause stays in which something else is heard: laughter, a door.</param>
/// <param name="Not">The people behind whose words no pause is touched, by name.</param>
public sealed record PauseWish(int From, int? To, int Before, int After, bool KeepNoisy, ImmutableSortedSet<string> Not)
{
    /// <summary>What a wish may ask for at most, in milliseconds.</summary>
    public const int Longest = 600_000;

    /// <summary>The shortest pause that can be asked for, in milliseconds.</summary>
    public const int Shortest = 100;

    /// <summary>What a new production begins with: over two seconds becomes half a second.</summary>
    public static PauseWish First { get; } = new(2_000, 500, 150, 200, true, []);

    /// <summary>The sets that come with the application, by name; a production may add its own.</summary>
    public static IReadOnlyList<(string Name, PauseWish Wish)> Sets { get; } =
    [("Room to breathe", First), ("Close up", new PauseWish(700, 300, 120, 160, true, []))];

    /// <summary>
    /// The same within what can be asked for. Throws <see cref="EditRefusedException"/> where it says nothing: more is left than a pause
    /// has at least.
    /// </summary>
    public PauseWish Checked() =>
        From is < Shortest or > Longest ? throw new EditRefusedException("A pause is set aside from 0.1 to 600 seconds on.")
        : Before is < 0 or > Longest || After is < 0 or > Longest || To is < 0
            ? throw new EditRefusedException("What is kept of a pause is a length of 0 seconds or more.")
        : (To ?? Before + After) >= From
            ? throw new EditRefusedException("Less has to be left of a pause than the shortest that is set aside.")
        : this;

    /// <summary>What goes of a pause; null when hardly anything would.</summary>
    public TalkPause? CutOf(TalkPause pause)
    {
        var (before, after) = To is { } left
            ? (new MediaTime(MediaTime.FromMilliseconds(left).Units / 2), new MediaTime(MediaTime.FromMilliseconds(left).Units / 2))
            : (MediaTime.FromMilliseconds(Before), MediaTime.FromMilliseconds(After));
        MediaTime from = pause.In + before,
            to = pause.Out - after;
        return to - from >= Least ? new TalkPause(from, to) : null;
    }

    /// <summary>Less than a frame of the fastest count is not worth a cut.</summary>
    private static readonly MediaTime Least = MediaTime.FromMilliseconds(40);
}
