using System.Runtime.InteropServices;
using EmberLane.Core.Speech;
using EmberLane.Core.Voices;

namespace EmberLane.Engines.Speech;

/// <summary>Writes the talk of a sitting turn by turn as it is laid out, while the sounds of all its mics come by.</summary>
internal sealed class SpokenFile : IDisposable
{
    private const int StepSamples = SilenceSegmenter.SampleRate / Step.PerSecond;

    private readonly FileStream file;
    private readonly SpokenLayout layout;
    private readonly int mics;
    private long heard;

    public SpokenFile(string path, SpokenLayout layout, int mics)
    {
        (this.layout, this.mics) = (layout, mics);
        file = File.Create(path);
        file.SetLength((long)layout.Steps * StepSamples * sizeof(short));
    }

    /// <summary>The next samples: of all mics, interleaved, and of the mix.</summary>
    public void Add(ReadOnlySpan<short> all, ReadOnlySpan<short> mix)
    {
        foreach (var part in layout.Parts)
        {
            long first = (long)part.From.First.Value * StepSamples,
                from = Math.Max(heard, first),
                to = Math.Min(heard + mix.Length, (long)part.From.End.Value * StepSamples);
            if (from >= to)
            {
                continue;
            }
            var own = new short[to - from];
            for (var i = 0; i < own.Length; i++)
            {
                var at = (int)(from - heard) + i;
                own[i] = part.Mic is { } mic ? all[(at * mics) + mic] : mix[at];
            }
            file.Position = (((long)part.At.Value * StepSamples) + from - first) * sizeof(short);
            file.Write(MemoryMarshal.AsBytes(own.AsSpan()));
        }
        heard += mix.Length;
    }

    public void Dispose() => file.Dispose();
}
