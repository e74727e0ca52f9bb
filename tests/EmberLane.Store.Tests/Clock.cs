namespace EmberLane.Store.Tests;

/// <summary>A clock that stands until it is moved.</summary>
internal sealed class Clock : TimeProvider
{
    public DateTimeOffset Now { get; set; } = new(2026, 6, 16, 9, 0, 0, TimeSpan.Zero);

    public override DateTimeOffset GetUtcNow() => Now;
}
