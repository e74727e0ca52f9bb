using System.Diagnostics;
using NATS.Client.JetStream;

namespace EmberLane.Queue;

/// <summary>An errand that a worker has in hand: as it came (again, where the queue gave it out anew), and how far it is.</summary>
internal sealed class ErrandInHand(ErrandMessage message, INatsJSMsg<byte[]> came, CancellationTokenSource end)
{
    private long at,
        begun,
        moved = Stopwatch.GetTimestamp();

    public ErrandMessage Message => message;

    /// <summary>How it came last: this is what is acknowledged.</summary>
    public INatsJSMsg<byte[]> Came { get; set; } = came;

    /// <summary>Server and errand.</summary>
    public string Name { get; } = NameOf(message);

    /// <summary>Whether its server wants it no more.</summary>
    public bool IsCalledOff { get; private set; }

    /// <summary>Whether it was ended because it did not get on.</summary>
    public bool IsHung { get; private set; }

    public long At => Interlocked.Read(ref at);

    public TimeSpan Lasted => Stopwatch.GetElapsedTime(begun);

    /// <summary>It is worked on from now on: before, it waited for its turn.</summary>
    public void Begin()
    {
        begun = Stopwatch.GetTimestamp();
        Interlocked.Exchange(ref moved, begun);
    }

    public static string NameOf(ErrandMessage message) => $"{message.Server}/{message.Id}";

    public void Move(MediaTime to)
    {
        if (to.Units != Interlocked.Exchange(ref at, to.Units))
        {
            Interlocked.Exchange(ref moved, Stopwatch.GetTimestamp());
        }
    }

    public void CallOff()
    {
        IsCalledOff = true;
        end.Cancel();
    }

    /// <summary>Ends it where it has not got on for longer than it may.</summary>
    public void EndIfHung(TimeSpan limit)
    {
        if (Stopwatch.GetElapsedTime(Interlocked.Read(ref moved)) > limit)
        {
            IsHung = true;
            end.Cancel();
        }
    }
}
