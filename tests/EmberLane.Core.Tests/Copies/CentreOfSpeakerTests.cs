using CsCheck;
using EmberLane.Core.Copies;

namespace EmberLane.Core.Tests.Copies;

public sealed class CentreOfSpeakerTests
{
    private static readonly FrameRate Rate = FrameRate.R25;

    private static readonly Dictionary<string, int> Places = new() { ["Maren"] = 300, ["Tobias"] = 700 };

    private static SpeakerRun Run(long from, string who) => new(MediaTime.FromMilliseconds(from), who);

    [Fact]
    public void The_picture_turns_to_who_speaks_and_stays_where_nobody_in_it_does()
    {
        SpeakerRun[] runs = [Run(0, "Maren"), Run(4_000, "Tobias"), Run(8_000, "Interviewer"), Run(10_000, "Tobias"), Run(14_000, "Maren")];
        Assert.Equal(
            [(new FrameSpan(50, 50), 300), (new FrameSpan(100, 250), 700), (new FrameSpan(350, 50), 300)],
            CentreOfSpeaker.Of(new FrameSpan(50, 350), runs, Places, Rate)
        );
        // Before anybody in it speaks it waits for the first who will.
        Assert.Equal([(new FrameSpan(210, 80), 700)], CentreOfSpeaker.Of(new FrameSpan(210, 80), runs, Places, Rate));
    }

    [Fact]
    public void A_word_in_between_turns_nobody_and_without_a_voice_it_is_the_first_by_name()
    {
        SpeakerRun[] runs = [Run(0, "Maren"), Run(4_000, "Tobias"), Run(4_800, "Maren")];
        Assert.Equal([(new FrameSpan(0, 200), 300)], CentreOfSpeaker.Of(new FrameSpan(0, 200), runs, Places, Rate));
        Assert.Equal([(new FrameSpan(0, 9), 300)], CentreOfSpeaker.Of(new FrameSpan(0, 9), [], Places, Rate));
    }

    [Fact]
    public void Whoever_speaks_when_each_frame_is_seen_once_around_somebody_in_the_picture()
    {
        var run = Gen.Select(Gen.Long[0, 2_500], Gen.OneOfConst("Maren", "Tobias", "Interviewer"));
        Gen.Select(run.Array[0, 12], Gen.Long[0, 300], Gen.Long[1, 400])
            .Sample(
                (made, first, count) =>
                {
                    long at = 0;
                    var runs = made.Select(m => Run(at += m.Item1, m.Item2)).ToList();
                    var seen = new FrameSpan(first, count);
                    var parts = CentreOfSpeaker.Of(seen, runs, Places, Rate);
                    Assert.Equal(seen.First, parts[0].Frames.First);
                    Assert.Equal(seen.End, parts[^1].Frames.End);
                    Assert.All(parts.Zip(parts.Skip(1)), p => Assert.Equal(p.First.Frames.End, p.Second.Frames.First));
                    Assert.All(parts.Zip(parts.Skip(1)), p => Assert.NotEqual(p.First.Centre, p.Second.Centre));
                    Assert.All(parts, p => Assert.True(p.Frames.Count > 0 && Places.ContainsValue(p.Centre)));
                }
            );
    }
}
