using System.Globalization;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Media;
using EmberLane.Core.Pictures;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Cutaways;

/// <content>What people write on the open shot. All of it is kept with its file, in the log of Gather.</content>
public sealed partial class IndexModel
{
    private static readonly IReadOnlyList<string> Written = ["description", "tags", "note"];

    /// <summary>
    /// Writes what the file shows, its tags or a note: the one that was changed, so that what somebody else wrote in another stays; all of
    /// them where none is named.
    /// </summary>
    public IActionResult OnPostWrite(string? only) =>
        Write(
            labels =>
                Written
                    .Where(n => (only is null || n == only) && Request.Form.ContainsKey(n))
                    .Aggregate(labels, (l, n) => l.With(n, Request.Form[n].ToString())),
            "what it shows",
            "Written."
        );

    /// <summary>Takes a tagger's word over as a tag.</summary>
    public IActionResult OnPostTake(string? tag) =>
        Write(labels => labels.With("tags", $"{labels.Tags}, {tag}"), "tags", $"“{tag}” is a tag.");

    /// <summary>Marks the best seconds, from one moment of the file to another in seconds, at its frames.</summary>
    public IActionResult OnPostBest(decimal from, decimal to)
    {
        if (!ModelState.IsValid)
        {
            return Refused("The best seconds lie between two times in seconds. Load the page again and repeat it.");
        }
        return Write(
            labels =>
            {
                var facts = OpenShot()!.Value.Source.Facts;
                SourceTime begin = AtFrame(facts, from),
                    end = AtFrame(facts, to);
                return begin > end
                    ? throw new EditRefusedException(
                        "The best seconds must end after they begin. Mark where they begin first (B), then where they end (N)."
                    )
                    : BestPart.Mark(labels, new SourceRange(begin, end), facts.Duration);
            },
            "best seconds",
            "The best seconds are marked."
        );
    }

    /// <summary>Says in a few words what best seconds show.</summary>
    public IActionResult OnPostNote(long begin, string? note) =>
        Write(labels => BestPart.Describe(labels, new SourceTime(new MediaTime(begin)), note ?? ""), "best seconds", "Written.");

    /// <summary>Marks them as best no more.</summary>
    public IActionResult OnPostUnmark(long begin) =>
        Write(
            labels => BestPart.Unmark(labels, new SourceTime(new MediaTime(begin))),
            "best seconds",
            "They are marked no more; U brings them back."
        );

    /// <summary>Says who is seen: the one with this number, from the left; an empty name takes it away.</summary>
    public IActionResult OnPostName(int person, string? name)
    {
        if (!ModelState.IsValid || OpenShot() is not var (_, shot) || person < 0 || person >= shot.People.Count)
        {
            return Refused("That face is no longer there. Load the page again.");
        }
        return Write(
            labels => NamedFace.Give(labels, shot.Facts.Range, shot.People[person], name ?? ""),
            "who is seen",
            string.IsNullOrWhiteSpace(name) ? "The face has no name now." : $"{TypedText.OneLine(name)} is seen here."
        );
    }

    /// <summary>Takes the last change in Gather back, or brings it again.</summary>
    public IActionResult OnPostUndo(bool redo)
    {
        string? said = null;
        if (Try(NewsOf.Gather, () => said = Rooms.StepWords.Of(grouping.Step(Production.Id, redo, Who), redo)) is { } refused)
        {
            return Refused(refused);
        }
        return Both(said);
    }

    private IActionResult Write(Func<Labels, Labels> change, string what, string done)
    {
        if (OpenShot() is not var (source, _))
        {
            return Refused("That shot is no longer there: its file was measured anew. Load the page again.");
        }
        if (Try(NewsOf.Gather, () => grouping.Label(Production.Id, [source.Id], change, Who, what)) is { } refused)
        {
            return Refused(refused);
        }
        return Both(done);
    }

    // The open shot, which says what was done, and the table beside it.
    private PartialViewResult Both(string? done)
    {
        Load();
        (Done, IsTableBeside) = (done, Open is not null);
        return Partial("_Both", this);
    }

    // Where the frame begins that is nearest to a time.
    private static SourceTime AtFrame(SourceFacts facts, decimal seconds)
    {
        var at = MediaTime.FromSecondsRounded(Math.Clamp(seconds, 0, 1_000_000));
        var rate = facts.Picture!.Rate;
        return new SourceTime(MediaTime.Min(rate.TimeOf(rate.NearestFrame(at)), facts.Duration));
    }
}
