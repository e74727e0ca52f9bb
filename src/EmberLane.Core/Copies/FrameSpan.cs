using EmberLane.Core.Handoff;
using EmberLane.Core.Stories;

namespace EmberLane.Core.Copies;

/// <summary>Frames of a story, counted from its first.</summary>
public readonly record struct FrameSpan(long First, long Count)
{
    /// <summary>The frame behind the last.</summary>
    public long End => First + Count;

    /// <summary>
    /// The frames of a section, by its heading, or of a piece; of the whole story where none is named. Throws
    /// <see cref="FormatException"/> where that is not in the story, or has no frames.
    /// </summary>
    public static FrameSpan Of(IReadOnlyList<HandedPiece> pieces, Guid? only)
    {
        if (only is not { } wanted)
        {
            return new FrameSpan(0, pieces.Sum(p => p.Frames));
        }
        var at = pieces.Index().Where(p => p.Item.Piece.Id == wanted).Select(p => (int?)p.Index).FirstOrDefault();
        if (at is not { } first)
        {
            throw new FormatException("What the copy shall be of is no longer in the story. Choose it anew.");
        }
        var count =
            pieces[first].Piece is SectionHead
                ? pieces.Skip(first + 1).TakeWhile(p => p.Piece is not SectionHead).Sum(p => p.Frames)
                : pieces[first].Frames;
        return count > 0
            ? new FrameSpan(pieces[first].First, count)
            : throw new FormatException("There is nothing to hear or see in that part of the story.");
    }

    /// <summary>The frames that lie in both, counted as before; null where there are none.</summary>
    public FrameSpan? Within(FrameSpan other)
    {
        long first = Math.Max(First, other.First),
            end = Math.Min(End, other.End);
        return first < end ? new FrameSpan(first, end - first) : null;
    }
}
