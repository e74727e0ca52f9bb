using System.Runtime.InteropServices;
using EmberLane.Core.Speech;
using EmberLane.Core.Voices;

namespace EmberLane.Engines.Speech;

/// <summary>Writes the talk of a sitting turn by turn as it is laid out, while the sounds of all its mics come by.</summary>
internal sealed class SpokenFile : IDisposable
{
    private const int StepSamples = SilenceSegmenter.SampleRate / Step.PerSecond;

    private readonly FileStream file;
    private readonly Queue<SpokenPart> coming;
    private readonly List<SpokenPart> now = [];
    private readonly int mics;
    private long heard;

    public SpokenFile(string path, SpokenLayout layout, int mics)
    {
        this.mics = mics;
        coming = new Queue<SpokenPart>(layout.Parts.OrderBy(p => p.From.First));
        file = File.Create(path);
        file.SetLength((long)layout.Steps * StepSamples * sizeof(short));
    }

    /// <summary>The next samples: of all mics, interleaved, and of the mix.</summary>
    public void Add(ReadOnlySpan<short> all, ReadOnlySpan<short> mix)
    {
        while (coming.TryPeek(out var next) && Sample(next.From.First) < heard + mix.Length)
        {
            now.Add(coming.Dequeue());
        }
        foreach (var part in now)
        {
            long first = Sample(part.From.First),
                from = Math.Max(heard, first),
                to = Math.Min(heard + mix.Length, Sample(part.From.End));
            var own = new short[to - from];
            for (var i = 0; i < own.Length; i++)
            {
                var at = (int)(from - heard) + i;
                own[i] = part.Mic is { } mic ? all[(at * mics) + mic] : mix[at];
            }
            file.Position = (Sample(part.At) + from - first) * sizeof(short);
            file.Write(MemoryMarshal.AsBytes(own.AsSpan()));
        }
        heard += mix.Length;
        now.RemoveAll(p => Sample(p.From.End) <= heard);
    }

    private static long Sample(Step step) => (long)step.Value * StepSamples;

    public void Dispose() => file.Dispose();
}
