using System.Globalization;
using EmberLane.Application.Hands;
using EmberLane.Web.Rooms;

namespace EmberLane.Web.Pages.Work;

/// <summary>A worker as the page tells of it.</summary>
public sealed class WorkerLine(WorkerSeen worker)
{
    private static readonly TimeSpan Now = TimeSpan.FromSeconds(5);

    public string Name => worker.Name;

    /// <summary>What is wrong with it; null when nothing is.</summary>
    public string? Wrong => worker.Wrong;

    /// <summary>What it has in hand.</summary>
    public string Doing =>
        worker.Doing.Count == 0
            ? "nothing in hand"
            : string.Join(", ", worker.Doing.CountBy(Words).Select(k => k.Value == 1 ? k.Key : $"{k.Key} ×{k.Value}"));

    /// <summary>What it takes, how fast it is, and when it was heard.</summary>
    public string About
    {
        get
        {
            var takes = worker.Kinds.Count == ErrandKinds.All.Count ? "takes all" : $"takes {string.Join(", ", worker.Kinds)}";
            var pace = worker.Pace is { } of ? string.Create(CultureInfo.InvariantCulture, $" · {of / 1000m:0.0}× real time each") : "";
            return $"{takes} · {Many.Of(worker.AtOnce, "piece", "pieces")} at once{pace} · {Heard}";
        }
    }

    private string Heard =>
        worker.Silent < Now ? "heard just now"
        : worker.Silent < TimeSpan.FromMinutes(1) ? $"heard {(int)worker.Silent.TotalSeconds} s ago"
        : $"heard {(int)worker.Silent.TotalMinutes} min ago";

    private static string Words(string? kind) =>
        kind switch
        {
            ErrandKinds.Speech => "recognising words",
            ErrandKinds.Copies => "making playing copies",
            ErrandKinds.Sound => "decoding sound for sync",
            ErrandKinds.Faces => "looking for shots and faces",
            _ => "work of another server",
        };
}
