using EmberLane.Core.Media;

namespace EmberLane.Core.Sync;

/// <summary>A file that belongs to no sitting yet, with what its own count of time says.</summary>
public sealed record LooseFile(long Id, string Name, SourceFacts Facts)
{
    /// <summary>When it runs by its own count of time, as time of day; null when it has none. A file that runs over midnight ends after 24 hours.</summary>
    public (MediaTime From, MediaTime To)? Runs =>
        (Facts.Start.SinceMidnight ?? Reading(Facts.Start.Label)) is { } from ? (from, from + Facts.Duration) : null;

    // What the label reads as a clock: one that was set to the time of day reads that, whatever its frames are.
    private static MediaTime? Reading(Timecode? label) => label is { } l
        ? MediaTime.FromMilliseconds(((((l.Hours * 60L) + l.Minutes) * 60) + l.Seconds) * 1000) + new MediaTime(Exact.RoundDivide((Int128)l.Frames * MediaTime.UnitsPerSecond, l.Count.Rate.Nominal))
        : null;
}

/// <summary>Files that seem to belong together, and since when until when by their own count of time.</summary>
public sealed record Proposal(IReadOnlyList<LooseFile> Files, MediaTime From, MediaTime To);

/// <summary>Proposes sittings from timecode. A person decides; sync by sound then checks every file.</summary>
public static class Proposals
{
    private static readonly MediaTime Day = MediaTime.FromMilliseconds(86_400_000);

    /// <summary>
    /// Groups of files whose times of day overlap, directly or through another of the group, earliest first; a file alone is no group. Times run over midnight: 23:59 to 00:04 overlaps 00:01. Every file is in one
    /// group at most; cost is n log n.
    /// </summary>
    public static IReadOnlyList<Proposal> ByTimecode(IEnumerable<LooseFile> files)
    {
        var running = files.Where(f => f.Runs is not null).OrderBy(f => f.Runs!.Value.From).ThenBy(f => f.Id).ToList();
        var groups = new List<Proposal>();
        foreach (var file in running)
        {
            var (from, to) = file.Runs!.Value;
            if (groups is [.., var last] && from < last.To)
            {
                groups[^1] = last with { Files = [.. last.Files, file], To = MediaTime.Max(last.To, to) };
            }
            else
            {
                groups.Add(new Proposal([file], from, to));
            }
        }
        // What runs over midnight meets what began after it.
        while (groups.Count > 1 && groups[^1].To - Day > groups[0].From)
        {
            var (late, early) = (groups[^1], groups[0]);
            groups[^1] = new Proposal([.. late.Files, .. early.Files], late.From, MediaTime.Max(late.To, early.To + Day));
            groups.RemoveAt(0);
        }
        return [.. groups.Where(g => g.Files.Count > 1)];
    }
}
