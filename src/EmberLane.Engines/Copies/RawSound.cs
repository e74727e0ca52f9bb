using System.Runtime.InteropServices;

namespace EmberLane.Engines.Copies;

/// <summary>
/// Samples of a copy as it is put together, on the disk: 32-bit floats at 48 kHz, channels interleaved, silence where nothing was laid.
/// Deleted with the object.
/// </summary>
internal sealed class RawSound : IDisposable
{
    /// <summary>Samples a second.</summary>
    public const int Rate = 48_000;

    private const int Block = Rate;

    private readonly FileStream file;

    /// <summary>Silence of a length, in samples of each channel.</summary>
    public RawSound(string path, int channels, long samples)
    {
        (Path, Channels, Samples) = (path, channels, samples);
        file = new FileStream(path, FileMode.CreateNew, FileAccess.ReadWrite, FileShare.Read);
        file.SetLength(samples * channels * sizeof(float));
    }

    /// <summary>Where it lies.</summary>
    public string Path { get; }

    /// <summary>1 or 2.</summary>
    public int Channels { get; }

    /// <summary>Of each channel.</summary>
    public long Samples { get; }

    /// <summary>Adds interleaved values from a sample on; what would lie behind the end is left out.</summary>
    public void Add(long sample, ReadOnlySpan<float> values)
    {
        var count = (int)Math.Min(values.Length / Channels, Samples - sample) * Channels;
        if (count <= 0)
        {
            return;
        }
        var there = new float[count];
        Read(sample, there);
        for (var i = 0; i < count; i++)
        {
            there[i] += values[i];
        }
        file.Position = sample * Channels * sizeof(float);
        file.Write(MemoryMarshal.AsBytes(there.AsSpan()));
    }

    /// <summary>Blocks of a second, in order, each with its first sample; what <paramref name="change"/> leaves is kept.</summary>
    public void Change(Action<long, float[]> change, CancellationToken cancel)
    {
        foreach (var (sample, values) in Blocks(cancel))
        {
            change(sample, values);
            file.Position = sample * Channels * sizeof(float);
            file.Write(MemoryMarshal.AsBytes(values.AsSpan()));
        }
        file.Flush();
    }

    /// <summary>All values, a second at a time.</summary>
    public IEnumerable<(long Sample, float[] Values)> Blocks(CancellationToken cancel)
    {
        for (long sample = 0; sample < Samples; sample += Block)
        {
            cancel.ThrowIfCancellationRequested();
            var values = new float[(int)Math.Min(Block, Samples - sample) * Channels];
            Read(sample, values);
            yield return (sample, values);
        }
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        file.Dispose();
        File.Delete(Path);
    }

    private void Read(long sample, float[] into)
    {
        file.Position = sample * Channels * sizeof(float);
        file.ReadExactly(MemoryMarshal.AsBytes(into.AsSpan()));
    }
}
