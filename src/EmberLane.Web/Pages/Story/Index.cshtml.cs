using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Handoff;
using EmberLane.Core.People;
using EmberLane.Core.Seams;
using EmberLane.Core.Stories;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using EmberLane.Web.Rooms.Drawn;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Story;

/// <summary>Story: the cards in order beside the running time, the seams between them, and the bites not used yet.</summary>
[Needs(Rights.Order)]
public sealed partial class IndexModel(
    Footage footage,
    Desk desk,
    Store.Bites bites,
    Store.Stories stories,
    Store.Changes changes,
    StoryTable table,
    StorySeams seams,
    SeamSounds sounds,
    Store.Transcripts transcripts,
    Productions productions,
    MediaCache cache,
    KeptDrawings drawings,
    ScratchVoices voices
) : LiveRoom(footage, desk)
{
    private readonly Footage footage = footage;

    public override string Room => "Story";

    /// <inheritdoc/>
    public override string CommandPlace => CommandPlaces.Story;

    public StoredStory Stored { get; private set; } = null!;

    /// <summary>The cards as they are read, by id.</summary>
    public IReadOnlyDictionary<Guid, ShownCard> Shown { get; private set; } = new Dictionary<Guid, ShownCard>();

    public IReadOnlyDictionary<long, ListedSitting> Sittings { get; private set; } = new Dictionary<long, ListedSitting>();

    /// <summary>Plain media and pictures over cards, by source.</summary>
    public IReadOnlyDictionary<long, ListedSource> Files { get; private set; } = new Dictionary<long, ListedSource>();

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

    /// <summary>Its pieces by their ids.</summary>
    public IReadOnlyDictionary<Guid, Piece> ById { get; private set; } = new Dictionary<Guid, Piece>();

    /// <summary>The story without what is set aside.</summary>
    public StoryCut Cut { get; private set; } = null!;

    /// <summary>All stories of the production, those that were put away last.</summary>
    public IReadOnlyList<StoryHead> Stories { get; private set; } = [];

    public IEnumerable<StoryHead> OtherStories => Stories.Where(s => s.Id != Stored.Id);

    /// <summary>The shots of the cards, where a camera plan is followed.</summary>
    public IReadOnlyDictionary<Guid, Core.Timeline.LaidDissolve> Dissolves { get; private set; } =
        new Dictionary<Guid, Core.Timeline.LaidDissolve>();

    public IReadOnlyDictionary<Guid, IReadOnlyList<Core.Handoff.AngleShot>> Shots { get; private set; } =
        new Dictionary<Guid, IReadOnlyList<Core.Handoff.AngleShot>>();

    /// <summary>The seams in order, as the page draws them.</summary>
    public IReadOnlyList<StorySeam> Seams { get; private set; } = [];

    /// <summary>The same by the card before each; of the first card's begin by nothing.</summary>
    public IReadOnlyDictionary<Guid, StorySeam> SeamAfter { get; private set; } = new Dictionary<Guid, StorySeam>();

    /// <summary>The seam that lies open, by the card before it; null when none does.</summary>
    public Loupe? Open { get; private set; }

    /// <summary>Who carries the story, how fast they talk, and what it would be with the other takes.</summary>
    public StoryShares Shares { get; private set; } = StoryShares.Nothing;

    /// <summary>The sections by their headings: how many cards each has, and how long it runs.</summary>
    public IReadOnlyDictionary<Guid, (int Cards, MediaTime Running)> Sections { get; private set; } =
        new Dictionary<Guid, (int, MediaTime)>();

    /// <summary>The pieces that are folded away.</summary>
    public IReadOnlySet<Guid> Folded { get; private set; } = new HashSet<Guid>();

    /// <summary>The people of the production, a mark each.</summary>
    public IReadOnlyDictionary<string, SpeakerMark> People { get; private set; } = new Dictionary<string, SpeakerMark>();

    /// <summary>What is to be recorded yet.</summary>
    public IReadOnlyList<Narration> Lines => [.. Stored.Story.Pieces.OfType<Narration>()];

    /// <summary>Files that can be laid as they are: what belongs to no sitting.</summary>
    public IReadOnlyList<(long Id, string Name, MediaTime Length)> Loose { get; private set; } = [];

    /// <summary>Each person's share with where its part of the bar begins, of a thousand.</summary>
    public IEnumerable<(SpokenShare Share, int From)> SharesDrawn()
    {
        var from = 0;
        foreach (var share in Shares.People)
        {
            yield return (share, from);
            from += share.Of.Value;
        }
    }

    /// <summary>How many words a narrator reads in a minute.</summary>
    public int WordsAMinute { get; private set; }

    /// <summary>Whether a machine reads the narration.</summary>
    public bool IsRead { get; private set; }

    public void OnGet() => Load(AtOnce);

    /// <summary>The story again, where somebody has changed something since the page that asks was made.</summary>
    public IActionResult OnGetStory(long seen, int shown)
    {
        if (changes.Newest(Production.Id) == seen)
        {
            return new NoContentResult();
        }
        Load(shown);
        return Answer();
    }

    /// <summary>Other cards that show something of the same, of this story or of others.</summary>
    public IReadOnlyList<StoryUse> Elsewhere { get; private set; } = [];

    /// <summary>So many of them are told.</summary>
    private const int MostElsewhere = 12;

    /// <summary>What can be done with a piece: its buttons, for the one that a person is at.</summary>
    public IActionResult OnGetActs(Guid card)
    {
        Stored = Desk.StoryOf(Production, Who);
        var at = Stored.Story.IndexOf(card);
        if (at < 0)
        {
            return NotFound();
        }
        if (Stored.Story.Pieces[at] is not Card own)
        {
            return Partial("_OtherActs", Stored.Story.Pieces[at]);
        }
        (Shown, Sittings) = (Desk.Cards(Stored), Desk.Listed(Stored));
        Elsewhere =
        [
            .. stories
                .UsesIn(own.SittingId)
                .Where(u => (u.Story != Stored.Id || u.Card != own.Id) && u.Range.In < own.Range.Out && own.Range.In < u.Range.Out)
                .Take(MostElsewhere),
        ];
        return Partial("_Acts", (this, own));
    }

    /// <summary>Further bites of the shelf, behind those that the page has.</summary>
    public PartialViewResult OnGetMore(int shown)
    {
        Stored = Desk.StoryOf(Production, Who);
        LoadShelf(Math.Max(0, shown), AtOnce);
        return Partial("_Shelf", this);
    }

    /// <summary>The other takes of a card, as they can be chosen.</summary>
    public IReadOnlyList<(long Bite, string Says)> OtherTakes(Card card) =>
        [
            .. card
                .OtherTakes.Split(' ', StringSplitOptions.RemoveEmptyEntries)
                .Select(t => bites.Get(long.Parse(t, System.Globalization.CultureInfo.InvariantCulture)))
                .OfType<Core.Bites.Bite>()
                .Select(b => (b.Id, $"{footage.Sitting(b.SittingId)?.Title}, {b.Range.In}, {b.Range.Length}")),
        ];

    private IActionResult Edit(long version, StoryEdit edit) => Change(story => stories.Apply(story.Id, version, edit, Who));

    // Makes a change of the story in hand; the version is the one that the page showed.
    private IActionResult Edit(long version, Func<StoredStory, StoryEdit?> edit) =>
        Change(story =>
        {
            if (edit(At(story, version)) is { } made)
            {
                stories.Apply(story.Id, version, made, Who);
            }
        });

    // The story as the page showed it: what a person pointed at is looked up there.
    private StoredStory At(StoredStory story, long version) =>
        story.Version == version || stories.At(story.Id, version) is not { } was ? story : story with { Version = version, Story = was };

    private IActionResult Change(Action<StoredStory> change)
    {
        Message = Try(NewsOf.Story, () => change(Desk.StoryToChange(Production, Who)));
        if (!IsFragment && Message is null)
        {
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/story"));
        }
        Load(int.TryParse(Request.Form["shown"], out var shown) ? shown : AtOnce);
        Response.Headers["HX-Trigger"] = "changed";
        return IsFragment ? Answer() : Page();
    }

    private void Load(int shelf)
    {
        Seen = changes.Newest(Production.Id);
        Stored = Desk.StoryOf(Production, Who);
        Cut = Desk.CutOf(Stored);
        WordsAMinute = Desk.WordsAMinute(Production.Id);
        IsRead = voices.IsWanted(Production.Id);
        Stories = stories.Of(Production.Id);
        Shown = Desk.Cards(Stored);
        Sittings = Desk.Listed(Stored);
        Files = Desk.FilesOf(Stored);
        Shots = Desk.ShotsOf(Stored, Cut);
        Dissolves = Desk.DissolvesOf(Stored);
        Seams = seams.Of(Stored, Shown, Cut, Sittings, Shots);
        SeamAfter = Seams.ToDictionary(s => s.Card);
        ById = Stored.Story.Pieces.ToDictionary(p => p.Id);
        Shares = Desk.Shares(Stored, Shown, Cut);
        People = Desk.People(Stored);
        Loose =
        [
            .. footage
                .Sources(Production.Id)
                .Where(f => f.SittingId is null)
                .OrderBy(f => f.Name, StringComparer.OrdinalIgnoreCase)
                .Select(f => (f.Id, f.Name, f.Facts.Duration)),
        ];
        var parted = StorySections.Of(Stored.Story);
        Sections = parted
            .Where(s => s.Head is not null)
            .ToDictionary(
                s => s.Head!.Id,
                s => (s.In(Stored.Story).Count(p => p is Card), Rate.TimeOf(s.In(Stored.Story).Sum(p => Cut.Frames(p, Rate))))
            );
        Folded = parted.Where(s => s.Head is { IsFolded: true }).SelectMany(s => s.In(Stored.Story)).Select(p => p.Id).ToHashSet();
        LoadShelf(0, LongList.Whole(shelf, AtOnce));
        Open = LoupeOf(Sent("seam"));
        Draw();
    }

    private void LoadShelf(int skip, int most)
    {
        var some = bites.Some(Production.Id, new BiteFilter { InStory = false, Story = Stored.Id }, skip, most);
        (Unused, ShownUpTo, UnusedCount) = (Desk.Shown(Production.Id, some), skip + some.Count, bites.Unused(Production.Id, Stored.Id));
    }
}
