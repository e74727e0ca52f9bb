namespace EmberLane.Core.Cameras;

/// <summary>The least of the values in a window that only moves on; of equals the first. Amortised constant.</summary>
internal sealed class WindowMinimum
{
    private (int At, long Value)[] ring = new (int, long)[64];
    private int head;
    private int count;

    /// <summary>Whether there is none.</summary>
    public bool IsEmpty => count == 0;

    /// <summary>The least, and where it is.</summary>
    public (int At, long Value) Least => ring[head];

    /// <summary>Adds a value behind all others.</summary>
    public void Add(int at, long value)
    {
        while (count > 0 && Last.Value > value)
        {
            count--;
        }
        if (count == ring.Length)
        {
            Grow();
        }
        ring[(head + count) % ring.Length] = (at, value);
        count++;
    }

    /// <summary>Forgets what lies up to and with a place.</summary>
    public void DropUpTo(int at)
    {
        while (count > 0 && ring[head].At <= at)
        {
            head = (head + 1) % ring.Length;
            count--;
        }
    }

    /// <summary>Forgets all.</summary>
    public void Clear() => (head, count) = (0, 0);

    private (int At, long Value) Last => ring[(head + count - 1) % ring.Length];

    private void Grow()
    {
        var larger = new (int, long)[ring.Length * 2];
        for (var i = 0; i < count; i++)
        {
            larger[i] = ring[(head + i) % ring.Length];
        }
        (ring, head) = (larger, 0);
    }
}
