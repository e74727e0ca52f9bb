using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tests.Transcripts;

public sealed class ReadShareTests
{
    private static SittingRange Range(long from, long to) =>
        new(new SittingTime(MediaTime.FromMilliseconds(from)), new SittingTime(MediaTime.FromMilliseconds(to)));

    private static SpokenTurn Turn(int word, long from, long to, long spoken) =>
        new(Range(from, to), MediaTime.FromMilliseconds(spoken), new WordNumber(word));

    private static (long Read, long Unread, int? Next) Of(SpokenTurn[] turns, params SittingRange[] read) =>
        ReadShare.Of(turns, read) is var share
            ? (
                share.Read.Units / MediaTime.FromMilliseconds(1).Units,
                share.Unread.Units / MediaTime.FromMilliseconds(1).Units,
                share.Next?.Value
            )
            : default;

    [Fact]
    public void Nothing_read_is_all_unread_from_the_first_word_and_all_read_leaves_nothing()
    {
        SpokenTurn[] turns = [Turn(0, 0, 10_000, 8_000), Turn(20, 11_000, 15_000, 4_000)];
        Assert.Equal((0, 12_000, 0), Of(turns));
        Assert.Equal((12_000, 0, null), Of(turns, Range(0, 15_000)));
        Assert.Equal((0, 0, null), Of([]));
    }

    [Fact]
    public void A_turn_counts_by_how_much_of_it_was_read_and_reading_goes_on_at_the_first_that_lacks_more_than_a_tenth()
    {
        SpokenTurn[] turns = [Turn(0, 0, 10_000, 8_000), Turn(20, 10_000, 20_000, 10_000), Turn(50, 20_000, 30_000, 10_000)];
        Assert.Equal((12_600, 15_400, 20), Of(turns, Range(0, 9_500), Range(15_000, 20_000)));
        Assert.Equal((18_000, 10_000, 50), Of(turns, Range(0, 20_000)));
    }

    [Fact]
    public void Turns_that_overlap_each_count_what_was_read_of_them()
    {
        SpokenTurn[] turns = [Turn(0, 0, 10_000, 10_000), Turn(9, 4_000, 6_000, 2_000), Turn(12, 10_000, 11_000, 1_000)];
        Assert.Equal((4_000, 9_000, 0), Of(turns, Range(4_000, 6_000)));
        var random = new Random(3);
        for (var n = 0; n < 100; n++)
        {
            var end = random.Next(1, 12_000);
            var some = Of(turns, Range(0, end));
            Assert.InRange(some.Read + some.Unread, 12_999, 13_000);
            Assert.True(some.Read >= Of(turns, Range(0, end / 2)).Read);
        }
    }
}
