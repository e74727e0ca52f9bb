using EmberLane.Core.Marks;
using EmberLane.Store;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Read;

/// <content>Which words of the sitting are in which story.</content>
public sealed partial class IndexModel
{
    /// <summary>The cards that show something of the sitting, in the order of its time; those of the story in hand say so.</summary>
    public IReadOnlyList<StoryUse> Uses { get; private set; } = [];

    /// <summary>The same by story.</summary>
    public IEnumerable<IGrouping<(long Id, string Title), StoryUse>> UsesByStory => Uses.GroupBy(u => (u.Story, u.Title));

    /// <summary>The story in hand; null where there is none.</summary>
    public long? InHand { get; private set; }

    /// <summary>How much of the sitting lies in stories, each moment counted once.</summary>
    public MediaTime InStories =>
        AsideStretches.Union([.. Uses.Select(u => u.Range)]).Aggregate(MediaTime.Zero, (sum, r) => sum + r.Length);

    /// <summary>The cards of the sitting, after a change of a story.</summary>
    public IActionResult OnGetStories(long sitting)
    {
        if (SittingHere(sitting) is not { } here)
        {
            return NotFound();
        }
        Sitting = here;
        LoadUses(here);
        return Partial("_InStories", this);
    }

    private void LoadUses(Sitting sitting)
    {
        InHand = stories.InHand(Production.Id);
        Uses = [.. stories.UsesIn(sitting.Id).OrderBy(u => u.Range.In).ThenBy(u => u.Story)];
    }
}
