using System.Globalization;
using EmberLane.Application.Rooms;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Finding;
using EmberLane.Core.Media;
using EmberLane.Core.People;
using EmberLane.Core.Pictures;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Cutaways;

/// <summary>A shot as it lies on the table: its file, what was measured, the parts of it that are marked as best.</summary>
public sealed record LaidShot(Source Source, StoredShot Shot, IReadOnlyList<BestPart> Best)
{
    /// <summary>As an address names it.</summary>
    public string Name => CutawayLinks.NameOf(Shot.Name);

    /// <summary>The id of its print on the page.</summary>
    public string Id => FormattableString.Invariant($"shot-{Shot.Name.Source}-{Shot.Name.Number}");

    /// <summary>What it is called: what somebody wrote, else what is said at its start, else its file.</summary>
    public string Title =>
        Source.Labels.Description.Length > 0 ? Source.Labels.Description
        : Source.Said is { Length: > 0 } said ? $"“{said}”"
        : Source.Name;
}

/// <summary>Somebody who is seen in the open shot: a letter for the face, the name that it has, and one that is offered.</summary>
public sealed record SeenHere(SeenPerson Person, int Number, string Letter, string? Name, string? Offered);

/// <summary>Cutaways and angles by their shots: found by what they show, described, tagged, their best seconds marked.</summary>
[Needs(Rights.Log | Rights.Mark)]
public sealed partial class IndexModel(
    Footage footage,
    Desk desk,
    Shots shots,
    Finder finder,
    Grouping grouping,
    Jobs jobs,
    Taggers taggers,
    News news,
    Store.Stories stories
) : LiveRoom(footage, desk)
{
    /// <summary>So many shots are laid out at most; whoever looks for one asks for less.</summary>
    public const int MostShown = 200;

    private readonly Footage footage = footage;

    public override string Room => "Bites";

    /// <inheritdoc/>
    public override string CommandPlace => CommandPlaces.Cutaways;

    /// <summary>The question as it was typed, with its limits.</summary>
    [BindProperty(Name = "q", SupportsGet = true)]
    public string? Question { get; set; }

    /// <summary>Loose footage (empty), the angles of sittings, or <c>all</c>.</summary>
    [BindProperty(Name = "of", SupportsGet = true)]
    public string? Of { get; set; }

    /// <summary>The shot that lies open, as <c>17/2</c>.</summary>
    [BindProperty(Name = "shot", SupportsGet = true)]
    public string? Asked { get; set; }

    /// <summary>The card of the story in hand that a picture is looked for; null where none is.</summary>
    [BindProperty(Name = "over", SupportsGet = true)]
    public Guid? Over { get; set; }

    /// <summary>What that card says; null where none is looked for, or it is gone.</summary>
    public string? OverSays { get; private set; }

    public IReadOnlyList<LaidShot> Shown { get; private set; } = [];

    public int Fitting { get; private set; }

    /// <summary>Files with a picture that were not measured yet.</summary>
    public int ToMeasure { get; private set; }

    public LaidShot? Open { get; private set; }

    public IReadOnlyList<SeenHere> People { get; private set; } = [];

    /// <summary>Names that are known in the production.</summary>
    public IReadOnlyList<string> Names { get; private set; } = [];

    public IReadOnlyList<LimitGroup> Limits { get; private set; } = [];

    /// <summary>Why nothing was looked for; null where something was.</summary>
    public string? NotAsked { get; private set; }

    /// <summary>What was done, to be read once.</summary>
    public string? Done { get; private set; }

    /// <summary>Whether the answer is about the open shot, and brings the table along.</summary>
    public bool IsTableBeside { get; private set; }

    public TaggerChoice Tagger => taggers.Chosen;

    public string Address => FormattableString.Invariant($"/productions/{Production.Id}/cutaways");

    /// <summary>The address of this page with another question, the same shots to choose from.</summary>
    public string With(string question) => $"?q={Uri.EscapeDataString(question)}{Others}";

    /// <summary>What stands in the address behind the question.</summary>
    public string Others => $"&of={Uri.EscapeDataString(Of ?? "")}{(Over is { } card ? $"&over={card}" : "")}";

    /// <summary>What was found, in words.</summary>
    public string Counted =>
        Many.Of(Fitting, "shot") + (Fitting > Shown.Count ? FormattableString.Invariant($"; the first {Shown.Count} are laid out") : "");

    /// <summary>How wide a picture is that is 1,000 high; and so much of it as thousandths of its width.</summary>
    public static int WideOf(LaidShot shot) => AcrossOf(shot, 1000);

    /// <inheritdoc cref="WideOf"/>
    public static int AcrossOf(LaidShot shot, int thousandths) =>
        thousandths * shot.Source.Facts.Picture!.Width / Math.Max(1, shot.Source.Facts.Picture.Height);

    /// <summary>Where a moment lies in a shot, in thousandths of it.</summary>
    public static int PlaceOf(LaidShot shot, SourceTime at) =>
        PerMille.Of((at - shot.Shot.Facts.Range.In).Units, shot.Shot.Facts.Length.Units).Value;

    /// <summary>How much of a shot a range is, in thousandths; at least enough to be seen.</summary>
    public static int WidthOf(LaidShot shot, SourceRange range) => Math.Max(4, PlaceOf(shot, range.Out) - PlaceOf(shot, range.In));

    public string TaggerName(string key) => taggers.NameOf(key);

    public IActionResult OnGet()
    {
        Load();
        return IsFragment ? Partial("_Table", this) : Page();
    }

    /// <summary>The open shot alone.</summary>
    public IActionResult OnGetOpen()
    {
        Load();
        return Open is null ? NotFound() : Partial("_Open", this);
    }

    /// <summary>Has the chosen tagger look at the shots that are laid out.</summary>
    [Needs(Rights.Log)]
    public IActionResult OnPostTag()
    {
        Load();
        if (Tagger.Tagger.WhyNot() is { } reason)
        {
            return Refused($"{reason} Or choose the simulated one in Settings.");
        }
        var files = Shown.Select(s => s.Source).DistinctBy(s => s.Id).ToList();
        foreach (var source in files)
        {
            jobs.Add(Production.Id, WorkKinds.Tag, source.Id, $"Tags of {source.Name}");
        }
        news.Tell();
        Done = $"{Tagger.Name} looks at the shots of {Many.Of(files.Count, "file")}.";
        return Partial("_Table", this);
    }

    private void Load()
    {
        var sources = footage.Sources(Production.Id).Where(s => s.Facts.Picture is not null).ToDictionary(s => s.Id);
        ToMeasure = sources.Keys.Except(shots.Measured(Production.Id, 0)).Count();
        var all = shots.Of(Production.Id).ToDictionary(s => s.Name);
        LoadOver();
        Names =
        [
            .. Desk.People(Production.Id)
                .Keys.Concat(sources.Values.SelectMany(s => NamedFace.Of(s.Labels).Select(n => n.Name)))
                .Distinct()
                .Order(StringComparer.CurrentCultureIgnoreCase),
        ];
        Find(sources, all);
        Limits = LimitsOf(all.Values);
        if (NameAsked() is { } name && all.GetValueOrDefault(name) is { } shot)
        {
            Open = Laid(sources[name.Source], shot);
            People = SeenIn(Open, sources, all.Values);
        }
    }

    private void Find(Dictionary<long, Source> sources, Dictionary<ShotName, StoredShot> all)
    {
        try
        {
            // Before what was typed, which may end in the middle of a quotation.
            var asked = QuestionText.Read($"kind:picture {Question}");
            var found = finder
                .Find(asked with { Limits = asked.Limits with { Kind = FoundKind.Picture } }, Production.Id, int.MaxValue)
                .Hits.Where(h => Of == "all" || (Of == "angles") == (h.Sitting is not null))
                .Select(h => new ShotName(h.Of!.Value, h.Shot!.Value.Number))
                .Where(n => all.ContainsKey(n) && sources.ContainsKey(n.Source))
                .ToList();
            Fitting = found.Count;
            Shown = [.. found.Take(MostShown).Select(n => Laid(sources[n.Source], all[n]))];
        }
        catch (FormatException notAsked)
        {
            NotAsked = notAsked.Message;
        }
    }

    private static LaidShot Laid(Source source, StoredShot shot) =>
        new(
            source,
            shot,
            [.. BestPart.Of(source.Labels).Where(p => p.Range.In < shot.Facts.Range.Out && shot.Facts.Range.In < p.Range.Out)]
        );

    private static List<SeenHere> SeenIn(LaidShot open, Dictionary<long, Source> sources, IEnumerable<StoredShot> all)
    {
        var named = all.SelectMany(s =>
                s.People.Select(p => (Person: p, Name: NamedFace.NameOf(sources[s.SourceId].Labels, s.Facts.Range, p)))
            )
            .Where(p => p.Name is not null)
            .Select(p => (p.Person, p.Name!))
            .ToList();
        var here = open.Shot.People.Select(p => (Person: p, Name: NamedFace.NameOf(open.Source.Labels, open.Shot.Facts.Range, p))).ToList();
        var offers = new Queue<string?>(
            OfferedNames.Of(
                [.. here.Where(h => h.Name is null).Select(h => h.Person)],
                named,
                [.. here.Select(h => h.Name).OfType<string>()]
            )
        );
        return
        [
            .. here.Select(
                (h, i) => new SeenHere(h.Person, i, ((char)('A' + (i % 26))).ToString(), h.Name, h.Name is null ? offers.Dequeue() : null)
            ),
        ];
    }

    private List<LimitGroup> LimitsOf(IEnumerable<StoredShot> all)
    {
        var typed = Question ?? "";
        return
        [
            Group("light", Enum.GetValues<ShotLight>().Select(l => (ShotWords.LightOf(l), $"light:{l}"))),
            Group("movement", Enum.GetValues<ShotMovement>().Select(m => (ShotWords.MovementOf(m), $"movement:{m}"))),
            Group("faces", [("none", "faces:0"), ("one", "faces:1"), ("two", "faces:2"), ("more", "faces:>2")]),
            Group("size", Enum.GetValues<ShotSize>().Select(s => (s.ToString(), $"size:{s}"))),
            Group("length", [("up to 5 s", "length:<5"), ("5 to 15 s", "length:5-15"), ("longer", "length:>15")]),
            Group("colour", all.SelectMany(s => s.Facts.Colours).Distinct().Order().Select(c => (c.ToString(), $"colour:{c}"))),
        ];

        LimitGroup Group(string name, IEnumerable<(string Says, string Limit)> limits) =>
            new(name, [.. limits.Select(l => LimitLink.Of(typed, l.Says.ToLowerInvariant(), l.Limit.ToLowerInvariant()))]);
    }

    // The shot that is asked for, where it is one of this production.
    private (Source Source, StoredShot Shot)? OpenShot() =>
        NameAsked() is { } name
        && footage.Source(name.Source) is { } source
        && source.ProductionId == Production.Id
        && shots.Get(name) is { } shot
            ? (source, shot)
            : null;

    private ShotName? NameAsked() =>
        Asked?.Split('/') is [var file, var number]
        && long.TryParse(file, NumberStyles.None, CultureInfo.InvariantCulture, out var source)
        && int.TryParse(number, NumberStyles.None, CultureInfo.InvariantCulture, out var shot)
            ? new ShotName(source, shot)
            : null;
}
