namespace EmberLane.Core.Stories;

/// <summary>Several edits as one: all or none, taken back as one.</summary>
public sealed record StoryTogether(IReadOnlyList<StoryEdit> Edits) : StoryEdit
{
    /// <summary>Several edits; one alone as itself.</summary>
    public static StoryEdit Of(IReadOnlyList<StoryEdit> edits) => edits.Count == 1 ? edits[0] : new StoryTogether(edits);

    internal override IEnumerable<string> Touched() => Edits.SelectMany(e => e.Touched());

    /// <inheritdoc/>
    public override StoryEdit Within(Story story)
    {
        var fit = new List<StoryEdit>();
        foreach (var edit in Edits)
        {
            fit.Add(edit.Within(story));
            story = fit[^1].Apply(story).Story;
        }
        return new StoryTogether(fit);
    }

    /// <inheritdoc/>
    public override StoryEdit Onto(Story then, Story now)
    {
        var onto = new List<StoryEdit>();
        foreach (var edit in Edits)
        {
            onto.Add(edit.Onto(then, now).Within(now));
            then = edit.Apply(then).Story;
            now = onto[^1].Apply(now).Story;
        }
        return new StoryTogether(onto);
    }

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        if (Edits.Count == 0)
        {
            throw new EditRefusedException("There is nothing to change.");
        }
        var back = new List<StoryEdit>();
        foreach (var edit in Edits)
        {
            var (after, inverse) = edit.Apply(story);
            story = after;
            back.Add(inverse);
        }
        back.Reverse();
        return (story, new StoryTogether(back));
    }
}
