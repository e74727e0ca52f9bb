using EmberLane.Application.People;
using EmberLane.Application.Work;
using EmberLane.Core.Comments;
using EmberLane.Core.People;
using EmberLane.Core.Transcripts;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Comments;

/// <summary>Comments: what people say of words, bites and cards, answered and settled.</summary>
[Needs(Rights.Comment)]
public sealed class IndexModel(Footage footage, Desk desk, CommentDesk talks, Store.Comments comments, TimeProvider time)
    : LiveRoom(footage, desk),
        ITalkPage
{
    private IReadOnlyCollection<string>? names;

    public override string Room => "Comments";

    /// <summary>Which talks are listed.</summary>
    public ListedTalks Which { get; private set; }

    /// <summary>The only one that is asked for; null for all.</summary>
    public long? Only { get; private set; }

    /// <summary>They.</summary>
    public IReadOnlyList<CommentThread> Threads { get; private set; } = [];

    /// <summary>What is talked of in the dialog, and its address; null in the list.</summary>
    public TalkedOf? Of { get; private set; }

    /// <summary>Whether who looks may say something.</summary>
    public bool MayComment => Visitor.Of(HttpContext)?.In(Production.Id).HasFlag(Rights.Comment) ?? false;

    /// <summary>Who can be mentioned.</summary>
    public IReadOnlyCollection<string> Names => names ??= talks.Names(Production.Id);

    public string Moment(DateTimeOffset at) => Moments.Of(at, time);

    /// <summary>This page, with what asks for a handler behind it.</summary>
    public string Address(string asked) => FormattableString.Invariant($"/productions/{Production.Id}/comments?{asked}");

    /// <summary>What is talked of, as an address asks for it.</summary>
    public static string QueryOf(CommentPlace place) =>
        place switch
        {
            WordsPlace words => FormattableString.Invariant($"sitting={words.SittingId}&first={words.First.Value}&last={words.Last.Value}"),
            BitePlace bite => FormattableString.Invariant($"bite={bite.BiteId}"),
            CardPlace card => FormattableString.Invariant($"story={card.StoryId}&card={card.Card}"),
            _ => "",
        };

    /// <summary>Where what is talked of is seen.</summary>
    public string PlaceOf(CommentPlace place) => TalkAddress.Of(Production.Id, place);

    /// <summary>What kind of thing is talked of, and where words lie.</summary>
    public string KindOf(CommentPlace place) =>
        place switch
        {
            WordsPlace words => $"{SittingHere(words.SittingId)?.Title}, {words.Range.In}",
            BitePlace => "bite",
            _ => "card of a story",
        };

    public void OnGet(ListedTalks which, long? thread) => List(which, thread);

    public PartialViewResult OnGetList(ListedTalks which, long? thread)
    {
        List(which, thread);
        return Partial("_Threads", this);
    }

    private void List(ListedTalks which, long? thread)
    {
        (Which, Only) = (which, thread);
        Threads =
            thread is not { } asked ? comments.Listed(Production.Id, which, Who)
            : comments.Thread(Production.Id, asked) is { } one ? [one]
            : [];
    }

    /// <summary>The talk of one thing, for the dialog.</summary>
    public IActionResult OnGetTalk(AskedTalk asked) => Load(asked) ? Partial("_Talk", this) : NotThere();

    /// <summary>The open talks of a sitting, beside its text.</summary>
    public IActionResult OnGetOfSitting(long sitting)
    {
        if (SittingHere(sitting) is null)
        {
            return NotFound();
        }
        Threads = comments.OfSitting(Production.Id, sitting);
        return Partial("_OfSitting", this);
    }

    public IActionResult OnPostSay(AskedTalk asked, string? body) =>
        !Load(asked) ? NotThere()
        : Try(NewsOf.Comments, () => comments.Begin(Production.Id, Of!.Place, Of.Quote, body, Who, Names)) is { } refused ? Refused(refused)
        : IsFragment && Load(asked) ? Partial("_Talk", this)
        : Redirect(Address(""));

    public IActionResult OnPostAnswer(long thread, string? body) =>
        Change(thread, () => comments.Answer(Production.Id, thread, body, Who, Names));

    public IActionResult OnPostSettle(long thread, bool settled) =>
        Change(thread, () => comments.Settle(Production.Id, thread, settled, Who));

    /// <summary>Takes a comment of one's own away, or brings it back.</summary>
    public IActionResult OnPostAway(long thread, long comment, bool away) =>
        Change(thread, () => comments.TakeAway(Production.Id, comment, away, Who));

    private IActionResult Change(long thread, Action change) =>
        Try(NewsOf.Comments, change) is { } refused ? Refused(refused)
        : !IsFragment ? Redirect(Address(FormattableString.Invariant($"thread={thread}")))
        : comments.Thread(Production.Id, thread) is { } now ? Partial("_Thread", ((ITalkPage)this, now))
        : Content("", "text/html");

    private ContentResult NotThere() => Refused("What you want to talk of is not there any more. Load the page again.");

    private bool Load(AskedTalk asked)
    {
        Of = talks.Of(Production.Id, asked, () => Desk.StoryOf(Production, Who).Id, Who);
        Threads = Of is null ? [] : comments.Of(Production.Id, Of.Place);
        return Of is not null;
    }
}
