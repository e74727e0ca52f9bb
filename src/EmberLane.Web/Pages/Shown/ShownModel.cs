using EmberLane.Application.People;
using EmberLane.Application.Work;
using EmberLane.Core.Comments;
using EmberLane.Core.People;
using EmberLane.Core.Shown;
using EmberLane.Core.Transcripts;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Shown;

/// <summary>What pages need that show a text to who does not work on it.</summary>
public sealed record ShownServices(
    Footage Footage,
    Desk Desk,
    ShownReading Reading,
    Store.Bites Bites,
    Store.Comments Comments,
    CommentDesk Talks,
    TimeProvider Time
);

/// <summary>
/// A sitting or a story as a link shows it: its text, what plays beside it, what somebody marked of it, and what is talked of it. Nothing
/// that is off the record or set aside is in it, whoever looks.
/// </summary>
[ByLink]
[Needs(Rights.Comment)]
public abstract class ShownModel(ShownServices services) : RoomModel(services.Footage, services.Desk), ITalkPage
{
    private IReadOnlyCollection<string>? names;

    /// <inheritdoc/>
    public override string Room => "Shown";

    /// <summary>What its address names.</summary>
    public LinkScope Asked => new(Gate.NumberIn(RouteData.Values, "sitting"), Gate.NumberIn(RouteData.Values, "story"));

    /// <summary>What is read.</summary>
    public ShownText Text { get; protected set; } = new([]);

    /// <summary>What it is called.</summary>
    public string Title { get; protected set; } = "";

    /// <summary>How long it is, and of what.</summary>
    public string Facts { get; protected set; } = "";

    /// <summary>Why nothing is shown; null where something is.</summary>
    public string? WhyNot { get; protected set; }

    /// <summary>Tells versions of the text apart.</summary>
    public string Version { get; protected set; } = "";

    /// <summary>Where who works in the production finds the same; null for who does not.</summary>
    public string? RoomAddress { get; protected set; }

    /// <summary>What who looks has marked.</summary>
    public IReadOnlyList<ShownMark> Marks { get; private set; } = [];

    /// <summary>The open talks, as far as they are for who looks, each with what it is of.</summary>
    public IReadOnlyList<(CommentThread Thread, ShownQuote Quote)> Threads { get; private set; } = [];

    /// <summary>The people of the production, a mark each.</summary>
    public IReadOnlyDictionary<string, SpeakerMark> People { get; private set; } = new Dictionary<string, SpeakerMark>();

    /// <summary>What who looks may do here.</summary>
    public Rights Rights => Gate.RightsAt(Visitor.Of(HttpContext)!, GetType(), RouteData.Values);

    /// <inheritdoc/>
    public bool MayComment => Rights.HasFlag(Rights.Comment);

    /// <summary>Whether who looks may mark passages.</summary>
    public bool MayMark => Rights.HasFlag(Rights.Mark);

    /// <summary>Whether who looks may hear and see it.</summary>
    public bool MayListen => Rights.HasFlag(Rights.Listen);

    /// <summary>Whether who looks works in the production.</summary>
    public bool IsInside => MayRead(Production.Id);

    /// <summary>The link by which they came, where they did.</summary>
    public StoredAdmission? Link => IsInside ? null : Visitor.Of(HttpContext)?.Link;

    /// <inheritdoc/>
    public IReadOnlyCollection<string> Names => names ??= services.Talks.Names(Production.Id);

    /// <inheritdoc/>
    public string Address(string asked) => $"{ShownAddress.Of(Production.Id, Asked)}?{asked}";

    /// <inheritdoc/>
    public string Moment(DateTimeOffset at) => Moments.Of(at, services.Time);

    /// <summary>A person's mark.</summary>
    public SpeakerMark MarkOf(string who) => Desk.MarkOf(People, who);

    /// <summary>Finds what the address names, and its version; false where it is not in the production.</summary>
    protected abstract bool Find();

    /// <summary>Reads the text of what was found, and what plays beside it.</summary>
    protected abstract void Read();

    /// <summary>The open talks of it.</summary>
    protected abstract IReadOnlyList<CommentThread> Talked();

    public IActionResult OnGet() => Load() ? Page() : NotFound();

    /// <summary>What is talked of it, as it is now.</summary>
    public IActionResult OnGetTalks() => Load() ? Partial("_Talks", this) : NotFound();

    /// <summary>What who looks has marked, as it is now.</summary>
    public IActionResult OnGetMarks() => Load() ? Partial("_Marks", this) : NotFound();

