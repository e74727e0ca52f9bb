using EmberLane.Application.Exports;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.People;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EmberLane.Web.Pages;

/// <summary>A production on the first page: what it holds, who speaks in it, and how far it is.</summary>
public sealed record ShownProduction(
    Production Production,
    ProductionFigures Figures,
    IReadOnlyDictionary<string, SpeakerMark> People,
    IReadOnlyList<Stop> Stops
);

/// <summary>The productions there are, for whom may see them.</summary>
[ForVisitors]
[RequestSizeLimit(MostBrought)]
[RequestFormLimits(MultipartBodyLengthLimit = MostBrought)]
public sealed class IndexModel(
    Footage footage,
    Productions productions,
    Desk desk,
    ProductionMoves moves,
    News news,
    DoorLog log,
    Options options,
    TimeProvider time
) : PageModel
{
    /// <summary>The largest export that is taken (4 GiB).</summary>
    public const long MostBrought = 4L << 30;

    /// <summary>So many people are named.</summary>
    public const int PeopleShown = 6;

    public IReadOnlyList<ShownProduction> Shown { get; private set; } = [];

    /// <summary>The productions that were put away.</summary>
    public IReadOnlyList<Production> Away { get; private set; } = [];

    public string? Error { get; private set; }

    /// <summary>Who asks.</summary>
    public Visitor Visitor => Visitor.Of(HttpContext)!;

    public string Moment(DateTimeOffset at) => Moments.Of(at, time);

    /// <summary>Where a production is taken out whole.</summary>
    public static string ExportAddress(long id) => FormattableString.Invariant($"/?handler=Export&id={id}");

    /// <summary>Who comes by a link alone has one place to be.</summary>
    public IActionResult OnGet()
    {
        if (Visitor is { Account: null, Link: { ProductionId: { } production } link })
        {
            return Redirect(ShownAddress.Of(production, link.Shows));
        }
        Load();
        return Page();
    }

    private void Load()
    {
        var all = productions.All().Where(p => Visitor.In(p.Id).HasFlag(Rights.Read)).ToList();
        Shown =
        [
            .. all.Where(p => !p.IsAway)
                .Select(p => new ShownProduction(p, productions.Figures(p.Id), desk.People(p.Id), desk.Lane(p, Person.Of(Request)))),
        ];
        Away = [.. all.Where(p => p.IsAway)];
    }

    public IActionResult OnPost(string? name) =>
        !Visitor.IsOwner
            ? Gate.Refuse(HttpContext, "Owners of this Ember Lane begin productions. Nothing was changed; ask one.")
            : Named(name, clean => Redirect(FormattableString.Invariant($"/productions/{footage.AddProduction(clean)}/gather")));

    public IActionResult OnPostRename(long id, string? name) =>
        !Runs(id)
            ? NotFound()
            : Named(
                name,
                clean =>
                {
                    productions.Rename(id, clean, Person.Of(Request));
                    return Redirect("/");
                }
            );

    public IActionResult OnPostAway(long id, bool away)
    {
        if (!Runs(id))
        {
            return NotFound();
        }
        productions.PutAway(id, away, Person.Of(Request));
        return Redirect("/");
    }

    /// <summary>A production whole, to be brought in elsewhere.</summary>
    public async Task<IActionResult> OnGetExportAsync(long id)
    {
        if (!Runs(id))
        {
            return NotFound();
        }
        var production = footage.Production(id)!;
        var file = Path.Combine(options.Data, "cache", FormattableString.Invariant($"export-{Guid.NewGuid():N}.part"));
        try
        {
            await moves.WriteAsync(id, file);
        }
        catch (Exception refused) when (refused is EditRefusedException or IOException)
        {
            return Refuse(refused.Message);
        }
        log.Add(DoorEvent.TakenOut, Person.Of(Request), "took the production out whole", id);
        return File(
            new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.Read, 1 << 16, FileOptions.DeleteOnClose),
            "application/zip",
            ProductionMoves.FileName(production)
        );
    }

    /// <summary>Brings in what was exported elsewhere.</summary>
    public IActionResult OnPostBring(IFormFile? export)
    {
        if (!Visitor.IsOwner)
        {
            return Gate.Refuse(HttpContext, "Owners of this Ember Lane bring productions in. Nothing was changed; ask one.");
        }
        if (export is null || export.Length == 0)
        {
            return Refuse("Choose the file of an export first; this one is empty.");
        }
        try
        {
            using var stream = export.OpenReadStream();
            var imported = moves.Bring(stream);
            news.Tell();
            return Redirect(FormattableString.Invariant($"/productions/{imported.Id}/gather/files"));
        }
        catch (Exception refused) when (refused is StoreException or IOException)
        {
            return Refuse(refused.Message);
        }
    }

    private PageResult Refuse(string message)
    {
        Error = message;
        Load();
        Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        return Page();
    }

    private bool Runs(long id) => footage.Production(id) is not null && Visitor.In(id).HasFlag(Rights.Run);

    private IActionResult Named(string? name, Func<string, IActionResult> change)
    {
        var clean = TypedText.OneLine(name ?? "");
        if (clean.Length is > 0 and <= Productions.LongestName)
        {
            return change(clean);
        }
        Error = "A production needs a name of at most 120 characters.";
        Load();
        return Page();
    }
}
