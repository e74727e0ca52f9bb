using System.Numerics;
using EmberLane.Core.Speech;
using EmberLane.Core.Sync;
using EmberLane.Engines;
using EmberLane.Engines.Speech;

namespace EmberLane.Bench;

/// <summary>How a mic of a made sitting hears the talk.</summary>
internal sealed record MadeMic(double Gain, double Echo, double NoiseDb, double LowPass, double HighPass);

/// <summary>
/// Long talk at 8 kHz, put together from the utterances of the demonstration's lavs in any order, at slightly different pace each time; and
/// recordings of it.
/// </summary>
internal sealed class MadeTalk
{
    private const int Rate = SoundMatch.SampleRate,
        Taps = 16,
        Phases = 4096;

    private static readonly float[] Kernels = MakeKernels();

    private readonly List<float[]> utterances = [];

    public static async Task<MadeTalk> PrepareAsync(DemoFootage footage)
    {
        var made = new MadeTalk();
        foreach (var (_, reference, _, _) in footage.Truths())
        {
            var facts = await MediaProbe.MeasureAsync(footage.Find(reference), CancellationToken.None);
            var lavs = facts.Sound[0].Channels > 1 ? facts.Sound[0].Channels - 1 : 1;
            for (var c = 0; c < lavs; c++)
            {
                var pcm = footage.Work("talk.pcm");
                await Ffmpeg.DecodeMonoAsync(footage.Find(reference), facts, [c], SilenceSegmenter.SampleRate, pcm, CancellationToken.None);
                var energy = PcmFile.Energy(pcm);
                var spoken = VoiceActivity.Utterances(VoiceActivity.SpeechByLoudness(energy), energy);
                await Ffmpeg.DecodeMonoAsync(footage.Find(reference), facts, [c], Rate, pcm, CancellationToken.None);
                var samples = PcmFile.ReadAll(pcm);
                made.utterances.AddRange(
                    spoken.Select(u =>
                        samples[
                            Math.Min(samples.Length, u.First.Value * Rate / Step.PerSecond)..Math.Min(
                                samples.Length,
                                u.End.Value * Rate / Step.PerSecond
                            )
                        ]
                    )
                );
            }
        }
        return made;
    }

    /// <summary>
    /// A talk of so many seconds; the same seed gives the same talk. <paramref name="pace"/> speeds every utterance, as another take of the
    /// same text would be. An utterance comes again only at a pace that differs by more than clocks drift, within a talk and between one of
    /// the <paramref name="other"/> kind and one that is not: else it would be the same sound, and rightly found. Between many talks that
    /// can not be kept up; there utterances of at most <paramref name="longest"/> seconds are no longer than what sync takes for a passage
    /// said twice.
    /// </summary>
    public float[] Say(int seconds, int seed, double pace = 1, bool other = false, double longest = double.MaxValue)
    {
        const int cells = 80;
        var random = new Random(seed);
        int[] drawn = [.. utterances.Select(_ => random.Next(cells))];
        var talk = new float[seconds * Rate];
        for (var at = random.Next(Rate); at < talk.Length;)
        {
            var which = random.Next(utterances.Count);
            var words = utterances[which];
            if (words.Length > longest * Rate)
            {
                continue;
            }
            var cell = Math.Floor(pace * (0.92 + (0.002 * (drawn[which] = (drawn[which] + 31) % cells))) / 0.002);
            double speed = (0.002 * cell) + (other ? 0.001 : 0) + (0.0003 * random.NextDouble()),
                loud = 0.5 + random.NextDouble();
            var length = (int)(words.Length / speed) - 1;
            for (var i = 0; i < length && at + i < talk.Length; i++)
            {
                talk[at + i] += (float)(loud * Between(words, i * speed));
            }
            at += length + (int)(random.Next(Rate / 10, 2 * Rate) / pace);
        }
        return talk;
    }

    /// <summary>What a mic records of a talk from a moment on, with a clock that runs so many ppm slow.</summary>
    public static float[] Record(float[] talk, double from, double seconds, double ppm, MadeMic mic, int seed)
    {
        var random = new Random(seed);
        var heard = Colour(Room(talk, mic.Echo, random, Rate), mic);
        double power = 0;
        var loud = 0;
        foreach (var s in heard)
        {
            power += s * s;
            loud += Math.Abs(s) > 0.002 ? 1 : 0;
        }
        var noise = Math.Sqrt(power / Math.Max(1, loud)) * Math.Pow(10, mic.NoiseDb / 20) * Math.Sqrt(12);
        var record = new float[(int)(seconds * Rate)];
        for (var i = 0; i < record.Length; i++)
        {
            record[i] = (float)(
                mic.Gain * (Between(heard, (from * Rate) + (i * (1 + (ppm / 1e6)))) + (noise * (random.NextDouble() - 0.5)))
            );
        }
        return record;
    }

    // A direct sound and reflections that die away over a third of a second.
    internal static float[] Room(float[] talk, double echo, Random random, int rate)
    {
        var heard = (float[])talk.Clone();
        for (var r = 0; r < 24 && echo > 0; r++)
        {
            var late = random.Next(rate / 200, rate / 3);
            var part = (float)(echo * Math.Exp(-6.0 * late / (rate / 3.0)) * (random.Next(2) == 0 ? 1 : -1));
            for (var i = late; i + Vector<float>.Count <= heard.Length; i += Vector<float>.Count)
            {
                (new Vector<float>(heard, i) + (part * new Vector<float>(talk, i - late))).CopyTo(heard, i);
            }
        }
        return heard;
    }

    private static float[] Colour(float[] sound, MadeMic mic)
    {
        double low = 0,
            slow = 0,
            a = 1 - Math.Exp(-2 * Math.PI * mic.LowPass / Rate),
            b = 1 - Math.Exp(-2 * Math.PI * mic.HighPass / Rate);
        for (var i = 0; i < sound.Length; i++)
        {
            low += a * (sound[i] - low);
            slow += b * (low - slow);
            sound[i] = (float)(low - slow);
        }
        return sound;
    }

    // Band-limited: sixteen neighbours, so that what is measured is the sync and not the making. The kernel lies ready for 4096 places
    // between two samples.
    private static double Between(float[] sound, double at)
    {
        const int half = Taps / 2;
        var whole = (int)Math.Floor(at);
        var kernel = (int)((at - whole) * Phases) * Taps;
        double sum = 0;
        if (whole < half || whole + half >= sound.Length)
        {
            return whole >= 0 && whole < sound.Length ? sound[whole] : 0;
        }
        for (var k = 0; k < Taps; k++)
        {
            sum += sound[whole + k - half + 1] * Kernels[kernel + k];
        }
        return sum;
    }

    private static float[] MakeKernels()
    {
        var kernels = new float[Phases * Taps];
        for (var p = 0; p < Phases; p++)
        {
            for (var k = 0; k < Taps; k++)
            {
                var d = ((p + 0.5) / Phases) - (k - (Taps / 2) + 1);
                kernels[(p * Taps) + k] = (float)(
                    Math.Sin(Math.PI * d) / (Math.PI * d) * (0.5 + (0.5 * Math.Cos(Math.PI * d / ((Taps / 2) + 1))))
                );
            }
        }
        return kernels;
    }
}
