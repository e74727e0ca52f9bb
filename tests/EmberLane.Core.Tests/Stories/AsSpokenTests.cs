using CsCheck;
using EmberLane.Core.Stories;

namespace EmberLane.Core.Tests.Stories;

/// <summary>What was taken out leaves its time.</summary>
public sealed class AsSpokenTests
{
    private static readonly FrameRate Rate = FrameRate.R25;

    private static SittingTime At(long milliseconds) => new(MediaTime.FromMilliseconds(milliseconds));

    private static SittingRange Range(long from, long to) => new(At(from), At(to));

    private static Card CardOf(long sitting, long from, long to) => new(Guid.NewGuid(), 1, sitting, Range(from, to), null);

    private static Story Left(Story story, StoryCut cut) => AsSpoken.Of(story, cut, Rate, Guid.NewGuid);

    [Fact]
    public void Cards_of_one_sitting_that_go_on_have_a_space_between_them_and_no_others_do()
    {
        var title = new TitleCard(Guid.NewGuid(), "Then", MediaTime.FromMilliseconds(1_000));
        var story = new Story([CardOf(1, 0, 1_000), CardOf(1, 3_000, 4_000), CardOf(2, 9_000, 9_500), CardOf(2, 1_000, 2_000), title]);
        var left = Left(story, new StoryCut(story, new Dictionary<long, IReadOnlyList<SittingRange>>()));
        Assert.Equal(6, left.Pieces.Count);
        Assert.Equal((MediaTime.FromMilliseconds(2_000), AsSpoken.Left), left.Pieces[1] is Space s ? (s.Length, s.WaitsFor) : default);
        Assert.Equal(story.Pieces.Select(p => p.Id), left.Pieces.Where(p => p is not Space).Select(p => p.Id));
    }

    [Fact]
    public void A_picture_over_a_card_goes_on_over_its_later_parts()
    {
        var over = new OverPicture(9, new SourceRange(new SourceTime(default), new SourceTime(MediaTime.FromMilliseconds(1_500))), default);
        var story = new Story([CardOf(1, 0, 4_000) with { Over = over }]);
        var left = Left(story, new StoryCut(story, new Dictionary<long, IReadOnlyList<SittingRange>> { [1] = [Range(1_000, 2_000)] }));
        var last = Assert.IsType<Card>(left.Pieces[2]);
        Assert.Equal(MediaTime.FromMilliseconds(1_000), last.Over!.Range.In.FromZero);
        Assert.Equal(MediaTime.Zero, last.Over.After);
    }

    [Fact]
    public void Each_frame_of_a_card_lies_as_far_from_its_first_as_it_was_spoken()
    {
        Gen.Select(Gen.Long[0, 5_000], Gen.Long[1, 8_000], Gen.Long[0, 9_000].Array[0, 8])
            .Sample(
                (from, length, edges) =>
                {
                    edges = [.. edges.Order()];
                    var aside = Enumerable
                        .Range(0, edges.Length / 2)
                        .Select(i => Range(from + edges[2 * i], from + edges[(2 * i) + 1]))
                        .Where(r => r.In < r.Out)
                        .ToList();
                    var story = new Story([CardOf(1, from, from + length)]);
                    var cut = new StoryCut(story, new Dictionary<long, IReadOnlyList<SittingRange>> { [1] = aside });
                    var left = Left(story, cut);
                    var laid = new StoryCut(left, new Dictionary<long, IReadOnlyList<SittingRange>>());
                    long at = 0;
                    long? zero = null;
                    foreach (var piece in left.Pieces)
                    {
                        if (piece is Card card && CardFrames.Of(card.Range, Rate).First is var first)
                        {
                            zero ??= first;
                            if (first - zero != at)
                            {
                                return false;
                            }
                        }
                        at += laid.Frames(piece, Rate);
                    }
                    // No frame more or less is seen than where the gaps are closed.
                    return left.Cards.Sum(c => laid.Frames(c, Rate)) == cut.Frames(story.Cards[0], Rate);
                },
                iter: 2_000
            );
    }
}
