using EmberLane.Core.Speech;
using EmberLane.Core.Voices;

namespace EmberLane.Core.Tests.Voices;

public sealed class SpokenLayoutTests
{
    private const float Loud = 1e6f;

    // Two mics; the first speaks from 1 s to 3 s, the second from 2.5 s to 4 s, and from 6 s to 7 s somebody far from both.
    private static readonly VoiceChances Two = new(["mic 1", "mic 3"], [Row(1000, (100, 300)), Row(1000, (250, 400))]);

    private static readonly float[] Mix = [.. Row(1000, (100, 400), (600, 700)).Select(c => c * Loud)];

    // Nobody's mic is off.
    private static readonly float[][] Mics = [.. Enumerable.Repeat(Mix.Select(m => m + 1_000).ToArray(), 3)];

    private static readonly StepRange Everywhere = StepRange.Of(0, 1000);

    private static float[] Row(int steps, params (int First, int End)[] on) =>
        [.. Enumerable.Range(0, steps).Select(i => on.Any(r => i >= r.First && i < r.End) ? 1f : 0f)];

    private static RecognisedWord Word(string text, SpokenPart part, int from, int to) =>
        new(
            text,
            new SourceRange(
                new SourceTime((part.At + (from - part.From.First.Value)).FromStart),
                new SourceTime((part.At + (to - part.From.First.Value)).FromStart)
            )
        );

    [Fact]
    public void Each_turn_is_taken_from_the_mic_of_who_speaks_both_of_an_overlap_and_the_rest_from_the_mix()
    {
        var parts = SpokenLayout.Of(Two, Mix, Mics, Everywhere).Parts;
        Assert.Equal([0, 2, null], parts.Select(p => p.Mic));
        Assert.Equal([StepRange.Of(80, 320), StepRange.Of(230, 420)], parts.Take(2).Select(p => p.From));
        Assert.True(parts[2].From.First.Value <= 600 && parts[2].From.End.Value >= 700);
    }

    [Fact]
    public void While_a_mic_is_off_its_person_is_heard_in_the_mix_and_stays_that_voice()
    {
        var dead = Mics[0].ToArray();
        dead.AsSpan(200, 500).Clear();
        var layout = SpokenLayout.Of(Two, Mix, [dead, Mics[1], Mics[2]], Everywhere);
        Assert.Equal([(0, 0), (null, 0), (2, 1), (null, (int?)null)], layout.Parts.Select(p => (p.Mic, p.Voice)));
        Assert.Equal([StepRange.Of(80, 200), StepRange.Of(200, 320)], layout.Parts.Take(2).Select(p => p.From));
        Assert.Equal("mic 1", Assert.Single(layout.OnTheSitting([Word("ferry", layout.Parts[1], 230, 270)])).Voice);
    }

    [Fact]
    public void A_mic_that_is_closed_between_words_is_not_off()
    {
        var closed = Mics[0].ToArray();
        closed.AsSpan(0, 90).Clear();
        closed.AsSpan(310, 690).Clear();
        Assert.Equal([0, 2, null], SpokenLayout.Of(Two, Mix, [closed, Mics[1], Mics[2]], Everywhere).Parts.Select(p => p.Mic));
    }

    [Fact]
    public void Parts_lie_apart_and_in_order()
    {
        var layout = SpokenLayout.Of(Two, Mix, Mics, Everywhere);
        foreach (var (before, after) in layout.Parts.Zip(layout.Parts.Skip(1)))
        {
            Assert.True(after.At - before.At > before.From.Count);
        }
        Assert.True(layout.Steps > layout.Parts[^1].At.Value + layout.Parts[^1].From.Count);
    }

    [Fact]
    public void Only_a_stretch_is_laid_out_where_one_is_asked_for()
    {
        var layout = SpokenLayout.Of(Two, Mix, Mics, StepRange.Of(200, 260));
        Assert.All(layout.Parts, p => Assert.True(p.From.First.Value >= 200 && p.From.End.Value <= 260));
        Assert.Equal([0, 2], layout.Parts.Select(p => p.Mic));
        Assert.Empty(SpokenLayout.Of(Two, Mix, Mics, StepRange.Of(450, 560)).Parts);
    }

    [Fact]
    public void The_key_tells_layouts_of_other_turns_apart_and_is_the_same_for_the_same_turns()
    {
        var layout = SpokenLayout.Of(Two, Mix, Mics, Everywhere);
        Assert.Equal(layout.Key, SpokenLayout.Of(Two, Mix, Mics, Everywhere).Key);
        Assert.NotEqual(layout.Key, SpokenLayout.Of(Two, Mix, Mics, StepRange.Of(0, 900)).Key);
        Assert.NotEqual(layout.Key, SpokenLayout.Of(Two with { Labels = ["mic 1", "mic 2"] }, Mix, Mics, Everywhere).Key);
    }

    [Fact]
    public void Words_go_back_to_where_they_were_said_with_their_voices()
    {
        var layout = SpokenLayout.Of(Two, Mix, Mics, Everywhere);
        var words = layout.OnTheSitting([
            Word("so", layout.Parts[0], 110, 130),
            Word("we", layout.Parts[0], 280, 299),
            Word("yes", layout.Parts[1], 260, 290),
        ]);
        Assert.Equal(["so", "yes", "we"], words.Select(w => w.Text));
        Assert.Equal(["mic 1", "mic 3", "mic 1"], words.Select(w => w.Voice));
        Assert.Equal(new Step(110).FromStart, words[0].Range.In.FromZero);
        Assert.All(words, w => Assert.True(w.VoiceSure >= new PerMille(990)));
    }

    [Fact]
    public void A_word_that_only_bled_into_a_mic_and_one_that_two_mics_gave_are_not_said_twice()
    {
        var layout = SpokenLayout.Of(Two, Mix, Mics, Everywhere);
        var words = layout.OnTheSitting([
            Word("ferry", layout.Parts[0], 255, 290),
            Word("Ferry", layout.Parts[1], 258, 292),
            // The first has stopped; what its mic still hears is the second.
            Word("morning", layout.Parts[0], 305, 318),
        ]);
        Assert.Equal(["ferry"], words.Select(w => w.Text));
    }

    [Fact]
    public void Who_is_near_to_no_mic_is_the_rooms_where_there_is_one()
    {
        var room = Two with { Labels = [.. Two.Labels, "room"], Rows = [.. Two.Rows, Row(1000, (600, 700))] };
        var layout = SpokenLayout.Of(room, Mix, Mics, Everywhere);
        var word = Assert.Single(layout.OnTheSitting([Word("quiet", layout.Parts[^1], 620, 650)]));
        Assert.Equal("room", word.Voice);
    }

    [Fact]
    public void A_word_drawn_into_the_silence_around_a_turn_ends_with_the_turn()
    {
        var layout = SpokenLayout.Of(Two, Mix, Mics, Everywhere);
        var word = Assert.Single(layout.OnTheSitting([Word("gone", layout.Parts[0], 290, 345)]));
        Assert.Equal(new Step(320).FromStart, word.Range.Out.FromZero);
    }

    [Fact]
    public void Nobody_near_a_mic_and_a_quiet_mix_give_nothing_to_recognise()
    {
        var layout = SpokenLayout.Of(new VoiceChances(["mic 1"], [new float[500]]), new float[500], Mics, StepRange.Of(0, 500));
        Assert.Equal(0, layout.Steps);
        Assert.Empty(layout.OnTheSitting([new RecognisedWord("so", new SourceRange(default, new SourceTime(new Step(30).FromStart)))]));
    }
}
