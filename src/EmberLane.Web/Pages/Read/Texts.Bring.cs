using EmberLane.Application.Work;
using EmberLane.Core.Import;
using EmberLane.Engines.Speech;
using EmberLane.Web.Rooms;
using EmberLane.Web.Uploads;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Read;

/// <content>A text from outside, brought in as a file or pasted.</content>
public sealed partial class TextsModel
{
    /// <summary>
    /// Takes a delivered text, as a file or pasted, and keeps it beside the others; where there was none, the sitting is read by it at
    /// once.
    /// </summary>
    public async Task<IActionResult> OnPostBringAsync(long sitting, IFormFile? file, string? pasted)
    {
        if (!Load(sitting, null))
        {
            return NotFound();
        }
        try
        {
            var (name, text) = await TextUpload.ReadAsync(file, pasted, HttpContext.RequestAborted);
            var delivered = await TextUpload.InTimeAsync(
                cancel => Task.FromResult(TextFiles.Read(TextUpload.ReadAs(name), text, cancel)),
                HttpContext.RequestAborted
            );
            var heard = Sitting.TranscriptId is { } current ? transcripts.Get(current) : null;
            var laid = NewText.Of(
                delivered,
                heard,
                End(),
                [.. Desk.People(Production.Id).Keys],
                transcripts.SaidIn(sitting, Sitting.TranscriptId)
            );
            var id = transcripts.AddBeside(
                sitting,
                Recognisers.Brought + name,
                delivered.Language.Length > 0 ? delivered.Language : TranscribeOrder.English,
                laid.Words,
                laid.Names,
                laid.Flags
            );
            if (Sitting.TranscriptId is null)
            {
                texts.Choose(sitting, id, Who);
            }
            upkeep.Ask(Production.Id);
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/read/{sitting}/texts?compare={id}"));
        }
        catch (FormatException bad)
        {
            Message = bad.Message;
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
            return Page();
        }
    }

    private SittingTime End()
    {
        var mics = sittingMics.Of(Sitting);
        return mics.Placed.Count > 0
            ? SittingSound.Extent(mics.Placed).Out
            : footage
                .SourcesOf(Sitting.Id)
                .Where(s => s.Place is not null)
                .Select(s => s.Place!.Value.Fill(s.Facts.Duration).Out)
                .DefaultIfEmpty()
                .Max();
    }
}
