using EmberLane.Core.Timeline;

namespace EmberLane.Core.Handoff;

/// <summary>
/// Rows of alternates, picture and sound side by side: each begins where its card does, on the first row that is free there, and is
/// switched off.
/// </summary>
internal sealed class AlternateTracks
{
    private readonly List<(List<TimelineItem> Pictures, List<TimelineItem> Sounds)> rows = [];
    private readonly List<MediaTime> ends = [];

    /// <summary>Lays an alternate, whose pictures last as long as its sounds.</summary>
    public void Lay(MediaTime at, IReadOnlyList<TimelineItem> pictures, IReadOnlyList<TimelineItem> sounds)
    {
        var row = ends.FindIndex(e => e <= at);
        if (row < 0)
        {
            row = rows.Count;
            rows.Add(([], []));
            ends.Add(MediaTime.Zero);
        }
        if (ends[row] < at)
        {
            var before = new Gap(0, "", at - ends[row]);
            rows[row].Pictures.Add(before);
            rows[row].Sounds.Add(before);
        }
        rows[row].Pictures.AddRange(pictures.Select(SwitchedOff));
        rows[row].Sounds.AddRange(sounds.Select(SwitchedOff));
        ends[row] = pictures.Aggregate(at, (end, i) => end + i.Length);
    }

    /// <summary>Their pictures, of each row.</summary>
    public IEnumerable<IReadOnlyList<TimelineItem>> Pictures => rows.Select(r => r.Pictures);

    /// <summary>Their sounds, of each row.</summary>
    public IEnumerable<IReadOnlyList<TimelineItem>> Sounds => rows.Select(r => r.Sounds);

    private static TimelineItem SwitchedOff(TimelineItem item) => item is Clip clip ? clip with { IsEnabled = false } : item;
}
