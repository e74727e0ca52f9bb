using EmberLane.Application.Rooms;
using EmberLane.Application.Work;
using EmberLane.Core.Import;
using EmberLane.Core.People;
using EmberLane.Engines;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using EmberLane.Web.Uploads;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EmberLane.Web.Pages.Bites;

/// <summary>A paper edit comes in: lines that fit become bites, the others are shown with the reason.</summary>
[Needs(Rights.Mark)]
public sealed class BringModel(Footage footage, Desk desk, Store.Bites bites, PaperEdits papers) : RoomModel(footage, desk)
{
    public override string Room => "Bites";

    /// <summary>What became of each line; null before anything was brought in.</summary>
    public IReadOnlyList<PaperOutcome>? Outcomes { get; private set; }

    public int Kept => Outcomes?.Count(o => o.Bite is not null) ?? 0;

    public void OnGet() { }

    /// <summary>Keeps what fits as bites, as one change.</summary>
    public async Task<IActionResult> OnPostAsync(IFormFile? file, string? pasted)
    {
        try
        {
            var outcomes = await ReadAsync(file, pasted);
            if (outcomes.Count == 0)
            {
                return Bad(
                    "No range is in it. A line needs two times, as “The hut 1:02.5 – 1:31 the letter”; a table needs columns in and out; a "
                        + "Word transcript from here needs words that are highlighted."
                );
            }
            List<Core.Bites.Bite> fits = [.. outcomes.Select(o => o.Bite).OfType<Core.Bites.Bite>()];
            if (Try(NewsOf.Bites, () => bites.AddTogether(fits)) is { } refused)
            {
                return Bad(refused);
            }
            // What fits nothing comes first: it is what is left to do.
            Outcomes = [.. outcomes.OrderBy(o => o.Bite is not null)];
            return Page();
        }
        catch (FormatException bad)
        {
            return Bad(bad.Message);
        }
    }

    private async Task<IReadOnlyList<PaperOutcome>> ReadAsync(IFormFile? file, string? pasted)
    {
        var aborted = HttpContext.RequestAborted;
        if (file is null || !Path.GetExtension(file.FileName).Equals(".docx", StringComparison.OrdinalIgnoreCase))
        {
            var (_, text) = await TextUpload.ReadAsync(file, pasted, aborted);
            return Ranges(await TextUpload.InTimeAsync(limit => Task.FromResult(PaperRanges.Read(text, limit)), aborted));
        }
        if (file.Length > TextFiles.MostBytes)
        {
            throw new FormatException("The file is larger than 20 MB, which no text of a production is.");
        }
        using var held = new MemoryStream();
        await file.CopyToAsync(held, aborted);
        var (title, marked) = await TextUpload.InTimeAsync(limit => Task.FromResult(WordDocument.ReadMarked(Again(held), limit)), aborted);
        return marked.Count > 0
            ? papers.OfMarked(Production.Id, title, [.. marked.Take(PaperRanges.Most)], Who)
            : Ranges(
                await TextUpload.InTimeAsync(
                    limit => Task.FromResult(PaperRanges.Read(WordDocument.ReadRows(Again(held), limit), limit)),
                    aborted
                )
            );

        static MemoryStream Again(MemoryStream held)
        {
            held.Position = 0;
            return held;
        }
    }

    private IReadOnlyList<PaperOutcome> Ranges(IReadOnlyList<PaperRange> ranges) => papers.OfRanges(Production.Id, ranges, Who);

    private PageResult Bad(string why)
    {
        Message = why;
        Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        return Page();
    }
}
