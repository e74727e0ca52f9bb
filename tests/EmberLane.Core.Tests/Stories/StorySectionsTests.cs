using CsCheck;
using EmberLane.Core.Stories;
using static EmberLane.Core.Tests.Stories.StoryPieces;

namespace EmberLane.Core.Tests.Stories;

public sealed class StorySectionsTests
{
    private static SectionHead Head(int number) => new(Id(number), $"Part {number}", MediaTime.Zero, false);

    private static readonly Story Parted = Of(Card(1, 0, 1), Head(2), Card(3, 2, 3), Card(4, 4, 5), Head(5), Head(6), Card(7, 6, 7));

    private static int[] Order(Story story) => [.. story.Pieces.Select(p => Enumerable.Range(1, 20).First(n => Id(n) == p.Id))];

    [Fact]
    public void A_section_reaches_to_the_next_heading_and_what_lies_before_the_first_has_none()
    {
        Assert.Equal(
            [(null, 0, 1), ("Part 2", 2, 2), ("Part 5", 5, 0), ("Part 6", 6, 1)],
            StorySections.Of(Parted).Select(s => (s.Head?.Name, s.First, s.Count))
        );
        Assert.Empty(StorySections.Of(Story.Empty));
        Assert.Equal([("Part 2", 1, 0)], StorySections.Of(Of(Head(2))).Select(s => (s.Head?.Name, s.First, s.Count)));
    }

    [Fact]
    public void A_section_is_moved_as_one_and_not_beyond_the_ends()
    {
        Assert.Equal([1, 5, 2, 3, 4, 6, 7], Order(StorySections.Step(Parted, Id(2), down: true)!.Apply(Parted).Story));
        Assert.Equal([2, 3, 4, 1, 5, 6, 7], Order(StorySections.Step(Parted, Id(2), down: false)!.Apply(Parted).Story));
        Assert.Equal([1, 2, 3, 4, 6, 7, 5], Order(StorySections.Step(Parted, Id(6), down: false)!.Apply(Parted).Story));
        Assert.Null(StorySections.Step(Parted, Id(6), down: true));
        Assert.Null(StorySections.Step(Parted, Id(3), down: true));
    }

    [Fact]
    public void A_section_is_dissolved_without_its_cards_or_taken_out_with_them_and_comes_back()
    {
        Assert.Equal([1, 3, 4, 5, 6, 7], Order(new TakeOut(Id(2)).Apply(Parted).Story));
        var (out_, back) = StorySections.TakeOut(Parted, [.. StorySections.Whole(Parted, Id(2))]).Apply(Parted);
        Assert.Equal([1, 5, 6, 7], Order(out_));
        Assert.Equal(Parted.Pieces, back.Apply(out_).Story.Pieces);
        Assert.Throws<EditRefusedException>(() => StorySections.Whole(Parted, Id(3)));
        Assert.Throws<EditRefusedException>(() => StorySections.TakeOut(Parted, [Id(99)]));
    }

    [Fact]
    public void Several_cards_taken_out_leave_a_space_of_their_length_where_the_first_of_them_was()
    {
        var edit = StorySections.LeaveSpace(Parted, [Id(3), Id(7)], FrameRate.R25, Whole, Id(20));
        var (after, back) = edit.Apply(Parted);
        Assert.Equal([1, 2, 20, 4, 5, 6], Order(after));
        Assert.Equal(Whole(Parted).RunningTime(FrameRate.R25), Whole(after).RunningTime(FrameRate.R25));
        Assert.Equal(Parted.Pieces, back.Apply(after).Story.Pieces);
        Assert.Throws<EditRefusedException>(() => StorySections.LeaveSpace(Parted, [Id(5)], FrameRate.R25, Whole, Id(20)).Apply(Parted));
    }

    [Fact]
    public void Pieces_that_are_moved_together_lie_in_their_order_behind_the_one_that_was_named() =>
        Gen.Select(Gen.Int[1, 7].Array[1, 5], Gen.Int[0, 7])
            .Sample(
                (chosen, behind) =>
                {
                    var ids = chosen.Distinct().Select(Id).ToHashSet();
                    var edit = StorySections.Move(Parted, ids, behind == 0 ? null : Id(behind));
                    if (chosen.Contains(behind))
                    {
                        Assert.Null(edit);
                        return;
                    }
                    List<int> wanted = [.. Order(Parted).Where(n => !chosen.Contains(n))];
                    wanted.InsertRange(behind == 0 ? 0 : wanted.IndexOf(behind) + 1, chosen.Distinct().Order());
                    var (after, inverse) = edit is null ? (Parted, null) : edit.Apply(Parted);
                    Assert.Equal(wanted, Order(after));
                    Assert.Equal(Parted.Pieces, inverse is null ? after.Pieces : inverse.Apply(after).Story.Pieces);
                }
            );

