using EmberLane.Core.Stories;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Handoff.Back;

/// <summary>
/// What of a list says what its story is: its runs, and, by the frame of the record at which the second comes, where one thing dissolves
/// into another.
/// </summary>
public sealed record BackList(IReadOnlyList<BackRun> Runs, IReadOnlyDictionary<long, Dissolve> Dissolves)
{
    /// <summary>Of a timeline that was read so. Longer dissolves than a story may have are as long as that.</summary>
    public static BackList Of(EditedTimeline timeline, BackForm form, BackSources sources) =>
        new(
            BackRun.Of(timeline, form, sources),
            LaidDissolve
                .Of(timeline)
                .ToDictionary(
                    d => d.Key,
                    d => new Dissolve(Bounded(d.Value.Seen > MediaTime.Zero ? d.Value.Seen : d.Value.Heard), d.Value.Heard > MediaTime.Zero)
                )
        );

    private static MediaTime Bounded(MediaTime lasting) => MediaTime.Max(Dissolve.Shortest, MediaTime.Min(lasting, Dissolve.Longest));
}
