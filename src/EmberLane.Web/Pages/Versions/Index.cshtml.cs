using System.Globalization;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.People;
using EmberLane.Core.Stories;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Versions;

/// <summary>The versions of the story in hand: what it was and when, compared with what it is, and brought back.</summary>
[Needs(Rights.Order)]
public sealed class IndexModel(Footage footage, Desk desk, Store.Stories stories, StoryTable table, TimeProvider time)
    : LiveRoom(footage, desk)
{
    // What the cards of the story in hand say is known; of others it is looked up.
    private IReadOnlyDictionary<Guid, CardReading> known = new Dictionary<Guid, CardReading>();
    private Dictionary<Guid, Card> now = [];
    private Func<Card, string>? said;

    /// <summary>So many of the newest steps are listed.</summary>
    private const int Listed = 200;

    public override string Room => "Story";

    public StoredStory Stored { get; private set; } = null!;

    /// <summary>The version, or the story, that the one in hand is compared with; null when none was chosen.</summary>
    public Core.Stories.Story? Was { get; private set; }

    /// <summary>What that is, in words.</summary>
    public string WasSays { get; private set; } = "";

    /// <summary>Which version was chosen; null for another story.</summary>
    public long? WasVersion { get; private set; }

    /// <summary>The query that names what was chosen.</summary>
    public string Chosen { get; private set; } = "";

    public IReadOnlyList<NamedVersion> Named { get; private set; } = [];

    public IReadOnlyList<StepHead> Steps { get; private set; } = [];

    public IReadOnlyList<StoryHead> Others { get; private set; } = [];

    public IReadOnlyList<ComparedPiece> Lines { get; private set; } = [];

    /// <summary>How long the two run.</summary>
    public (MediaTime Was, MediaTime Now) Running { get; private set; }

    public string? Asked { get; private set; }

    /// <summary>A moment as people say it.</summary>
    public string Said(DateTimeOffset moment) => Moments.Of(moment, time);

    /// <summary>Whether what is as it was is listed too, however much it is.</summary>
    public bool ListsAll { get; private set; }

    public void OnGet(long? was, long? story, string? at, bool all)
    {
        ListsAll = all;
        Load(was, story, at);
    }

    /// <summary>Gives the story as it is now a name.</summary>
    public IActionResult OnPostName(string? name) => Make("", story => stories.Name(story.Id, name ?? "", Who));

    /// <summary>Makes the story what it was at a version; what it is now is a version too, and undo leads back.</summary>
    public IActionResult OnPostBringBack(long was) =>
        Make("", story => stories.Apply(story.Id, new BecomeVersion(VersionOf(story, was).Pieces), Who));

    /// <summary>Begins a story that is what this one was at a version.</summary>
    public IActionResult OnPostCopy(long was, string? title) =>
        Make("", story => stories.TakeInHand(Production.Id, stories.Copy(story with { Story = VersionOf(story, was) }, title ?? "", Who)));

    /// <summary>Brings one piece of what was chosen over into the story in hand, to where it lay there.</summary>
    public IActionResult OnPostBringOver(long? was, long? story, Guid card) =>
        Make(
            story is { } other ? FormattableString.Invariant($"?story={other}") : FormattableString.Invariant($"?was={was}"),
            own =>
            {
                var shown = Other(own, was, story) ?? throw new EditRefusedException("That version is no longer there.");
                var at = shown.IndexOf(card);
                if (at < 0)
                {
                    throw new EditRefusedException("That card is not in this version.");
                }
                var piece = shown.Pieces[at];
                var edit = LayPiece.Of(piece, at).Onto(shown with { Pieces = shown.Pieces.RemoveAt(at) }, own.Story).Within(own.Story);
                stories.Apply(own.Id, edit, Who);
            }
        );

    /// <summary>What a piece says, by the text as it is read now.</summary>
    public string SaidOf(Piece piece) =>
        piece is not Card card ? StoryWords.Named(piece, _ => "")
        : now.GetValueOrDefault(card.Id) is { } own && own.BiteId == card.BiteId && own.Range == card.Range ? known[card.Id].Said
        : (said ??= table.Saying())(card);

    private IActionResult Make(string back, Action<StoredStory> change)
    {
        Message = Try(NewsOf.Story, () => change(Desk.StoryToChange(Production, Who)));
        if (Message is null)
        {
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/versions{back}"));
        }
        Load(null, null, null);
        return Page();
    }

    private Core.Stories.Story VersionOf(StoredStory story, long was) =>
        stories.At(story.Id, was) ?? throw new EditRefusedException("Nothing is known of that version. Choose one of the list.");

    private Core.Stories.Story? Other(StoredStory own, long? was, long? story) =>
        story is { } other
            ? stories.Get(other, Who) is { } found && found.ProductionId == Production.Id
                ? found.Story
                : null
            : was is { } version
                ? stories.At(own.Id, version)
                : null;

    private void Load(long? was, long? story, string? at)
    {
        Stored = Desk.StoryOf(Production, Who);
        Named = stories.Named(Stored.Id);
        Steps = stories.Steps(Stored.Id, Listed);
        Others = [.. stories.Of(Production.Id).Where(s => s.Id != Stored.Id)];
        Asked = at;
        if (at is { Length: > 0 })
        {
            if (!DateTimeOffset.TryParse(at, CultureInfo.InvariantCulture, DateTimeStyles.AssumeLocal, out var moment))
            {
                Message = "Choose a day and a time.";
                return;
            }
            was = stories.VersionAt(Stored.Id, moment);
            if (was is null)
            {
                Message = "Nothing is known of the story at that time.";
                return;
            }
            WasSays = FormattableString.Invariant($"as it was on {moment:d MMM yyyy} at {moment:HH:mm}");
        }
        Was = Other(Stored, was, story);
        if (Was is null)
        {
            Message ??= was is null && story is null ? null : "That version is not known.";
            return;
        }
        WasVersion = story is null ? was : null;
        Chosen = story is { } id ? FormattableString.Invariant($"story={id}") : FormattableString.Invariant($"was={was}");
        WasSays =
            story is not null ? $"“{Was.Title}”"
            : WasSays.Length > 0 ? WasSays
            : Named.FirstOrDefault(n => n.Version == was) is { } named ? $"“{named.Name}”"
            : FormattableString.Invariant($"version {was}");
        known = stories.ReadingsOf(Stored.Id);
        now = Stored.Story.Cards.ToDictionary(c => c.Id);
        Lines = StoryCompare.Of(Was, Stored.Story);
        var rate = Stored.Start.Count.Rate;
        Running = (Desk.CutOf(Production.Id, Was).RunningTime(rate), Desk.CutOf(Stored).RunningTime(rate));
    }

    /// <summary>
    /// The lines that are listed: those that are not as they were, with a few around them; between them how many are as they were, in a
    /// row.
    /// </summary>
    public IEnumerable<(ComparedPiece? Line, int Same)> Told => StoryCompare.Told(Lines, ListsAll ? Lines.Count : Around);

    /// <summary>So many lines around one that is not as it was are listed.</summary>
    private const int Around = 2;

    /// <summary>How many lines became this.</summary>
    public int Count(params IReadOnlyList<Became> which) => Lines.Count(l => which.Contains(l.Became));
}
