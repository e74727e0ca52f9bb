using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Captions;
using EmberLane.Core.Marks;
using EmberLane.Core.People;
using EmberLane.Core.Transcripts;
using EmberLane.Core.Voices;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Read;

/// <summary>Read: the page of turns, tied to the pictures.</summary>
[Needs(Rights.Log)]
public sealed partial class IndexModel(
    Footage footage,
    Desk desk,
    Store.Transcripts transcripts,
    Store.Bites bites,
    Store.Stories stories,
    StoryTable table,
    Jobs jobs,
    SittingMics sittingMics,
    Upkeep upkeep,
    MediaCache cache,
    HeardBefore heardBefore,
    Texts texts,
    Recognisers recognisers,
    Settings settings,
    TimeProvider clock,
    ReadTimes readTimes
) : LiveRoom(footage, desk)
{
    private readonly Footage footage = footage;

    private IReadOnlyList<SittingRange>? aside;

    public override string Room => "Read";

    /// <inheritdoc/>
    public override string CommandPlace => CommandPlaces.Read;

    public IReadOnlyList<Sitting> Sittings { get; private set; } = [];

    public Sitting? Sitting { get; private set; }

    public Transcript? Transcript { get; private set; }

    public IReadOnlyList<Turn> Turns { get; private set; } = [];

    public IReadOnlyDictionary<string, SpeakerMark> People { get; private set; } = new Dictionary<string, SpeakerMark>();

    public IReadOnlyList<Bite> Bites { get; private set; } = [];

    /// <summary>The bites that begin in each turn, by the place of its first word.</summary>
    public ILookup<TextPlace, Bite> BitesFrom { get; private set; } = Array.Empty<Bite>().ToLookup(_ => TextPlace.First);

    /// <summary>From this length on a pause is drawn in the strip: none of its lines is nearer to the next than can be seen.</summary>
    public MediaTime LongPause { get; } = MediaTime.FromMilliseconds(1000);

    /// <summary>Where something is set aside, in order and apart.</summary>
    public IReadOnlyList<SittingRange> Aside => aside ??= AsideStretches.Of(Transcript!);

    /// <summary>Where what can be set aside is found.</summary>
    public string LogSheetAddress => FormattableString.Invariant($"/productions/{Production.Id}/read/{Sitting!.Id}/log");

    public string TidyAddress => FormattableString.Invariant($"/productions/{Production.Id}/read/{Sitting!.Id}/tidy");

    /// <summary>The same for the player, which passes them over: seconds from and to, a comma between.</summary>
    public string AsideSeconds => string.Join(' ', Aside.Select(a => $"{a.In.FromZero.ToSecondsText()},{a.Out.FromZero.ToSecondsText()}"));

    /// <summary>How long the sitting is by its sound, or by its words where there is none, and what is left of it.</summary>
    public (MediaTime Whole, MediaTime Left) Lengths
    {
        get
        {
            var whole =
                Length > MediaTime.Zero ? Length
                : Transcript!.Words.Count == 0 ? MediaTime.Zero
                : Transcript.RangeOf(TextPlace.First, Transcript.Last).Length;
            return (whole, MediaTime.Max(MediaTime.Zero, whole - Aside.Aggregate(MediaTime.Zero, (sum, a) => sum + a.Length)));
        }
    }

    /// <summary>Whether the marks of the bites come beside a single turn, not in the page.</summary>
    public bool IsBesideTurn { get; private set; }

    public PlayedSitting Played { get; private set; } = new([], null);

    /// <summary>How many mics make the sound that is heard, and how long the sitting lasts by it.</summary>
    public int MicsHeard { get; private set; }

    public MediaTime Length { get; private set; }

    /// <summary>What the sitting is made of: angles, mics that are heard, and its length where it can be heard.</summary>
    public string Facts =>
        string.Join(
            " · ",
            new[]
            {
                Played.Angles.Count > 0 ? Many.Of(Played.Angles.Count, "angle") : "",
                MicsHeard > 0 ? Many.Of(MicsHeard, "mic") : "",
                Played.Sound is not null ? Length.ToString() : "",
            }.Where(f => f.Length > 0)
        );

    /// <summary>The speeds at which one can listen.</summary>
    public static IReadOnlyList<string> Rates { get; } = ["0.5", "0.75", "1", "1.25", "1.5", "1.75", "2", "2.25", "2.5"];

    /// <summary>How many words are doubtful, and how many turns are of an unsure voice.</summary>
    public int Doubtful => Transcript?.Words.Count(Transcript.IsDoubtful) ?? 0;

    public int UnsureVoices => Turns.Count(t => t.IsUnsure);

    /// <summary>The themes of this sitting's bites.</summary>
    public IEnumerable<string> Themes => Bites.Select(b => b.Theme).Where(t => t.Length > 0).Distinct();

    /// <summary>How long each voice speaks, the longest first.</summary>
    public IReadOnlyList<(int Voice, MediaTime Time)> Shares =>
        [
            .. Transcript!
                .Words.GroupBy(Transcript.VoiceOf)
                .Select(g => (Voice: g.Key, Time: g.Aggregate(MediaTime.Zero, (sum, w) => sum + w.Range.Length)))
                .OrderByDescending(s => s.Time),
        ];

    public Job? Transcribing { get; private set; }

    /// <summary>The timecode that the margin can show; null when no file of the sitting has one.</summary>
    public MarginCode? MarginCode { get; private set; }

    public IReadOnlyList<Found> Places { get; private set; } = [];

    /// <summary>Whom unnamed voices may be, by other sittings.</summary>
    public IReadOnlyDictionary<int, VoiceGuess> Guesses { get; private set; } = new Dictionary<int, VoiceGuess>();

    /// <summary>Whether somebody speaks who has no name yet.</summary>
    public bool HasUnnamed => Transcript!.Voices().Any(v => !Transcript.Layers.VoiceNames.ContainsKey(v));

    /// <summary>How often the text had been changed when it was read; the page that shows it knows by this of later changes.</summary>
    public long Version { get; private set; }

    /// <summary>The newest change that the page does not show yet.</summary>
    public MadeChange? Newer { get; private set; }

    /// <summary>A newer text of the sitting that nobody has decided about, and how it was made; null when there is none.</summary>
    public (long Id, string Name)? NewText { get; private set; }

    public SpeakerMark MarkOf(int voice) => Desk.MarkOf(People, Transcript!.NameOf(voice));

    /// <summary>Without a sitting goes to the first one that can be read, so that all that the page asks for names it.</summary>
    public IActionResult OnGet(long? sitting) =>
        !Load(sitting) ? NotFound()
        : sitting is null && Sitting is { } first ? Redirect(FormattableString.Invariant($"/productions/{Production.Id}/read/{first.Id}"))
        : Page();

    /// <summary>The voices and their shares, after a change.</summary>
    public IActionResult OnGetVoices(long sitting) => Load(sitting) && Transcript is not null ? Partial("_Voices", this) : NotFound();

    /// <summary>Whether the text was changed elsewhere since the page has seen it.</summary>
    public IActionResult OnGetOthers(long sitting, long seen)
    {
        if (SittingHere(sitting) is not { TranscriptId: { } id } here)
        {
            return NotFound();
        }
        Sitting = here;
        Version = transcripts.Head(id)!.Version;
        Newer =
            Version > seen
                ? transcripts.Changes(id, 1) is [var newest, ..]
                    ? newest
                    : null
                : null;
        NewText = Waiting(sitting);
        return Partial("_Others", this);
    }

    /// <summary>Goes on reading by the text in use; the page does not speak of the newer one any more.</summary>
    [Needs(Rights.Read)]
    public IActionResult OnPostStay(long sitting, long text, long seen)
    {
        settings.Set(StayKey(sitting), text.ToString(System.Globalization.CultureInfo.InvariantCulture));
        return OnGetOthers(sitting, seen);
    }

    private (long, string)? Waiting(long sitting) =>
        texts.Waiting(sitting) is { } text
        && settings.Get(StayKey(sitting)) != text.Id.ToString(System.Globalization.CultureInfo.InvariantCulture)
            ? (text.Id, recognisers.NameOf(text.Recogniser))
            : null;

    private static string StayKey(long sitting) => FormattableString.Invariant($"stay with the text of {sitting}");

    /// <summary>The strip of the whole sitting, after a change.</summary>
    public IActionResult OnGetStrip(long sitting)
    {
        if (SittingHere(sitting) is not { TranscriptId: { } id } here)
        {
            return NotFound();
        }
        LoadText(here, id, null);
        LoadBites(here, id);
        return Partial("_Strip", this);
    }

    /// <summary>What is set aside, by layers, after a change.</summary>
    public IActionResult OnGetLayers(long sitting) => Load(sitting) && Transcript is not null ? Partial("_Layers", this) : NotFound();

    /// <summary>The page of turns as it is now.</summary>
    public IActionResult OnGetPage(long sitting)
    {
        if (!Load(sitting) || Transcript is null)
        {
            return NotFound();
        }
        Changed(whole: true);
        return Partial("_Page", this);
    }

    /// <summary>The playing copies, as they are made.</summary>
    public IActionResult OnGetAngles(long sitting) => Load(sitting) ? Partial("_Angles", Played) : NotFound();

    /// <summary>So many places are shown at a time.</summary>
    public const int MostPlaces = 500;

    /// <summary>The places where something is said, each with what stands around it.</summary>
    public IActionResult OnGetPlaces(long sitting, string? asked, bool whole, bool match)
    {
        if (!Load(sitting) || Transcript is null)
        {
            return NotFound();
        }
        Places = WordSearch.Find(Transcript, asked ?? "", whole, match);
        return Partial("_Places", this);
    }

    private static (WordNumber, WordNumber) Ends(Transcript transcript, Turn turn) =>
        (transcript.At(turn.First).Number, transcript.At(turn.Last).Number);

    private IndexModel Reloaded(long sitting)
    {
        Load(sitting);
        return this;
    }

    private bool Load(long? id)
    {
        Sittings = footage.Sittings(Production.Id);
        Sitting = id is null
            ? Sittings.FirstOrDefault(s => s.TranscriptId is not null) ?? (Sittings.Count > 0 ? Sittings[0] : null)
            : Sittings.FirstOrDefault(s => s.Id == id);
        if (Sitting is null)
        {
            return id is null;
        }
        var mics = sittingMics.Of(Sitting);
        Played = PlayedSitting.Of(Sitting, footage.SourcesOf(Sitting.Id), mics, cache, jobs.Newest(WorkKinds.Sync, Sitting.Id));
        MicsHeard = mics.Placed.Count;
        Length = MicsHeard > 0 ? Engines.Speech.SittingSound.Extent(mics.Placed).Length : MediaTime.Zero;
        Transcribing = jobs.Newest(WorkKinds.Transcribe, Sitting.Id);
        if (Sitting.TranscriptId is { } transcript)
        {
            LoadText(Sitting, transcript, null);
            LoadBites(Sitting, transcript);
            LoadUses(Sitting);
            NewText = Waiting(Sitting.Id);
            Guesses = heardBefore.Guess(Sitting, transcript, Transcript!);
        }
        return true;
    }

    // The text as it is, or as a change has left it, with what each turn shows.
    private void LoadText(Sitting sitting, long transcript, ChangedText? changed)
    {
        Sitting = sitting;
        // The number first: a change that comes between the two is then told of once too often, never too seldom.
        Version = changed?.Version ?? transcripts.Head(transcript)!.Version;
        Transcript = changed?.Transcript ?? transcripts.Get(transcript);
        aside = null;
        doubted = transcripts.DoubtOf(transcript);
        Turns = Core.Transcripts.Turns.Lay(Transcript);
        People = Desk.People(Production.Id);
        MarginCode = MarginCode.Of(sitting, footage.SourcesOf(sitting.Id));
    }
}
