using System.Collections.Immutable;
using EmberLane.Core.Bites;
using EmberLane.Core.Stories;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tests.Stories;

/// <summary>Made stories: words of half a second, each card some of them.</summary>
internal static class StoryPieces
{
    /// <summary>A piece's id by number.</summary>
    public static Guid Id(int number) => new(number, 0, 0, [0, 0, 0, 0, 0, 0, 0, 1]);

    /// <summary>A moment of the sitting.</summary>
    public static SittingTime At(long milliseconds) => new(MediaTime.FromMilliseconds(milliseconds));

    /// <summary>Where a word lies: it lasts 400 ms, a pause of 100 ms behind it.</summary>
    public static SittingRange Word(int number) => new(At(number * 500L), At((number * 500L) + 400));

    /// <summary>A card of the words from one to another, both included.</summary>
    public static Card Card(int number, int first, int last, long sitting = 1) =>
        new(Id(number), 1, sitting, new SittingRange(Word(first).In, Word(last).Out), null);

    /// <summary>The words of a card: those whose middles lie in it.</summary>
    public static IReadOnlyList<CardWord> WordsOf(Card card) =>
        [
            .. Enumerable
                .Range(0, 200)
                .Where(n => card.Range.Holds(At((n * 500L) + 200)))
                .Select((n, i) => new CardWord(new WordNumber(n), Word(n), i * 5, 4)),
        ];

    /// <summary>What a story says, as the numbers of its words.</summary>
    public static IReadOnlyList<int> Said(Story story) => [.. story.Cards.SelectMany(WordsOf).Select(w => w.Number.Value)];

    /// <summary>A story of these pieces.</summary>
    public static Story Of(params IReadOnlyList<Piece> pieces) => new(pieces.ToImmutableList());

    /// <summary>A story without what is set aside: there is nothing.</summary>
    public static StoryCut Whole(Story story) => new(story, new Dictionary<long, IReadOnlyList<SittingRange>>());
}
