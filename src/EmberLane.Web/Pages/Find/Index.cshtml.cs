using EmberLane.Application.Gathering;
using EmberLane.Application.Rooms;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Finding;
using EmberLane.Core.People;
using EmberLane.Core.Tidy;
using EmberLane.Core.Transcripts;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Find;

/// <summary>Hits of one sitting, or of what lies in none.</summary>
public sealed record FoundThere(string Title, string? Address, IReadOnlyList<FoundHit> Hits);

/// <summary>Find: everything that was said, written and named, in this production or in all.</summary>
[Needs(Rights.Mark)]
public sealed partial class IndexModel(
    Footage footage,
    Desk desk,
    Store.Transcripts transcripts,
    Store.Bites bites,
    StoryTable table,
    Finder finder,
    SavedSearches searches,
    BiteMoves moves,
    SittingMics sittingMics,
    MediaCache cache
) : LiveRoom(footage, desk)
{
    /// <summary>So many hits are shown, and counted.</summary>
    public const int MostShown = 100,
        MostCounted = 1_000;

    private readonly Footage footage = footage;
    private readonly Dictionary<long, MarginCode?> codes = [];

    public override string Room => "Find";

    /// <inheritdoc/>
    public override string CommandPlace => CommandPlaces.Find;

    /// <summary>The question as it was typed.</summary>
    [BindProperty(Name = "q", SupportsGet = true)]
    public string? Question { get; set; }

    /// <summary>Whether words that are spelled or sound nearly so are found too.</summary>
    [BindProperty(Name = "rough", SupportsGet = true)]
    public bool IsRough { get; set; }

    /// <summary>Whether all productions are looked in.</summary>
    [BindProperty(Name = "all", SupportsGet = true)]
    public bool IsEverywhere { get; set; }

    /// <summary>Whether hits come in the order in which they were recorded, by day.</summary>
    [BindProperty(Name = "time", SupportsGet = true)]
    public bool IsInTime { get; set; }

    public FindResult? Result { get; private set; }

    /// <summary>Why nothing was looked for; null where something was, or nothing was asked.</summary>
    public string? NotAsked { get; private set; }

    /// <summary>What was done, to be read once.</summary>
    public string? Done { get; private set; }

    /// <summary>The hits by the sittings that they lie in; rough ones in one list, the nearest first.</summary>
    public IReadOnlyList<FoundThere> Groups { get; private set; } = [];

    public IReadOnlyList<LimitGroup> Limits { get; private set; } = [];

    /// <summary>The sound of each sitting that has hits.</summary>
    public IReadOnlyDictionary<long, Played> Sounds { get; private set; } = new Dictionary<long, Played>();

    public IReadOnlyDictionary<string, SpeakerMark> People { get; private set; } = new Dictionary<string, SpeakerMark>();

    /// <summary>What stands in the address behind the question.</summary>
    public string Others => (IsRough ? "&rough=true" : "") + (IsEverywhere ? "&all=true" : "") + (IsInTime ? "&time=true" : "");

    /// <summary>What was found, in words.</summary>
    public string Counted =>
        Result is not { } found ? ""
        : found.Count == 0 ? "Nothing is found."
        : (found.IsMore ? FormattableString.Invariant($"More than {MostCounted} hits") : Many.Of(found.Count, "hit"))
            + (found.Count > found.Hits.Count ? FormattableString.Invariant($"; the first {found.Hits.Count} are listed") : "")
            + ".";

    public IActionResult OnGet()
    {
        Load();
        LookAtSaved();
        return IsFragment ? Partial("_Found", this) : Page();
    }

    /// <summary>
    /// Keeps the sentences around a hit as a bite; with <paramref name="lay"/> puts it at the end of the story in hand.
    /// </summary>
    public IActionResult OnPostKeep(long sitting, WordNumber first, WordNumber last, bool lay)
    {
        if (!ModelState.IsValid)
        {
            return Refused("The request names words by something that is no number. Load the page again and repeat it.");
        }
        if (SittingHere(sitting) is not { TranscriptId: { } text })
        {
            return Refused("That is in another production. Open its text, and keep it there.");
        }
        var kept = "";
        if (Try(lay ? NewsOf.Story : NewsOf.Bites, () => kept = Keep(sitting, text, first, last, lay)) is { } refused)
        {
            return Refused(refused);
        }
        Load();
        LoadSaved();
        Done = lay ? $"Kept, and at the end of the story: “{kept}”" : $"Kept: “{kept}”";
        return IsFragment ? Partial("_Found", this) : Page();
    }

    /// <summary>Where a hit is read, seen or listened to.</summary>
    public string LinkOf(FoundHit hit) =>
        hit switch
        {
            { Words: { } words, Sitting: { } sitting } => FormattableString.Invariant(
                $"/productions/{hit.ProductionId}/read/{sitting.Id}#word-{words.First}"
            ),
            { Kind: FoundKind.Picture } => CutawayLinks.Of(hit),
            { Kind: FoundKind.Source, Sitting: null } => FormattableString.Invariant(
                $"/productions/{hit.ProductionId}/gather/files#file-{hit.Of}"
            ),
            { Sitting: { TranscriptId: not null } sitting } => FormattableString.Invariant(
                $"/productions/{hit.ProductionId}/read/{sitting.Id}"
            ),
            _ => FormattableString.Invariant($"/productions/{hit.ProductionId}/gather"),
        };

    /// <summary>A hit's timecode, else its time in the sitting.</summary>
    public string TimeOf(FoundHit hit) =>
        hit is { Range: { } range, Sitting: { } sitting }
            ? CodeOf(sitting)?.At(range.In) is { Length: > 0 } code
                ? code
                : range.In.ToString()
            : hit.Shot is { } shot
                ? shot.Range.In.ToString()
                : "";

    /// <summary>What a browser plays of a picture: its file, from one second to another (Media Fragments).</summary>
    public static string SeenOf(FoundHit hit) =>
        FormattableString.Invariant($"/media/{hit.Of}/play#t={Seconds(hit.Shot!.Value.Range.In)},{Seconds(hit.Shot.Value.Range.Out)}");

    private static string Seconds(SourceTime at) => at.FromZero.ToSecondsText();

    /// <summary>What the page's script plays of a hit.</summary>
    public static string HeardOf(FoundHit hit) =>
        FormattableString.Invariant($"{hit.Range!.Value.In.FromZero.ToSecondsText()} {hit.Range.Value.Out.FromZero.ToSecondsText()}");

    /// <summary>A kind of hit as it is read before what was found; what is said needs none.</summary>
    public static string KindOf(FoundHit hit) =>
        hit.Kind switch
        {
            FoundKind.Speech => "",
            FoundKind.Bite => "bite",
            FoundKind.Flag => "flag or part",
            FoundKind.Source => "footage",
            FoundKind.Picture => "picture",
            FoundKind.Name => "person",
            _ => "sitting",
        };

    /// <summary>What a story puts in of a hit: the sentence around what is said; null for what has no words.</summary>
    public static string? ClipOf(FoundHit hit) =>
        hit is { Kind: FoundKind.Speech, Words: { } words, Sitting: { TranscriptId: { } text } sitting }
            ? new CopiedWords(sitting.Id, text, words.First, words.Last) { Sentence = true }.Written
            : null;

    public SpeakerMark MarkOf(string name) => Desk.MarkOf(People, name);

    // Keeps the sentence and gives how it begins.
    private string Keep(long sitting, long textId, WordNumber first, WordNumber last, bool lay)
    {
        var text = transcripts.Get(textId);
        var found = text.PlacesOf(first, last);
        var (from, to) = new TextTalk(text).SentencesOf(found.First, found.Last);
        var bite = Bite.Of(sitting, textId, text.At(from).Number, text.At(to).Number, text.RangeOf(from, to), "", "", Who);
        if (lay)
        {
            table.KeepAndLay(Desk.StoryToChange(Production, Who), [new LaidTakes(bite, [], "", "")], Who);
        }
        else
        {
            bites.Add(bite);
        }
        return BiteWords.Excerpt(text.Said(from, to));
    }

    private MarginCode? CodeOf(Sitting sitting)
    {
        if (!codes.TryGetValue(sitting.Id, out var code))
        {
            codes[sitting.Id] = code = MarginCode.Of(sitting, footage.SourcesOf(sitting.Id));
        }
        return code;
    }

    private void Load()
    {
        People = Desk.People(Production.Id);
        Limits = [.. Links().Where(g => g.Links.Count > 0)];
        if (string.IsNullOrWhiteSpace(Question))
        {
            return;
        }
        try
        {
            Result = finder.Find(
                QuestionText.Read(Question, IsRough),
                IsEverywhere ? null : Production.Id,
                MostShown,
                MostCounted,
                IsInTime,
                MayRead
            );
        }
        catch (FormatException notAsked)
        {
            NotAsked = notAsked.Message;
            return;
        }
        Groups =
            IsInTime
                ?
                [
                    .. Result
                        .Hits.GroupBy(h => h.When.Day)
                        .Select(g => new FoundThere(g.Key.Length > 0 ? g.Key : "On no known day", null, [.. g])),
                ]
            : IsRough ? [new FoundThere("The nearest first", null, Result.Hits)]
            :
            [
                .. Result
                    .Hits.GroupBy(h => h.Sitting)
                    .Select(g => new FoundThere(
                        g.Key?.Title ?? "In no sitting",
                        g.Key is { } s ? FormattableString.Invariant($"/productions/{s.ProductionId}/read/{s.Id}") : null,
                        [.. g]
                    )),
            ];
        LoadKept();
        Sounds = Result
            .Hits.Where(h => h.Range is not null)
            .Select(h => h.Sitting!)
            .DistinctBy(s => s.Id)
            .Select(s => (s.Id, PlayedSitting.Of(s, footage.SourcesOf(s.Id), sittingMics.Of(s), cache, null).Sound))
            .Where(s => s.Sound is { Address: not null })
            .ToDictionary(s => s.Id, s => s.Sound!);
    }

    // Those that are asked for most, each behind the question or taken out of it.
    private List<LimitGroup> Links()
    {
        var typed = Question ?? "";
        return
        [
            new LimitGroup("said by", [.. People.Keys.Order(StringComparer.Ordinal).Take(12).Select(p => Link(p, $"by:\"{p}\""))]),
            new LimitGroup(
                "kept as",
                [.. bites.Themes(Production.Id).Where(t => t.Length > 0).Take(12).Select(t => Link(t, $"theme:\"{t}\""))]
            ),
            new LimitGroup(
                "only",
                [
                    Link("not kept yet", "kept:no"),
                    Link("in no story", "story:no"),
                    Link("not set aside", "aside:no"),
                    Link("●● and more", "grade:2"),
                    Link("bites of 30 to 60 s", "length:30-60"),
                ]
            ),
            new LimitGroup(
                "pictures",
                [
                    Link("all", "kind:picture"),
                    Link("no faces", "faces:0"),
                    Link("close faces", "size:close"),
                    Link("still", "movement:still"),
                ]
            ),
        ];

        LimitLink Link(string says, string limit) => LimitLink.Of(typed, says, limit);
    }
}
