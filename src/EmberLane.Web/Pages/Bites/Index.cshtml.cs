using EmberLane.Application.Gathering;
using EmberLane.Core;
using EmberLane.Core.Stories;
using EmberLane.Store;
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

    /// <summary>Where a bite's sound is played from: address, and seconds in and out of each of its parts; null while the copy is not made.</summary>
    public (string Address, string Pieces)? Hear(ShownBite shown)
    {
        if (shown.Sitting.SoundSourceId is not { } id || footage.Source(id) is not { Place: { } place } source || !cache.IsPlayable(source))
        {
            return null;
        }
        return (FormattableString.Invariant($"/media/{id}/play"), string.Join(' ', shown.Pieces.Select(p => $"{place.ToSource(p.In).FromZero.ToSecondsText()},{place.ToSource(p.Out).FromZero.ToSecondsText()}")));
    }

    public void OnGet() => Load();

    public IActionResult OnPostDescribe(long bite, string? theme, string? note)
    {
        string cleanTheme = TypedText.OneLine(theme ?? ""), cleanNote = TypedText.OneLine(note ?? "");
        return cleanTheme.Length > 60 || cleanNote.Length > 500
            ? Refused("A theme takes at most 60 characters, a note 500.")
            : On(bite, () => bites.Describe(bite, cleanTheme, cleanNote, Who));
    }

    public IActionResult OnPostAside(long bite, bool back) => On(bite, () => bites.SetAside(bite, !back, Who));

    /// <summary>Takes back what this person did to bites last, or brings it again.</summary>
    public IActionResult OnPostUndo(bool redo) => Changed(() =>
    {
        if (!bites.Step(Production.Id, redo, Who))
        {
            throw new EditRefusedException(StepWords.Of(null, redo));
        }
    });

    /// <summary>Puts a bite at the story's end; one that is in the story already only when it is asked for <paramref name="again"/>.</summary>
    public IActionResult OnPostLay(long bite, bool again) => On(bite, () =>
    {
        var story = Desk.StoryToChange(Production, Who);
        var kept = bites.Get(bite)!;
        if (!again && story.Story.Cards.FindIndex(c => c.BiteId == bite) is >= 0 and var place)
        {
            throw new EditRefusedException(FormattableString.Invariant($"It is in the story already, as card {place + 1}. Shift S lays it once more."));
        }
        stories.Apply(story.Id, story.Version, new LayCard(new Card(Guid.NewGuid(), kept.Id, kept.SittingId, kept.Range, null), story.Story.Cards.Count), Who);
    });

    private IActionResult On(long bite, Action change) => bites.Get(bite) is { } found && SittingHere(found.SittingId) is not null ? Changed(change) : NotFound();

    private IActionResult Changed(Action change)
    {
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
        InStory = Desk.StoryOf(Production, Who).Story.Cards.Select(c => c.BiteId).ToHashSet();
    }
}
