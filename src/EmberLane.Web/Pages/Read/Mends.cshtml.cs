using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Mends;
using EmberLane.Core.People;
using EmberLane.Core.Transcripts;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Read;

/// <summary>
/// Mends that are proposed by rule: names and terms that sound like what was heard, and sentences where the recogniser gives none. Nothing
/// changes without a tick.
/// </summary>
[Needs(Rights.Log)]
public sealed class MendsModel(Footage footage, Desk desk, Store.Transcripts transcripts, Settings settings) : LiveRoom(footage, desk)
{
    /// <summary>So many of each kind are shown at a time.</summary>
    public const int MostShown = 500;

    private const int MostTerms = 2_000,
        LongestTerm = 80;

    private readonly Footage footage = footage;
    private IReadOnlyList<SuggestedCorrection>? names,
        sentences;

    public override string Room => "Read";

    public Sitting Sitting { get; private set; } = null!;

    public Transcript Transcript { get; private set; } = null!;

    /// <summary>The list that people keep, a name or term a line; names of voices are looked for besides.</summary>
    public string Terms { get; private set; } = "";

    public IReadOnlyList<SuggestedCorrection> Names => names ??= NameMends.Propose(Transcript, AllTerms());

    public IReadOnlyList<SuggestedCorrection> Sentences => sentences ??= SentenceMends.Propose(Transcript);

    public IActionResult OnGet(long sitting) =>
        !Load(sitting) ? NotFound()
        : IsFragment ? Partial("_Mends", this)
        : Page();

    public IActionResult OnPostTerms(long sitting, string? terms)
    {
        if (!Load(sitting))
        {
            return NotFound();
        }
        var lines = (terms ?? "")
            .ReplaceLineEndings("\n")
            .Split('\n')
            .Select(TypedText.OneLine)
            .Where(t => t.Length > 0)
            .Distinct(StringComparer.Ordinal)
            .ToList();
        if (lines.Count > MostTerms || lines.FirstOrDefault(l => l.Length > LongestTerm) is not null)
        {
            return Refused($"The list takes at most {MostTerms} lines of {LongestTerm} letters.");
        }
        settings.Set(Key, string.Join('\n', lines));
        return Shown(sitting);
    }

    /// <summary>
    /// Makes the ticked mends, all as one change; of the kinds in <paramref name="rest"/> (<c>names</c>, <c>sentences</c>) also those that
    /// are too many to be shown.
    /// </summary>
    public IActionResult OnPostMake(long sitting, string[] mends, string[] rest)
    {
        if (!Load(sitting))
        {
            return NotFound();
        }
        var ticked = mends.ToHashSet();
        // A sentence may begin with a name that is mended; then the name goes first and the sentence is proposed again.
        var chosen = new List<SuggestedCorrection>();
        var changed = new HashSet<TextPlace>();
        foreach (var mend in Wanted(Names, "names").Concat(Wanted(Sentences, "sentences")))
        {
            var places = TextPlace.Between(mend.First, mend.Last).ToList();
            if (!places.Any(changed.Contains))
            {
                changed.UnionWith(places);
                chosen.Add(mend);
            }
        }
        if (ticked.Count > 0)
        {
            return Refused("Some of these words were changed meanwhile. Look again.");
        }
        if (chosen.Count == 0)
        {
            return Refused("Tick what shall be changed.");
        }
        var refused = Try(
            NewsOf.Words,
            () =>
                transcripts.Apply(
                    Sitting.TranscriptId!.Value,
                    now =>
                        Respell.All(
                            now,
                            chosen.Select(m =>
                                now.PlacesOf(m.Numbers.First, m.Numbers.Last) is var (first, last) ? (first, last, m.By) : default
                            )
                        ),
                    Who
                )
        );
        return refused is null ? Shown(sitting) : Refused(refused);

        IEnumerable<SuggestedCorrection> Wanted(IReadOnlyList<SuggestedCorrection> proposed, string kind) =>
            proposed.Where((m, i) => ticked.Remove(m.Key) || (i >= MostShown && rest.Contains(kind)));
    }

    public IActionResult OnPostUndo(long sitting, bool redo)
    {
        if (!Load(sitting))
        {
            return NotFound();
        }
        var isMade = false;
        return Try(NewsOf.Words, () => isMade = transcripts.Step(Sitting.TranscriptId!.Value, redo, Who) is not null) is { } refused
                ? Refused(refused)
            : isMade ? Shown(sitting)
            : Refused(StepWords.Of(null, redo));
    }

    /// <summary>What stands around a mend, to read it in its sentence.</summary>
    public (string Before, string Now, string After) Around(SuggestedCorrection mend) => Transcript.SaidAround(mend.First, mend.Last, 4);

    private string Key => FormattableString.Invariant($"terms {Production.Id}");

    private IActionResult Shown(long sitting)
    {
        if (!IsFragment)
        {
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/read/{sitting}/mends"));
        }
        Load(sitting);
        return Partial("_Mends", this);
    }

    private bool Load(long id)
    {
        if (SittingHere(id) is not { TranscriptId: { } transcript } sitting)
        {
            return false;
        }
        (Sitting, Transcript) = (sitting, transcripts.Get(transcript));
        (Terms, names, sentences) = (settings.Get(Key) ?? "", null, null);
        return true;
    }

    // A name is also said in parts: Maren, Oakhurst.
    private IReadOnlyCollection<string> AllTerms() =>
        [.. Terms.Split('\n').Concat(transcripts.NamesOf(Production.Id).SelectMany(p => p.Split(' ').Append(p)))];
}
