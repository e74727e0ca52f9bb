namespace EmberLane.Core.Sync;

/// <summary>
/// A sound of one channel at <see cref="SoundMatch.SampleRate"/>, −1..1, that is read in parts, so that a long one need not lie in memory.
/// </summary>
public interface ISound
{
    /// <summary>How many samples it has.</summary>
    long Length { get; }

    /// <summary>
    /// Fills <paramref name="into"/> with the samples from <paramref name="at"/>; where there are none, before the start and after the end,
    /// with zeros.
    /// </summary>
    void Read(long at, Span<float> into);
}

/// <summary>A sound that lies in memory.</summary>
public sealed class HeldSound(float[] samples) : ISound
{
    /// <inheritdoc/>
    public long Length => samples.Length;

    /// <inheritdoc/>
    public void Read(long at, Span<float> into)
    {
        into.Clear();
        long from = Math.Clamp(at, 0, samples.Length),
            to = Math.Clamp(at + into.Length, 0, samples.Length);
        if (to > from)
        {
            samples.AsSpan((int)from, (int)(to - from)).CopyTo(into[(int)(from - at)..]);
        }
    }
}
