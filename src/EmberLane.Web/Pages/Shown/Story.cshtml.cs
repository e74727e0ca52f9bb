using System.Globalization;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Comments;
using EmberLane.Core.People;
using EmberLane.Core.Shown;
using EmberLane.Core.Transcripts;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Shown;

/// <summary>A story as a link shows it, with a copy of it that is one file: no more of the footage leaves than the story plays.</summary>
public sealed class StoryModel(ShownServices services, Store.Stories stories, ShownStories shown, CopyDesk copies, News news)
    : ShownModel(services)
{
    private readonly ShownServices services = services;

    private StoredStory story = null!;

    /// <summary>The copy that is played; null while there is none.</summary>
    public StoredCopy? Copy { get; private set; }

    /// <summary>Whether the story was changed since the copy was asked for.</summary>
    public bool IsOlder => Copy is { } copy && copy.Version != story.Version;

    /// <summary>The work on a copy of the story as it is now; null where nobody asked for one.</summary>
    public Job? Making { get; private set; }

    /// <inheritdoc/>
    protected override bool Find()
    {
        if (stories.Get(Asked.Story ?? 0, Who) is not { } found || found.ProductionId != Production.Id)
        {
            return false;
        }
        story = found;
        Title = found.Title;
        RoomAddress = IsInside ? FormattableString.Invariant($"/productions/{Production.Id}/story") : null;
        Version = string.Create(CultureInfo.InvariantCulture, $"{found.Version}");
        (Copy, Making) = MayListen ? (shown.Newest(found), shown.Making(found)) : (null, null);
        return true;
    }

    /// <inheritdoc/>
    protected override void Read()
    {
        try
        {
            Text = services.Reading.OfStory(Production, story, Copy);
            Facts = Desk.CutOf(story).RunningTime(story.Start.Count.Rate).ToString();
        }
        catch (EditRefusedException refused)
        {
            // Nothing of it leaves, not even what was made before.
            (Text, Copy, Making) = (new ShownText([]), null, null);
            WhyNot =
                story.Story.Pieces.All(p => p is Core.Stories.SectionHead) ? "The story is empty yet."
                : IsInside ? refused.Message
                : "The story can not be shown at the moment. Ask who sent you the link.";
        }
    }

    /// <summary>
    /// What plays beside the text, as it is made; when it is there, the page is loaded again, since its words are timed by it.
    /// </summary>
    public IActionResult OnGetPlaying(bool waits)
    {
        // News of work comes often: the text is not read for it.
        if (!Find() || !MayListen)
        {
            return NotFound();
        }
        if (waits && Making is not { IsOpen: true })
        {
            Response.Headers["HX-Refresh"] = "true";
        }
        return Partial("_Playing", this);
    }

    /// <summary>Has a copy made of the story as it is now.</summary>
    [Needs(Rights.Listen)]
    public IActionResult OnPostMake()
    {
        if (!Load())
        {
            return NotFound();
        }
        try
        {
            if (WhyNot is null)
            {
                shown.Ask(story, Who);
                news.Tell();
            }
        }
        catch (EditRefusedException refused)
        {
            return Refused(refused.Message);
        }
        Find();
        return IsFragment ? Partial("_Playing", this) : Redirect(ShownAddress.Of(Production.Id, Asked));
    }

    /// <summary>The copy, played in the page.</summary>
    [Needs(Rights.Listen)]
    public IActionResult OnGetCopy(long copy) =>
        shown.Get(Production.Id, Gate.NumberIn(RouteData.Values, "story") ?? 0, copy) is { } there
            ? new PhysicalFileResult(Path.GetFullPath(copies.FileOf(there)), there.Wish.MediaType) { EnableRangeProcessing = true }
            : NotFound();

    /// <inheritdoc/>
    protected override IReadOnlyList<CommentThread> Talked() => services.Comments.OfStory(Production.Id, story.Id);

    /// <inheritdoc/>
    protected override (CommentPlace Place, string Quote)? Passage(string? line, long sitting, WordNumber first, WordNumber last) =>
        Text.Line(line ?? "") is not { } of || !Guid.TryParse(of.Key, out var piece) ? null
        : Text.Of(sitting, first, last) is { IsOfOneLine: true } passage && passage.Begins == of
            ? (new CardPlace(story.Id, piece), passage.Said)
        : (new CardPlace(story.Id, piece), of.Said);
}
