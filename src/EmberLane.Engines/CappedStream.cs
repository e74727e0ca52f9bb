using System.Text;

namespace EmberLane.Engines;

/// <summary>Holds in memory what is written to it, up to a number of bytes; what is more is dropped, and told of once.</summary>
internal sealed class CappedStream(int most) : Stream
{
    private readonly MemoryStream held = new();

    /// <summary>Called once, when more comes than may be held.</summary>
    public Action? Over { get; set; }

    public bool IsOver { get; private set; }

    public override bool CanRead => false;

    public override bool CanSeek => false;

    public override bool CanWrite => true;

    public override long Length => held.Length;

    public override long Position
    {
        get => held.Position;
        set => throw new NotSupportedException();
    }

    /// <summary>What was written, as UTF-8.</summary>
    public override string ToString() => Encoding.UTF8.GetString(held.GetBuffer(), 0, (int)held.Length);

    public override void Write(byte[] buffer, int offset, int count) => Write(buffer.AsSpan(offset, count));

    public override void Write(ReadOnlySpan<byte> buffer)
    {
        if (!IsOver && held.Length + buffer.Length <= most)
        {
            held.Write(buffer);
        }
        else if (!IsOver)
        {
            IsOver = true;
            Over?.Invoke();
        }
    }

    public override ValueTask WriteAsync(ReadOnlyMemory<byte> buffer, CancellationToken cancellationToken = default)
    {
        Write(buffer.Span);
        return ValueTask.CompletedTask;
    }

    public override Task WriteAsync(byte[] buffer, int offset, int count, CancellationToken cancellationToken)
    {
        Write(buffer, offset, count);
        return Task.CompletedTask;
    }

    public override void Flush() { }

    public override int Read(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

    public override void SetLength(long value) => throw new NotSupportedException();

    protected override void Dispose(bool disposing)
    {
        held.Dispose();
        base.Dispose(disposing);
    }
}
