using System.Runtime.InteropServices;
using EmberLane.Core.Media;

namespace EmberLane.Engines;

/// <summary>
/// Channels of one sound track, decoded as they are asked for: interleaved 16-bit samples. Nothing lies on disk, and memory does not grow
/// with the file.
/// </summary>
public sealed class DecodedChannels : IAsyncDisposable
{
    private readonly DecodedStream from;

    private DecodedChannels(DecodedStream from, int channels) => (this.from, Channels) = (from, channels);

    /// <summary>How many channels are decoded.</summary>
    public int Channels { get; }

    /// <summary>Begins to decode channels of a track, by their place in it, at <paramref name="rate"/> samples a second.</summary>
    public static DecodedChannels Open(string path, SoundTrack track, IReadOnlyList<int> channels, int rate, CancellationToken cancel) =>
        new(DecodedStream.Open((output, stop) => Ffmpeg.DecodeToAsync(path, track, channels, rate, output, stop), cancel), channels.Count);

    /// <summary>
    /// Fills <paramref name="into"/>, whole samples of all channels, and returns how many values there were; less than asked for only at
    /// the end. Throws <see cref="ToolException"/> when the sound can not be decoded.
    /// </summary>
    public async ValueTask<int> ReadAsync(Memory<short> into, CancellationToken cancel)
    {
        var bytes = new byte[into.Length * 2];
        var got = await from.ReadAsync(bytes, cancel);
        MemoryMarshal.Cast<byte, short>(bytes.AsSpan(0, got & ~1)).CopyTo(into.Span);
        return got / 2;
    }

    /// <inheritdoc/>
    public ValueTask DisposeAsync() => from.DisposeAsync();
}
