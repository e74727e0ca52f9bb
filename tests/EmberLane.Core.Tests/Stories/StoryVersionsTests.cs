using System.Text.Json;
using CsCheck;
using EmberLane.Core.Stories;
using static EmberLane.Core.Tests.Stories.StoryPieces;

namespace EmberLane.Core.Tests.Stories;

/// <summary>Two versions side by side, and edits of several people on one story.</summary>
public sealed class StoryVersionsTests
{
    private static readonly Story Eight = Of([.. Enumerable.Range(1, 8).Select(n => Card(n, n * 10, (n * 10) + 5))]);

    [Fact]
    public void What_came_in_went_out_moved_and_changed_is_told_as_a_script()
    {
        var now = Of(
            Eight.Pieces[1],
            Card(20, 100, 101),
            ((Card)Eight.Pieces[2]) with
            {
                Angle = 3,
            },
            Eight.Pieces[0],
            Eight.Pieces[4],
            Eight.Pieces[5],
            Eight.Pieces[6],
            ((Card)Eight.Pieces[3]) with
            {
                Angle = 4,
            }
        );
        Assert.Equal(
            [
                (Became.Same, 2),
                (Became.CameIn, 20),
                (Became.Changed, 3),
                (Became.Moved, 1),
                (Became.Same, 5),
                (Became.Same, 6),
                (Became.Same, 7),
                (Became.MovedAndChanged, 4),
                (Became.WentOut, 8),
            ],
            StoryCompare.Of(Eight, now).Select(l => (l.Became, Enumerable.Range(1, 20).First(n => Id(n) == (l.Is ?? l.Was)!.Id)))
        );
    }

    [Fact]
    public void Stories_without_ids_in_common_are_compared_by_what_they_show()
    {
        var other = Of([.. Eight.Pieces.Select((p, i) => p with { Id = Id(50 + i) })]);
        Assert.All(StoryCompare.Of(Eight, other), l => Assert.Equal(Became.Same, l.Became));
        Assert.All(StoryCompare.Of(Story.Empty, Eight), l => Assert.Equal(Became.CameIn, l.Became));
        Assert.Empty(StoryCompare.Of(Story.Empty, Story.Empty));
    }

    [Fact]
    public void Every_piece_of_both_is_told_once_and_as_few_as_possible_move() =>
        Gen.Shuffle(Enumerable.Range(0, 7).ToArray())
            .Select(Gen.Int[0, 7])
            .Sample(
                (order, kept) =>
                {
                    var now = Of([.. order.Take(kept).Select(i => Eight.Pieces[i])]);
                    var lines = StoryCompare.Of(Eight, now);
                    Assert.Equal(now.Pieces, lines.Select(l => l.Is).OfType<Piece>());
                    Assert.Equal(Eight.Pieces.Select(p => p.Id).Order(), lines.Select(l => l.Was!.Id).Order());
                    // By brute force: the longest run that keeps its order.
                    var best = Enumerable
                        .Range(0, 1 << kept)
                        .Where(set =>
                            Enumerable.Range(0, kept).Where(i => (set >> i & 1) == 1).Select(i => order[i]).ToList() is var run
                            && run.SequenceEqual(run.Order())
                        )
                        .Max(set => int.PopCount(set));
                    Assert.Equal(kept - best, lines.Count(l => l.Became == Became.Moved));
                }
            );

    private static StoryEdit? Any(Story story, int person, int kind, int a, int b)
    {
        var count = story.Pieces.Count;
        var own = story.Pieces.Count == 0 ? null : story.Pieces[a % count];
        return kind switch
        {
            0 => new LayCard(Card(1_000 + (person * 100) + b, b, b + 1), a % (count + 1)),
            1 when own is not null => new TakeOut(own.Id),
            2 when own is not null => new MoveCard(own.Id, b % count),
            3 when own is Card card => new StretchCard(
                card.Id,
                new SittingRange(card.Range.In, card.Range.Out + MediaTime.FromMilliseconds(b + 1))
            ),
            4 when own is Card card => new ShowAngle(card.Id, b),
            5 when own is not null => new StoryTogether([new TakeOut(own.Id), new LayPiece(own, b % count)]),
            _ => null,
        };
    }

