using EmberLane.Application.Gathering;
using EmberLane.Application.Rooms;
using EmberLane.Application.Tidying;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.People;
using EmberLane.Core.Stories;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Bites;

/// <summary>Bites: the quotations that were kept, as a list or on a board, and how much each person has on each theme.</summary>
[Needs(Rights.Mark)]
public sealed partial class IndexModel(
    Footage footage,
    Desk desk,
    Store.Bites bites,
    StoryTable table,
    Store.Transcripts transcripts,
    Store.Stories stories,
    Store.Changes changes,
    Findings findings,
    Missing missing,
    BiteMoves moves,
    MediaCache cache
) : LiveRoom(footage, desk)
{
    /// <summary>So many rows are shown at first, and with each further part.</summary>
    private const int AtOnce = 60;

    private const int MostAside = 200;

    private readonly Footage footage = footage;
    private readonly HeardSources heard = new(footage, cache);

    public override string Room => "Bites";

    /// <inheritdoc/>
    public override string CommandPlace => CommandPlaces.Bites;

    /// <summary>What of the bites is shown, and how.</summary>
    [BindProperty(Name = "is", SupportsGet = true)]
    public BitesAsked Asked { get; set; } = new();

    /// <summary>The rows to be shown now; the others follow as one scrolls.</summary>
    public IReadOnlyList<ShownBite> Kept { get; private set; } = [];

    /// <summary>The heading under which the row before the first of <see cref="Kept"/> stands; null where there is none.</summary>
    public string? HeadingBefore { get; private set; }

    public IReadOnlyList<ShownBite> Aside { get; private set; } = [];

    public int AsideCount { get; private set; }

    /// <summary>How many bites are kept, and how long they last together.</summary>
    public (int Count, MediaTime Length) Figures { get; private set; }

    /// <summary>How many of them are asked for.</summary>
    public (int Count, MediaTime Length) Found { get; private set; }

    /// <summary>How many rows the page has with these.</summary>
    public int ShownUpTo { get; private set; }

    /// <summary>Themes in the order of the chart, the empty one last.</summary>
    public IReadOnlyList<string> Themes { get; private set; } = [];

    public IReadOnlyList<Sitting> Sittings { get; private set; } = [];

    /// <summary>The people of the chart.</summary>
    public IReadOnlyList<(string Name, SpeakerMark Mark)> Speakers { get; private set; } = [];

    /// <summary>How long a person speaks about a theme in the kept bites.</summary>
    public IReadOnlyDictionary<(string Theme, string Name), MediaTime> Shares { get; private set; } =
        new Dictionary<(string, string), MediaTime>();

    public IReadOnlySet<long> InStory { get; private set; } = new HashSet<long>();

    /// <summary>The titles of the other stories that each bite is in.</summary>
    public ILookup<long, string> AlsoIn { get; private set; } = Array.Empty<long>().ToLookup(b => b, _ => "");

    /// <summary>The newest change that the page shows: news of older ones is none.</summary>
    public long Seen { get; private set; }

    /// <summary>The bite whose ends are open; null where none are.</summary>
    public OpenBite? Open { get; private set; }

    /// <summary>What was done, to be read once.</summary>
    public string? Done { get; private set; }

    /// <summary>Under which heading a bite stands in this view.</summary>
    public string HeadingOf(ShownBite shown) =>
        Asked.ByPerson ? shown.Voices.MaxBy(v => v.Said.Units)?.Name ?? "Nobody" : shown.Sitting.Title;

    /// <summary>
    /// Where a bite's sound is played from: address, and seconds in and out of each of its parts; null while the copy is not made.
    /// </summary>
    public (string Address, string Pieces)? Hear(ShownBite shown) =>
        shown.Sitting.SoundSourceId is { } id && heard.Of(id) is { } place
            ? (
                FormattableString.Invariant($"/media/{id}/play"),
                string.Join(
                    ' ',
                    shown.Pieces.Select(p =>
                        $"{place.ToSource(p.In).FromZero.ToSecondsText()},{place.ToSource(p.Out).FromZero.ToSecondsText()}"
                    )
                )
            )
            : null;

    public void OnGet() => Load(AtOnce);

    /// <summary>The list again, where somebody has changed something since the page that asks was made.</summary>
    public IActionResult OnGetList(long seen, int shown, long open)
    {
        if (changes.Newest(Production.Id) == seen)
        {
            return new NoContentResult();
        }
        Load(shown, open);
        return Partial("_List", this);
    }

    /// <summary>The list as it is asked for now.</summary>
    public PartialViewResult OnGetAsked()
    {
        Load(AtOnce);
        // The address says what is asked for, so that reloading and going back show it again.
        var asked = Request.Query.Where(q =>
            q.Key.StartsWith("is.", StringComparison.Ordinal) && q.Value.ToString() is { Length: > 0 } and not "0"
        );
        Response.Headers["HX-Replace-Url"] = $"{Request.Path}{QueryString.Create(asked)}";
        return Partial("_List", this);
    }

    /// <summary>The list with the ends of a bite open, or of none.</summary>
    public PartialViewResult OnGetPane(long pane, int shown)
    {
        Load(shown, pane);
        return Partial("_List", this);
    }

    /// <summary>What is spoken and kept, and what is missing.</summary>
    public PartialViewResult OnGetMissing() =>
        Partial("_Missing", (Production.Id, missing.Of(Production.Id), missing.ReadOf(Production.Id)));

    /// <summary>Further rows, behind those that the page has.</summary>
    public PartialViewResult OnGetMore(int shown)
    {
        LoadRows(Math.Max(0, shown), AtOnce);
        return Partial("_Rows", this);
    }

    public IActionResult OnPostDescribe(long bite, string? theme, string? note, string? kind)
    {
        string cleanTheme = TypedText.OneLine(theme ?? ""),
            cleanNote = TypedText.OneLine(note ?? ""),
            cleanKind = TypedText.OneLine(kind ?? "");
        return On(
            bite,
            () => bites.Change([bite], (_, b) => b with { Theme = BiteThemes.Written(cleanTheme), Note = cleanNote, Kind = cleanKind }, Who)
        );
    }

    /// <summary>Says how good a bite is; the grade that it has already takes it away.</summary>
    public IActionResult OnPostGrade(long bite, int grade) =>
        On(bite, () => bites.Change([bite], (_, b) => b with { Grade = b.Grade == grade ? 0 : grade }, Who));

    public IActionResult OnPostAside(long bite, bool back) => On(bite, () => bites.SetAside(bite, !back, Who));

    /// <summary>Takes back what this person did to bites last, or brings it again.</summary>
    public IActionResult OnPostUndo(bool redo) =>
        Changed(() =>
        {
            if (!bites.Step(Production.Id, redo, Who))
            {
                throw new EditRefusedException(StepWords.Of(null, redo));
            }
        });

    /// <summary>
    /// Puts a bite at the story's end; one that is in the story already only when it is asked for <paramref name="again"/>.
    /// </summary>
    [Needs(Rights.Order)]
    public IActionResult OnPostLay(long bite, bool again) =>
        On(
            bite,
            () =>
            {
                var story = Desk.StoryToChange(Production, Who);
                var kept = bites.Get(bite)!;
                if (!again && story.Story.Pieces.FindIndex(p => p is Card c && c.BiteId == bite) is >= 0 and var place)
                {
                    throw new EditRefusedException(
                        FormattableString.Invariant($"It is in the story already, as card {place + 1}. Shift S lays it once more.")
                    );
                }
                table.Lay(story, [kept], null, Who);
            },
            NewsOf.Story
        );

    private IActionResult On(long bite, Action change, NewsOf about = NewsOf.Bites) => IsHere(bite) ? Changed(change, about) : NotFound();

    private bool IsHere(long bite) => bites.Get(bite) is { } found && SittingHere(found.SittingId) is not null;

    private IActionResult Changed(Action change, NewsOf about = NewsOf.Bites)
    {
        if (Try(about, change) is { } refused)
        {
            return Refused(refused);
        }
        if (!IsFragment)
        {
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/bites"));
        }
        Load(Sent("shown") ?? AtOnce, Sent("open") ?? 0);
        Response.Headers["HX-Trigger"] = "changed";
        return Partial("_List", this);
    }

    private int? Sent(string name) => int.TryParse(Request.Form[name], out var number) ? number : null;

    private void Load(int rows, long open = 0)
    {
        Seen = changes.Newest(Production.Id);
        Sittings = footage.Sittings(Production.Id);
        Themes = [.. bites.Themes(Production.Id).OrderBy(t => t.Length == 0).ThenBy(t => t)];
        if (Asked.IsBoard)
        {
            LoadBoard();
        }
        else
        {
            LoadRows(0, LongList.Whole(rows, AtOnce));
        }
        AsideCount = bites.SetAsideOf(Production.Id).Count;
        Aside = AsideCount == 0 ? [] : Desk.Shown(Production.Id, bites.Some(Production.Id, new BiteFilter { Aside = true }, 0, MostAside));
        var shares = bites.Shares(Production.Id);
        var people = Desk.People(Production.Id);
        Speakers =
        [
            .. shares
                .Select(s => s.Name)
                .Distinct()
                .Select(n => (Name: n, Mark: Desk.MarkOf(people, n)))
                .OrderBy(s => s.Mark.Number < 0 ? int.MaxValue : s.Mark.Number),
        ];
        Shares = shares.ToDictionary(s => (s.Theme, s.Name), s => s.Said);
        LoadOpen(open);
    }

    private void LoadRows(int skip, int most)
    {
        LoadFigures();
        // With the one before, whose heading goes on.
        var before = skip > 0 ? 1 : 0;
        var some = Desk.Shown(Production.Id, bites.Some(Production.Id, Filter, skip - before, most + before, Asked.ByPerson));
        HeadingBefore = before > 0 && some.Count > 0 ? HeadingOf(some[0]) : null;
        Kept = [.. some.Skip(before)];
        AlsoIn = stories.AlsoIn(InHand, Kept.Select(k => k.Bite.Id)).ToLookup(u => u.Bite, u => u.Title);
        ShownUpTo = skip + Kept.Count;
    }

    private void LoadFigures()
    {
        var story = Desk.StoryOf(Production, Who);
        InHand = story.Id;
        InStory = story.Story.Cards.Select(c => c.BiteId).ToHashSet();
        Filter = Asked.Filter(story.Id);
        Figures = bites.Figures(Production.Id);
        Found = bites.Figures(Production.Id, Filter);
    }

    private long InHand { get; set; }

    private BiteFilter Filter { get; set; } = new();
}
