namespace EmberLane.Application.Hands;

/// <summary>How far an errand is in its media, and a word on what it waits for; empty where it does not wait.</summary>
public delegate void ErrandProgress(MediaTime at, string waits);

/// <summary>
/// Does errands: in this process (<see cref="HandsHere"/>), or by workers on any machine. What asks does not know which.
/// </summary>
public interface IHands
{
    /// <summary>How many errands of a kind may be asked for at once; null for as many as this machine does side by side.</summary>
    int? AtOnce { get; }

    /// <summary>How many pieces of background work are in hand at once where each waits for errands.</summary>
    int Lanes { get; }

    /// <summary>What keeps errands from being done just now, a sentence for a person; null when nothing does.</summary>
    string? Trouble { get; }

    /// <summary>The workers that were heard of, by name; none where errands are done in this process.</summary>
    IReadOnlyList<WorkerSeen> Workers { get; }

    /// <summary>
    /// The answer, when the errand is done and the file that it makes is whole in its place. May be asked again for the same. Throws
    /// <see cref="Engines.ToolException"/> with the reason when it fails; can be cancelled.
    /// </summary>
    Task<string> DoAsync(Errand errand, ErrandProgress progress, CancellationToken cancel);
}

/// <summary>
/// A worker as the server hears of it: its name, which kinds of work it takes and how many at once, of which kind each is that it has in
/// hand (null for another server's), how many times as
/// fast as real time it is with one piece (thousandths; null while that is not known), how long ago it was heard, and what is wrong with
/// it, a sentence, null when nothing is.
/// </summary>
public sealed record WorkerSeen(
    string Name,
    IReadOnlyList<string> Kinds,
    int AtOnce,
    IReadOnlyList<string?> Doing,
    long? Pace,
    TimeSpan Silent,
    string? Wrong
);