    [Fact]
    public void Edits_of_two_people_on_the_same_version_are_both_made_or_told_to_clash_and_nothing_is_lost() =>
        Gen.Select(Gen.Int[0, 5], Gen.Int[0, 50], Gen.Int[0, 50])
            .Array[1, 4]
            .Select(Gen.Select(Gen.Int[0, 5], Gen.Int[0, 50], Gen.Int[0, 50]))
            .Sample(
                (others, mine) =>
                {
                    var now = Eight;
                    var made = new List<StoryEdit>();
                    foreach (var (kind, a, b) in others)
                    {
                        if (Any(now, 1, kind, a, b) is { } edit && !(edit is LayCard lay && now.IndexOf(lay.Card.Id) >= 0))
                        {
                            made.Add(edit);
                            now = edit.Apply(now).Story;
                        }
                    }
                    if (Any(Eight, 2, mine.Item1, mine.Item2, mine.Item3) is not { } own || made.Any(m => !own.IsBeside(m)))
                    {
                        return;
                    }
                    var onto = JsonSerializer.Deserialize<StoryEdit>(JsonSerializer.Serialize(own.Onto(Eight, now).Within(now)))!;
                    var (both, back) = onto.Apply(now);
                    var alone = own.Apply(Eight).Story;
                    // What the other made of cards is there, and what this one made of others.
                    Assert.Equal(
                        now.Pieces.Select(p => p.Id).Except(Eight.Pieces.Select(p => p.Id)).Order(),
                        both.Pieces.Select(p => p.Id).Except(alone.Pieces.Select(p => p.Id)).Order()
                    );
                    Assert.Equal(
                        Eight.Pieces.Select(p => p.Id).Except(now.Pieces.Select(p => p.Id)).Order(),
                        alone.Pieces.Select(p => p.Id).Except(both.Pieces.Select(p => p.Id)).Order()
                    );
                    foreach (var piece in both.Pieces)
                    {
                        var was = Eight.Pieces.Find(p => p.Id == piece.Id) as Card;
                        var (mineIs, theirs) = (alone.Pieces.Find(p => p.Id == piece.Id), now.Pieces.Find(p => p.Id == piece.Id));
                        Assert.Equal(
                            was is not null && mineIs is Card one && theirs is Card other
                                ? was with
                                {
                                    Range = one.Range != was.Range ? one.Range : other.Range,
                                    Angle = one.Angle != was.Angle ? one.Angle : other.Angle,
                                }
                                : mineIs ?? theirs,
                            piece
                        );
                    }
                    Assert.Equal(now.Pieces, back.Apply(both).Story.Pieces);
                }
            );

    [Fact]
    public void Of_two_versions_what_changed_is_told_with_some_around_it_and_the_rest_is_counted()
    {
        var now = StorySections.TakeOut(Eight, [Id(7)]).Apply(Eight).Story;
        var lines = StoryCompare.Of(Eight, now);
        Assert.Equal(
            ["5 more", "6", "7", "8"],
            StoryCompare.Told(lines, 1).Select(t => t.Line is { } line ? $"{Numbered(line)}" : $"{t.Same} more")
        );
        Assert.Equal(["8 more"], StoryCompare.Told(StoryCompare.Of(Eight, Eight), 2).Select(t => $"{t.Same} more"));
        Assert.Equal(8, StoryCompare.Told(lines, lines.Count).Count(t => t.Line is not null));
        // A row of one is no shorter to count than to tell.
        var first = StoryCompare.Of(Eight, StorySections.TakeOut(Eight, [Id(1), Id(5)]).Apply(Eight).Story);
        Assert.Equal(
            ["1", "2", "3", "4", "5", "6", "2 more"],
            StoryCompare.Told(first, 1).Select(t => t.Line is { } line ? $"{Numbered(line)}" : $"{t.Same} more")
        );

        static int Numbered(ComparedPiece line) => Enumerable.Range(1, 20).First(n => Id(n) == (line.Is ?? line.Was)!.Id);
    }

    [Fact]
    public void A_place_is_kept_by_the_cards_beside_it_not_by_its_number()
    {
        var now = new MoveCard(Id(8), 0).Apply(Eight).Story;
        var onto = new LayCard(Card(20, 0, 1), 3).Onto(Eight, now);
        Assert.Equal(Id(3), onto.Apply(now).Story.Pieces[3].Id);
        Assert.Equal(Id(20), onto.Apply(now).Story.Pieces[4].Id);
        // All that lay before it is gone: it comes before what lay behind it.
        var shorter = StorySections.TakeOut(Eight, [Id(1), Id(2), Id(3)]).Apply(Eight).Story;
        Assert.Equal(0, ((LayCard)new LayCard(Card(20, 0, 1), 3).Onto(Eight, shorter)).At);
        Assert.Equal(0, ((LayCard)new LayCard(Card(20, 0, 1), 3).Onto(Eight, Story.Empty).Within(Story.Empty)).At);
        Assert.Equal(3, ((MoveCard)new MoveCard(Id(1), 2).Onto(Eight, now)).To);
    }

    [Fact]
    public void A_story_becomes_an_earlier_version_and_what_it_was_comes_back()
    {
        var later = StorySections.TakeOut(Eight, [Id(1), Id(5)]).Apply(Eight).Story;
        var (again, back) = new BecomeVersion(Eight.Pieces).Apply(later);
        Assert.Equal(Eight.Pieces, again.Pieces);
        Assert.Equal(later.Pieces, JsonSerializer.Deserialize<StoryEdit>(JsonSerializer.Serialize(back))!.Apply(again).Story.Pieces);
        Assert.False(new BecomeVersion(Eight.Pieces).IsBeside(new MoveCard(Id(3), 0)));
        Assert.Throws<EditRefusedException>(() => new BecomeVersion([Card(1, 0, 1), Card(1, 2, 3)]).Apply(Eight));
    }
}