    /// <summary>Whether the text is another one than a page has that was loaded with <paramref name="seen"/>.</summary>
    public IActionResult OnGetFresh(string? seen) =>
        !Find() ? NotFound()
        : seen == Version ? new NoContentResult()
        : Partial("_Fresh", this);

    /// <summary>Marks a passage: it is kept as a bite of who looks.</summary>
    [Needs(Rights.Mark)]
    public IActionResult OnPostMark(long sitting, WordNumber first, WordNumber last, string? note) =>
        !Load() ? NotFound()
        : !ModelState.IsValid || Text.Of(sitting, first, last) is not { } passage || SittingHere(sitting) is null ? NotThere()
        : Try(NewsOf.Bites, () => services.Reading.Mark(sitting, passage, note ?? "", Who)) is { } refused ? Refused(refused)
        : Again("_Marks");

    /// <summary>Takes a mark of one's own away; it stays among the bites that are set aside.</summary>
    [Needs(Rights.Mark)]
    public IActionResult OnPostUnmark(long bite) =>
        !Load() ? NotFound()
        : Marks.All(m => m.Bite != bite) ? Again("_Marks")
        : Try(NewsOf.Bites, () => services.Bites.SetAside(bite, true, Who)) is { } refused ? Refused(refused)
        : Again("_Marks");

    /// <summary>Begins a talk of words.</summary>
    public IActionResult OnPostSay(string? line, long sitting, WordNumber first, WordNumber last, string? body)
    {
        if (!Load())
        {
            return NotFound();
        }
        return Passage(line, sitting, first, last) is not var (place, quote) ? NotThere()
            : Try(NewsOf.Comments, () => services.Comments.Begin(Production.Id, place, quote, body, Who, Names)) is { } refused
                ? Refused(refused)
            : Again("_Talks");
    }

    public IActionResult OnPostAnswer(long thread, string? body) =>
        Change(thread, () => services.Comments.Answer(Production.Id, thread, body, Who, Names));

    public IActionResult OnPostSettle(long thread, bool settled) =>
        Change(thread, () => services.Comments.Settle(Production.Id, thread, settled, Who));

    /// <summary>Takes a comment of one's own away, or brings it back.</summary>
    public IActionResult OnPostAway(long thread, long comment, bool away) =>
        Change(thread, () => services.Comments.TakeAway(Production.Id, comment, away, Who));

    /// <summary>What a talk of chosen words is of, and how those read; null where they are not shown.</summary>
    protected abstract (CommentPlace Place, string Quote)? Passage(string? line, long sitting, WordNumber first, WordNumber last);

    // A talk that is not shown here is none of theirs, whatever its number; one that they settled can be opened again.
    private IActionResult Change(long thread, Action change)
    {
        if (!Load())
        {
            return NotFound();
        }
        if (
            services.Comments.Thread(Production.Id, thread) is not { } talk
            || !IsTheirs(talk)
            || services.Reading.Quote(Text, talk.First) is null
        )
        {
            return NotThere();
        }
        return Try(NewsOf.Comments, change) is { } refused ? Refused(refused)
            : !IsFragment ? Redirect(ShownAddress.Of(Production.Id, Asked))
            : services.Comments.Thread(Production.Id, thread) is { } now ? Partial("_Thread", ((ITalkPage)this, now))
            : Content("", "text/html");
    }

    private IActionResult Again(string part) =>
        !IsFragment ? Redirect(ShownAddress.Of(Production.Id, Asked))
        : Load() ? Partial(part, this)
        : NotFound();

    private ContentResult NotThere() => Refused("That is not there any more. Load the page again.");

    /// <summary>Reads all that the page shows; false where its address names nothing.</summary>
    protected bool Load()
    {
        if (!Find())
        {
            return false;
        }
        Read();
        People = Desk.People(Production.Id);
        Marks = MayMark ? services.Reading.Marks(Production.Id, Text, Who) : [];
        Threads =
        [
            .. Talked()
                .Where(IsTheirs)
                .Select(t => (t, services.Reading.Quote(Text, t.First)))
                .Where(t => t.Item2 is not null)
                .Select(t => (t.t, t.Item2!)),
        ];
        return true;
    }

    // What those who work on it say among themselves is not for who comes by a link: only what they began, joined, or are named in.
    private bool IsTheirs(CommentThread thread) =>
        IsInside
        || thread.All.Any(c =>
            c.Who == Who || (!c.IsAway && CommentText.Mentioned(c.Body, Names).Contains(Who, StringComparer.OrdinalIgnoreCase))
        );
}
