using System.IO.Pipelines;

namespace EmberLane.Engines;

/// <summary>
/// What a program decodes, taken as it is asked for: nothing lies on disk, and what is decoded ahead is held to a megabyte.
/// </summary>
internal sealed class DecodedStream : IAsyncDisposable
{
    private readonly CancellationTokenSource stop;
    private readonly Pipe pipe = new(new PipeOptions(pauseWriterThreshold: 1 << 20, resumeWriterThreshold: 1 << 19));
    private readonly Stream from;
    private readonly Task decoding;

    private DecodedStream(Func<Stream, CancellationToken, Task> decode, CancellationToken cancel)
    {
        stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        from = pipe.Reader.AsStream();
        decoding = DecodeAsync(decode);
    }

    /// <summary>Begins to decode: <paramref name="decode"/> writes to the stream that it is given until it ends.</summary>
    public static DecodedStream Open(Func<Stream, CancellationToken, Task> decode, CancellationToken cancel) => new(decode, cancel);

    /// <summary>
    /// Fills <paramref name="into"/> and returns how much there was; less than asked for only at the end. Throws
    /// <see cref="ToolException"/> when it can not be decoded.
    /// </summary>
    public async ValueTask<int> ReadAsync(Memory<byte> into, CancellationToken cancel) =>
        await from.ReadAtLeastAsync(into, into.Length, throwOnEndOfStream: false, cancel);

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

    private async Task DecodeAsync(Func<Stream, CancellationToken, Task> decode)
    {
        Exception? failed = null;
        try
        {
            await decode(pipe.Writer.AsStream(leaveOpen: true), stop.Token);
        }
        catch (Exception e)
        {
            failed = e;
        }
        await pipe.Writer.CompleteAsync(failed);
    }
}
