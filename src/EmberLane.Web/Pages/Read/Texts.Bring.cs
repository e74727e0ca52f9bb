using System.Globalization;
using EmberLane.Application.Work;
using EmberLane.Core.Import;
using EmberLane.Engines;
using EmberLane.Engines.Speech;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Read;

/// <content>A text from outside, brought in as a file or pasted.</content>
public sealed partial class TextsModel
{
    private static readonly TimeSpan LongestReading = TimeSpan.FromSeconds(60);

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
            var name = file is null ? "pasted.txt" : Uploads.Upload.SafeName(file.FileName) ?? "text.txt";
            var delivered = await InTimeAsync(cancel => ReadAsync(file, name, pasted ?? "", cancel));
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

    // In a thread of its own and for so long only, whatever the text holds.
    private async Task<DeliveredText> InTimeAsync(Func<CancellationToken, Task<DeliveredText>> read)
    {
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(HttpContext.RequestAborted);
        limit.CancelAfter(LongestReading);
        try
        {
            return await Task.Run(() => read(limit.Token), limit.Token).WaitAsync(limit.Token);
        }
        catch (OperationCanceledException) when (!HttpContext.RequestAborted.IsCancellationRequested)
        {
            throw new FormatException(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"The text could not be read within {LongestReading.TotalSeconds} seconds and was left. Save it as plain text (.txt) "
                        + $"and bring that."
                )
            );
        }
    }

    private static async Task<DeliveredText> ReadAsync(IFormFile? file, string name, string pasted, CancellationToken cancel)
    {
        if (file is null)
        {
            return TextFiles.Read(name, pasted, cancel);
        }
        if (file.Length > TextFiles.MostBytes)
        {
            throw new FormatException("The file is larger than 20 MB, which no text of a sitting is.");
        }
        using var held = new MemoryStream();
        await file.CopyToAsync(held, cancel);
        if (!Path.GetExtension(name).Equals(".docx", StringComparison.OrdinalIgnoreCase))
        {
            return TextFiles.Read(name, held.ToArray(), cancel);
        }
        held.Position = 0;
        return TextFiles.Read(Path.ChangeExtension(name, ".txt"), WordDocument.ReadText(held, cancel), cancel);
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
