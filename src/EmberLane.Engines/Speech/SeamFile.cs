using System.Runtime.InteropServices;
using EmberLane.Core.Seams;

namespace EmberLane.Engines.Speech;

/// <summary>
/// Raw 16 kHz mono sound in a file as seams need it: how loud each step is, held in memory (3 MB an hour), and samples where they are asked
/// for.
/// </summary>
public sealed class SeamFile : IDisposable
{
    private const int Chunk = SeamSound.StepSamples * 8_000;

    private readonly FileStream file;

    private SeamFile(FileStream file, float[] decibels)
    {
        this.file = file;
        Sound = new SeamSound(decibels, Crossing);
    }

    /// <summary>How loud it is; cuts are laid where the samples pass through nothing.</summary>
    public SeamSound Sound { get; }

    /// <summary>Opens and measures one.</summary>
    public static SeamFile Open(string pcmPath)
    {
        var file = File.OpenRead(pcmPath);
        var decibels = new List<float>();
        var buffer = new byte[Chunk * 2];
        short before = 0;
        int got;
        while ((got = file.ReadAtLeast(buffer, buffer.Length, throwOnEndOfStream: false)) > 1)
        {
            var samples = MemoryMarshal.Cast<byte, short>(buffer.AsSpan(0, got & ~1));
            decibels.AddRange(SeamSound.Decibels(samples, before));
            before = samples[^1];
        }
        return new SeamFile(file, [.. decibels]);
    }

    /// <inheritdoc/>
    public void Dispose() => file.Dispose();

    private MediaTime Crossing(MediaTime at)
    {
        const int around = ZeroCrossing.Reach + 2;
        var sample = at.Units * SeamSound.Rate / MediaTime.UnitsPerSecond;
        var first = Math.Max(0, sample - around);
        var bytes = new byte[2 * ((2 * around) + 1)];
        var got = RandomAccess.Read(file.SafeFileHandle, bytes, first * 2);
        var place = (int)(sample - first);
        var near = ZeroCrossing.Near(MemoryMarshal.Cast<byte, short>(bytes.AsSpan(0, got & ~1)), place);
        return near == place ? at : new MediaTime((first + near) * (MediaTime.UnitsPerSecond / SeamSound.Rate));
    }
}
