using EmberLane.Core.Timeline;

namespace EmberLane.Core.Handoff;

/// <summary>Rows of items that grow together and are always of one length; one that comes later begins with a gap.</summary>
internal sealed class SideBySide(int least)
{
    private readonly List<List<TimelineItem>> rows = [.. Enumerable.Range(0, least).Select(_ => new List<TimelineItem>())];
    private MediaTime length = MediaTime.Zero;

    /// <summary>The rows as they are.</summary>
    public IReadOnlyList<IReadOnlyList<TimelineItem>> Items => rows;

    /// <summary>Lays what each row has next, as long as <paramref name="nothing"/>, which is what the others have.</summary>
    public void Lay(IReadOnlyList<IReadOnlyList<TimelineItem>> items, Gap nothing)
    {
        while (rows.Count < items.Count)
        {
            rows.Add(length == MediaTime.Zero ? [] : [new Gap(0, "", length)]);
        }
        for (var r = 0; r < rows.Count; r++)
        {
            rows[r].AddRange(r < items.Count ? items[r] : [nothing]);
        }
        length += nothing.Length;
    }
}
