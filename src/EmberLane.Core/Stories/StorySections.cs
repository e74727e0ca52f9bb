namespace EmberLane.Core.Stories;

/// <summary>
/// A section of a story: its heading (null for what lies before the first one), the place of its first piece behind the heading, and how
/// many it has.
/// </summary>
public sealed record StorySection(SectionHead? Head, int First, int Count)
{
    /// <summary>Its pieces, without the heading.</summary>
    public IEnumerable<Piece> In(Story story) => story.Pieces.Skip(First).Take(Count);
}

/// <summary>Sections, and pieces moved and taken out together.</summary>
public static class StorySections
{
    /// <summary>The sections in order; what lies before the first heading is one without, if there is any.</summary>
    public static IReadOnlyList<StorySection> Of(Story story)
    {
        var sections = new List<StorySection>();
        SectionHead? head = null;
        var first = 0;
        for (var i = 0; i <= story.Pieces.Count; i++)
        {
            var next = i < story.Pieces.Count ? story.Pieces[i] as SectionHead : null;
            if (next is null && i < story.Pieces.Count)
            {
                continue;
            }
            if (head is not null || i > first)
            {
                sections.Add(new StorySection(head, first, i - first));
            }
            (head, first) = (next, i + 1);
        }
        return sections;
    }

    /// <summary>The heading and the pieces of a section, by id. Throws <see cref="EditRefusedException"/> where there is none.</summary>
    public static IReadOnlyList<Guid> Whole(Story story, Guid head) =>
        Of(story).FirstOrDefault(s => s.Head?.Id == head) is { } section
            ? [head, .. section.In(story).Select(p => p.Id)]
            : throw new EditRefusedException("That section is no longer in the story.");

    /// <summary>
    /// Moves pieces, in the order in which they lie, behind another that is none of them; null for the top of the story. Null where they
    /// lie there already.
    /// </summary>
    public static StoryEdit? Move(Story story, IReadOnlyCollection<Guid> pieces, Guid? behind)
    {
        var moves = new List<StoryEdit>();
        var last = behind is { } anchor && !pieces.Contains(anchor) ? anchor : (Guid?)null;
        if (behind is not null && last is null)
        {
            return null;
        }
        foreach (var piece in story.Pieces.Where(p => pieces.Contains(p.Id)).ToList())
        {
            var from = story.IndexOf(piece.Id);
            var at = last is { } before ? story.IndexOf(before) + 1 : 0;
            if (at < 0 || (last is not null && at == 0))
            {
                throw new EditRefusedException("The place to move to is no longer in the story.");
            }
            var to = from < at ? at - 1 : at;
            if (to != from)
            {
                moves.Add(new MoveCard(piece.Id, to));
                story = moves[^1].Apply(story).Story;
            }
            last = piece.Id;
        }
        return moves.Count == 0 ? null : StoryTogether.Of(moves);
    }

    /// <summary>
    /// Moves a section, as one, before the section above it or behind the one below it; null where there is none.
    /// </summary>
    public static StoryEdit? Step(Story story, Guid head, bool down)
    {
        var sections = Of(story);
        var at = sections.Index().FirstOrDefault(s => s.Item.Head?.Id == head, (-1, null!)).Index;
        var beside = at < 0 ? -1 : at + (down ? 1 : -1);
        if (beside < 0 || beside >= sections.Count)
        {
            return null;
        }
        var place = down
            ? sections[beside].First + sections[beside].Count
            : sections[beside].First - (sections[beside].Head is null ? 0 : 1);
        return Move(story, [.. Whole(story, head)], place == 0 ? null : story.Pieces[place - 1].Id);
    }

    /// <summary>
    /// Takes pieces out together and leaves a space where the first of them was, as long as they were, which <paramref name="cut"/> tells
    /// of a story. Throws <see cref="EditRefusedException"/> where none is there, or they take no time.
    /// </summary>
    public static StoryEdit LeaveSpace(Story story, IReadOnlyCollection<Guid> pieces, FrameRate rate, Func<Story, StoryCut> cut, Guid space)
    {
        var taking = TakeOut(story, pieces);
        var lasting = cut(story).RunningTime(rate) - cut(taking.Apply(story).Story).RunningTime(rate);
        var at = story.Pieces.TakeWhile(p => !pieces.Contains(p.Id)).Count();
        return new StoryTogether([
            .. taking is StoryTogether many ? many.Edits : [taking],
            new LayPiece(new Space(space, lasting, ""), at),
        ]);
    }

    /// <summary>Takes pieces out together. Throws <see cref="EditRefusedException"/> where none is there.</summary>
    public static StoryEdit TakeOut(Story story, IReadOnlyCollection<Guid> pieces) =>
        story.Pieces.Where(p => pieces.Contains(p.Id)).Select(p => (StoryEdit)new TakeOut(p.Id)).ToList() is { Count: > 0 } outs
            ? StoryTogether.Of(outs)
            : throw new EditRefusedException("Those cards are no longer in the story.");
}
