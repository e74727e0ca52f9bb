namespace EmberLane.Core.Stories;

/// <summary>A story in which what was taken out leaves its time.</summary>
public static class AsSpoken
{
    /// <summary>What such a space waits for.</summary>
    public const string Left = "what was taken out";

    /// <summary>
    /// The story with a space for whatever lies between two parts of a card, and between two cards of one sitting of which the second goes
    /// on later: as long as that is, in whole frames. The first part keeps the card's id; <paramref name="newId"/> makes the others.
    /// Linear.
    /// </summary>
    public static Story Of(Story story, StoryCut cut, FrameRate rate, Func<Guid> newId)
    {
        var pieces = new List<Piece>();
        foreach (var piece in story.Pieces)
        {
            if (piece is not Card card)
            {
                pieces.Add(piece);
                continue;
            }
            var lasted = MediaTime.Zero;
            foreach (var (i, part) in Whole(cut.Of(card), rate).Index())
            {
                if (pieces.Count > 0 && pieces[^1] is Card before && before.SittingId == card.SittingId)
                {
                    CardFrames one = CardFrames.Of(before.Range, rate),
                        next = CardFrames.Of(part, rate);
                    if (next.First > one.First + one.Count)
                    {
                        pieces.Add(new Space(newId(), rate.TimeOf(next.First - one.First - one.Count), Left));
                    }
                }
                pieces.Add(
                    card with
                    {
                        Id = i == 0 ? card.Id : newId(),
                        Range = part,
                        Over = card.Over?.From(lasted),
                        SpaceBefore = i == 0 ? card.SpaceBefore : "",
                        OtherTakes = i == 0 ? card.OtherTakes : "",
                        ComesIn = i == 0 ? card.ComesIn : null,
                    }
                );
                lasted += part.Length;
            }
        }
        return story with { Pieces = [.. pieces] };
    }

    // Parts between which no whole frame is left out are one.
    private static List<SittingRange> Whole(IReadOnlyList<SittingRange> parts, FrameRate rate)
    {
        var whole = new List<SittingRange>();
        foreach (var part in parts)
        {
            if (whole.Count > 0 && rate.FrameAt(part.In.FromZero) <= rate.FrameAtOrAfter(whole[^1].Out.FromZero))
            {
                whole[^1] = new SittingRange(whole[^1].In, part.Out);
            }
            else
            {
                whole.Add(part);
            }
        }
        return whole;
    }
}
