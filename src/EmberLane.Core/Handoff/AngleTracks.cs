using EmberLane.Core.Timeline;

namespace EmberLane.Core.Handoff;

/// <summary>
/// Picture tracks of all angles, switched off, each card's first angle on the first of them; none where they are not wanted.
/// </summary>
internal sealed class AngleTracks(bool areWanted)
{
    private readonly SideBySide tracks = new(0);

    /// <summary>Lays what the angles of a part of a card have, as long as <paramref name="nothing"/>.</summary>
    public void Lay(IEnumerable<IReadOnlyList<TimelineItem>> angles, Gap nothing)
    {
        if (areWanted)
        {
            tracks.Lay([.. angles.Select(a => a.Select(i => i is Clip clip ? clip with { IsEnabled = false } : i).ToList())], nothing);
        }
    }

    /// <summary>The tracks' items.</summary>
    public IReadOnlyList<IReadOnlyList<TimelineItem>> Items => tracks.Items;
}
