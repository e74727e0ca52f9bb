using System.Text.Json;
using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Handoff;
using EmberLane.Core.Import;
using EmberLane.Core.Stories;
using EmberLane.Store;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Story;

/// <summary>Story: the cards in order beside the running time, and the bites not used yet.</summary>
public sealed class IndexModel(
    Footage footage,
    Desk desk,
    Store.Bites bites,
    Store.Stories stories,
    Store.Changes changes,
    MediaCache cache
) : LiveRoom(footage, desk)
{
    private readonly Footage footage = footage;

    public override string Room => "Story";

    /// <inheritdoc/>
    public override string CommandPlace => CommandPlaces.Story;

    public StoredStory Stored { get; private set; } = null!;

    public IReadOnlyDictionary<long, ShownBite> Bites { get; private set; } = new Dictionary<long, ShownBite>();

    public IReadOnlyDictionary<long, ListedSitting> Sittings { get; private set; } = new Dictionary<long, ListedSitting>();

    /// <summary>So many bites of the shelf are shown at first, and with each further part.</summary>
    private const int AtOnce = 60;

    private readonly HeardSources heard = new(footage, cache);

    /// <summary>Bites that are not in the story; further ones follow as one scrolls.</summary>
    public IReadOnlyList<ShownBite> Unused { get; private set; } = [];

    /// <summary>How many bites are not in the story, and how many of them the page has with these.</summary>
    public int UnusedCount { get; private set; }

    public int ShownUpTo { get; private set; }

    /// <summary>The newest change that the page shows: news of older ones is none.</summary>
    public long Seen { get; private set; }

    public FrameRate Rate => Stored.Start.Count.Rate;

    /// <summary>The story without what is set aside.</summary>
    public StoryCut Cut { get; private set; } = null!;

    /// <summary>All stories of the production, those that were put away last.</summary>
    public IReadOnlyList<StoryHead> Stories { get; private set; } = [];

    public IEnumerable<StoryHead> OtherStories => Stories.Where(s => s.Id != Stored.Id);

    /// <summary>What is shown where the chosen angle does not roll; empty when it does.</summary>
    public string ShownInstead(Card card) =>
        string.Join(
            ", ",
            Conform
                .ShownInstead(card, Cut.Of(card), Sittings[card.SittingId], Stored.Start.Count)
                .Select(System.IO.Path.GetFileNameWithoutExtension)
        );

    public void OnGet() => Load(AtOnce);

    /// <summary>The story again, where somebody has changed something since the page that asks was made.</summary>
    public IActionResult OnGetStory(long seen, int shown)
    {
        if (changes.Newest(Production.Id) == seen)
        {
            return new NoContentResult();
        }
        Load(shown);
        return Partial("_Story", this);
    }

    /// <summary>Further bites of the shelf, behind those that the page has.</summary>
    public PartialViewResult OnGetMore(int shown)
    {
        Stored = Desk.StoryOf(Production, Who);
        LoadShelf(Math.Max(0, shown), AtOnce);
        return Partial("_Shelf", this);
    }

    public IActionResult OnPostLay(long version, long bite, int at) =>
        bites.Get(bite) is { } kept && SittingHere(kept.SittingId) is not null
            ? Edit(version, new LayCard(new Card(Guid.NewGuid(), kept.Id, kept.SittingId, kept.Range, null), at))
            : NotFound();

    public IActionResult OnPostMove(long version, Guid card, int to) => Edit(version, new MoveCard(card, to));

    /// <summary>The other takes of a card, as they can be chosen.</summary>
    public IReadOnlyList<(long Bite, string Says)> OtherTakes(Card card) =>
        [
            .. card
                .OtherTakes.Split(' ', StringSplitOptions.RemoveEmptyEntries)
                .Select(t => bites.Get(long.Parse(t, System.Globalization.CultureInfo.InvariantCulture)))
                .OfType<Core.Bites.Bite>()
                .Select(b => (b.Id, $"{footage.Sitting(b.SittingId)?.Title}, {b.Range.In}, {b.Range.Length}")),
        ];

    /// <summary>Shows another take of a card.</summary>
    public IActionResult OnPostOtherTake(long version, Guid card, long bite) =>
        bites.Get(bite) is { } kept && SittingHere(kept.SittingId) is not null
            ? Edit(version, new ShowTake(card, kept.Id, kept.SittingId, kept.Range))
            : NotFound();

    /// <summary>The lines that were missing beside a card are there, or not wanted.</summary>
    public IActionResult OnPostNoSpace(long version, Guid card) => Edit(version, new FillSpace(card, "", ""));

    public IActionResult OnPostTakeOut(long version, Guid card) => Edit(version, new TakeOut(card));

    public IActionResult OnPostAngle(long version, Guid card, long? angle)
    {
        var sitting = Desk.StoryOf(Production, Who).Story.Cards.FirstOrDefault(c => c.Id == card)?.SittingId;
        return angle is null || (sitting is { } id && footage.SourcesOf(id).Any(s => s.Id == angle && s.Facts.Picture is not null))
            ? Edit(version, new ShowAngle(card, angle))
            : NotFound();
    }

    public IActionResult OnPostUndo(long version, bool redo) =>
        Change(() => stories.Step(Desk.StoryToChange(Production, Who).Id, version, redo, Who));

    /// <summary>Gives the story in hand another title and target length.</summary>
    public IActionResult OnPostDescribe(string? title, string? target) =>
        Change(() =>
        {
            stories.Apply(
                Desk.StoryToChange(Production, Who).Id,
                new DescribeStory(title ?? "", ClockText.Read(target ?? "") ?? MediaTime.Zero),
                Who
            );
        });

    /// <summary>Begins another story, which is in hand from then on.</summary>
    public IActionResult OnPostNew(string? title) => Change(() => Desk.NewStory(Production, title ?? "", Who));

    public IActionResult OnPostTake(long story) =>
        OnStory(
            story,
            () =>
            {
                stories.PutAway(story, false, Who);
                stories.TakeInHand(Production.Id, story);
            }
        );

    public IActionResult OnPostAway(long story) => OnStory(story, () => stories.PutAway(story, true, Who));

    private IActionResult OnStory(long story, Action change) =>
        stories.Get(story, Who)?.ProductionId == Production.Id ? Change(change) : NotFound();

    /// <summary>What the player needs of a card: for each of its parts sound and picture with seconds in and out, as JSON.</summary>
    public string PlayOf(Card card)
    {
        var sitting = Sittings[card.SittingId];
        return JsonSerializer.Serialize(
            CardFrames
                .Of(Cut.Of(card), Rate)
                .Select(frames =>
                {
                    var shown = frames.Shown(Rate);
                    var picture = sitting
                        .Angles.Where(a => a.Place is { } p && p.Fill(a.Facts.Duration).Covers(shown))
                        .OrderBy(a => a.Id == card.Angle ? 0 : 1)
                        .FirstOrDefault();
                    return new
                    {
                        length = shown.Length.ToSecondsText(),
                        sound = Part(sitting.Sound, shown),
                        picture = Part(picture, shown),
                    };
                })
        );
    }

    private object? Part(ListedSource? source, SittingRange shown) =>
        source is not null && heard.Of(source.Id) is { } place
            ? new
            {
                address = FormattableString.Invariant($"/media/{source.Id}/play"),
                at = place.ToSource(shown.In).FromZero.ToSecondsText(),
            }
            : null;

    private IActionResult Edit(long version, StoryEdit edit) =>
        Change(() => stories.Apply(Desk.StoryToChange(Production, Who).Id, version, edit, Who));

    private IActionResult Change(Action change)
    {
        Message = Try(NewsOf.Story, change);
        if (!IsFragment && Message is null)
        {
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/story"));
        }
        Load(int.TryParse(Request.Form["shown"], out var shown) ? shown : AtOnce);
        Response.Headers["HX-Trigger"] = "changed";
        return IsFragment ? Partial("_Story", this) : Page();
    }

    private void Load(int shelf)
    {
        Seen = changes.Newest(Production.Id);
        Stored = Desk.StoryOf(Production, Who);
        Cut = Desk.CutOf(Stored);
        Stories = stories.Of(Production.Id);
        Bites = Desk.Bites(Stored);
        Sittings = Desk.Listed(Stored);
        LoadShelf(0, LongList.Whole(shelf, AtOnce));
    }

    private void LoadShelf(int skip, int most)
    {
        var some = bites.Some(Production.Id, new BiteFilter { InStory = false, Story = Stored.Id }, skip, most);
        (Unused, ShownUpTo, UnusedCount) = (Desk.Shown(Production.Id, some), skip + some.Count, bites.Unused(Production.Id, Stored.Id));
    }
}
