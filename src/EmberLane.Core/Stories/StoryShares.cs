using EmberLane.Core.Bites;

namespace EmberLane.Core.Stories;

/// <summary>How much of a story one person says, and how many words a minute.</summary>
public sealed record SpokenShare(string Name, MediaTime Said, PerMille Of);

/// <summary>
/// What a story is made of: who says how much, how many words a minute of talk there are, how long spaces and narration are, and how long
/// it would be with the shortest and with the longest of each card's takes.
/// </summary>
public sealed record StoryShares(
    IReadOnlyList<SpokenShare> People,
    int WordsAMinute,
    MediaTime Spaces,
    MediaTime Narration,
    MediaTime Shortest,
    MediaTime Longest
)
{
    /// <summary>Of a story without anything.</summary>
    public static StoryShares Nothing { get; } = new([], 0, default, default, default, default);

    /// <summary>
    /// Of a story as it is in use. <paramref name="voices"/> and <paramref name="said"/> tell of a card who speaks and what is said,
    /// <paramref name="take"/> how long a bite is.
    /// </summary>
    public static StoryShares Of(
        StoryCut cut,
        FrameRate rate,
        Func<Card, IReadOnlyList<VoiceInBite>> voices,
        Func<Card, string> said,
        Func<string, MediaTime?> take
    )
    {
        var cards = cut.Pieces.OfType<Card>().ToList();
        var people = cards
            .SelectMany(voices)
            .GroupBy(v => v.Name, StringComparer.OrdinalIgnoreCase)
            .Select(g => (Name: g.Key, Said: g.Aggregate(MediaTime.Zero, (sum, v) => sum + v.Said)))
            .OrderByDescending(p => p.Said.Units)
            .ToList();
        var spoken = people.Aggregate(MediaTime.Zero, (sum, p) => sum + p.Said);
        var talk = Sum(cards);
        var words = cards.Sum(c => WordsIn(said(c)));
        MediaTime shorter = MediaTime.Zero,
            longer = MediaTime.Zero;
        foreach (var card in cards.Where(c => c.OtherTakes.Length > 0))
        {
            var own = rate.TimeOf(cut.Frames(card, rate));
            var others = card.OtherTakes.Split(' ').Select(take).OfType<MediaTime>().Append(own).ToList();
            shorter += own - others.Min();
            longer += others.Max() - own;
        }
        var running = cut.RunningTime(rate);
        return new StoryShares(
            [
                .. people.Select(p => new SpokenShare(
                    p.Name,
                    p.Said,
                    new PerMille(spoken == MediaTime.Zero ? 0 : (int)(p.Said.Units * 1000 / spoken.Units))
                )),
            ],
            talk == MediaTime.Zero ? 0 : (int)((Int128)words * 60 * MediaTime.UnitsPerSecond / talk.Units),
            Sum(cut.Pieces.OfType<Space>()),
            Sum(cut.Pieces.OfType<Narration>()),
            running - shorter,
            running + longer
        );

        MediaTime Sum(IEnumerable<Piece> pieces) => rate.TimeOf(pieces.Sum(p => cut.Frames(p, rate)));
    }

    // Stories say tens of thousands of words, counted with every change: not one is made a text of its own.
    private static int WordsIn(string said)
    {
        var words = 0;
        for (var i = 0; i < said.Length; i++)
        {
            words += said[i] != ' ' && (i == 0 || said[i - 1] == ' ') ? 1 : 0;
        }
        return words;
    }
}
