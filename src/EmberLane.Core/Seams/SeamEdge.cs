using EmberLane.Core.Speech;

namespace EmberLane.Core.Seams;

/// <summary>Whether a cut loses some of a word that is meant, or lets some of one in that is not.</summary>
public readonly record struct EdgeFaults(bool Clips, bool Leaks);

/// <summary>
/// One end of a piece: where it was cut, where it is cut best, what is wrong with both, the fade that fits, and the quiet to cut in, if
/// there is any.
/// </summary>
public sealed record SeamEdge(MediaTime Was, MediaTime At, EdgeFaults Before, EdgeFaults After, int FadeMs, SeamRoom? Room)
{
    /// <summary>Whether there is a quiet to cut in.</summary>
    public bool HasRoom => Room is not null;

    /// <summary>A word may be cut by so much (10 ms): nobody hears it.</summary>
    private static readonly MediaTime Unheard = MediaTime.FromMilliseconds(10);

    /// <summary>How far from a word's sound a cut is laid where there is room, and how far it may go for a quieter place.</summary>
    private static readonly MediaTime Margin = MediaTime.FromMilliseconds(40),
        Reach = MediaTime.FromMilliseconds(150);

    /// <summary>How far into a dip a cut is laid (5 ms).</summary>
    private static readonly MediaTime Sunk = MediaTime.FromMilliseconds(5);

    /// <summary>How far before and behind a cut its room is looked for.</summary>
    private static readonly MediaTime Inwards = MediaTime.FromMilliseconds(700),
        Outwards = MediaTime.FromMilliseconds(1_000);

    /// <summary>A fade is so long at least, against clicks, and at most, in milliseconds.</summary>
    private const int ShortestFade = 3,
        LongestFade = 30;

    /// <summary>The end of a piece behind the word <paramref name="own"/>, before <paramref name="next"/>, if there is one.</summary>
    public static SeamEdge Out(SeamSound sound, MediaTime at, SourceRange own, SourceRange? next)
    {
        var from = Max(Middle(own), at - Inwards);
        var to = Max(from, Min(next is { } word ? Middle(word) : at + Outwards, at + Outwards));
        if (SeamRoom.Find(sound, at, from, to, isEnd: true) is not { } room)
        {
            var faults = new EdgeFaults(own.Out.FromZero - at > Unheard, next is { } following && at - following.In.FromZero > Unheard);
            return new SeamEdge(at, at, faults, faults, ShortestFade, null);
        }
        EdgeFaults Faults(MediaTime cut) => new(room.From - cut > Unheard, cut - room.To > Unheard);
        var moved = Placed(sound, at, room);
        return new SeamEdge(at, moved, Faults(at), Faults(moved), Fade(moved - room.From), room);
    }

    /// <summary>The begin of a piece before the word <paramref name="own"/>, behind <paramref name="last"/>, if there is one.</summary>
    public static SeamEdge In(SeamSound sound, MediaTime at, SourceRange own, SourceRange? last)
    {
        var to = Min(Middle(own), at + Inwards);
        var from = Min(to, Max(Max(MediaTime.Zero, at - Outwards), last is { } word ? Middle(word) : MediaTime.Zero));
        if (SeamRoom.Find(sound, at, from, to, isEnd: false) is not { } room)
        {
            var faults = new EdgeFaults(at - own.In.FromZero > Unheard, last is { } before && before.Out.FromZero - at > Unheard);
            return new SeamEdge(at, at, faults, faults, ShortestFade, null);
        }
        EdgeFaults Faults(MediaTime cut) => new(cut - room.To > Unheard, room.From - cut > Unheard);
        var moved = Placed(sound, at, room);
        return new SeamEdge(at, moved, Faults(at), Faults(moved), Fade(room.To - moved), room);
    }

    // As it was where that is well within the quiet; else at the quietest place near by.
    private static MediaTime Placed(SeamSound sound, MediaTime at, SeamRoom room)
    {
        if (room.IsDip)
        {
            // As soon as the first word has sunk: what follows may be the closing of a consonant, which belongs to the next.
            return sound.Crossing(room.From + Sunk);
        }
        var margin = Min(Margin, new MediaTime(room.Length.Units / 3));
        MediaTime first = room.From + margin,
            last = room.To - margin;
        if (at >= first && at <= last)
        {
            return at;
        }
        var nearest = at < first ? first : last;
        int from = SeamSound.StepAt(Max(first, nearest - Reach)),
            end = SeamSound.StepAt(Min(last, nearest + Reach));
        var best = SeamSound.StepAt(nearest);
        for (var step = from; step <= end; step++)
        {
            // A decibel is worth ten milliseconds.
            if (Cost(step) < Cost(best))
            {
                best = step;
            }
        }
        return sound.Crossing(Max(first, Min(last, SeamSound.TimeOf(best))));

        double Cost(int step) => sound.At(step) + (Math.Abs(step - SeamSound.StepAt(nearest)) * 0.5);
    }

    private static int Fade(MediaTime room) => (int)Math.Clamp(room.Units / (MediaTime.UnitsPerSecond / 1000), ShortestFade, LongestFade);

    private static MediaTime Middle(SourceRange word) => word.In.FromZero + new MediaTime((word.Out - word.In).Units / 2);

    private static MediaTime Min(MediaTime one, MediaTime other) => MediaTime.Min(one, other);

    private static MediaTime Max(MediaTime one, MediaTime other) => one > other ? one : other;
}
