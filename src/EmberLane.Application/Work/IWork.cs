using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>Says how far a piece of work is, as a share and in words.</summary>
public delegate void Progress(PerMille share, string detail);

/// <summary>Does one kind of background work.</summary>
public interface IWork
{
    /// <summary>One of <see cref="WorkKinds"/>.</summary>
    string Kind { get; }

    /// <summary>
    /// Returns what to show when it is done, or throws with a message for a person. Must be safe to begin again from the start.
    /// </summary>
    Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel);
}
