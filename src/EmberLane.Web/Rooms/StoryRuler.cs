namespace EmberLane.Web.Rooms;

/// <summary>The running time of a story beside its target, drawn from top to bottom, 600 units for the longer of the two.</summary>
public sealed class StoryRuler(MediaTime running, MediaTime target)
{
    private const int High = 600,
        Lowest = 634;

    private readonly MediaTime whole = MediaTime.Max(running, target);

    /// <summary>How long the story is now.</summary>
    public MediaTime Running => running;

    /// <summary>What is left to the target; less than nothing when the story is over it.</summary>
    public MediaTime Left => target - running;

    /// <summary>Where the target's time is written, below its line.</summary>
    public int TargetText => (int)Math.Min(Lowest, (High * target.Units / Math.Max(1, whole.Units)) + 22);

    /// <summary>The quarters of the whole, each with where it is written.</summary>
    public IEnumerable<(int Y, MediaTime At)> Quarters() =>
        Enumerable.Range(0, 5).Select(part => ((High * part / 4) + 12, new MediaTime(whole.Units * part / 4)));

    /// <summary>
    /// The pieces that last in order, by their marks and frames, each with where its bar begins and how high it is. What would be lower
    /// than a unit is drawn with what follows it.
    /// </summary>
    public IEnumerable<(string Mark, string Y, string Height)> Bars(IEnumerable<(string Mark, long Frames)> pieces, FrameRate rate)
    {
        var least = whole.Units / High;
        long from = 0,
            at = 0;
        string? first = null;
        foreach (var (mark, frames) in pieces)
        {
            first ??= mark;
            at += frames;
            if (rate.TimeOf(at - from).Units >= least)
            {
                yield return (first, Y(rate.TimeOf(from)), Y(rate.TimeOf(at - from)));
                (from, first) = (at, null);
            }
        }
        if (first is not null)
        {
            yield return (first, Y(rate.TimeOf(from)), Y(rate.TimeOf(at - from)));
        }
    }

    /// <summary>A time as a height.</summary>
    public string Y(MediaTime at) => FormattableString.Invariant($"{Math.Round((decimal)at.Units * High / Math.Max(1, whole.Units), 2)}");
}
