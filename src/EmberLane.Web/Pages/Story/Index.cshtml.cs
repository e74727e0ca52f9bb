using System.Text.Json;
using EmberLane.Application.Gathering;
using EmberLane.Core;
using EmberLane.Core.Handoff;
using EmberLane.Core.Stories;
using EmberLane.Core.Typed;
using EmberLane.Store;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Story;

/// <summary>Story: the cards in order beside the running time, and the bites not used yet.</summary>
public sealed class IndexModel(Footage footage, Desk desk, Store.Bites bites, Store.Stories stories, MediaCache cache) : LiveRoom(footage, desk)
{
    private readonly Footage footage = footage;

    public override string Room => "Story";

    public StoredStory Stored { get; private set; } = null!;

    public IReadOnlyDictionary<long, ShownBite> Bites { get; private set; } = new Dictionary<long, ShownBite>();

    public IReadOnlyDictionary<long, ListedSitting> Sittings { get; private set; } = new Dictionary<long, ListedSitting>();

    public IReadOnlyList<ShownBite> Unused => [.. Bites.Values.Where(b => !b.Bite.IsAside && Stored.Story.Cards.All(c => c.BiteId != b.Bite.Id))];

    public FrameRate Rate => Stored.Start.Count.Rate;

    /// <summary>The story without what is set aside.</summary>
    public StoryCut Cut { get; private set; } = null!;

    /// <summary>All stories of the production, those that were put away last.</summary>
    public IReadOnlyList<StoryHead> Stories { get; private set; } = [];

    /// <summary>What is shown where the chosen angle does not roll; empty when it does.</summary>
    public string ShownInstead(Card card) => string.Join(", ", Conform.ShownInstead(card, Cut.Of(card), Sittings[card.SittingId], Stored.Start.Count).Select(System.IO.Path.GetFileNameWithoutExtension));

    public void OnGet() => Load();

    public IActionResult OnPostLay(long version, long bite, int at) =>
        bites.Get(bite) is { } kept && SittingHere(kept.SittingId) is not null
            ? Edit(version, new LayCard(new Card(Guid.NewGuid(), kept.Id, kept.SittingId, kept.Range, null), at))
            : NotFound();

    public IActionResult OnPostMove(long version, Guid card, int to) => Edit(version, new MoveCard(card, to));

    public IActionResult OnPostTakeOut(long version, Guid card) => Edit(version, new TakeOut(card));

    public IActionResult OnPostAngle(long version, Guid card, long? angle)
    {
        var sitting = Desk.StoryOf(Production, Who).Story.Cards.FirstOrDefault(c => c.Id == card)?.SittingId;
        return angle is null || (sitting is { } id && footage.SourcesOf(id).Any(s => s.Id == angle && s.Facts.Picture is not null)) ? Edit(version, new ShowAngle(card, angle)) : NotFound();
    }

    public IActionResult OnPostUndo(long version, bool redo) => Change(() => stories.Step(Desk.StoryToChange(Production, Who).Id, version, redo, Who));

    /// <summary>Gives the story in hand another title and target length.</summary>
    public IActionResult OnPostDescribe(string? title, string? target) => Change(() =>
    {
        stories.Apply(Desk.StoryToChange(Production, Who).Id, new DescribeStory(title ?? "", ClockText.Read(target ?? "") ?? MediaTime.Zero), Who);
    });

    /// <summary>Begins another story, which is in hand from then on.</summary>
    public IActionResult OnPostNew(string? title) => Change(() => Desk.NewStory(Production, title ?? "", Who));

    public IActionResult OnPostTake(long story) => OnStory(story, () =>
    {
        stories.PutAway(story, false, Who);
        stories.TakeInHand(Production.Id, story);
    });

    public IActionResult OnPostAway(long story) => OnStory(story, () => stories.PutAway(story, true, Who));

    private IActionResult OnStory(long story, Action change) => stories.Get(story, Who)?.ProductionId == Production.Id ? Change(change) : NotFound();

    /// <summary>What the player needs of a card: for each of its parts sound and picture with seconds in and out, as JSON.</summary>
    public string PlayOf(Card card)
    {
        var sitting = Sittings[card.SittingId];
        return JsonSerializer.Serialize(Cut.Of(card).Select(piece =>
        {
            var shown = CardFrames.Of(piece, Rate).Shown(Rate);
            var picture = sitting.Angles.Where(a => a.Place is { } p && p.Fill(a.Facts.Duration).Covers(shown)).OrderBy(a => a.Id == card.Angle ? 0 : 1).FirstOrDefault();
            return new { length = shown.Length.ToSecondsText(), sound = Part(sitting.Sound, shown), picture = Part(picture, shown) };
        }));
    }

    private object? Part(ListedSource? source, SittingRange shown) =>
        source is { Place: { } place } && footage.Source(source.Id) is { } stored && cache.IsPlayable(stored)
            ? new { address = FormattableString.Invariant($"/media/{source.Id}/play"), at = place.ToSource(shown.In).FromZero.ToSecondsText() }
            : null;

    private IActionResult Edit(long version, StoryEdit edit) => Change(() => stories.Apply(Desk.StoryToChange(Production, Who).Id, version, edit, Who));

    private IActionResult Change(Action change)
    {
        try
        {
            change();
        }
        catch (Exception e) when (e is EditRefusedException or ConflictException)
        {
            Message = e.Message;
        }
        if (!IsFragment && Message is null)
        {
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/story"));
        }
        Load();
        Response.Headers["HX-Trigger"] = "changed";
        return IsFragment ? Partial("_Story", this) : Page();
    }

    private void Load()
    {
        Stored = Desk.StoryOf(Production, Who);
        Cut = Desk.CutOf(Stored);
        Stories = stories.Of(Production.Id);
        Bites = Desk.Bites(Production.Id).ToDictionary(b => b.Bite.Id);
        Sittings = Desk.Listed(Stored);
    }
}
