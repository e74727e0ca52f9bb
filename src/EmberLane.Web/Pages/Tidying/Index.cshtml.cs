using EmberLane.Application.Gathering;
using EmberLane.Application.Tidying;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Marks;
using EmberLane.Core.People;
using EmberLane.Core.Tidy;
using EmberLane.Core.Transcripts;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Tidying;

/// <summary>What is looked at: one kind of finding, or the parts of the sitting.</summary>
public sealed record Look(string Key, string Name);

/// <summary>A line of the ledger: what a look, or a hand, has set aside, and how many it finds.</summary>
public sealed record LedgerRow(Look? Look, AsideTotal? Total, int? Found);

/// <summary>
/// Tidy: what a sitting surely does not need, kind by kind. Everything is seen and heard before it is set aside, and taken back in one
/// step.
/// </summary>
[Needs(Rights.Log)]
public sealed partial class IndexModel(
    Footage footage,
    Desk desk,
    Store.Transcripts transcripts,
    Store.Bites bites,
    StoryTable table,
    Findings findings,
    TidyWishes wishes,
    SittingMics sittingMics,
    MediaCache cache,
    Jobs jobs,
    TimeProvider clock
) : LiveRoom(footage, desk)
{
    private readonly Footage footage = footage;

    public static readonly Look Pauses = new("pauses", "Pauses"),
        Hesitations = new("hesitations", "Hesitations"),
        Retakes = new("retakes", "Retakes"),
        Across = new("across", "Retakes across sittings"),
        Cues = new("cues", "Spoken cues"),
        Parts = new("parts", "Parts and story");

    /// <summary>All looks, in the order in which they are listed.</summary>
    public static IReadOnlyList<Look> Looks { get; } = [Pauses, Hesitations, Retakes, Across, Cues, Parts];

    public override string Room => "Read";

    /// <inheritdoc/>
    public override string CommandPlace => CommandPlaces.Tidy;

    public Sitting Sitting { get; private set; } = null!;

    public Look Shown { get; private set; } = Pauses;

    public SittingFindings Found { get; private set; } = null!;

    public Transcript Text => Found.Text.Text;

    public Talk Talk => Found.Text.Talk;

    public PlayedSitting Played { get; private set; } = null!;

    /// <summary>Whether the sound is being measured.</summary>
    public bool IsListening { get; private set; }

    /// <summary>What each layer holds.</summary>
    public IReadOnlyList<AsideTotal> Totals { get; private set; } = [];

    /// <summary>All looks with what they set aside and what is found; and what was set aside by hand.</summary>
    public IEnumerable<LedgerRow> Ledger =>
        [
            .. Looks.Select(l => new LedgerRow(l, Totals.FirstOrDefault(t => t.Layer == LayerOf(l)), OpenIn(l))),
            .. Totals.Where(t => t.Layer == MarkLayer.ByHand).Select(t => new LedgerRow(null, t, null)),
        ];

    /// <summary>What the look that is shown has set aside; null when it is nothing.</summary>
    public AsideTotal? Held => LayerOf(Shown) is { } layer ? Totals.FirstOrDefault(t => t.Layer == layer) : null;

    /// <summary>How long the sitting is by its sound, or by its words, and what is left of it.</summary>
    public (MediaTime Whole, MediaTime Left) Lengths { get; private set; }

    /// <summary>What was done, to be read once; and what stories it touched.</summary>
    public string? Done { get; private set; }

    public string Address => FormattableString.Invariant($"/productions/{Production.Id}/read/{Sitting.Id}");

    public string AddressOf(Look look) => FormattableString.Invariant($"{Address}/tidy/{look.Key}");

    public SpeakerMark MarkOf(string name) => Desk.MarkOf(People, name);

    public IReadOnlyDictionary<string, SpeakerMark> People { get; private set; } = new Dictionary<string, SpeakerMark>();

    /// <summary>How many are found in a look, nobody having decided about them; null where nothing is found.</summary>
    public int? OpenIn(Look look) =>
        look == Pauses ? PauseCuts.Count
        : look == Hesitations ? Found.Hesitations.Count + Found.Sounds.Count
        : look == Retakes ? Found.Retakes.Count
        : look == Cues ? Found.Cues.Count
        : null;

    public static MarkLayer? LayerOf(Look look) =>
        look == Pauses ? MarkLayer.Pauses
        : look == Hesitations ? MarkLayer.Hesitations
        : look == Retakes ? MarkLayer.Retakes
        : look == Cues ? MarkLayer.OffTheRecord
        : null;

    /// <summary>Words of the talk as they are read.</summary>
    public string Said(int first, int last) =>
        string.Join(' ', Talk.Words.Skip(Math.Max(0, first)).Take(Math.Max(0, last - Math.Max(0, first) + 1)).Select(w => w.Text));

    /// <summary>Where a word of the talk is read: a link's end.</summary>
    public string WordLink(int word) => FormattableString.Invariant($"{Address}#word-{NumberOf(word)}");

    /// <summary>The number of a word of the talk in the text.</summary>
    public WordNumber NumberOf(int word) => Text.At(Found.Text.FirstOf(word)).Number;

    /// <summary>Which sound is heard of stretches of the sitting, one after another, for the page's script.</summary>
    public static string Heard(params IEnumerable<(MediaTime In, MediaTime Out)> stretches) =>
        string.Join(';', stretches.Where(s => s.Out > s.In).Select(s => $"{s.In.ToSecondsText()} {s.Out.ToSecondsText()}"));

    /// <summary>The same without what lies between: how it would sound if that went.</summary>
    public static string HeardWithout(MediaTime from, MediaTime to) => Heard((from - Lead, from), (to, to + Lead));

    /// <summary>And with it.</summary>
    public static string HeardWith(MediaTime from, MediaTime to) => Heard((from - Lead, to + Lead));

    /// <summary>So much is heard before and behind a place.</summary>
    private static readonly MediaTime Lead = MediaTime.FromMilliseconds(1800);

    public IActionResult OnGet(long sitting, string? look) =>
        !Load(sitting, look) ? NotFound()
        : IsFragment ? Partial("_Tidy", this)
        : Page();

    /// <summary>The look again once the sound was listened to; until then the page stays as it is, with what is typed in it.</summary>
    public IActionResult OnGetHeard(long sitting, string? look) =>
        !Load(sitting, look) ? NotFound()
        : IsListening ? new NoContentResult()
        : Partial("_Tidy", this);

    /// <summary>Switches a layer off or on.</summary>
    public IActionResult OnPostLayer(long sitting, string? look, string? layer, bool off) =>
        Change(sitting, look, _ => new SwitchLayer(layer ?? "", off), "");

    /// <summary>Brings back all that a layer holds.</summary>
    public IActionResult OnPostBack(long sitting, string? look, string? layer) =>
        Change(
            sitting,
            look,
            text =>
                text.Layers.Marks.Values.Where(m => m.Kind.Layer is { } own && own == MarkLayer.Find(layer)).ToList() is { Count: > 0 } held
                    ? new Together([.. held.Select(m => new TakeMark(m))])
                    : throw new EditRefusedException("Nothing is set aside in that layer."),
            "All of it is back. Undo sets it aside again."
        );

    /// <summary>Takes back the person's newest change of this text, or brings it again.</summary>
    public IActionResult OnPostUndo(long sitting, string? look, bool redo) =>
        Make(
            sitting,
            look,
            id =>
            {
                if (transcripts.Step(id, redo, Who) is null)
                {
                    throw new EditRefusedException(StepWords.Of(null, redo));
                }
            },
            redo ? "Made again." : "Taken back."
        );

    private Signed Signed => new(Who, clock.GetUtcNow());

    private IActionResult Change(long sitting, string? look, Func<Transcript, TranscriptEdit?> wish, string done) =>
        Make(sitting, look, id => transcripts.Apply(id, wish, Who), done);

    // Makes a change and shows the look again; says which stories are longer or shorter for it.
    private IActionResult Make(long sitting, string? look, Action<long> change, string done, NewsOf about = NewsOf.Words)
    {
        if (SittingHere(sitting) is not { TranscriptId: { } id } here)
        {
            return NotFound();
        }
        var before = Desk.ShownOf(sitting);
        if (Try(about, () => change(id)) is { } refused)
        {
            return Refused(refused);
        }
        if (!IsFragment)
        {
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/read/{here.Id}/tidy/{look}"));
        }
        Load(sitting, look);
        Done = string.Join(' ', new[] { done, StoryLengths.Touched(before, Desk.ShownOf(sitting)) }.Where(d => d.Length > 0));
        return Partial("_Tidy", this);
    }

    private bool Load(long id, string? look)
    {
        if (SittingHere(id) is not { TranscriptId: not null } sitting)
        {
            return false;
        }
        (Sitting, Shown) = (sitting, Looks.FirstOrDefault(l => l.Key == look) ?? Pauses);
        Found = findings.Of(sitting);
        wish ??= wishes.Pauses(Production.Id);
        cuts = null;
        across = null;
        Totals = AsideStretches.Totals(Text);
        People = Desk.People(Production.Id);
        var mics = sittingMics.Of(sitting);
        Played = PlayedSitting.Of(sitting, footage.SourcesOf(id), mics, cache, null);
        IsListening = Found.Sound is null && mics.Placed.Count > 0 && jobs.Newest(WorkKinds.Talk, id) is null or { IsOpen: true };
        var whole =
            mics.Placed.Count > 0 ? Engines.Speech.SittingSound.Extent(mics.Placed).Length
            : Text.Words.Count == 0 ? MediaTime.Zero
            : Text.RangeOf(TextPlace.First, Text.Last).Length;
        var aside = AsideStretches.Of(Text).Aggregate(MediaTime.Zero, (sum, a) => sum + a.Length);
        Lengths = (whole, MediaTime.Max(MediaTime.Zero, whole - aside));
        return true;
    }
}
