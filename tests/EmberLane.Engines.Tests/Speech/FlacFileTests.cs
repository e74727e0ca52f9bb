using EmberLane.Engines.Speech;

namespace EmberLane.Engines.Tests.Speech;

/// <summary>Sound for recognising as it travels.</summary>
public sealed class FlacFileTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-flac").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    private string In(string name) => Path.Combine(folder, name);

    private async Task<string> WaveAsync(short[] samples)
    {
        await PcmFile.WriteAsync(In("a.pcm"), samples, TestContext.Current.CancellationToken);
        await PcmFile.WriteWavAsync(In("a.pcm"), 0, samples.Length, In("a.wav"), TestContext.Current.CancellationToken);
        return In("a.wav");
    }

    [Theory]
    [InlineData(1)]
    [InlineData(159)]
    [InlineData(65_536)]
    [InlineData(65_537)]
    [InlineData(480_000)]
    public async Task Nothing_is_lost_on_the_way(int length)
    {
        var random = new Random(length);
        // Silence, full scale and noise, so that no predictor has it easy.
        var samples = Enumerable
            .Range(0, length)
            .Select(i =>
                (i / 1_000 % 3) switch
                {
                    0 => (short)0,
                    1 => i % 2 == 0 ? short.MaxValue : short.MinValue,
                    _ => (short)random.Next(short.MinValue, short.MaxValue + 1),
                }
            )
            .ToArray();
        var wav = await WaveAsync(samples);
        FlacFile.Encode(wav, In("a.flac"));
        FlacFile.Decode(In("a.flac"), In("b.wav"));
        Assert.Equal(
            await File.ReadAllBytesAsync(wav, TestContext.Current.CancellationToken),
            await File.ReadAllBytesAsync(In("b.wav"), TestContext.Current.CancellationToken)
        );
        Assert.Equal(samples, PcmFile.ReadWav(In("b.wav")));
        Assert.Equal(MediaTime.FromSamples(length, 16_000), PcmFile.LengthOfWav(In("b.wav")));
    }

    [Fact]
    public async Task What_is_no_such_sound_is_refused()
    {
        await File.WriteAllTextAsync(In("text.flac"), "no sound", TestContext.Current.CancellationToken);
        Assert.Throws<ToolException>(() => FlacFile.Decode(In("text.flac"), In("b.wav")));
        Assert.Throws<ToolException>(() => FlacFile.Decode(In("missing.flac"), In("b.wav")));
        FlacFile.Encode(await WaveAsync(new short[100_000]), In("whole.flac"));
        Assert.Throws<ToolException>(() => FlacFile.Encode(In("a.wav"), Path.Combine(folder, "no", "such.flac")));
    }

    [Fact]
    public async Task Sound_that_was_cut_short_on_the_way_is_refused()
    {
        var random = new Random(1);
        var wav = await WaveAsync([.. Enumerable.Range(0, 200_000).Select(_ => (short)random.Next(-3_000, 3_000))]);
        FlacFile.Encode(wav, In("a.flac"));
        var all = await File.ReadAllBytesAsync(In("a.flac"), TestContext.Current.CancellationToken);
        await File.WriteAllBytesAsync(In("half.flac"), all[..(all.Length / 2)], TestContext.Current.CancellationToken);
        Assert.Throws<ToolException>(() => FlacFile.Decode(In("half.flac"), In("b.wav")));
    }
}
