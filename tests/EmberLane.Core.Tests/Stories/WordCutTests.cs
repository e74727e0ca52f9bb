using CsCheck;
using EmberLane.Core.Stories;
using static EmberLane.Core.Tests.Stories.StoryPieces;

namespace EmberLane.Core.Tests.Stories;

/// <summary>The story as a text: what is taken out, put in, parted and joined by words is what happens to the media.</summary>
public sealed class WordCutTests
{
    private static readonly FrameRate Rate = FrameRate.R25;

    private static readonly Story Three = Of(
        Card(1, 0, 9),
        new Space(Id(2), MediaTime.FromMilliseconds(2_000), "the drum"),
        new SectionHead(Id(3), "The school", MediaTime.Zero, false),
        Card(4, 20, 29),
        Card(5, 40, 44)
    );

    private static WordCut Cut()
    {
        var next = 100;
        return new WordCut(WordsOf, Rate, () => Id(next++));
    }

    private static readonly Gen<WordsOfStory> Selections = Gen.Select(Gen.Int[0, 2], Gen.Int[0, 9], Gen.Int[0, 2], Gen.Int[0, 9])
        .Select(
            (one, first, other, last) =>
            {
                int[] cards = [1, 4, 5],
                    counts = [10, 10, 5];
                (one, first, other, last) = one < other ? (one, first, other, last) : (other, last, one, first);
                (first, last) = (first % counts[one], last % counts[other]);
                return one == other
                    ? new WordsOfStory(Id(cards[one]), Math.Min(first, last), Id(cards[one]), Math.Max(first, last))
                    : new WordsOfStory(Id(cards[one]), first, Id(cards[other]), last);
            }
        );

    // The words of the story that a selection holds, by brute force.
    private static HashSet<int> Held(WordsOfStory words)
    {
        int At(Guid card, int word) =>
            Said(Three).Index().First(w => w.Item == WordsOf((Card)Three.Pieces.First(p => p.Id == card))[word].Number.Value).Index;
        return [.. Said(Three).Take(At(words.LastCard, words.LastWord) + 1).Skip(At(words.FirstCard, words.FirstWord))];
    }

    [Fact]
    public void What_is_taken_out_is_gone_and_all_else_is_said_in_its_order_and_comes_back_by_the_inverse() =>
        Selections.Sample(words =>
        {
            var (after, inverse) = Cut().TakeOut(Three, words).Apply(Three);
            Assert.Equal(Said(Three).Except(Held(words)), Said(after));
            Assert.Equal(Three.Pieces, inverse.Apply(after).Story.Pieces);
            // A heading is nobody's words.
            Assert.Contains(after.Pieces, p => p.Id == Id(3));
        });

    [Fact]
    public void A_space_that_is_left_is_as_long_as_what_went_so_that_nothing_behind_it_moves() =>
        Selections.Sample(words =>
        {
            var (after, _) = Cut().LeaveSpace(Three, words, Whole).Apply(Three);
            Assert.Equal(Whole(Three).RunningTime(Rate), Whole(after).RunningTime(Rate));
            Assert.Equal(Said(Three).Except(Held(words)), Said(after));
            var left = Held(words);
            var space = after.Pieces.FindIndex(p => p is Space { WaitsFor: "" });
            Assert.All(after.Pieces.Take(space).OfType<Card>().SelectMany(WordsOf), w => Assert.True(w.Number.Value < left.Min()));
            Assert.All(after.Pieces.Skip(space).OfType<Card>().SelectMany(WordsOf), w => Assert.True(w.Number.Value > left.Max()));
        });

