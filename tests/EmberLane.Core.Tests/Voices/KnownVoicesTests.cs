using EmberLane.Core.Speech;
using EmberLane.Core.Voices;

namespace EmberLane.Core.Tests.Voices;

/// <summary>Pitch, what a voice is known by, and who it may be.</summary>
public sealed class KnownVoicesTests
{
    private const int Rate = 16_000;

    // A buzz of a pitch through two resonances that wander, as vowels do: a made voice.
    private static short[] Voice(double pitch, double low, double high, int seconds, int seed, double tilt = 0)
    {
        var random = new Random(seed);
        var sound = new short[seconds * Rate];
        double phase = 0,
            before = 0;
        double[] a = new double[2],
            b = new double[2];
        double first = low,
            second = high,
            hertz = pitch;
        for (var i = 0; i < sound.Length; i++)
        {
            if (i % 1600 == 0)
            {
                (first, second, hertz) = (
                    low * (0.7 + (0.6 * random.NextDouble())),
                    high * (0.8 + (0.4 * random.NextDouble())),
                    pitch * (0.95 + (0.1 * random.NextDouble()))
                );
            }
            phase += hertz / Rate;
            var buzz = (phase - Math.Floor(phase)) < hertz / Rate ? 1.0 : 0;
            var value = Resonate(a, buzz, first) + (0.5 * Resonate(b, buzz, second)) + (0.05 * (random.NextDouble() - 0.5));
            sound[i] = (short)Math.Clamp(4_000 * (value + (tilt * before)), short.MinValue, short.MaxValue);
            before = value;
        }
        return sound;
    }

    private static double Resonate(double[] state, double input, double hertz)
    {
        const double narrow = 0.97;
        var value = input + (2 * narrow * Math.Cos(2 * Math.PI * hertz / Rate) * state[0]) - (narrow * narrow * state[1]);
        (state[1], state[0]) = (state[0], value);
        return value;
    }

    private static VoicePrint Print(short[] sound)
    {
        var sounds = new Mfcc();
        var pitch = new PitchTracker();
        sounds.Add(sound);
        pitch.Add(sound);
        return VoicePrint.Of(sounds.Frames, pitch.Steps, [StepRange.Of(0, sounds.Frames.Count)])!;
    }

    [Theory]
    [InlineData(75)]
    [InlineData(120)]
    [InlineData(210)]
    [InlineData(390)]
    public void The_pitch_of_a_made_voice_is_found_within_a_few_hertz_in_any_pieces(double hertz)
    {
        var sound = Voice(hertz, 500, 1500, 3, 1);
        var pitch = new PitchTracker();
        for (var at = 0; at < sound.Length; at += 777)
        {
            pitch.Add(sound.AsSpan(at, Math.Min(777, sound.Length - at)));
        }
        var voiced = pitch.Steps.Where(p => p > 0).Order().ToList();
        Assert.True(voiced.Count > pitch.Steps.Count / 2);
        Assert.InRange(voiced[voiced.Count / 2], hertz * 0.96, hertz * 1.04);
        Assert.InRange(pitch.Steps.Count, 147, 150);
    }

    [Fact]
    public void Silence_and_noise_have_no_pitch()
    {
        var random = new Random(2);
        var pitch = new PitchTracker();
        pitch.Add(new short[Rate]);
        Assert.All(pitch.Steps, p => Assert.Equal(0, p));
        var noise = new PitchTracker();
        noise.Add([.. Enumerable.Range(0, Rate * 2).Select(_ => (short)random.Next(-5000, 5000))]);
        Assert.True(noise.Steps.Count(p => p > 0) * 10 < noise.Steps.Count);
    }

    [Fact]
    public void A_voice_is_like_itself_through_another_mic_and_unlike_another()
    {
        VoicePrint maren = Print(Voice(200, 600, 1900, 20, 1)),
            again = Print(Voice(200, 600, 1900, 20, 2, tilt: 0.3)),
            tobias = Print(Voice(115, 450, 1300, 20, 3));
        Assert.Equal(1, maren.Likeness(maren), 3);
        Assert.Equal(maren.Likeness(tobias), tobias.Likeness(maren), 6);
        Assert.True(maren.Likeness(again) > 0.5, $"{maren.Likeness(again)}");
        Assert.True(maren.Likeness(tobias) < 0.3, $"{maren.Likeness(tobias)}");
        var guess = KnownVoices.Guess(again, [new("Tobias", "Crossing", tobias), new("Maren", "Crossing", maren)])!;
        Assert.Equal(("Maren", "Crossing"), (guess.Name, guess.Sitting));
        Assert.InRange(guess.Pitch, 192, 208);
        Assert.Null(KnownVoices.Guess(again, [new("Tobias", "Crossing", tobias)]));
        Assert.Null(KnownVoices.Guess(again, []));
    }

    [Fact]
    public void Two_people_as_like_and_too_little_talk_leave_it_open()
    {
        VoicePrint maren = Print(Voice(200, 600, 1900, 20, 1)),
            again = Print(Voice(200, 600, 1900, 20, 2));
        Assert.Null(KnownVoices.Guess(again, [new("Maren", "One", maren), new("Ilse", "Two", maren)]));
        Assert.NotNull(KnownVoices.Guess(again, [new("Maren", "One", maren), new("maren", "Two", maren)]));
        Assert.Null(KnownVoices.Guess(Print(Voice(200, 600, 1900, 5, 2)), [new("Maren", "One", maren)]));
        Assert.Null(KnownVoices.Guess(VoicePrint.None, [new("Maren", "One", maren)]));
        Assert.Null(KnownVoices.Guess(again, [new("Maren", "One", VoicePrint.None)]));
        Assert.Null(VoicePrint.Of([], [], [StepRange.Of(0, 400), StepRange.Of(-5, -1), StepRange.Of(7, 2)]));
    }
}
