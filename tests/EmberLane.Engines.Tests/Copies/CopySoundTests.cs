using EmberLane.Core;
using EmberLane.Core.Copies;
using EmberLane.Core.Time;
using EmberLane.Engines.Copies;

namespace EmberLane.Engines.Tests.Copies;

public sealed class CopySoundTests
{
    private const string Noise = "'0.2*(2*random(0)-1)'",
        // Syllables four times a second, with pauses between sentences.
        Talk = "'sin(2*PI*170*t)*(0.5+0.5*sin(2*PI*4*t))*lt(mod(t,3),2.4)'";

    private static readonly CopyWish AsItIs = new()
    {
        Form = CopyForm.Wave,
        Loudness = null,
        AreEvened = false,
    };

    private static CopyParts Parts(long frames, IReadOnlyList<SoundPiece> heard, params SpeakerRun[] speakers) =>
        new(heard, speakers, [], frames, FrameRate.R25, new TimecodeCount(FrameRate.R25, false).LabelOf(0), "");

    private static SoundPiece Of(string path, long fromMilliseconds, long first, long count) =>
        new(path, 0, 1, null, MediaTime.FromMilliseconds(fromMilliseconds), first, count);

    private static SpeakerRun From(long milliseconds, string who) => new(MediaTime.FromMilliseconds(milliseconds), who);

    [Fact]
    public async Task Pieces_lie_to_the_sample_where_they_belong_and_nothing_is_heard_between()
    {
        using var clips = new Clips();
        var file = await clips.SoundAsync("noise.wav", Noise, 4);
        var (path, _) = await clips.CopyAsync(Parts(75, [Of(file, 500, 0, 48_000), Of(file, 2_250, 96_000, 48_000)]), AsItIs);
        var (was, now) = (await Clips.SamplesAsync(file), await Clips.SamplesAsync(path));
        Assert.Equal(144_000, now.Length);
        for (var i = 0; i < 48_000; i++)
        {
            Assert.InRange(now[i] - was[24_000 + i], -2, 2);
            Assert.Equal(0, now[48_000 + i]);
            Assert.InRange(now[96_000 + i] - was[108_000 + i], -2, 2);
        }
    }

    [Fact]
    public async Task Fades_and_levels_are_as_long_and_as_strong_as_they_say_and_what_lies_over_each_other_is_added()
    {
        using var clips = new Clips();
        var file = await clips.SoundAsync("steady.wav", "0.25", 3);
        var (path, _) = await clips.CopyAsync(
            Parts(50, [Of(file, 0, 0, 96_000) with { FadeIn = 48_000 }, Of(file, 0, 48_000, 48_000) with { Level = -60 }]),
            AsItIs
        );
        var now = await Clips.SamplesAsync(path);
        Assert.InRange(now[12_000], 2_000, 2_096);
        Assert.InRange(now[24_000], 4_050, 4_142);
        // 6 dB less is half of it.
        Assert.InRange(now[72_000], 12_200, 12_400);
    }

    [Fact]
    public async Task A_file_that_begins_later_than_its_stretch_or_ends_before_it_leaves_silence_there()
    {
        using var clips = new Clips();
        var file = await clips.SoundAsync("steady.wav", "0.25", 1);
        var (path, _) = await clips.CopyAsync(Parts(75, [Of(file, -1_000, 0, 144_000)]), AsItIs);
        var now = await Clips.SamplesAsync(path);
        Assert.Equal((0, 8_192, 0), (now[47_000], (int)Math.Round(now[72_000] / 8.0) * 8, now[100_000]));
    }

    [Theory]
    [InlineData(CopyForm.Wave, -230, false)]
    [InlineData(CopyForm.Wave, -140, true)]
    [InlineData(CopyForm.Mp3, -160, false)]
    [InlineData(CopyForm.Mp3, -160, true)]
    public async Task A_copy_is_as_loud_as_was_wished_within_half_a_unit_and_its_peaks_are_held(CopyForm form, int loudness, bool isStereo)
    {
        using var clips = new Clips();
        // Soft talk with a knock now and then that is twenty times as loud.
        var file = await clips.SoundAsync("talk.wav", "'0.02*" + Talk[1..^1] + "+0.6*lt(mod(t,5),0.01)*sin(2*PI*900*t)'", 20);
        var wish = new CopyWish
        {
            Form = form,
            Loudness = loudness,
            IsStereo = isStereo,
        };
        var (path, made) = await clips.CopyAsync(Parts(500, [Of(file, 0, 0, 960_000)]), wish);
        Assert.InRange(made.Loudness!.Value, (loudness / 10.0) - 0.5, (loudness / 10.0) + 0.5);
        Assert.Equal(made.Loudness, await Ffmpeg.LoudnessOfAsync(path, CancellationToken.None));
        Assert.InRange((await Clips.SamplesAsync(path)).Max(s => Math.Abs((int)s)), 3_000, 31_500);
    }

