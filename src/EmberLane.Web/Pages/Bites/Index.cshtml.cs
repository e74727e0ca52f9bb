using EmberLane.Core;
using EmberLane.Core.Stories;
using EmberLane.Store;
using EmberLane.Web.Gathering;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Bites;

/// <summary>Bites: the quotations that were kept, and how much each person has on each theme.</summary>
public sealed class IndexModel(Footage footage, Desk desk, Store.Bites bites, Store.Stories stories, MediaCache cache) : LiveRoom(footage, desk)
{
    private readonly Footage footage = footage;

    public override string Room => "Bites";

    public IReadOnlyList<ShownBite> Kept { get; private set; } = [];

    public IReadOnlyList<ShownBite> Aside { get; private set; } = [];

    public IReadOnlySet<long> InStory { get; private set; } = new HashSet<long>();

    /// <summary>Where a bite's sound is played from: address and seconds in and out; null while the copy is not made.</summary>
    public (string Address, string In, string Out)? Hear(ShownBite shown)
    {
        if (shown.Sitting.SoundSourceId is not { } id || footage.Source(id) is not { Place: { } place } source || !cache.IsPlayable(source))
        {
            return null;
        }
        var range = shown.Bite.Range;
        return (FormattableString.Invariant($"/media/{id}/play"), place.ToSource(range.In).FromZero.ToSecondsText(), place.ToSource(range.Out).FromZero.ToSecondsText());
    }

    public void OnGet() => Load();

    public IActionResult OnPostDescribe(long bite, string? theme, string? note)
    {
        string cleanTheme = TypedText.OneLine(theme ?? ""), cleanNote = TypedText.OneLine(note ?? "");
        return cleanTheme.Length > 60 || cleanNote.Length > 500
            ? Refused("A theme takes at most 60 characters, a note 500.")
            : On(bite, () => bites.Describe(bite, cleanTheme, cleanNote));
    }

    public IActionResult OnPostAside(long bite, bool back) => On(bite, () => bites.SetAside(bite, !back));

    /// <summary>Puts a bite at the story's end.</summary>
    public IActionResult OnPostLay(long bite) => On(bite, () =>
    {
        var story = Desk.StoryOf(Production);
        var kept = bites.Get(bite)!;
        stories.Apply(story.Id, story.Version, new LayCard(new Card(Guid.NewGuid(), kept.Id, kept.SittingId, kept.Range, null), story.Story.Cards.Count), Who);
    });

    private IActionResult On(long bite, Action change)
    {
        if (bites.Get(bite) is not { } found || SittingHere(found.SittingId) is null)
        {
            return NotFound();
        }
        try
        {
            change();
        }
        catch (Exception e) when (e is EditRefusedException or ConflictException)
        {
            return Refused(e.Message, StatusCodes.Status409Conflict);
        }
        if (!IsFragment)
        {
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/bites"));
        }
        Load();
        Response.Headers["HX-Trigger"] = "changed";
        return Partial("_List", this);
    }

    private void Load()
    {
        var all = Desk.Bites(Production.Id);
        (Kept, Aside) = ([.. all.Where(b => !b.Bite.IsAside)], [.. all.Where(b => b.Bite.IsAside)]);
        InStory = Desk.StoryOf(Production).Story.Cards.Select(c => c.BiteId).ToHashSet();
    }
}
