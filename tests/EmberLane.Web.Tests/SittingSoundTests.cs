using System.Runtime.InteropServices;
using EmberLane.Core.Media;
using EmberLane.Core.Sync;
using EmberLane.Engines;
using EmberLane.Engines.Speech;

namespace EmberLane.Web.Tests;

/// <summary>The one sound of a sitting, made of channels of several files with known places.</summary>
public sealed class SittingSoundTests : IDisposable
{
    private const int Rate = 16_000;

    private readonly string folder = Directory.CreateTempSubdirectory("ember-sound").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    private async Task<(string Path, SourceFacts Facts)> MadeAsync(string name, params string[] arguments)
    {
        var path = Path.Combine(folder, name);
        MadeMedia.Make([.. arguments, path]);
        return (path, await MediaProbe.MeasureAsync(path, TestContext.Current.CancellationToken));
    }

    private async Task<(short[] Mix, IReadOnlyList<float[]> Energies)> MixedAsync(params PlacedMic[] mics)
    {
        var output = Path.Combine(folder, "mix.pcm");
        var energies = await SittingSound.MakeAsync(mics, output, TestContext.Current.CancellationToken);
        return (
            MemoryMarshal.Cast<byte, short>(await File.ReadAllBytesAsync(output, TestContext.Current.CancellationToken)).ToArray(),
            energies
        );
    }

    private static ClockMap At(long milliseconds, long drift = 0) => new(new SittingTime(MediaTime.FromMilliseconds(milliseconds)), drift);

    [Fact]
    public async Task One_channel_at_the_recognisers_rate_stays_what_it_was_sample_for_sample()
    {
        var (path, facts) = await MadeAsync(
            "a.wav",
            "-f",
            "lavfi",
            "-i",
            "anoisesrc=duration=3.217:seed=4:sample_rate=16000",
            "-c:a",
            "pcm_s16le"
        );
        var (mix, _) = await MixedAsync([.. SittingSound.AllOf(path, facts)]);
        var bytes = await File.ReadAllBytesAsync(path, TestContext.Current.CancellationToken);
        Assert.Equal(MemoryMarshal.Cast<byte, short>(bytes.AsSpan(bytes.Length - (mix.Length * 2))).ToArray(), mix);
    }

    [Fact]
    public async Task A_channel_of_a_second_track_is_found_and_files_lie_where_they_are_placed()
    {
        var (one, oneFacts) = await MadeAsync(
            "one.wav",
            "-f",
            "lavfi",
            "-i",
            "sine=frequency=500:duration=1:sample_rate=16000",
            "-c:a",
            "pcm_s16le"
        );
        var (two, twoFacts) = await MadeAsync(
            "two.mov",
            "-f",
            "lavfi",
            "-i",
            "anullsrc=r=16000:cl=stereo",
            "-f",
            "lavfi",
            "-i",
            "sine=frequency=700:sample_rate=16000",
            "-map",
            "0:a",
            "-map",
            "1:a",
            "-t",
            "1",
            "-c:a",
            "pcm_s16le"
        );
        Assert.Equal(3, twoFacts.Channels);
        var (mix, energies) = await MixedAsync(
            new PlacedMic(one, oneFacts, At(5000), 0, true),
            new PlacedMic(two, twoFacts, At(7500), 2, true),
            new PlacedMic(two, twoFacts, At(7500), 0, false)
        );
        Assert.Equal(3.5, (double)mix.Length / Rate, 3);
        Assert.Equal([350, 350, 350], energies.Select(e => e.Length));
        Assert.All(energies[0].Take(100), e => Assert.True(e > 1000));
        Assert.All(energies[0].Skip(101), e => Assert.Equal(0, e));
        Assert.All(energies[1].Take(249), e => Assert.Equal(0, e));
        Assert.All(energies[1].Skip(251).Take(95), e => Assert.True(e > 1000));
        Assert.All(energies[2], e => Assert.Equal(0, e));
        Assert.True(mix.Take(Rate).Max(s => Math.Abs((int)s)) > 2000 && mix.Skip(Rate + 400).Take(Rate).All(s => s == 0));
    }