    [Fact]
    public async Task A_soft_person_and_a_loud_one_are_about_alike_and_silence_is_left_alone()
    {
        using var clips = new Clips();
        var (soft, loud) = (
            await clips.SoundAsync("soft.wav", "'0.05*" + Talk[1..^1] + "'", 6),
            await clips.SoundAsync("loud.wav", "'0.2*" + Talk[1..^1] + "'", 6)
        );
        var parts = Parts(
            300,
            [Of(soft, 0, 0, 288_000), Of(loud, 0, 288_000, 288_000)],
            From(0, "Maren"),
            From(6_000, "Tobias"),
            From(12_000, "nobody")
        );
        var (even, _) = await clips.CopyAsync(parts, AsItIs with { AreEvened = true });
        var (uneven, _) = await clips.CopyAsync(parts, AsItIs);
        Assert.InRange(Apart(await Clips.SamplesAsync(even)), -0.8, 0.8);
        Assert.InRange(Apart(await Clips.SamplesAsync(uneven)), 11.5, 12.5);
        var (silent, made) = await clips.CopyAsync(Parts(50, []), AsItIs with { Loudness = -160, AreEvened = true });
        Assert.Null(made.Loudness);
        Assert.All(await Clips.SamplesAsync(silent), s => Assert.Equal(0, s));

        static double Apart(short[] samples) => Level(samples.AsSpan(300_000, 250_000)) - Level(samples.AsSpan(10_000, 250_000));
    }

    [Fact]
    public async Task The_noise_of_a_room_becomes_softer_and_talk_stays_and_keeps_its_place()
    {
        using var clips = new Clips();
        var file = await clips.SoundAsync("room.wav", "'0.2*" + Talk[1..^1] + "+0.01*(2*random(0)-1)'", 12);
        var parts = Parts(250, [Of(file, 1_000, 0, 480_000) with { Room = "kitchen" }]);
        var (was, now) = (
            await Clips.SamplesAsync((await clips.CopyAsync(parts, AsItIs)).Path),
            await Clips.SamplesAsync((await clips.CopyAsync(parts, AsItIs with { IsQuieted = true })).Path)
        );
        // From 2.5 to 2.9 s nobody talks, from 3 to 5 s somebody does.
        Assert.InRange(Level(now.AsSpan(72_000 + 7_200, 16_000)) - Level(was.AsSpan(72_000 + 7_200, 16_000)), -30, -5);
        Assert.InRange(Level(now.AsSpan(144_000, 96_000)) - Level(was.AsSpan(144_000, 96_000)), -1, 0.5);
        Assert.Equal(0, Lag(was.AsSpan(144_000, 48_000), now.AsSpan(144_000, 48_000)));
    }

    [Fact]
    public async Task A_cancelled_copy_leaves_nothing_behind()
    {
        using var clips = new Clips();
        var file = await clips.SoundAsync("noise.wav", Noise, 4);
        using var cancel = new CancellationTokenSource();
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() =>
            StoryCopy.MakeAsync(
                Parts(75, [Of(file, 0, 0, 48_000), Of(file, 0, 48_000, 48_000)]),
                AsItIs,
                clips.Folder,
                clips.PathOf("copy.wav"),
                (_, _) => cancel.Cancel(),
                cancel.Token
            )
        );
        Assert.Equal([file], Directory.GetFiles(clips.Folder));
    }

    private static double Level(ReadOnlySpan<short> samples)
    {
        double energy = 0;
        foreach (var sample in samples)
        {
            energy += (double)sample * sample;
        }
        return 10 * Math.Log10((energy / samples.Length) + 1e-9);
    }

    // By how many samples the second is later than the first: where both are most alike.
    private static int Lag(ReadOnlySpan<short> one, ReadOnlySpan<short> other)
    {
        var (best, at) = (double.MinValue, 0);
        for (var lag = -40; lag <= 40; lag++)
        {
            double sum = 0;
            for (var i = 100; i < one.Length - 100; i++)
            {
                sum += (double)one[i] * other[i + lag];
            }
            (best, at) = sum > best ? (sum, lag) : (best, at);
        }
        return at;
    }
}
