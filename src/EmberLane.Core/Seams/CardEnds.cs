using EmberLane.Core.Stories;

namespace EmberLane.Core.Seams;

/// <summary>The sound of a sitting, and the moment of the sitting at which it begins.</summary>
public sealed record SittingSeamSound(SeamSound Sound, SittingTime From)
{
    /// <summary>What it was measured of, to tell one from another; may be empty.</summary>
    public string Name { get; init; } = "";

    /// <summary>A moment of the sitting in the sound.</summary>
    public MediaTime In(SittingTime at) => at - From;

    /// <summary>A moment of the sound on the sitting's clock.</summary>
    public SittingTime Out(MediaTime at) => From + at;

    internal SourceRange In(SittingRange range) => new(new SourceTime(In(range.In)), new SourceTime(In(range.Out)));
}

/// <summary>The two ends of a card, judged: null where no word lies at one, or the sound is not known.</summary>
public sealed record CardEnds(SeamEdge? Begin, SeamEdge? End)
{
    /// <summary>Judges the ends of a stretch with these words at its ends. In the sound's own time.</summary>
    public static CardEnds Of(SittingSeamSound sound, SittingRange range, CardEdges words) =>
        new(
            words.First is { } first
                ? SeamEdge.In(sound.Sound, sound.In(range.In), sound.In(first), words.Before is { } before ? sound.In(before) : null)
                : null,
            words.Last is { } last
                ? SeamEdge.Out(sound.Sound, sound.In(range.Out), sound.In(last), words.Behind is { } behind ? sound.In(behind) : null)
                : null
        );

    /// <summary>
    /// The stretch with its ends where they are cut best, each on a frame of <paramref name="rate"/> where one lies in the quiet; as it was
    /// where nothing is gained, or nothing would be left.
    /// </summary>
    public static SittingRange Mended(SittingSeamSound sound, SittingRange range, CardEdges words, FrameRate rate)
    {
        var ends = Of(sound, range, words);
        SittingTime from = Moved(ends.Begin) ?? range.In,
            to = Moved(ends.End) ?? range.Out;
        return from < to ? new SittingRange(from, to) : range;

        SittingTime? Moved(SeamEdge? edge)
        {
            if (edge is not { Room: { } room })
            {
                return null;
            }
            var best = sound.Out(edge.At);
            var frame = new SittingTime(rate.TimeOf(rate.NearestFrame(best.FromZero)));
            return frame >= sound.Out(room.From) && frame <= sound.Out(room.To) ? frame : best;
        }
    }
}