    [Fact]
    public async Task Drift_is_followed_to_the_end_and_a_file_that_began_long_before_is_passed_over()
    {
        // A click each second of a clock that runs 100 ppm slow, heard from ten minutes on only because the other mic begins there.
        var (clicks, clickFacts) = await MadeAsync(
            "clicks.wav",
            "-f",
            "lavfi",
            "-i",
            "aevalsrc='if(lt(mod(n,16000),16),0.9,0)':s=16000:d=1200",
            "-c:a",
            "pcm_s16le"
        );
        var (quiet, quietFacts) = await MadeAsync(
            "quiet.wav",
            "-f",
            "lavfi",
            "-i",
            "anullsrc=r=16000:cl=mono",
            "-t",
            "600",
            "-c:a",
            "pcm_s16le"
        );
        var (mix, energies) = await MixedAsync(
            new PlacedMic(quiet, quietFacts, At(600_000), 0, true),
            new PlacedMic(clicks, clickFacts, At(0, 100_000), 0, false)
        );
        Assert.Equal(600 * Rate, mix.Length);
        var heard = energies[1].Select((e, i) => (e, i)).Where(p => p.e > 1e5).Select(p => p.i).ToList();
        // Click n sounds at n × 1.0001 s: the last ones lie a tenth of a second and more later than on a true clock.
        for (var n = 601; n < 1199; n += 50)
        {
            var step = (int)Math.Round((n * 1.0001 - 600) * 100, MidpointRounding.ToZero);
            Assert.Contains(heard, h => Math.Abs(h - step) <= 1);
        }
        Assert.InRange(heard.Count, 590, 1210);
    }

    [Fact]
    public async Task A_file_that_can_not_be_decoded_fails_with_a_word_and_leaves_nothing_behind()
    {
        var (path, facts) = await MadeAsync("a.wav", "-f", "lavfi", "-i", "sine=duration=1", "-c:a", "pcm_s16le");
        await File.WriteAllTextAsync(path, "no longer sound", TestContext.Current.CancellationToken);
        await Assert.ThrowsAsync<ToolException>(() => MixedAsync([.. SittingSound.AllOf(path, facts)]));
        Assert.Equal([path], Directory.EnumerateFiles(folder));
    }

    [Fact]
    public async Task The_playing_mix_is_a_file_that_a_browser_plays_and_as_long_as_the_sitting()
    {
        var (one, facts) = await MadeAsync(
            "one.wav",
            "-f",
            "lavfi",
            "-i",
            "sine=frequency=500:duration=2:sample_rate=48000",
            "-c:a",
            "pcm_s16le"
        );
        var output = Path.Combine(folder, "mix.mp4");
        await SittingSound.MakePlayableAsync(
            [new PlacedMic(one, facts, At(0), 0, true), new PlacedMic(one, facts, At(3000), 0, true)],
            output,
            null,
            TestContext.Current.CancellationToken
        );
        var made = await MediaProbe.MeasureAsync(output, TestContext.Current.CancellationToken);
        Assert.Equal("aac", made.Sound[0].Codec);
        Assert.InRange(made.Duration.ToSecondsInexact(), 4.95, 5.1);
    }

    [Fact]
    public async Task Nothing_is_heard_in_the_stretches_that_are_withheld_and_all_else_is()
    {
        var (one, facts) = await MadeAsync(
            "one.wav",
            "-f",
            "lavfi",
            "-i",
            "sine=frequency=500:duration=6:sample_rate=48000",
            "-c:a",
            "pcm_s16le"
        );
        var output = Path.Combine(folder, "mix.mp4");
        SittingTime Moment(long milliseconds) => new(MediaTime.FromMilliseconds(milliseconds));
        // The file begins ten seconds into the sitting.
        await SittingSound.MakePlayableAsync(
            [new PlacedMic(one, facts, At(10_000), 0, true)],
            output,
            null,
            TestContext.Current.CancellationToken,
            [new(Moment(9_000), Moment(10_500)), new(Moment(12_000), Moment(13_250)), new(Moment(15_900), Moment(20_000))]
        );
        var pcm = Path.Combine(folder, "mix.pcm");
        MadeMedia.Make("-i", output, "-f", "s16le", "-ac", "1", "-ar", "16000", pcm);
        var bytes = await File.ReadAllBytesAsync(pcm, TestContext.Current.CancellationToken);
        double Loudest(double from, double to) =>
            MemoryMarshal.Cast<byte, short>(bytes)[(int)(from * 16_000)..(int)(to * 16_000)].ToArray().Max(s => Math.Abs((double)s));
        // An encoder spreads a border by some milliseconds.
        Assert.All([(0.0, 0.45), (2.05, 3.2), (5.95, 6.0)], s => Assert.InRange(Loudest(s.Item1, s.Item2), 0, 40));
        Assert.All([(0.6, 1.9), (3.3, 5.85)], s => Assert.InRange(Loudest(s.Item1, s.Item2), 1_000, 32_768));
    }
}
