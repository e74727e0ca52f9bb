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
        var next = Begun(pieces, 0);
        try
        {
            for (var i = 0; i < pieces.Count; i++)
            {
                await using var decoded = next;
                next = Begun(pieces, i + 1);
                await PieceAsync(pieces[i], decoded, black);
            }
        }
        finally
        {
            if (next is not null)
            {
                await next.DisposeAsync();
            }
        }

        DecodedStream? Begun(IReadOnlyList<FramePiece> all, int i)
        {
            if (i >= all.Count || all[i].Path is not { } path)
            {
                return null;
            }
            var pick = new FramePick(all[i].From, all[i].Rate, rate);
            var frames = pick.Of(all[i].Frames - 1) - pick.Of(0) + 1;
            return DecodedStream.Open(
                (stream, stop) => Ffmpeg.DecodeFramesAsync(path, pick.SeekTo, all[i], frames, size, stream, stop),
                cancel
            );
        }

        async Task PieceAsync(FramePiece piece, DecodedStream? decoded, byte[] nothing)
        {
            var pick = new FramePick(piece.From, piece.Rate, rate);
            var shown = (byte[])nothing.Clone();
            long at = pick.Of(0) - 1;
            var isOver = decoded is null;
            for (long frame = 0; frame < piece.Frames; frame++)
            {
                while (!isOver && at < pick.Of(frame))
                {
                    var read = new byte[shown.Length];
                    isOver = await decoded!.ReadAsync(read, cancel) < read.Length;
                    (shown, at) = isOver ? (shown, at) : (read, at + 1);
                }
                await output.WriteAsync(shown, cancel);
                if (++done % 50 == 0)
                {
                    progress?.Invoke(done);
                }
            }
        }
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
