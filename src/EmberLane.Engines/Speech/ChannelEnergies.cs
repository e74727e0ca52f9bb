using EmberLane.Core.Speech;

namespace EmberLane.Engines.Speech;

/// <summary>Measures how loud each channel of a sound is as it comes by: the mean square of its 10 ms steps at 16 kHz.</summary>
public sealed class ChannelEnergies(int channels)
{
    private readonly List<float>[] steps = [.. Enumerable.Range(0, channels).Select(_ => new List<float>())];

    /// <summary>A row a channel, all of one length.</summary>
    public IReadOnlyList<float[]> Rows => [.. steps.Select(s => s.ToArray())];

    /// <summary>The next interleaved samples, whole ones of all channels; in parts of whole 10 ms but for the last.</summary>
    public void Add(ReadOnlySpan<short> interleaved)
    {
        var one = new short[interleaved.Length / channels];
        for (var c = 0; c < channels; c++)
        {
            for (var i = 0; i < one.Length; i++)
            {
                one[i] = interleaved[(i * channels) + c];
            }
            steps[c].AddRange(SilenceSegmenter.Energy(one));
        }
    }
}
