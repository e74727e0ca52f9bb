using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.People;
using EmberLane.Core.Transcripts;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Read;

/// <summary>Who changed what in a sitting's text, and when; each change can be taken back alone.</summary>
[Needs(Rights.Log)]
public sealed class ChangesModel(Footage footage, Desk desk, Store.Transcripts transcripts) : LiveRoom(footage, desk)
{
    public const int Most = 500;

    public override string Room => "Read";

    public Sitting Sitting { get; private set; } = null!;

    public Transcript Transcript { get; private set; } = null!;

    public IReadOnlyList<MadeChange> Changes { get; private set; } = [];

    public IActionResult OnGet(long sitting) =>
        !Load(sitting) ? NotFound()
        : IsFragment ? Partial("_Changes", this)
        : Page();

    public IActionResult OnPostBack(long sitting, long change)
    {
        if (!Load(sitting))
        {
            return NotFound();
        }
        if (Try(NewsOf.Words, () => transcripts.TakeBack(Sitting.TranscriptId!.Value, change, Who)) is { } refused)
        {
            return Refused(refused);
        }
        Load(sitting);
        return IsFragment
            ? Partial("_Changes", this)
            : Redirect(FormattableString.Invariant($"/productions/{Production.Id}/read/{sitting}/changes"));
    }

    private bool Load(long id)
    {
        if (SittingHere(id) is not { TranscriptId: { } transcript } sitting)
        {
            return false;
        }
        (Sitting, Transcript, Changes) = (sitting, transcripts.Get(transcript), transcripts.Changes(transcript, Most));
        return true;
    }
}
