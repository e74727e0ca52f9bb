using System.Text;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Captions;
using EmberLane.Core.Handoff;
using EmberLane.Core.People;
using EmberLane.Engines;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using EmberLane.Web.Uploads;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Bites;

/// <content>Bites as files: those that the page asks for, in its order.</content>
public sealed partial class IndexModel
{
    /// <summary>So many bites are taken out at most, and so many frames beside each.</summary>
    private const int MostTaken = 20_000,
        MostHandles = 1_000;

    /// <summary>The forms in which bites are taken out.</summary>
    public static IReadOnlyList<(string Key, string Says)> Forms { get; } =
    [
        ("csv", "table (CSV)"),
        ("docx", "Word"),
        ("vtt", "chapters (WebVTT), of one sitting"),
        ("markers", "markers (CSV)"),
        ("edl", "decision list of a selects reel (EDL)"),
    ];

    /// <summary>What bites would be laid as in a story, of this production or another, as JSON for its paste.</summary>
    public IActionResult OnPostPieces(long[] bite)
    {
        var rate = Desk.StoryOf(Production, Who).Start.Count.Rate;
        var kept = bites.Of(bite.Take(MostTaken).ToHashSet()).Where(b => SittingHere(b.SittingId) is not null).ToDictionary(b => b.Id);
        return new JsonResult(
            bite.Where(kept.ContainsKey).Distinct().Select(id => (Core.Stories.Piece)table.CardOf(kept[id], rate)).ToList()
        );
    }

    /// <summary>
    /// The bites that are asked for as a file; a decision list with so many frames before and behind each.
    /// </summary>
    [Needs(Rights.Mark | Rights.Log | Rights.HandOff)]
    public IActionResult OnGetTake(string? form, int handles)
    {
        LoadFigures();
        var some = bites.Some(Production.Id, Filter, 0, MostTaken, Asked.ByPerson);
        if (some.Count == 0)
        {
            return Refused("No bite is as you ask, so that there is nothing to take out.");
        }
        if (form == "vtt" && some.DistinctBy(b => b.SittingId).Skip(1).Any())
        {
            return Refused("Chapters belong to one sitting: choose it above first.");
        }
        var stem = (Upload.SafeName(Production.Name) ?? "bites") + "_bites";
        if (form == "edl")
        {
            return Reel(some, Math.Clamp(handles, 0, MostHandles), stem);
        }
        var taken = Taken(some);
        return form switch
        {
            "csv" => Text(BiteLists.Csv(taken), "text/csv", stem + ".csv"),
            "markers" => Text(BiteLists.Markers(taken), "text/csv", stem + "_markers.csv"),
            "vtt" => Text(BiteLists.Chapters(taken), "text/vtt", stem + ".vtt"),
            "docx" => File(
                WordDocument.Write(
                    $"{Production.Name}: bites",
                    taken.Select(b => new TextPiece($"{BiteLists.NameOf(b)} ({b.Sitting})", b.Range.In, b.Range.Out, Words(b))),
                    names: true,
                    times: true
                ),
                "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
                stem + ".docx"
            ),
            _ => NotFound(),
        };

        static string Words(TakenBite bite) => bite.Bite.Note.Length > 0 ? $"{bite.Said} [{bite.Bite.Note}]" : bite.Said;
    }

    private FileContentResult Text(string text, string type, string name) => File(Encoding.UTF8.GetBytes(text), type, name);

    private IActionResult Reel(IReadOnlyList<Core.Bites.Bite> some, int handles, string stem)
    {
        try
        {
            return EdlFiles.Of(EdlWriter.Write(Desk.SelectsOf(Production, some, handles)), stem);
        }
        catch (EditRefusedException refused)
        {
            return Refused(refused.Message);
        }
    }

    private List<TakenBite> Taken(IReadOnlyList<Core.Bites.Bite> some)
    {
        var codes = new Dictionary<long, MarginCode?>();
        return
        [
            .. Desk.Shown(Production.Id, some)
                .Select(s =>
                {
                    if (!codes.TryGetValue(s.Sitting.Id, out var code))
                    {
                        codes[s.Sitting.Id] = code = MarginCode.Of(s.Sitting, footage.SourcesOf(s.Sitting.Id));
                    }
                    return new TakenBite(
                        s.Sitting.Title,
                        s.Bite.Range,
                        code?.At(s.Bite.Range.In) ?? "",
                        code?.At(s.Bite.Range.Out) ?? "",
                        code?.Name ?? "",
                        s.Speaker,
                        s.Said,
                        s.Bite
                    );
                }),
        ];
    }
}