    [Fact]
    public void Pieces_are_kept_as_they_are_meant_or_refused_with_a_word()
    {
        string Refused(Piece piece) => Assert.Throws<EditRefusedException>(() => new LayPiece(piece, 0).Apply(Parted)).Message;
        var second = MediaTime.FromMilliseconds(1_000);
        Assert.Contains("needs a name", Refused(new SectionHead(Id(9), " \n ", MediaTime.Zero, false)), StringComparison.Ordinal);
        Assert.Contains("needs a length", Refused(new Space(Id(9), MediaTime.Zero, "")), StringComparison.Ordinal);
        Assert.Contains("needs words", Refused(new TitleCard(Id(9), "", second)), StringComparison.Ordinal);
        Assert.Contains("needs words", Refused(new Narration(Id(9), "  ", second)), StringComparison.Ordinal);
        Assert.Contains("characters", Refused(new Narration(Id(9), new string('x', 4_001), second)), StringComparison.Ordinal);
        SourceRange media = new(default, new SourceTime(second));
        Assert.Contains("−60 to +12", Refused(new PlainMedia(Id(9), 1, media, 121, default, default)), StringComparison.Ordinal);
        Assert.Contains("fades", Refused(new PlainMedia(Id(9), 1, media, 0, second, second)), StringComparison.Ordinal);
        Assert.Contains("in first", Refused(new PlainMedia(Id(9), 1, default, 0, default, default)), StringComparison.Ordinal);
        Assert.Contains("is in the story already", Refused(Head(2)), StringComparison.Ordinal);
        Assert.Contains(
            "can not become something else",
            Assert.Throws<EditRefusedException>(() => new ChangePiece(new Space(Id(2), second, "")).Apply(Parted)).Message,
            StringComparison.Ordinal
        );
        Assert.Equal("Low water", ((SectionHead)new ChangePiece(Head(2) with { Name = " Low\nwater" }).Apply(Parted).Story.Pieces[1]).Name);
    }

    [Theory]
    [InlineData(150, 5_000, 1, 400)]
    [InlineData(150, 5_000, 150, 60_000)]
    [InlineData(120, 5_000, 3, 1_500)]
    [InlineData(70, 5_000, 1, 900)]
    public void Narration_is_estimated_by_its_words_in_whole_tenths(int pace, int given, int words, int milliseconds)
    {
        var narration = new Narration(Id(1), string.Join(' ', Enumerable.Repeat("word", words)), MediaTime.Zero);
        Assert.Equal(MediaTime.FromMilliseconds(milliseconds), narration.Lasts(pace));
        Assert.Equal(MediaTime.FromMilliseconds(given), (narration with { Length = MediaTime.FromMilliseconds(given) }).Lasts(pace));
    }

    [Fact]
    public void Shares_are_of_what_is_said_and_other_takes_make_it_shorter_or_longer()
    {
        var story = Of(
            Card(1, 0, 9) with
            {
                OtherTakes = "8 9",
            },
            new Space(Id(2), MediaTime.FromMilliseconds(2_000), ""),
            new Narration(Id(3), "one two three four five", MediaTime.Zero),
            Card(4, 20, 29)
        );
        var shares = StoryShares.Of(
            Whole(story),
            FrameRate.R25,
            c =>
                c.Id == Id(1)
                    ? [new("Maren", MediaTime.FromMilliseconds(3_000))]
                    : [new("maren", MediaTime.FromMilliseconds(0)), new("Ilse", MediaTime.FromMilliseconds(1_000))],
            _ => "one two three four five",
            take => MediaTime.FromMilliseconds(take == "8" ? 1_900 : 9_900)
        );
        Assert.Equal([("Maren", 750), ("Ilse", 250)], shares.People.Select(p => (p.Name, p.Of.Value)));
        Assert.Equal(
            (60, 2_000L, 2_000L),
            (shares.WordsAMinute, shares.Spaces.ToMillisecondsRounded(), shares.Narration.ToMillisecondsRounded())
        );
        var running = Whole(story).RunningTime(FrameRate.R25);
        Assert.Equal(running - MediaTime.FromMilliseconds(3_020), shares.Shortest);
        Assert.Equal(running + MediaTime.FromMilliseconds(4_980), shares.Longest);
    }
}
