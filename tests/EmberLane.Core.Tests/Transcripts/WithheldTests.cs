using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tests.Transcripts;

/// <summary>Which stretches of a sitting do not leave by a link.</summary>
public sealed class WithheldTests
{
    private static SittingTime At(long milliseconds) => new(MediaTime.FromMilliseconds(milliseconds));

    private static SittingRange Range(long from, long to) => new(At(from), At(to));

    // Four words of half a second: the second follows at once, the third after a second, the last is far behind.
    private static readonly Transcript Text = new(
        [
            new(new(0), "one", Range(0, 500), null, 0),
            new(new(1), "two", Range(500, 1_000), null, 0),
            new(new(2), "three", Range(2_000, 2_500), null, 0),
            new(new(3), "four", Range(9_000, 9_500), null, 0),
        ],
        Layers.None
    );

    private static Transcript Held(params (int First, int Last)[] stretches) =>
        stretches.Aggregate(
            Text,
            (text, s) =>
                text with
                {
                    Layers = new PutMark(Marking.Over(text, MarkKind.OffTheRecord, new(s.First), new(s.Last), new Signed("Ada", null)))
                        .Apply(text)
                        .Layers,
                }
        );

    [Fact]
    public void A_stretch_reaches_a_little_beyond_its_words_and_never_over_those_beside_it()
    {
        Assert.Equal([Range(500, 1_250)], Withheld.Of(Held((1, 1))));
        Assert.Equal([Range(1_750, 2_750)], Withheld.Of(Held((2, 2))));
        Assert.Equal([Range(8_750, 9_750)], Withheld.Of(Held((3, 3))));
    }

    [Fact]
    public void Stretches_that_meet_are_one_and_those_that_were_only_set_aside_are_none()
    {
        Assert.Equal([Range(-250, 1_250), Range(8_750, 9_750)], Withheld.Of(Held((3, 3), (0, 0), (1, 1))));
        var aside = Text with { Layers = Marking.TurnAside(Text, new(1), new(2), new Signed("Ada", null)).Apply(Text).Layers };
        Assert.Empty(Withheld.Of(aside));
        Assert.Empty(Withheld.Of(Text));
    }

    [Fact]
    public void Who_speaks_into_it_is_kept_and_the_words_are_not()
    {
        var text = Text with
        {
            Record =
            [
                new(new(0), "one", Range(0, 700), null, 0),
                new(new(1), "two", Range(500, 1_000), null, 1),
                new(new(2), "three", Range(900, 2_500), null, 0),
            ],
        };
        var held = text with
        {
            Layers = new PutMark(Marking.Over(text, MarkKind.OffTheRecord, new(1), new(1), new Signed("Ada", null))).Apply(text).Layers,
        };
        Assert.Equal([Range(500, 1_000)], Withheld.Of(held));
    }
}
