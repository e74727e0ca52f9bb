using EmberLane.Application.People;
using EmberLane.Core.Comments;
using EmberLane.Core.People;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Since;

/// <summary>What others did in a production since somebody said that they had seen it all; and who is there now.</summary>
[Needs(Rights.Read)]
public sealed class IndexModel(
    Footage footage,
    Desk desk,
    SeenUntil seen,
    Store.Changes changes,
    Store.Comments comments,
    Here here,
    CommentDesk talks,
    TimeProvider time
) : LiveRoom(footage, desk)
{
    private const int Most = 200,
        Counted = 100,
        QuoteTold = 60;

    public override string Room => "Changes";

    /// <summary>When they last said so; null for never.</summary>
    public DateTimeOffset? SeenAt { get; private set; }

    /// <summary>What others changed since, the newest first.</summary>
    public IReadOnlyList<ListedChange> Changed { get; private set; } = [];

    /// <summary>What others said since, the newest first, and whether it mentions them.</summary>
    public IReadOnlyList<(Comment Comment, bool MentionsThem)> Said { get; private set; } = [];

    /// <summary>Others who have a page open: who, what it is called, and what they have in hand there, where they told.</summary>
    public IReadOnlyList<(string Who, string Page, TalkedOf? InHand)> Others { get; private set; } = [];

    /// <summary>What somebody has in hand: the time of words, else the beginning of what it says.</summary>
    public static string Told(TalkedOf inHand) =>
        inHand.Place is WordsPlace words ? $"at {words.Range.In}"
        : inHand.Quote.Length == 0 ? "a card"
        : $"“{Beginning.Of(inHand.Quote, QuoteTold)}”";

    public string AddressOf(TalkedOf inHand) => TalkAddress.Of(Production.Id, inHand.Place);

    /// <summary>They in few words, since a head has little room: “with Ida”, “with 3 others”.</summary>
    public string WithWhom =>
        Others.Select(o => o.Who).Distinct().ToList() switch
        {
            [var one] => "with " + one.Split(' ')[0],
            var some => FormattableString.Invariant($"with {some.Count} others"),
        };

    /// <summary>How many changes, comments, and comments that mention them are new.</summary>
    public (int Changes, int Comments, int Mentions) New { get; private set; }

    /// <summary>How many open talks there are of bites and cards.</summary>
    public IReadOnlyDictionary<string, int> Counts { get; private set; } = new Dictionary<string, int>();

    /// <summary>Up to which change and comment the page tells.</summary>
    public (long Change, long Comment) Until { get; private set; }

    public string Moment(DateTimeOffset at) => Moments.Of(at, time);

    /// <summary>A figure that is counted no further.</summary>
    public static string Figure(int count, string one) => count >= Counted ? $"{Counted} {one}s and more" : Many.Of(count, one);

    public void OnGet()
    {
        var mark = seen.Of(Production.Id, Who);
        SeenAt = mark.At;
        Changed = [.. changes.Of(Production.Id, Most).Where(c => c.Id > mark.ChangeId && c.Who != Who)];
        Said = comments.After(Production.Id, mark.CommentId, Who, Most);
        Until = (
            Math.Max(mark.ChangeId, Changed.Select(c => c.Id).DefaultIfEmpty().Max()),
            Math.Max(mark.CommentId, Said.Select(s => s.Comment.Id).DefaultIfEmpty().Max())
        );
        LoadOthers();
    }

    /// <summary>Keeps that all that the page told is seen; what came meanwhile is not.</summary>
    public IActionResult OnPostSeen(long change, long comment)
    {
        if (change < 0 || comment < 0)
        {
            return BadRequest();
        }
        seen.Seen(Production.Id, Who, change, comment);
        return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/since"));
    }

    /// <summary>What stands in the head of each room.</summary>
    public PartialViewResult OnGetNow()
    {
        var mark = seen.Of(Production.Id, Who);
        var said = comments.After(Production.Id, mark.CommentId, Who, Counted);
        // To who never said up to where they have seen it, all would be new; what was said to them is.
        New = mark.At is null
            ? (0, said.Count(s => s.MentionsThem), said.Count(s => s.MentionsThem))
            : (seen.ChangesAfter(Production.Id, mark.ChangeId, Who, Counted), said.Count, said.Count(s => s.MentionsThem));
        Counts = comments.Counts(Production.Id);
        LoadOthers();
        return Partial("_Now", this);
    }

    /// <summary>Who else is here, and where, for who asks now.</summary>
    public PartialViewResult OnGetOthers()
    {
        LoadOthers();
        return Partial("_Others", this);
    }

    /// <summary>Keeps what somebody has in hand on a page of theirs, for others who ask where they are.</summary>
    /// <param name="seat">As the page's line of news was told.</param>
    [Needs(Rights.Read)]
    public IActionResult OnPostInHand(Guid seat, AskedTalk asked)
    {
        if (talks.Of(Production.Id, asked, () => Desk.StoryOf(Production, Who).Id, Who) is not { } inHand)
        {
            return NotFound();
        }
        here.Take(seat, Production.Id, Who, inHand);
        return new NoContentResult();
    }

    private void LoadOthers() =>
        Others = [
            .. here.Others(Production.Id, Who)
                .Select(s => (s.Who, NowPlaces.Of(s.Page, id => SittingHere(id)?.Title), s.InHand))
                .Distinct(),
        ];
}
