using System.Collections.Concurrent;
using System.Diagnostics;
using EmberLane.Application.Hands;

namespace EmberLane.Queue;

/// <summary>The workers that were heard of. What one says of its clock is only compared: nothing goes by it.</summary>
internal sealed class Roster(QueueTimes times)
{
    private const int MostWorkers = 10_000,
        MostLetters = 200;

    private static readonly TimeSpan ClocksApart = TimeSpan.FromMinutes(2);

    private readonly ConcurrentDictionary<string, (HereMessage Said, long At, TimeSpan Ahead)> heard = new();

    /// <summary>A worker says that it is there.</summary>
    public void Heard(HereMessage said)
    {
        if (said.Worker.Length is > 0 and <= MostLetters && (heard.Count < MostWorkers || heard.ContainsKey(said.Worker)))
        {
            heard[said.Worker] = (said, Stopwatch.GetTimestamp(), said.Clock - DateTime.UtcNow);
        }
    }

    /// <summary>Whether a worker was heard of lately.</summary>
    public bool IsThere(string worker) => heard.TryGetValue(worker, out var last) && Stopwatch.GetElapsedTime(last.At) < times.Gone;

    /// <summary>Whether somebody is there who takes work of this kind.</summary>
    public bool HasFor(string kind, IEnumerable<string> not) =>
        heard.Any(w =>
            Stopwatch.GetElapsedTime(w.Value.At) < times.Gone
            && w.Value.Said.Protocol == QueueMessages.Protocol
            && w.Value.Said.Kinds.Contains(kind)
            && !not.Contains(w.Key)
        );

    /// <summary>All that is in somebody's hand, as server and errand.</summary>
    public IEnumerable<string> InHand => heard.Values.SelectMany(w => w.Said.Doing);

    /// <summary>Lets go of those that have not been heard of for long.</summary>
    public void Forget()
    {
        foreach (var (name, _) in heard.Where(w => Stopwatch.GetElapsedTime(w.Value.At) > 30 * times.Gone))
        {
            heard.TryRemove(name, out _);
        }
    }

    /// <summary>The workers by name; <paramref name="kind"/> says of what kind an errand in hand is.</summary>
    public IReadOnlyList<WorkerSeen> Seen(Func<string, string?> kind) =>
        [
            .. heard
                .Values.OrderBy(w => w.Said.Worker, StringComparer.Ordinal)
                .Select(w => new WorkerSeen(
                    w.Said.Worker,
                    w.Said.Kinds,
                    w.Said.AtOnce,
                    [.. w.Said.Doing.Select(kind)],
                    w.Said.Pace > 0 ? w.Said.Pace : null,
                    Stopwatch.GetElapsedTime(w.At),
                    Wrong(w.Said, w.Ahead, Stopwatch.GetElapsedTime(w.At))
                )),
        ];

    private string? Wrong(HereMessage said, TimeSpan ahead, TimeSpan silent) =>
        said.Protocol < QueueMessages.Protocol
            ? $"It is of an older version ({said.Version}) and is given nothing. Bring it up to {QueueMessages.Version}."
        : said.Protocol > QueueMessages.Protocol
            ? $"It is of a newer version ({said.Version}) than this server ({QueueMessages.Version}) and is given nothing."
        : silent > times.Gone ? "It is not heard of any more. What it had in hand is given to another."
        : ahead.Duration() > ClocksApart
            ? FormattableString.Invariant(
                $"Its clock is {ahead.Duration().TotalMinutes:0} min {(ahead > TimeSpan.Zero ? "ahead" : "behind")}. Nothing goes by it."
            )
        : null;
}
