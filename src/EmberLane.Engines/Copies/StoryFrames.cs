using EmberLane.Core;
using EmberLane.Core.Copies;
using EmberLane.Core.Timeline;

namespace EmberLane.Engines.Copies;

/// <summary>
/// A stretch of a file that is seen in a copy: its path and rate, null where it is black; from which moment of it on.
/// </summary>
public sealed record FramePiece(long Frames, string? Path, FrameRate Rate, SourceTime From)
{
    /// <summary>The middle of the part that is seen, in thousandths of the width; null for the whole picture, with black.</summary>
    public int? Centre { get; init; }

    /// <summary>What of the picture is seen before that; null for all of it.</summary>
    public Framed? Framed { get; init; }

    /// <summary>
    /// What goes under it as it comes, in the same frames, and how much of either is seen; null where it does not dissolve in.
    /// </summary>
    public (FramePiece Piece, Leaving Shares)? Under { get; init; }
}

/// <summary>Writes the frames of a copy, one after another, as they are decoded.</summary>
internal static class StoryFrames
{
    /// <summary>
    /// All frames of all pieces, 4:2:0 of 8 bits, each plane after the other. The next piece is begun while one is written. Where a file
    /// ends early its last frame stays. Throws <see cref="ToolException"/> when a file can not be decoded.
    /// </summary>
    public static async Task WriteAsync(
        IReadOnlyList<FramePiece> pieces,
        FrameRate rate,
        CopyShape size,
        Stream output,
        Action<long>? progress,
        CancellationToken cancel
    )
    {
        var black = Black(size);
        long done = 0;
        var next = Begun(0);
        try
        {
            for (var i = 0; i < pieces.Count; i++)
            {
                await using var begun = next;
                next = Begun(i + 1);
                for (long frame = 0; frame < pieces[i].Frames; frame++)
                {
                    await output.WriteAsync(await begun!.FrameAsync(frame), cancel);
                    if (++done % 50 == 0)
                    {
                        progress?.Invoke(done);
                    }
                }
            }
        }
        finally
        {
            if (next is not null)
            {
                await next.DisposeAsync();
            }
        }

        Mixed? Begun(int i) =>
            i >= pieces.Count
                ? null
                : new Mixed(
                    new PieceFrames(pieces[i], rate, size, black, cancel),
                    pieces[i].Under is { } under ? (new PieceFrames(under.Piece, rate, size, black, cancel), under.Shares) : null
                );
    }

    // The frames of a piece, and of what goes under it where it dissolves in.
    private sealed class Mixed(PieceFrames comes, (PieceFrames Frames, Leaving Shares)? goes) : IAsyncDisposable
    {
        public async Task<byte[]> FrameAsync(long frame) =>
            goes is var (frames, shares)
                ? Blend(await frames.FrameAsync(frame), await comes.FrameAsync(frame), shares.Share(frame))
                : await comes.FrameAsync(frame);

        public async ValueTask DisposeAsync()
        {
            await comes.DisposeAsync();
            if (goes is { } under)
            {
                await under.Frames.DisposeAsync();
            }
        }

        private static byte[] Blend(byte[] one, byte[] other, PerMille share)
        {
            var (mixed, most, part) = (new byte[one.Length], PerMille.All.Value, share.Value);
            for (var i = 0; i < mixed.Length; i++)
            {
                mixed[i] = (byte)(((one[i] * (most - part)) + (other[i] * part) + (most / 2)) / most);
            }
            return mixed;
        }
    }

    // The frames of one file from a moment on, asked for in order; where it ends early its last one stays.
    private sealed class PieceFrames : IAsyncDisposable
    {
        private readonly FramePick pick;
        private readonly DecodedStream? decoded;
        private readonly CancellationToken cancel;
        private byte[] shown;
        private long at;
        private bool isOver;

        public PieceFrames(FramePiece piece, FrameRate rate, CopyShape size, byte[] black, CancellationToken cancel)
        {
            pick = new FramePick(piece.From, piece.Rate, rate);
            (shown, at, this.cancel, isOver) = (black, pick.Of(0) - 1, cancel, piece.Path is null);
            if (piece.Path is { } path)
            {
                var (seek, frames) = (pick.SeekTo, pick.Of(piece.Frames - 1) - pick.Of(0) + 1);
                decoded = DecodedStream.Open(
                    (stream, stop) => Ffmpeg.DecodeFramesAsync(path, seek, piece, frames, size, stream, stop),
                    cancel
                );
            }
        }

        public async Task<byte[]> FrameAsync(long frame)
        {
            while (!isOver && at < pick.Of(frame))
            {
                var read = new byte[shown.Length];
                isOver = await decoded!.ReadAsync(read, cancel) < read.Length;
                (shown, at) = isOver ? (shown, at) : (read, at + 1);
            }
            return shown;
        }

        public ValueTask DisposeAsync() => decoded?.DisposeAsync() ?? ValueTask.CompletedTask;
    }

    private static byte[] Black(CopyShape size)
    {
        var pixels = size.Width * size.Height;
        var frame = new byte[pixels * 3 / 2];
        frame.AsSpan(0, pixels).Fill(16);
        frame.AsSpan(pixels).Fill(128);
        return frame;
    }
}
