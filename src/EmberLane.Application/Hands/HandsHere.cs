using EmberLane.Application.Work;

namespace EmberLane.Application.Hands;

/// <summary>Does errands in this process: the usual way.</summary>
public sealed class HandsHere(Recognisers recognisers) : IHands
{
    private readonly ErrandDesk desk = new(asked => recognisers.Find(asked.Recogniser)?.Recogniser);

    /// <inheritdoc/>
    public int? AtOnce => null;

    /// <inheritdoc/>
    public int Lanes => 1;

    /// <inheritdoc/>
    public string? Trouble => null;

    /// <inheritdoc/>
    public IReadOnlyList<WorkerSeen> Workers => [];

    /// <inheritdoc/>
    public Task<string> DoAsync(Errand errand, ErrandProgress progress, CancellationToken cancel) => desk.DoAsync(errand, progress, cancel);
}
