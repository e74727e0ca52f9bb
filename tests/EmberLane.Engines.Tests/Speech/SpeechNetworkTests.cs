using System.Text.Json;
using EmberLane.Core.Speech;
using EmberLane.Core.Tidy;
using EmberLane.Engines.Speech;

namespace EmberLane.Engines.Tests.Speech;

/// <summary>The network that hears where somebody speaks, on the demonstration's hut, whose words are known.</summary>
public sealed class SpeechNetworkTests
{
    private static readonly Lazy<Task<short[]>> Hut = new(DecodedAsync);

    [Fact]
    public async Task Talk_is_heard_where_words_are_and_not_where_none_are_near_also_in_noise()
    {
        var sound = await Hut.Value;
        foreach (var noise in new[] { 0, 150 })
        {
            var random = new Random(4);
            var heard = Array.ConvertAll(sound, s => (short)Math.Clamp(s + random.Next(-noise, noise + 1), short.MinValue, short.MaxValue));
            var speech = VoiceActivity
                .Speech(SpeechNetwork.Chances(heard), SilenceSegmenter.Energy(heard))
                .SelectMany(r => r.Steps)
                .ToHashSet();
            var words = Words();
            var spoken = words.SelectMany(w => w.Steps).ToHashSet();
            Assert.InRange((double)spoken.Count(speech.Contains) / spoken.Count, 0.9, 1);
            var far = Enumerable
                .Range(0, sound.Length * Step.PerSecond / SilenceSegmenter.SampleRate)
                .Where(i => !words.Any(w => i > w.First.Value - 30 && i < w.End.Value + 30))
                .ToList();
            Assert.InRange(far.Count, 300, int.MaxValue);
            Assert.InRange((double)far.Count(speech.Contains) / far.Count, 0, 0.1);
        }
    }

    [Fact]
    public async Task The_same_sound_is_heard_alike_each_time_and_from_several_threads_and_soft_as_well_as_loud()
    {
        var sound = (await Hut.Value)[..(20 * SilenceSegmenter.SampleRate)];
        var once = SpeechNetwork.Chances(sound);
        Assert.Equal(SilenceSegmenter.Energy(sound).Length, once.Length);
        var again = await Task.WhenAll(Enumerable.Range(0, 3).Select(_ => Task.Run(() => SpeechNetwork.Chances(sound))));
        Assert.All(again, a => Assert.Equal(once, a));
        var soft = SpeechNetwork.Chances(Array.ConvertAll(sound, s => (short)(s / 4)));
        Assert.InRange(once.Zip(soft).Average(c => Math.Abs(c.First - c.Second)), 0, 0.05);
    }

    [Fact]
    public async Task A_file_is_heard_part_by_part_as_its_samples_are_are()
    {
        // Longer than a part, and no whole number of windows.
        var sound = (await Hut.Value)[..((70 * SilenceSegmenter.SampleRate) + 77)];
        var path = Path.GetTempFileName();
        try
        {
            await PcmFile.WriteAsync(path, sound, CancellationToken.None);
            Assert.Equal(SpeechNetwork.Chances(sound), SpeechNetwork.Chances(path, PcmFile.Energy(path)));
            Assert.Equal(SteadyVoice.Of(sound), PcmFile.Steady(path));
            await File.WriteAllBytesAsync(path, []);
            Assert.Empty(SpeechNetwork.Chances(path, []));
            Assert.Empty(PcmFile.Steady(path));
        }
        finally
        {
            File.Delete(path);
        }
    }

    [Fact]
    public void Silence_noise_and_no_sound_at_all_are_no_speech()
    {
        var random = new Random(7);
        short[] noise = [.. Enumerable.Range(0, 5 * SilenceSegmenter.SampleRate).Select(_ => (short)random.Next(-3000, 3000))];
        Assert.InRange(SpeechNetwork.Chances(noise).Average(), 0, 0.2);
        Assert.All(SpeechNetwork.Chances(new short[SilenceSegmenter.SampleRate]), c => Assert.InRange(c, 0, 0.3f));
        Assert.Empty(SpeechNetwork.Chances([]));
        Assert.Single(SpeechNetwork.Chances(new short[1]));
    }

    private static string Footage(string name)
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (folder.GetFiles("EmberLane.slnx").Length == 0)
        {
            folder = folder.Parent ?? throw new InvalidOperationException("The tests do not run within the project's folder.");
        }
        return Path.Combine(folder.FullName, "demo", "footage", name);
    }

    private static List<StepRange> Words()
    {
        using var truth = JsonDocument.Parse(File.ReadAllText(Footage("school-hut.truth.json")));
        StepRange Of(JsonElement word) => new(Step.At(Seconds(word, "s")), Step.At(Seconds(word, "e")));
        MediaTime Seconds(JsonElement word, string name) => MediaTime.FromSecondsRounded(word.GetProperty(name).GetDecimal());
        return [.. truth.RootElement.GetProperty("words").EnumerateArray().Select(Of)];
    }

    private static async Task<short[]> DecodedAsync()
    {
        var path = Footage("SND0615_T03.1.flac");
        var facts = await MediaProbe.MeasureAsync(path, CancellationToken.None);
        var pcm = Path.GetTempFileName();
        try
        {
            await Ffmpeg.DecodeMonoAsync(path, facts, null, SilenceSegmenter.SampleRate, pcm, CancellationToken.None);
            return PcmFile.ReadSamples(pcm);
        }
        finally
        {
            File.Delete(pcm);
        }
    }
}
