using System.Globalization;
using System.Text;
using EmberLane.Application.Gathering;
using EmberLane.Application.Rooms;
using EmberLane.Application.Tidying;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Marks;
using EmberLane.Core.Parts;
using EmberLane.Core.People;
using EmberLane.Core.Tidy;
using EmberLane.Core.Transcripts;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.LogSheet;

/// <summary>How long somebody speaks in a part.</summary>
public sealed record VoiceShare(SpeakerMark Mark, string Name, int PerMille, int FromPerMille);

/// <summary>
/// A line of the sheet: a part that people made (its mark) or one that is proposed (no mark), where it lies, what it is called, its telling
/// sentences by their places in the talk, who speaks, and what of it is kept.
/// </summary>
public sealed record SheetLine(
    Mark? Mark,
    TextPlace First,
    TextPlace Last,
    SittingRange Range,
    string Name,
    IReadOnlyList<(int First, int Last)> Sentences,
    IReadOnlyList<VoiceShare> Voices,
    int Kept,
    MediaTime KeptLength,
    bool IsAside
);

/// <summary>
/// The log sheet of a sitting: its parts as they are proposed and as people made them, its key terms, and pulls of a length.
/// </summary>
[Needs(Rights.Mark | Rights.Log)]
public sealed partial class IndexModel(
    Footage footage,
    Desk desk,
    Store.Transcripts transcripts,
    Store.Bites bites,
    Readings readings,
    Findings findings,
    LogSheets sheets,
    SittingMics sittingMics,
    MediaCache cache,
    TimeProvider clock
) : LiveRoom(footage, desk)
{
    private readonly Footage footage = footage;

    public override string Room => "Read";

    /// <inheritdoc/>
    public override string CommandPlace => CommandPlaces.LogSheet;

    public Sitting Sitting { get; private set; } = null!;

    public SittingFindings Found { get; private set; } = null!;

    public ComputedSheet Sheet { get; private set; } = null!;

    public Transcript Text => Found.Text.Text;

    public Talk Talk => Found.Text.Talk;

    public PlayedSitting Played { get; private set; } = null!;

    /// <summary>The lines, in the order of their begins.</summary>
    public IReadOnlyList<SheetLine> Lines { get; private set; } = [];

    /// <summary>What was done, to be read once.</summary>
    public string? Done { get; private set; }

    public string Address => FormattableString.Invariant($"/productions/{Production.Id}/read/{Sitting.Id}");

    public IReadOnlyDictionary<string, SpeakerMark> People { get; private set; } = new Dictionary<string, SpeakerMark>();

    public int Proposed => Lines.Count(l => l.Mark is null);

    /// <summary>The words of the talk from one to another.</summary>
    public string Said(int first, int last) => string.Join(' ', Talk.Words.Skip(first).Take(last - first + 1).Select(w => w.Text));

    /// <summary>Where a word of the talk is read.</summary>
    public string WordLink(int word) => FormattableString.Invariant($"{Address}#word-{NumberOf(word)}");

    /// <summary>The number of a word of the talk in the text.</summary>
    public WordNumber NumberOf(int word) => Text.At(Found.Text.FirstOf(word)).Number;

    /// <summary>What the page's script plays from one word to another.</summary>
    public string HeardOf(int first, int last) => $"{Talk.Words[first].In.ToSecondsText()} {Talk.Words[last].Out.ToSecondsText()}";

    public IActionResult OnGet(long sitting) =>
        !Load(sitting) ? NotFound()
        : IsFragment ? Partial("_Sheet", this)
        : Page();

    /// <summary>The sheet as text: a line with times for each part, and its sentences.</summary>
    public IActionResult OnGetText(long sitting)
    {
        if (!Load(sitting))
        {
            return NotFound();
        }
        var sheet = new StringBuilder(Sitting.Title).Append("\n\n");
        foreach (var line in Lines)
        {
            sheet.Append(CultureInfo.InvariantCulture, $"{line.Range.In}–{line.Range.Out}  {line.Name}");
            sheet.Append(line.Mark is null ? " (proposed)\n" : "\n");
            foreach (var (first, last) in line.Sentences)
            {
                // Words off the record leave in no document.
                var words = Text.Between(Found.Text.FirstOf(first), Found.Text.LastOf(last)).Where(w => !Text.IsHeld(w)).ToList();
                if (words.Count > 0)
                {
                    sheet.Append(CultureInfo.InvariantCulture, $"    {Talk.Words[first].In}  {Text.Said(words)}\n");
                }
            }
        }
        return Content(sheet.ToString(), "text/plain; charset=utf-8");
    }

    /// <summary>Makes a proposed part one of the sitting's; all of them where none is named.</summary>
    public IActionResult OnPostAccept(long sitting, WordNumber? first)
    {
        if (!ModelState.IsValid || !Load(sitting))
        {
            return NotFound();
        }
        var wanted = Lines.Where(l => l.Mark is null && (first is null || Text.At(l.First).Number == first)).ToList();
        return Change(
            sitting,
            text =>
                Marking.All([
                    .. wanted
                        .Select(l => (Line: l, Place: MarkPlace.In(text, l.Range)))
                        .Where(l => l.Place is not null)
                        .Select(
                            (l, i) => Marking.Over(text, MarkKind.Part, l.Place!.Value.First, l.Place.Value.Last, Signed, l.Line.Name, i)
                        ),
                ]) ?? throw new EditRefusedException("That part is no longer proposed. Load the page again."),
            wanted.Count == 1 ? "It is a part." : $"{wanted.Count} parts."
        );
    }

    /// <summary>Gives a part another name.</summary>
    public IActionResult OnPostName(long sitting, long part, string? name) =>
        Change(sitting, text => PartBorders.Named(text, part, TypedText.OneLine(name ?? "")), "The part has its name.");

    /// <summary>Moves the border before a part by so many sentences, back where negative.</summary>
    public IActionResult OnPostBorder(long sitting, long part, int by)
    {
        if (!ModelState.IsValid || !Load(sitting) || by == 0)
        {
            return NotFound();
        }
        return Change(
            sitting,
            text =>
            {
                var mark = text.Layers.Marks.GetValueOrDefault(part);
                if (mark is null || MarkPlace.Of(mark, text) is not var (first, _))
                {
                    throw new EditRefusedException("That part is no longer there. Load the page again.");
                }
                // Where units begin; the one that the part begins with, or lies in.
                var begins = Sheet.Units.Units.Select(u => text.PlaceOf(NumberOf(u.First))).OfType<TextPlace>().Order().ToList();
                var at = begins.FindLastIndex(b => b <= first);
                var to =
                    at < 0 ? 0
                    : by < 0 && begins[at] < first ? at + by + 1
                    : at + by;
                return PartBorders.BeginAt(text, part, begins[Math.Clamp(to, 0, begins.Count - 1)]);
            },
            "The border is moved."
        );
    }

    /// <summary>The border before a part goes; its talk belongs to the part before it.</summary>
    public IActionResult OnPostJoin(long sitting, long part) =>
        Change(sitting, text => PartBorders.JoinToBefore(text, part), "One part now; its talk stays.");

    /// <summary>It is no part any more; its words stay as they are.</summary>
    public IActionResult OnPostNoPart(long sitting, long part) =>
        Change(sitting, text => Marking.TakeAway(text, part), "It is no part any more; its words stay.");

    /// <summary>Sets all that is said in a part aside, or brings it back.</summary>
    public IActionResult OnPostAside(long sitting, long part) =>
        Change(
            sitting,
            text =>
                text.Layers.Marks.GetValueOrDefault(part) is { } mark && MarkPlace.Of(mark, text) is var (first, last)
                    ? Marking.TurnAside(text, first, last, Signed)
                    : throw new EditRefusedException("That part is no longer there. Load the page again."),
            "The part is set aside, or back."
        );

    /// <summary>Takes back the person's newest change of this text, or brings it again.</summary>
    public IActionResult OnPostUndo(long sitting, bool redo) =>
        Make(
            sitting,
            id =>
            {
                if (transcripts.Step(id, redo, Who) is null)
                {
                    throw new EditRefusedException(StepWords.Of(null, redo));
                }
            },
            redo ? "Made again." : "Taken back."
        );

    /// <summary>Keeps words as a bite: a pull, or the sentence that stands for a part.</summary>
    public IActionResult OnPostKeep(long sitting, WordNumber first, WordNumber last, string? theme) =>
        !ModelState.IsValid
            ? Refused("The request names words by something that is no number. Load the page again and repeat it.")
            : Make(
                sitting,
                id =>
                {
                    var text = transcripts.Get(id);
                    var (from, to) = text.PlacesOf(first, last);
                    var called = BiteThemes.Written(TypedText.OneLine(theme ?? ""));
                    bites.Add(
                        Bite.Of(sitting, id, first, last, text.RangeOf(from, to), called.Length > BiteThemes.Longest ? "" : called, "", Who)
                    );
                },
                "Kept.",
                NewsOf.Bites
            );

    private Signed Signed => new(Who, clock.GetUtcNow());

    private IActionResult Change(long sitting, Func<Transcript, TranscriptEdit?> wish, string done) =>
        Make(sitting, id => transcripts.Apply(id, wish, Who), done);

    private IActionResult Make(long sitting, Action<long> change, string done, NewsOf about = NewsOf.Words)
    {
        if (SittingHere(sitting) is not { TranscriptId: { } id })
        {
            return NotFound();
        }
        if (Try(about, () => change(id)) is { } refused)
        {
            return Refused(refused);
        }
        Load(sitting);
        Done = done;
        return IsFragment ? Partial("_Sheet", this) : Redirect($"{Address}/log");
    }

    private bool Load(long id)
    {
        if (SittingHere(id) is not { TranscriptId: not null } sitting)
        {
            return false;
        }
        Sitting = sitting;
        Found = findings.Of(sitting);
        Sheet = sheets.Of(sitting, Found.Text);
        People = Desk.People(Production.Id);
        Played = PlayedSitting.Of(sitting, footage.SourcesOf(id), sittingMics.Of(sitting), cache, null);
        var kept = bites.Of(Production.Id).Where(b => b.SittingId == id && !b.IsAside).ToList();
        Lines = [.. Made(kept).Concat(Proposals(kept)).OrderBy(l => l.First).ThenBy(l => l.Last)];
        LoadPulls(kept);
        return true;
    }

    private IEnumerable<SheetLine> Made(List<Bite> kept) =>
        from mark in Text.Layers.Marks.Values
        where mark.Kind == MarkKind.Part
        let place = MarkPlace.Of(mark, Text)
        where place is not null
        select Line(mark, place.Value.First, place.Value.Last, mark.Note, null, kept);

    // Those that do not lie for the greater part in what people made parts of.
    private IEnumerable<SheetLine> Proposals(List<Bite> kept)
    {
        var made = Text
            .Layers.Marks.Values.Where(m => m.Kind == MarkKind.Part)
            .Select(m => MarkPlace.Of(m, Text))
            .OfType<(TextPlace First, TextPlace Last)>()
            .ToList();
        for (var i = 0; i < Sheet.Begins.Count; i++)
        {
            var units = Sheet.Units.Units;
            var end = i + 1 < Sheet.Begins.Count ? Sheet.Begins[i + 1] : units.Count;
            var (first, last) = (
                Found.Text.FirstOf(units[Sheet.Begins[i]].First),
                Found.Text.LastOf(Enumerable.Range(Sheet.Begins[i], end - Sheet.Begins[i]).Max(u => units[u].Last))
            );
            var covered = made.Sum(m => Math.Max(0, Math.Min(m.Last.Value, last.Value) - Math.Max(m.First.Value, first.Value) + 1));
            if (covered * 2 <= last.Value - first.Value + 1)
            {
                yield return Line(null, first, last, string.Join(", ", Sheet.Parts[i].Words), Sheet.Parts[i].Sentences, kept);
            }
        }
    }

    private SheetLine Line(Mark? mark, TextPlace first, TextPlace last, string name, IReadOnlyList<int>? sentences, List<Bite> kept)
    {
        var range = Text.RangeOf(first, last);
        var own = kept.Where(b => range.Holds(b.Range.In + new MediaTime(b.Range.Length.Units / 2))).ToList();
        var said = readings.Of([.. own.Select(b => b.Id)]);
        return new SheetLine(
            mark,
            first,
            last,
            range,
            name.Length > 0 ? name : "without a telling word",
            [.. (sentences ?? SentencesIn(first, last)).Select(u => (Sheet.Units.Units[u].First, Sheet.Units.Units[u].Last))],
            Voices(first, last),
            own.Count,
            own.Aggregate(MediaTime.Zero, (sum, b) => sum + said[b.Id].Length),
            Text.Between(first, last).All(Text.IsAside)
        );
    }

    // Of a part that people made: the sentences of the proposed parts that lie in it, two at most; else its first.
    private List<int> SentencesIn(TextPlace first, TextPlace last)
    {
        bool IsIn(int unit) =>
            Found.Text.FirstOf(Sheet.Units.Units[unit].First) >= first && Found.Text.LastOf(Sheet.Units.Units[unit].Last) <= last;
        var told = Sheet.Parts.SelectMany(p => p.Sentences).Where(IsIn).Take(2).ToList();
        return told.Count > 0 ? told : [.. Enumerable.Range(0, Sheet.Units.Units.Count).Where(IsIn).Take(1)];
    }

    private List<VoiceShare> Voices(TextPlace first, TextPlace last)
    {
        var shares = Text.Between(first, last)
            .GroupBy(w => Text.NameOf(Text.VoiceOf(w)))
            .Select(g => (Name: g.Key, Time: g.Sum(w => w.Range.Length.Units)))
            .OrderByDescending(s => s.Time)
            .ToList();
        var all = Math.Max(1, shares.Sum(s => s.Time));
        var from = 0;
        var told = new List<VoiceShare>();
        foreach (var (name, time) in shares)
        {
            var perMille = (int)(1000 * time / all);
            told.Add(new VoiceShare(Desk.MarkOf(People, name), name, perMille, from));
            from += perMille;
        }
        return told;
    }
}
