namespace EmberLane.Core.Stories;

/// <summary>
/// A story as it is in use: each card without what was set aside in its stretch since. The card keeps its whole stretch, so that what is
/// brought back is there again. <paramref name="aside"/> holds the stretches of each sitting that are set aside, in order and apart;
/// narration is estimated at so many words a minute.
/// </summary>
public sealed class StoryCut(
    Story story,
    IReadOnlyDictionary<long, IReadOnlyList<SittingRange>> aside,
    int wordsAMinute = Narration.WordsAMinute
)
{
    private static readonly IReadOnlyList<SittingRange> Nothing = [];

    /// <summary>All pieces in their order, also those of which nothing is left.</summary>
    public IReadOnlyList<Piece> Pieces => story.Pieces;

    /// <summary>The parts of a card that are in use, in order; none when all of it is set aside.</summary>
    public IReadOnlyList<SittingRange> Of(Card card) => Apart(card.Range, aside.GetValueOrDefault(card.SittingId, Nothing));

    /// <summary>
    /// The whole frames that a piece takes in the record: each part of a card rounded outwards, other lengths to the nearest frame, one at
    /// least; a heading takes none.
    /// </summary>
    public long Frames(Piece piece, FrameRate rate)
    {
        return piece switch
        {
            Card card => CardFrames.Of(Of(card), rate).Sum(f => f.Count),
            Space space => Whole(space.Length),
            TitleCard title => Whole(title.Length),
            Narration narration => Whole(narration.Lasts(wordsAMinute)),
            PlainMedia media => Whole(media.Range.Length),
            _ => 0,
        };

        long Whole(MediaTime length) => Math.Max(1, rate.NearestFrame(length));
    }

    /// <summary>How long it runs, each piece in whole frames of this rate.</summary>
    public MediaTime RunningTime(FrameRate rate) => rate.TimeOf(Pieces.Sum(p => Frames(p, rate)));

    /// <summary>A stretch without others, which are in order and do not overlap; linear in their number.</summary>
    public static IReadOnlyList<SittingRange> Apart(SittingRange range, IReadOnlyList<SittingRange> without)
    {
        var pieces = new List<SittingRange>();
        var from = range.In;
        foreach (var gap in without.Where(w => w.In < range.Out && w.Out > range.In))
        {
            if (gap.In > from)
            {
                pieces.Add(new SittingRange(from, gap.In));
            }
            from = gap.Out > from ? gap.Out : from;
        }
        if (from < range.Out)
        {
            pieces.Add(new SittingRange(from, range.Out));
        }
        return pieces;
    }
}
