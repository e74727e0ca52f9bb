using EmberLane.Core.Speech;
using EmberLane.Core.Tidy;

namespace EmberLane.Core.Tests.Tidy;

public sealed class FilledSoundsTests
{
    private static MediaTime Ms(long at) => MediaTime.FromMilliseconds(at);

    private static TalkWord Word(string text, long from, long to) => new(text, Ms(from), Ms(to), 0);

    // Somebody speaks all along but where it is said otherwise; nothing is steady but where it is said.
    private static IReadOnlyList<FilledSound> Found(Talk talk, MediaTime from, (int In, int Out)[] quiet, params (int In, int Out)[] held)
    {
        float[] chances = new float[1_000],
            steady = new float[1_000];
        Array.Fill(chances, 0.9f);
        Array.Fill(steady, 0.3f);
        foreach (var (first, end) in quiet)
        {
            Array.Fill(chances, 0.1f, first, end - first);
        }
        foreach (var (first, end) in held)
        {
            Array.Fill(steady, 0.7f, first, end - first);
        }
        return FilledSounds.Of(talk, chances, steady, from);
    }

    [Fact]
    public void A_steady_sound_between_two_words_is_found_with_its_time_and_the_word_before_it()
    {
        Talk talk = new([Word("one", 0, 500), Word("we", 500, 1_000), Word("left", 3_000, 3_500)]);
        Assert.Equal(
            [new FilledSound(new TalkPause(Ms(1_500), Ms(2_000)), 1)],
            Found(talk, MediaTime.Zero, [(100, 150), (200, 300)], (150, 200))
        );
        Assert.Equal([new FilledSound(new TalkPause(Ms(2_500), Ms(2_940)), 1)], Found(talk, Ms(1_000), [(0, 150)], (150, 300)));
    }

    [Fact]
    public void Words_that_were_not_heard_short_sounds_long_ones_and_those_within_words_are_none()
    {
        Talk talk = new([Word("we", 500, 1_000), Word("left", 3_000, 3_500)]);
        Assert.Empty(Found(talk, MediaTime.Zero, [(100, 150), (200, 300)]));
        Assert.Empty(Found(talk, MediaTime.Zero, [(100, 150), (170, 300)], (150, 170)));
        Assert.Empty(Found(talk, MediaTime.Zero, [], (100, 300)));
        Talk within = new([Word("we", 500, 3_000), Word("so", 1_000, 1_200), Word("left", 3_000, 3_500)]);
        Assert.Empty(Found(within, MediaTime.Zero, [(100, 150), (200, 300)], (150, 200)));
        Assert.Empty(Found(new Talk([]), MediaTime.Zero, [], (0, 900)));
    }

    [Fact]
    public void Words_that_lie_beyond_the_sound_or_before_it_give_nothing_and_no_error()
    {
        Talk talk = new([Word("we", 500, 1_000), Word("left", 90_000, 90_500), Word("late", 99_000, 99_500)]);
        Assert.Empty(Found(talk, Ms(50_000), [], (0, 1_000)));
        Assert.Empty(FilledSounds.Of(talk, [], [], MediaTime.Zero));
    }

    [Fact]
    public void One_tone_is_steadier_than_one_whose_colour_changes()
    {
        double held = SteadyVoice.Of(Tones(_ => 700)).Skip(20).Take(160).Average(),
            moved = SteadyVoice.Of(Tones(at => at / 1_200 % 2 == 0 ? 700 : 2_300)).Skip(20).Take(160).Average();
        Assert.True(held > 0.8 && moved < 0.6, $"{held} and {moved}");
        Assert.Empty(SteadyVoice.Of([]));
        Assert.Equal(2, SteadyVoice.Of(new short[(2 * SilenceSegmenter.SampleRate / Step.PerSecond) + 7]).Length);
    }

    // Two seconds of a voice at 120 Hz that sounds fullest at a pitch.
    private static short[] Tones(Func<int, double> fullest) =>
        [
            .. Enumerable
                .Range(0, 2 * SilenceSegmenter.SampleRate)
                .Select(i =>
                    (short)
                        Enumerable
                            .Range(1, 25)
                            .Sum(h =>
                                8_000
                                / (1 + Math.Pow(((120 * h) - fullest(i)) / 150, 2))
                                * Math.Sin(2 * Math.PI * 120 * h * i / SilenceSegmenter.SampleRate)
                            )
                ),
        ];
}
