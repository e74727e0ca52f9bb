using System.IO.Pipelines;
using System.Runtime.InteropServices;
using EmberLane.Core.Media;

namespace EmberLane.Engines;

/// <summary>
/// Channels of one sound track, decoded as they are asked for: interleaved 16-bit samples. Nothing lies on disk, and memory does not grow
/// with the file.
/// </summary>
public sealed class DecodedChannels : IAsyncDisposable
{
    private readonly CancellationTokenSource stop;
    private readonly Pipe pipe = new(new PipeOptions(pauseWriterThreshold: 1 << 20, resumeWriterThreshold: 1 << 19));
    private readonly Stream from;
    private readonly Task decoding;

    private DecodedChannels(string path, SoundTrack track, IReadOnlyList<int> channels, int rate, CancellationToken cancel)
    {
        Channels = channels.Count;
        stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        from = pipe.Reader.AsStream();
        decoding = DecodeAsync(path, track, channels, rate);
    }

    /// <summary>How many channels are decoded.</summary>
    public int Channels { get; }

    /// <summary>Begins to decode channels of a track, by their place in it, at <paramref name="rate"/> samples a second.</summary>
    public static DecodedChannels Open(string path, SoundTrack track, IReadOnlyList<int> channels, int rate, CancellationToken cancel) =>
        new(path, track, channels, rate, cancel);

    /// <summary>
    /// Fills <paramref name="into"/>, whole samples of all channels, and returns how many values there were; less than asked for only at
    /// the end. Throws <see cref="ToolException"/> when the sound can not be decoded.
    /// </summary>
    public async ValueTask<int> ReadAsync(Memory<short> into, CancellationToken cancel)
    {
        var bytes = new byte[into.Length * 2];
        var got = await from.ReadAtLeastAsync(bytes, bytes.Length, throwOnEndOfStream: false, cancel);
        MemoryMarshal.Cast<byte, short>(bytes.AsSpan(0, got & ~1)).CopyTo(into.Span);
        return got / 2;
    }

    /// <inheritdoc/>
    public async ValueTask DisposeAsync()
    {
        await stop.CancelAsync();
        await from.DisposeAsync();
        try
        {
            await decoding;
        }
        catch (Exception e) when (e is OperationCanceledException or ToolException or IOException or InvalidOperationException)
        {
            // Ended before its end, as was asked for.
        }
        stop.Dispose();
    }

    private async Task DecodeAsync(string path, SoundTrack track, IReadOnlyList<int> channels, int rate)
    {
        Exception? failed = null;
        try
        {
            await Ffmpeg.DecodeToAsync(path, track, channels, rate, pipe.Writer.AsStream(leaveOpen: true), stop.Token);
        }
        catch (Exception e)
        {
            failed = e;
        }
        await pipe.Writer.CompleteAsync(failed);
    }
}