    [Fact]
    public void What_is_copied_says_these_words_and_pasted_it_is_said_where_it_was_put() =>
        Gen.Select(Selections, Gen.Int[0, 11])
            .Sample(
                (words, before) =>
                {
                    var cut = Cut();
                    var copied = cut.Copy(Three, words);
                    Assert.Equal(Held(words).Order(), Said(Of(copied)));
                    Assert.Empty(copied.Select(p => p.Id).Intersect(Three.Pieces.Select(p => p.Id)));
                    var (after, inverse) = cut.PutIn(Three, Id(4), before, copied).Apply(Three);
                    List<int> wanted = [.. Said(Three)];
                    wanted.InsertRange(10 + Math.Min(before, 10), Held(words).Order());
                    Assert.Equal(wanted, Said(after));
                    Assert.Equal(Three.Pieces, inverse.Apply(after).Story.Pieces);
                }
            );

    [Fact]
    public void A_parted_card_loses_no_frame_and_shows_none_twice_and_joined_it_is_as_it_was() =>
        Gen.Int[1, 9]
            .Sample(at =>
            {
                var (parted, _) = Cut().Part(Three, Id(1), at).Apply(Three);
                Assert.Equal(Said(Three), Said(parted));
                Assert.Equal(Whole(Three).RunningTime(Rate), Whole(parted).RunningTime(Rate));
                Assert.Equal(at, WordsOf(parted.Cards[0]).Count);
                var (joined, _) = WordCut.Join(parted, Id(1)).Apply(parted);
                Assert.Equal(Three.Pieces, joined.Pieces);
            });

    [Fact]
    public void What_does_not_fit_is_refused_with_a_word()
    {
        string Refused(Func<StoryEdit> edit) => Assert.Throws<EditRefusedException>(() => edit().Apply(Three)).Message;
        Assert.Contains("does not continue", Refused(() => WordCut.Join(Three, Id(4))), StringComparison.Ordinal);
        Assert.Contains("no card of a bite behind", Refused(() => WordCut.Join(Three, Id(5))), StringComparison.Ordinal);
        Assert.Contains("no longer in the story", Refused(() => WordCut.Join(Three, Id(2))), StringComparison.Ordinal);
        Assert.Contains("between two of its words", Refused(() => Cut().Part(Three, Id(1), 0)), StringComparison.Ordinal);
        Assert.Contains("between two of its words", Refused(() => Cut().Part(Three, Id(1), 10)), StringComparison.Ordinal);
        Assert.Contains(
            "end before they begin",
            Refused(() => Cut().TakeOut(Three, new WordsOfStory(Id(4), 0, Id(1), 0))),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "Nothing would be left",
            Refused(() => new StretchCard(Id(1), new SittingRange(At(5), At(5)))),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_card_whose_begin_goes_keeps_the_rest_of_the_picture_that_lies_over_it()
    {
        SourceRange Of(int from, int to) =>
            new(new SourceTime(MediaTime.FromMilliseconds(from)), new SourceTime(MediaTime.FromMilliseconds(to)));
        var story = StoryPieces.Of(Card(1, 0, 9) with { Over = new OverPicture(7, Of(0, 3_000), MediaTime.FromMilliseconds(500)) });
        var (after, _) = Cut().TakeOut(story, new WordsOfStory(Id(1), 0, Id(1), 3)).Apply(story);
        Assert.Equal(new OverPicture(7, Of(1_500, 3_000), MediaTime.Zero), after.Cards[0].Over);
        var (gone, _) = Cut().TakeOut(story, new WordsOfStory(Id(1), 0, Id(1), 7)).Apply(story);
        Assert.Null(gone.Cards[0].Over);
        var (parted, _) = Cut().Part(story, Id(1), 1).Apply(story);
        Assert.Equal(MediaTime.FromMilliseconds(60), parted.Cards[1].Over!.After);
    }

    [Fact]
    public void Words_are_found_by_the_characters_that_are_selected()
    {
        var words = new CardWords("aaaa bbbb cccc", WordsOf(Card(1, 0, 2)));
        Assert.Equal((0, 0), words.Touching(0, 4));
        Assert.Equal((0, 1), words.Touching(3, 6));
        Assert.Equal((1, 2), words.Touching(5, 100));
        Assert.Null(words.Touching(4, 5));
        Assert.Null(words.Touching(30, 40));
    }
}
