using EmberLane.Core;

namespace EmberLane.Web.Rooms.Drawn;

/// <summary>A story as a page has drawn it: its lines in order, and what stands on the shelf beside it, in so many words.</summary>
public sealed record DrawnStory(long Story, IReadOnlyList<DrawnLine> Lines, string Shelf)
{
    /// <summary>What has to be done to a page that shows another drawing of the story, so that it shows this one.</summary>
    public DrawnChanges Since(DrawnStory was)
    {
        var places = was.Lines.Index().ToDictionary(l => l.Item.Id, l => l.Index);
        var known = Lines.Where(l => places.ContainsKey(l.Id)).Select(l => l.Id).ToList();
        var stays = RisingRun.Of([.. known.Select(id => places[id])]).Select(i => known[i]).ToHashSet();
        return new DrawnChanges(
            [.. was.Lines.Select(l => l.Id).Where(id => !stays.Contains(id))],
            [.. Lines.Where(l => stays.Contains(l.Id) && l != was.Lines[places[l.Id]])],
            [
                .. Lines
                    .Index()
                    .Where(l => !stays.Contains(l.Item.Id))
                    .Select(l => (l.Item, l.Index == 0 ? (Guid?)null : Lines[l.Index - 1].Id)),
            ],
            Shelf != was.Shelf
        );
    }

    /// <summary>The same, with the lines of another drawing wherever they are equal: so that drawings of one story share them.</summary>
    public DrawnStory Sharing(DrawnStory other)
    {
        var known = other.Lines.ToDictionary(l => l.Id);
        return this with { Lines = [.. Lines.Select(l => known.TryGetValue(l.Id, out var same) && same == l ? same : l)] };
    }
}

/// <summary>
/// How one drawing becomes another: first some lines go, then others are drawn anew where they are, then lines come in their order, each
/// behind another or at the top. A line that lies elsewhere goes and comes.
/// </summary>
public sealed record DrawnChanges(
    IReadOnlyList<Guid> Gone,
    IReadOnlyList<DrawnLine> Anew,
    IReadOnlyList<(DrawnLine Line, Guid? Behind)> Come,
    bool IsShelfAnew
)
{
    /// <summary>How many lines are sent.</summary>
    public int Count => Gone.Count + Anew.Count + Come.Count;
}
