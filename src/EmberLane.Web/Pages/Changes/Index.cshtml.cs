using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.People;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Changes;

/// <summary>Changes: who changed what in the whole production, and when; each change can be taken back alone.</summary>
[Needs(Rights.Run)]
public sealed class IndexModel(Footage footage, Desk desk, Store.Changes changes, ProductionChanges production, TimeProvider time)
    : LiveRoom(footage, desk)
{
    /// <summary>So many are shown at once.</summary>
    public const int AtOnce = 100;

    public override string Room => "Changes";

    public IReadOnlyList<ListedChange> Listed { get; private set; } = [];

    public IReadOnlyList<string> People { get; private set; } = [];

    /// <summary>Whose changes are shown; null for everybody's.</summary>
    public string? Person { get; private set; }

    /// <summary>Which changes are shown; null for all.</summary>
    public ChangedThing? Thing { get; private set; }

    /// <summary>Changes made before this one are shown; null for the newest.</summary>
    public long? Before { get; private set; }

    /// <summary>What is to be shown further down, when there is more.</summary>
    public long? Older => Listed.Count == AtOnce ? Listed[^1].Id : null;

    public string Moment(DateTimeOffset at) => Moments.Of(at, time);

    /// <summary>The address of this list with another end.</summary>
    public string Address(long? before) =>
        FormattableString.Invariant(
            $"/productions/{Production.Id}/changes?of={Uri.EscapeDataString(Person ?? "")}&thing={Thing}&before={before}"
        );

    /// <summary>Where what was changed is seen.</summary>
    public string Place(ListedChange change)
    {
        var here = FormattableString.Invariant($"/productions/{Production.Id}");
        return change.Thing switch
        {
            ChangedThing.Words when change.SittingId is { } sitting => FormattableString.Invariant($"{here}/read/{sitting}"),
            ChangedThing.Text => FormattableString.Invariant($"{here}/read/{change.SubjectId}/texts"),
            ChangedThing.Place => FormattableString.Invariant($"{here}/gather?sitting={change.SubjectId}"),
            ChangedThing.Cameras => FormattableString.Invariant($"{here}/cameras/{change.SubjectId}"),
            ChangedThing.Captions => here + "/handoff/captions",
            ChangedThing.Bite => here + "/bites",
            ChangedThing.Story or ChangedThing.StoryItself => here + "/story",
            ChangedThing.Gather => here + "/gather",
            _ => "/",
        };
    }

    /// <summary>What a change is about, as a person reads it.</summary>
    public static string Name(ChangedThing thing) =>
        thing switch
        {
            ChangedThing.Words => "Words",
            ChangedThing.Text => "Choice of text",
            ChangedThing.Gather => "Files and sittings",
            ChangedThing.Place => "Place on the clock",
            ChangedThing.Cameras => "Cameras",
            ChangedThing.Captions => "Captions",
            ChangedThing.Bite => "Bite",
            ChangedThing.Story => "Story",
            ChangedThing.StoryItself => "List of stories",
            _ => "Production",
        };

    public IActionResult OnGet(string? of, ChangedThing? thing, long? before)
    {
        Load(of, thing, before);
        return IsFragment ? Partial("_List", this) : Page();
    }

    public IActionResult OnPostBack(long change, string? of, ChangedThing? thing, long? before)
    {
        if (Try(NewsOf.Production, () => Message = $"Taken back: {production.TakeBack(Production.Id, change, Who)}.") is { } refused)
        {
            return Refused(refused);
        }
        Load(of, thing, before);
        return IsFragment ? Partial("_List", this) : Redirect(Address(before));
    }

    private void Load(string? of, ChangedThing? thing, long? before)
    {
        (Person, Thing, Before) = (string.IsNullOrEmpty(of) ? null : of, thing, before);
        People = changes.People(Production.Id);
        Listed = changes.Of(Production.Id, AtOnce, before, Person, thing);
    }
}
