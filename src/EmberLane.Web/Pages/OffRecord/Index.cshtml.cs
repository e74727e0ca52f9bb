using EmberLane.Application.Rooms;
using EmberLane.Application.Work;
using EmberLane.Core.Marks;
using EmberLane.Core.People;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.OffRecord;

/// <summary>What is off the record in a production, who asked for that, and what was released, by whom and why.</summary>
[Needs(Rights.Run)]
public sealed class IndexModel(
    Footage footage,
    Desk desk,
    OffTheRecord held,
    Store.Transcripts transcripts,
    Store.Changes changes,
    TimeProvider time
) : LiveRoom(footage, desk)
{
    private const int Most = 200;

    public override string Room => "Read";

    public IReadOnlyList<HeldStretch> Held => held.Of(Production.Id);

    public IReadOnlyList<ListedChange> Released => changes.Releases(Production.Id, Most);

    /// <summary>What was typed and refused, of one mark, so that it is not lost.</summary>
    public (long Mark, string By, string Reason) Typed { get; private set; }

    public string Moment(DateTimeOffset? at) => at is { } moment ? Moments.Of(moment, time) : "";

    /// <summary>Whether nobody need sign in, so that a name is asked for.</summary>
    public bool IsAlone => Visitor.Of(HttpContext) is { IsAlone: true };

    public void OnGet() { }

    /// <summary>Releases a stretch, by name and with a reason.</summary>
    public IActionResult OnPostRelease(long sitting, long mark, string? by, string? reason)
    {
        // Who signed in is who releases it; a name is typed only where nobody need sign in.
        if (!IsAlone)
        {
            by = Who;
        }
        if (SittingHere(sitting) is not { TranscriptId: { } text })
        {
            return NotFound();
        }
        var refused = Try(
            NewsOf.Words,
            () =>
                transcripts.Apply(
                    text,
                    now =>
                        now.Layers.Marks.TryGetValue(mark, out var there)
                            ? new ReleaseMark(there, (reason ?? "").Trim(), (by ?? "").Trim())
                            : throw new Core.EditRefusedException("That is no longer off the record. Load the page again."),
                    Who
                )
        );
        if (refused is null)
        {
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/off-record"));
        }
        (Message, Typed) = (refused, (mark, by ?? "", reason ?? ""));
        Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        return Page();
    }
}
