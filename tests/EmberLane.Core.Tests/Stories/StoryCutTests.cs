using EmberLane.Core.Stories;

namespace EmberLane.Core.Tests.Stories;

public sealed class StoryCutTests
{
    private static SittingTime At(long milliseconds) => new(MediaTime.FromMilliseconds(milliseconds));

    private static SittingRange Range(long from, long to) => new(At(from), At(to));

    [Fact]
    public void What_is_set_aside_leaves_the_card_at_its_ends_and_in_its_middle()
    {
        Assert.Equal([Range(0, 1000)], StoryCut.Apart(Range(0, 1000), []));
        Assert.Equal([Range(0, 1000)], StoryCut.Apart(Range(0, 1000), [Range(1000, 2000)]));
        Assert.Equal([Range(200, 400), Range(600, 1000)], StoryCut.Apart(Range(0, 1000), [Range(-500, 200), Range(400, 600)]));
        Assert.Equal([Range(0, 900)], StoryCut.Apart(Range(0, 1000), [Range(900, 5000)]));
        Assert.Empty(StoryCut.Apart(Range(0, 1000), [Range(0, 1000)]));
    }

    [Fact]
    public void Every_moment_of_a_card_is_in_use_or_aside_and_never_both()
    {
        var random = new Random(5);
        for (var n = 0; n < 2_000; n++)
        {
            var edges = Enumerable.Range(0, 2 * random.Next(0, 6)).Select(_ => (long)random.Next(-20, 120)).Order().ToList();
            var aside = Enumerable.Range(0, edges.Count / 2).Select(i => Range(edges[2 * i], edges[(2 * i) + 1])).ToList();
            var card = Range(0, 100);
            var pieces = StoryCut.Apart(card, aside);
            for (var at = 0; at < 100; at++)
            {
                Assert.Equal(!aside.Any(a => a.Holds(At(at))), pieces.Count(p => p.Holds(At(at))) == 1);
                Assert.InRange(pieces.Count(p => p.Holds(At(at))), 0, 1);
            }
        }
    }

    [Fact]
    public void A_picture_over_a_card_parts_what_is_shown_where_it_comes_and_goes_in_each_moment_of_it()
    {
        var random = new Random(8);
        for (var n = 0; n < 2_000; n++)
        {
            int from = random.Next(20),
                length = random.Next(1, 60),
                after = random.Next(60),
                into = random.Next(40),
                shown = random.Next(1, 50);
            var over = new OverPicture(7, new SourceRange(Source(from), Source(from + length)), MediaTime.FromMilliseconds(after));
            var parts = over.Within(Range(100, 100 + shown), MediaTime.FromMilliseconds(into)).ToList();
            Assert.Equal(At(100), parts[0].Shown.In);
            Assert.Equal(At(100 + shown), parts[^1].Shown.Out);
            Assert.All(parts.Zip(parts.Skip(1)), p => Assert.Equal(p.First.Shown.Out, p.Second.Shown.In));
            for (var at = 0; at < shown; at++)
            {
                var part = parts.Single(p => p.Shown.Holds(At(100 + at)));
                var sinceCard = into + at;
                Assert.Equal(
                    sinceCard >= after && sinceCard < after + length ? Source(from + sinceCard - after) : null,
                    part.From is { } begins ? begins + (At(100 + at) - part.Shown.In) : (SourceTime?)null
                );
            }
        }

        static SourceTime Source(long milliseconds) => new(MediaTime.FromMilliseconds(milliseconds));
    }

    [Fact]
    public void The_running_time_is_that_of_what_is_in_use_and_comes_back_with_it()
    {
        var card = new Card(Guid.NewGuid(), 1, 7, Range(0, 4000), null);
        var (story, _) = new LayCard(card, 0).Apply(Story.Empty);
        var aside = new Dictionary<long, IReadOnlyList<SittingRange>> { [7] = [Range(1000, 2000)] };
        Assert.Equal(MediaTime.FromMilliseconds(3000), new StoryCut(story, aside).RunningTime(FrameRate.R25));
        Assert.Equal(
            MediaTime.FromMilliseconds(4000),
            new StoryCut(story, new Dictionary<long, IReadOnlyList<SittingRange>>()).RunningTime(FrameRate.R25)
        );
    }
}
