using EmberLane.Core.Media;

namespace EmberLane.Core.Sync;

/// <summary>A file that belongs to no sitting yet, with what its own count of time says.</summary>
public sealed record LooseFile(long Id, string Name, SourceFacts Facts)
{
    /// <summary>
    /// When it runs by its own count of time, as time of day; null when it has none. A file that runs over midnight ends after 24 hours.
    /// </summary>
    public (MediaTime From, MediaTime To)? Runs => DayTime.At(Facts.Start) is { } from ? (from, from + Facts.Duration) : null;
}

/// <summary>Two files that hold the same sound, with the evidence in words.</summary>
public sealed record Alike(long One, long Other, string Words);

/// <summary>Files that seem to belong together, and why, a reason a line.</summary>
public sealed record Proposal(IReadOnlyList<LooseFile> Files, IReadOnlyList<string> Reasons);

/// <summary>Proposes sittings from timecode, recording time and sound. A person decides; sync by sound then checks every file.</summary>
public static class Proposals
{
    private static readonly MediaTime Day = MediaTime.FromMilliseconds(86_400_000);

    private sealed record Run(List<LooseFile> Files, MediaTime From, MediaTime To);

    /// <summary>
    /// Groups of two files and more, in the order of their first file's name. Files belong together whose timecodes overlap by time of day,
    /// over midnight too, unless their days differ; a file without timecode goes with those it overlaps by recording time; and files that
    /// were found to hold the same sound go together. Every file is in one group at most.
    /// </summary>
    public static IReadOnlyList<Proposal> Of(IReadOnlyList<LooseFile> files, IReadOnlyList<Alike> alike)
    {
        var groups = files.ToDictionary(f => f.Id, f => new List<LooseFile> { f });
        var reasons = new List<(long File, string Reason)>();
        foreach (var run in ByTimecode(files))
        {
            Join(groups, run.Files);
            reasons.Add((run.Files[0].Id, $"overlap by timecode {Clock(run.From)}–{Clock(run.To)}"));
        }
        foreach (var run in ByRecordingTime(files))
        {
            Join(groups, run.Files);
            reasons.Add(
                (
                    run.Files[0].Id,
                    $"{string.Join(", ", run.Files.Select(f => f.Name))} overlap by recording time {Clock(run.From)}–{Clock(run.To)}"
                )
            );
        }
        foreach (var pair in alike.Where(p => groups.ContainsKey(p.One) && groups.ContainsKey(p.Other)))
        {
            Join(groups, [groups[pair.One][0], groups[pair.Other][0]]);
            reasons.Add((pair.One, $"{Name(files, pair.One)} and {Name(files, pair.Other)}: {pair.Words}"));
        }
        return
        [
            .. groups
                .Values.Distinct()
                .Where(g => g.Count > 1)
                .Select(g => new Proposal(
                    [.. g.OrderBy(f => f.Name, Finding.NumbersInOrder.Comparer)],
                    [.. reasons.Where(r => groups[r.File] == g).Select(r => r.Reason)]
                ))
                .OrderBy(p => p.Files[0].Name, Finding.NumbersInOrder.Comparer),
        ];
    }

    // What overlaps by the clock is parted again by days that are known to differ.
    private static IEnumerable<Run> ByTimecode(IReadOnlyList<LooseFile> files) =>
        Overlapping([.. files.Where(f => f.Runs is not null)]).SelectMany(ByDay);

    private static IEnumerable<Run> ByDay(Run run)
    {
        var known = run.Files.Where(f => f.Facts.RecordedAt is not null).ToList();
        var shift = Shift(
            [.. known.Where(IsSound).Select(f => DayOf(f, run))],
            [.. known.Where(f => !IsSound(f)).Select(f => DayOf(f, run))]
        );
        var days = known.GroupBy(f => DayOf(f, run) - (IsSound(f) ? shift : 0)).Select(g => g.ToList()).ToList();
        var unknown = run.Files.Where(f => f.Facts.RecordedAt is null).ToList();
        return days.Count < 2 ? [run] : days.Append(unknown).SelectMany(Overlapping);
    }

    // What began after the midnight that the run goes over belongs to the day before.
    private static int DayOf(LooseFile file, Run run) =>
        DateOnly.FromDateTime(file.Facts.RecordedAt!.Value).DayNumber - (file.Runs!.Value.From < run.From ? 1 : 0);

    // Cameras mostly write Greenwich time and recorders the time of the place: far from Greenwich the same morning has two dates. Taken is
    // the difference with which most days of the one are days of the other.
    private static int Shift(HashSet<int> sound, HashSet<int> pictures) =>
        new[] { 0, 1, -1 }.MaxBy(shift => sound.Count(day => pictures.Contains(day - shift)));

    private static bool IsSound(LooseFile file) => file.Facts.Picture is null;

    private static List<Run> Overlapping(List<LooseFile> files)
    {
        var groups = new List<Run>();
        foreach (var file in files.OrderBy(f => f.Runs!.Value.From).ThenBy(f => f.Id))
        {
            var (from, to) = file.Runs!.Value;
            if (groups is [.., var last] && from < last.To)
            {
                last.Files.Add(file);
                groups[^1] = last with { To = MediaTime.Max(last.To, to) };
            }
            else
            {
                groups.Add(new Run([file], from, to));
            }
        }
        // What runs over midnight meets what began after it.
        while (groups.Count > 1 && groups[^1].To - Day > groups[0].From)
        {
            var (late, early) = (groups[^1], groups[0]);
            groups[^1] = new Run([.. late.Files, .. early.Files], late.From, MediaTime.Max(late.To, early.To + Day));
            groups.RemoveAt(0);
        }
        return [.. groups.Where(g => g.Files.Count > 1)];
    }

    // Clocks of devices are set by hand, to the minute at best, and in whatever time zone: good enough only where there is no timecode.
    private static IEnumerable<Run> ByRecordingTime(IReadOnlyList<LooseFile> files)
    {
        var recorded = files.Where(f => f.Facts.RecordedAt is not null).ToList();
        foreach (var file in recorded.Where(f => f.Runs is null))
        {
            foreach (var other in recorded.Where(o => o.Id != file.Id && (o.Runs is not null || o.Id > file.Id)))
            {
                MediaTime from = MediaTime.Max(Since(file), Since(other)),
                    to = MediaTime.Min(Since(file) + file.Facts.Duration, Since(other) + other.Facts.Duration);
                if (from < to)
                {
                    yield return new Run([file, other], from, to);
                }
            }
        }
    }

    private static MediaTime Since(LooseFile file) =>
        MediaTime.FromMilliseconds((file.Facts.RecordedAt!.Value.Ticks - new DateTime(2000, 1, 1).Ticks) / TimeSpan.TicksPerMillisecond);

    private static void Join(Dictionary<long, List<LooseFile>> groups, List<LooseFile> files)
    {
        var into = groups[files[0].Id];
        foreach (var other in files.Select(f => groups[f.Id]).Distinct().Where(g => g != into).ToList())
        {
            into.AddRange(other);
            other.ForEach(f => groups[f.Id] = into);
        }
    }

    private static string Name(IReadOnlyList<LooseFile> files, long id) => files.First(f => f.Id == id).Name;

    private static string Clock(MediaTime time)
    {
        var seconds = Exact.FloorDivide(time.Units, MediaTime.UnitsPerSecond) % 86_400;
        return FormattableString.Invariant($"{seconds / 3600:00}:{seconds / 60 % 60:00}:{seconds % 60:00}");
    }
}
