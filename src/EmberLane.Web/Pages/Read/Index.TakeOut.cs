using EmberLane.Core.Captions;
using EmberLane.Core.People;
using EmberLane.Core.Transcripts;
using EmberLane.Web.Access;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Read;

/// <content>The text as a file.</content>
public sealed partial class IndexModel
{
    /// <summary>The transcript, or the part of it between two words, by number, as a file.</summary>
    [Needs(Rights.Mark | Rights.Log | Rights.HandOff)]
    public IActionResult OnGetTake(
        long sitting,
        string format,
        bool names,
        bool times,
        bool hidden,
        bool aside,
        WordNumber? first,
        WordNumber? last,
        int? line,
        int? lines,
        int? speed
    )
    {
        if (!Load(sitting) || Transcript is null)
        {
            return NotFound();
        }
        var from = first is { } begin ? Transcript.PlaceOf(begin) : TextPlace.First;
        var to = last is { } end ? Transcript.PlaceOf(end) : Transcript.Last;
        if (from is null || to is null)
        {
            return Refused("These words are not in the text as it is now. Select them again.");
        }
        var usual = new CaptionRules();
        var rules = usual with { Line = line ?? usual.Line, Lines = lines ?? usual.Lines, Speed = speed ?? usual.Speed };
        try
        {
            _ = ModelState.IsValid ? rules.Check() : throw new FormatException("The rules of captions are whole numbers. Type them again.");
        }
        catch (FormatException bad)
        {
            return Refused(bad.Message, StatusCodes.Status422UnprocessableEntity);
        }
        var choice = new TextChoice(from.Value, to.Value, names, times, hidden, aside);
        var name = Uploads.Upload.SafeName(Sitting!.Title) ?? "transcript";
        if (format == "docx")
        {
            return File(
                Engines.WordDocument.Write(Sitting.Title, TranscriptText.Spoken(Transcript, choice), names, times),
                "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
                name + ".docx"
            );
        }
        var (text, type) = format switch
        {
            "txt" => (TranscriptText.Plain(Transcript, choice), "text/plain"),
            "csv" => (TranscriptText.Csv(Transcript, choice), "text/csv"),
            "srt" => (TranscriptText.SubRip(Transcript, choice, rules), "application/x-subrip"),
            "vtt" => (TranscriptText.WebVtt(Transcript, choice, rules), "text/vtt"),
            "json" => (
                TranscriptText.Words(Transcript, choice, transcripts.Head(Sitting!.TranscriptId!.Value)!.Language),
                "application/json"
            ),
            _ => ("", ""),
        };
        return type.Length == 0 ? NotFound() : File(System.Text.Encoding.UTF8.GetBytes(text), type, $"{name}.{format}");
    }
}
