using EmberLane.Core.Timeline;

namespace EmberLane.Core.Handoff.Back;

/// <summary>
/// Frames of a record in which one thing goes on: a stretch of a sitting from <paramref name="In"/>, in frames of the list counted on its
/// clock; or of a file that lies in none, in frames of the file; or a reel that is not known; or nothing.
/// </summary>
public sealed record BackRun(long First, long End, long? SittingId, long? SourceId, long In, string Unknown)
{
    /// <summary>How many frames.</summary>
    public long Count => End - First;

    /// <summary>The frame of the sitting or file behind its last.</summary>
    public long Out => In + Count;

    /// <summary>Whether there is nothing.</summary>
    public bool IsEmpty => SittingId is null && SourceId is null && Unknown.Length == 0;

    /// <summary>Whether another is of the same sitting or file.</summary>
    public bool IsOfSame(BackRun other) => (SittingId, SourceId, Unknown) == (other.SittingId, other.SourceId, other.Unknown);

    /// <summary>Whether another is the same, a frame this way or that.</summary>
    public bool IsSame(BackRun other) => IsOfSame(other) && Count == other.Count && Math.Abs(In - other.In) <= 1;

    /// <summary>How many frames of what they show two have in common.</summary>
    public long Shared(BackRun other) => IsOfSame(other) ? Math.Max(0, Math.Min(Out, other.Out) - Math.Max(In, other.In)) : 0;

    /// <summary>
    /// The runs of a timeline, in order, without holes: what is heard decides, since pictures lie over sounds; where nothing is heard, what
    /// is seen. Sorts; else linear.
    /// </summary>
    public static IReadOnlyList<BackRun> Of(EditedTimeline timeline, BackForm form, BackSources sources)
    {
        var count = timeline.Start.Count;
        var heard = Joined(timeline.Of(TrackKind.Sound).SelectMany(t => Clips(t, form, sources, count)));
        var seen = Joined(timeline.Of(TrackKind.Picture).Take(1).SelectMany(t => Clips(t, form, sources, count)));
        var all = Joined(heard.Concat(Without(seen, heard)));
        // What is switched off may run on beyond the story.
        var cut = timeline.Tracks.Where(t => t.Items.Any(i => i is Clip { IsEnabled: true }) || t.Items.All(i => i is not Clip));
        return Filled(all, count.Rate.NearestFrame((timeline with { Tracks = [.. cut] }).Length));
    }

    private static IEnumerable<BackRun> Clips(Track track, BackForm form, BackSources sources, TimecodeCount count)
    {
        foreach (var (item, range) in track.Placed())
        {
            long first = count.Rate.NearestFrame(range.In.FromZero),
                end = count.Rate.NearestFrame(range.Out.FromZero);
            if (item is not Clip { IsEnabled: true } clip || first >= end)
            {
                continue;
            }
            if (sources.Of(clip, form, count) is not var (source, at))
            {
                yield return new BackRun(first, end, null, null, 0, clip.Media.Reel.Length > 0 ? clip.Media.Reel : clip.Media.FileName);
            }
            else if (source is { SittingId: { } sitting, Listed.Place: { } place })
            {
                yield return new BackRun(first, end, sitting, null, count.Rate.NearestFrame(place.ToSitting(at).FromZero), "");
            }
            else
            {
                yield return new BackRun(first, end, null, source.Listed.Id, count.Rate.NearestFrame(at.FromZero), "");
            }
        }
    }

    // Runs that go on into each other, or lie over each other, are one; of others that overlap the one that came first stays.
    private static List<BackRun> Joined(IEnumerable<BackRun> runs)
    {
        var joined = new List<BackRun>();
        foreach (var next in runs.OrderBy(r => r.First).ThenByDescending(r => r.End))
        {
            if (joined.Count == 0 || next.First > joined[^1].End)
            {
                joined.Add(next);
                continue;
            }
            var last = joined[^1];
            if (last.IsOfSame(next) && (last.Unknown.Length > 0 || Math.Abs(last.In - last.First - (next.In - next.First)) <= 1))
            {
                joined[^1] = last with { End = Math.Max(last.End, next.End) };
            }
            else if (next.End > last.End)
            {
                joined.Add(next with { First = last.End, In = next.In + (last.End - next.First) });
            }
        }
        return joined;
    }

    private static IEnumerable<BackRun> Without(List<BackRun> runs, List<BackRun> others)
    {
        var from = 0;
        foreach (var run in runs)
        {
            var at = run.First;
            while (from < others.Count && others[from].End <= run.First)
            {
                from++;
            }
            for (var i = from; i < others.Count && others[i].First < run.End; i++)
            {
                if (at < others[i].First)
                {
                    yield return run with
                    {
                        First = at,
                        End = others[i].First,
                        In = run.In + (at - run.First),
                    };
                }
                at = Math.Max(at, others[i].End);
            }
            if (at < run.End)
            {
                yield return run with
                {
                    First = at,
                    In = run.In + (at - run.First),
                };
            }
        }
    }

    private static List<BackRun> Filled(List<BackRun> runs, long length)
    {
        var filled = new List<BackRun>();
        long at = 0;
        foreach (var run in runs)
        {
            if (at < run.First)
            {
                filled.Add(new BackRun(at, run.First, null, null, 0, ""));
            }
            filled.Add(run);
            at = run.End;
        }
        if (at < length)
        {
            filled.Add(new BackRun(at, length, null, null, 0, ""));
        }
        return filled;
    }
}
