namespace EmberLane.Application.Gathering;

/// <summary>How many stretches are decoded for listening at once: each starts a program, and a page could ask without end.</summary>
public sealed class Listening : IDisposable
{
    /// <summary>So many stretches are decoded for listening at a time.</summary>
    public const int Most = 3;

    /// <summary>What is said to who asks for one more.</summary>
    public const string Busy = "Several stretches are being decoded for listening already. Wait a moment, then listen again.";

    private readonly SemaphoreSlim turns = new(Most, Most);

    /// <summary>A turn, given back when it is disposed; null when all are taken.</summary>
    public IDisposable? Take() => turns.Wait(0) ? new Turn(turns) : null;

    /// <inheritdoc/>
    public void Dispose() => turns.Dispose();

    private sealed class Turn(SemaphoreSlim turns) : IDisposable
    {
        private int given;

        public void Dispose()
        {
            if (Interlocked.Exchange(ref given, 1) == 0)
            {
                turns.Release();
            }
        }
    }
}
