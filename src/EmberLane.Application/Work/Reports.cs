using System.Runtime.ExceptionServices;

namespace EmberLane.Application.Work;

/// <summary>
/// Passes on how far work is, at most once in a while. What comes between two is passed on as soon as it may be, the last of it only, so
/// that a long step is shown under its own name. After the end nothing is said.
/// </summary>
public sealed class Reports(Progress say, TimeSpan between, TimeProvider time) : IDisposable
{
    private readonly Lock guard = new();
    private (PerMille Share, string Said)? held;
    private ITimer? timer;
    private long? last;
    private bool ended;
    private Exception? failed;

    /// <summary>Throws what went wrong when an earlier report was passed on later.</summary>
    public void Report(PerMille share, string said)
    {
        lock (guard)
        {
            if (failed is not null)
            {
                ExceptionDispatchInfo.Throw(failed);
            }
            held = (share, said);
            var wait = last is { } at ? between - time.GetElapsedTime(at) : TimeSpan.Zero;
            if (wait <= TimeSpan.Zero)
            {
                Say();
            }
            else
            {
                timer ??= time.CreateTimer(_ => Due(), null, wait, Timeout.InfiniteTimeSpan);
            }
        }
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        lock (guard)
        {
            ended = true;
            timer?.Dispose();
        }
    }

    private void Due()
    {
        lock (guard)
        {
            timer?.Dispose();
            timer = null;
            try
            {
                Say();
            }
            catch (Exception e)
            {
                failed = e;
            }
        }
    }

    private void Say()
    {
        if (held is { } now && !ended)
        {
            (held, last) = (null, time.GetTimestamp());
            say(now.Share, now.Said);
        }
    }
}
