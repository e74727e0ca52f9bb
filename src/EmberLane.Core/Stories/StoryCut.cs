namespace EmberLane.Core.Stories;

/// <summary>
/// A story as it is in use: each card without what was set aside in its stretch since. The card keeps its whole stretch, so that what is
/// brought back is there again. <paramref name="aside"/> holds the stretches of each sitting that are set aside, in order and apart.
/// </summary>
public sealed class StoryCut(Story story, IReadOnlyDictionary<long, IReadOnlyList<SittingRange>> aside)
{
    private static readonly IReadOnlyList<SittingRange> Nothing = [];

    /// <summary>All cards in their order, also those of which nothing is left.</summary>
    public IReadOnlyList<Card> Cards => story.Cards;

    /// <summary>The parts of a card that are in use, in order; none when all of it is set aside.</summary>
    public IReadOnlyList<SittingRange> Of(Card card) => Pieces(card.Range, aside.GetValueOrDefault(card.SittingId, Nothing));

    /// <summary>The whole frames that a card takes in the record, each part rounded outwards.</summary>
    public long Frames(Card card, FrameRate rate) => CardFrames.Of(Of(card), rate).Sum(f => f.Count);

    /// <summary>How long it runs, each card in whole frames of this rate.</summary>
    public MediaTime RunningTime(FrameRate rate) => rate.TimeOf(Cards.Sum(c => Frames(c, rate)));

    /// <summary>A stretch without others, which are in order and do not overlap; linear in their number.</summary>
    public static IReadOnlyList<SittingRange> Pieces(SittingRange range, IReadOnlyList<SittingRange> without)
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
