using EmberLane.Application.Rooms;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Finding;
using EmberLane.Store;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Find;

/// <summary>A saved search as it is listed: how many hits are new since it was last looked at; null while they are not counted.</summary>
public sealed record ListedSearch(SavedSearch Search, int? New);

/// <content>Searches saved with a name; and bites that a hit is kept in, whose ends are moved by keys.</content>
public sealed partial class IndexModel
{
    private SavedSearch? looked;

    /// <summary>The saved search that is asked for by its name.</summary>
    [BindProperty(Name = "saved", SupportsGet = true)]
    public long? Saved { get; set; }

    /// <summary>The saved searches; what is new of them is counted when it is asked for.</summary>
    public IReadOnlyList<ListedSearch> Searches { get; private set; } = [];

    /// <summary>The bite that a hit is kept in, by the hit: the newest one.</summary>
    public IReadOnlyDictionary<FoundHit, ShownBite> KeptIn { get; private set; } = new Dictionary<FoundHit, ShownBite>();

    /// <summary>Whether a hit was not there when the saved search was last looked at.</summary>
    public bool IsNew(FoundHit hit) => looked?.IsNew(hit) == true;

    /// <summary>Where a saved search is asked.</summary>
    public string AddressOf(SavedSearch search) =>
        $"/productions/{Production.Id}/find?q={Uri.EscapeDataString(search.Question)}"
        + (search.IsRough ? "&rough=true" : "")
        + (search.IsEverywhere ? "&all=true" : "")
        + FormattableString.Invariant($"&saved={search.Id}");

    /// <summary>The saved searches with what is new of each.</summary>
    public PartialViewResult OnGetSearches()
    {
        Searches = [.. searches.Of(Production.Id).Select(s => new ListedSearch(s, s.NewOf(HitsOf(s))))];
        return Partial("_Saved", this);
    }

    /// <summary>Saves the question under a name.</summary>
    public IActionResult OnPostSave(string? name)
    {
        var called = TypedText.OneLine(name ?? "");
        Load();
        if (Result is null)
        {
            return Refused("Ask something first; then it can be saved.");
        }
        if (
            Try(
                NewsOf.Production,
                () => searches.Save(Production.Id, called, Question!, IsRough, IsEverywhere, Who, HitsOf(Question!, IsRough, IsEverywhere))
            ) is
            { } refused
        )
        {
            return Refused(refused);
        }
        return OnGetSearches();
    }

    /// <summary>Takes a saved search away.</summary>
    public IActionResult OnPostForget(long search) => searches.Remove(Production.Id, search) ? OnGetSearches() : NotFound();

    /// <summary>Moves an end of the bite that a hit is kept in, by words.</summary>
    public IActionResult OnPostMove(long bite, string? end, int words)
    {
        if (
            end is not ("begin" or "stop")
            || words is 0 or < -100 or > 100
            || bites.Get(bite) is not { } kept
            || SittingHere(kept.SittingId) is null
        )
        {
            return NotFound();
        }
        if (Try(NewsOf.Bites, () => moves.Move(bite, end == "begin" ? BiteEnd.Begin : BiteEnd.Stop, words, 0, Who)) is { } refused)
        {
            return Refused(refused);
        }
        Load();
        LoadSaved();
        return IsFragment ? Partial("_Found", this) : Page();
    }

    private void LoadSaved() => Searches = [.. searches.Of(Production.Id).Select(s => new ListedSearch(s, null))];

    // What is asked by a saved search's name was looked at by that.
    private void LookAtSaved()
    {
        LoadSaved();
        looked = Searches
            .Select(s => s.Search)
            .FirstOrDefault(s => s.Id == Saved && s.Question == Question && s.IsRough == IsRough && s.IsEverywhere == IsEverywhere);
        if (looked is not null && Result is not null)
        {
            searches.Look(looked.Id, HitsOf(looked));
        }
    }

    private IReadOnlyList<FoundHit> HitsOf(SavedSearch search) => HitsOf(search.Question, search.IsRough, search.IsEverywhere);

    private IReadOnlyList<FoundHit> HitsOf(string question, bool isRough, bool isEverywhere)
    {
        try
        {
            return finder
                .Find(QuestionText.Read(question, isRough), isEverywhere ? null : Production.Id, MostCounted, MostCounted, mayRead: MayRead)
                .Hits;
        }
        catch (FormatException)
        {
            return [];
        }
    }

    private void LoadKept()
    {
        var hits = Result!.Hits.Where(h => h is { Kind: FoundKind.Speech, IsKept: true } && h.ProductionId == Production.Id).ToList();
        if (hits.Count == 0)
        {
            return;
        }
        var kept = bites.Of(Production.Id).Where(b => !b.IsAside).ToLookup(b => b.SittingId);
        var byHit = hits.ToDictionary(
            h => h,
            h => kept[h.Sitting!.Id].Where(b => b.Range.In < h.Range!.Value.Out && h.Range.Value.In < b.Range.Out).MaxBy(b => b.Id)
        );
        var shown = Desk.Shown(Production.Id, [.. byHit.Values.OfType<Bite>().DistinctBy(b => b.Id)]).ToDictionary(s => s.Bite.Id);
        KeptIn = byHit.Where(h => h.Value is not null).ToDictionary(h => h.Key, h => shown[h.Value!.Id]);
    }
}
