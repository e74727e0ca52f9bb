using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Import;
using EmberLane.Core.People;
using EmberLane.Core.Speech;
using EmberLane.Core.Transcripts;
using EmberLane.Engines;
using EmberLane.Engines.Speech;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Read;

/// <summary>
/// The texts of a sitting: which one it is read by, how two differ, one brought in from outside, and another run of a recogniser.
/// </summary>
[RequestSizeLimit(MostTaken)]
[RequestFormLimits(MultipartBodyLengthLimit = MostTaken)]
[Needs(Rights.Log)]
public sealed partial class TextsModel(
    Footage footage,
    Desk desk,
    Store.Transcripts transcripts,
    Texts texts,
    Jobs jobs,
    Recognisers recognisers,
    Terms terms,
    SittingMics sittingMics,
    MediaCache cache,
    Upkeep upkeep
) : LiveRoom(footage, desk)
{
    // More than a text may have, so that what is too large is refused with the reason.
    private const int MostTaken = 10 * TextFiles.MostBytes;

    /// <summary>The most voices that are told apart.</summary>
    internal const int MostVoices = 20;

    private readonly Footage footage = footage;

    private Transcript? inUse;

    public override string Room => "Read";

    public Sitting Sitting { get; private set; } = null!;

    public IReadOnlyList<TextOfSitting> All { get; private set; } = [];

    /// <summary>The text that is held against the one in use, and how they differ.</summary>
    public TextOfSitting? Other { get; private set; }

    public TextDifference? Difference { get; private set; }

    public Job? Transcribing { get; private set; }

    /// <summary>The part that is asked for at first: the words that were selected in Read.</summary>
    public string From { get; private set; } = "";

    public string To { get; private set; } = "";

    public string Language => recognisers.LanguageOf(Sitting.Id);

    /// <summary>Names and terms of the production, as they were typed.</summary>
    public string TypedTerms => terms.Typed(Production.Id);

    /// <summary>The languages that a recogniser may be asked for; of the chosen one where none is named.</summary>
    public IReadOnlyList<SpokenLanguage> LanguagesOf(string? recogniser) => (recognisers.Find(recogniser) ?? recognisers.Chosen).Languages;

    /// <summary>The languages of the recogniser that is chosen in the form, when it changes.</summary>
    public IActionResult OnGetLanguages(long sitting, string? recogniser, string? language) =>
        Load(sitting, null) ? Partial("_Languages", (LanguagesOf(recogniser), SpokenLanguage.Of(language) ?? Language)) : NotFound();

    /// <summary>The sitting's sound, to hear the places where texts differ; null when there is none.</summary>
    public Played? Sound { get; private set; }

    public Recognisers Recognisers => recognisers;

    /// <summary>So many places of word by word are shown at a time.</summary>
    public const int PlacesAtOnce = 300;

    /// <summary>How many of those places lie before the first that is shown: <see cref="PlacesAtOnce"/> times a whole number.</summary>
    public int Skipped { get; private set; }

    /// <summary>Passages that only one text has, of which so many are shown; and the other places, word by word.</summary>
    public IReadOnlyList<Differing> Passages => [.. Difference!.Places.Where(p => p.IsPassage)];

    public const int MostPassages = 100;

    public IReadOnlyList<Differing> Places => [.. Difference!.Places.Where(p => !p.IsPassage)];

    /// <summary>The address of the part of the places that begins behind so many.</summary>
    public string PartAddress(int skip) =>
        FormattableString.Invariant($"/productions/{Production.Id}/read/{Sitting.Id}/texts?compare={Other!.Id}&skip={skip}#places");

    /// <summary>What a place is asked for by.</summary>
    public static string Asked(Differing place) => System.Text.Json.JsonSerializer.Serialize(new { place = place.Key });

    /// <summary>From when to when a place is heard, in seconds, with a little before and behind it.</summary>
    public static string Heard(Differing place)
    {
        var around = MediaTime.FromMilliseconds(700);
        return $"{(place.Range.In.FromZero - around).ToSecondsText()} {(place.Range.Out.FromZero + around).ToSecondsText()}";
    }

    /// <summary>The beginning of a long passage.</summary>
    public static string BeginningOf(string said) => Beginning.Of(said, 400);

    /// <summary>The place in its sentence: a few words of the text in use before and after it.</summary>
    public (string Before, string After) Around(Differing place)
    {
        var text = inUse!;
        TextPlace At(WordNumber number) => text.PlaceOf(number)!.Value;
        var (first, last) = place.Ours.Count > 0 ? (At(place.Ours[0]), At(place.Ours[^1])) : Between(place.After);
        var (before, _, after) = text.SaidAround(first, last, 4);
        return (before, after);

        // Nothing of ours: the place behind the word before, and no word in it.
        (TextPlace, TextPlace) Between(WordNumber? word) =>
            word is { } number ? (At(number) + 1, At(number)) : (TextPlace.First, TextPlace.BeforeFirst);
    }

    public string NameOf(TextOfSitting text) => recognisers.NameOf(text.Recogniser);

    public IActionResult OnGet(long sitting, long? compare, string? from, string? to, int skip)
    {
        (From, To) = (from ?? "", to ?? "");
        return !Load(sitting, compare, skip) ? NotFound()
            : IsFragment ? Partial("_Texts", this)
            : Page();
    }

    /// <summary>Writes a place of the text in use as the compared one has it.</summary>
    public IActionResult OnPostTake(long sitting, long compare, string? place, int skip) =>
        Change(
            sitting,
            () =>
            {
                if (Sitting.TranscriptId is not { } current || All.All(t => t.Id != compare))
                {
                    throw new EditRefusedException("Choose two texts of this sitting to compare first.");
                }
                var theirs = transcripts.Get(compare);
                transcripts.Apply(
                    current,
                    now =>
                        TextDifference.Between(now, theirs).Places.FirstOrDefault(p => p.Key == place) is { } differing
                            ? TakenOver.Edit(now, theirs, differing)
                            : throw new EditRefusedException("This place has changed meanwhile. Look again."),
                    Who
                );
            },
            compare,
            skip
        );

    /// <summary>Takes back what this person took over last, or brings it again.</summary>
    public IActionResult OnPostUndoWords(long sitting, long compare, bool redo, int skip) =>
        Change(
            sitting,
            () =>
            {
                if (Sitting.TranscriptId is not { } text || transcripts.Step(text, redo, Who) is null)
                {
                    throw new EditRefusedException(StepWords.Of(null, redo));
                }
            },
            compare,
            skip
        );

    /// <summary>Reads the sitting by this text from now on; none clears it. Bites stay where they are in time.</summary>
    public IActionResult OnPostChoose(long sitting, long? text) => Change(sitting, () => texts.Choose(sitting, text, Who));

    public IActionResult OnPostUndo(long sitting, bool redo) =>
        Change(
            sitting,
            () =>
            {
                if (!texts.Step(sitting, redo, Who))
                {
                    throw new EditRefusedException(StepWords.Of(null, redo));
                }
            }
        );

    /// <summary>Runs a recogniser again, over the whole or a part that is typed as two times.</summary>
    public IActionResult OnPostAgain(
        long sitting,
        string? recogniser,
        string? language,
        string? from,
        string? to,
        int? voices,
        [FromForm(Name = "terms")] string? typed
    ) =>
        Change(
            sitting,
            () =>
            {
                if (Transcribing is { IsOpen: true })
                {
                    throw new EditRefusedException("A transcription of this sitting is under way. Wait until it is done, or cancel it.");
                }
                var spoken = SpokenLanguage.Of(language) ?? TranscribeOrder.English;
                var part = Part(from, to);
                if (voices is < 1 or > MostVoices)
                {
                    throw new EditRefusedException($"Type how many people speak, from 1 to {MostVoices}, or leave it empty.");
                }
                var key = recogniser == Recognisers.SameWords ? recogniser : (recognisers.Find(recogniser) ?? recognisers.Chosen).Key;
                if (key == Recognisers.SameWords && (part is not null || Sitting.TranscriptId is null))
                {
                    throw new EditRefusedException(
                        "Voices are found over all words of a text. Leave the part empty, and have the sitting transcribed first."
                    );
                }
                if (recognisers.Find(key)?.Recogniser.WhyNot(spoken) is { } reason)
                {
                    throw new EditRefusedException(reason);
                }
                if (typed is not null)
                {
                    terms.Choose(Production.Id, typed, Who);
                }
                recognisers.ChooseLanguage(sitting, spoken);
                jobs.Add(
                    Production.Id,
                    WorkKinds.Transcribe,
                    sitting,
                    key == Recognisers.SameWords ? $"Voices of {Sitting.Title}" : $"Transcript of {Sitting.Title}",
                    new TranscribeOrder(key, spoken, part, voices).ToString()
                );
            }
        );

    private static SittingRange? Part(string? from, string? to)
    {
        if (string.IsNullOrWhiteSpace(from) && string.IsNullOrWhiteSpace(to))
        {
            return null;
        }
        return ClockText.Read(from ?? "") is { } first && ClockText.Read(to ?? "") is { } end && first < end
            ? new SittingRange(new SittingTime(first), new SittingTime(end))
            : throw new EditRefusedException(
                "Type the part as two times, as 0:45 and 1:30, the earlier one first; or leave both empty for the whole."
            );
    }

    private IActionResult Change(long sitting, Action change, long? compare = null, int skip = 0)
    {
        if (!Load(sitting, null))
        {
            return NotFound();
        }
        if (Try(NewsOf.Words, change) is { } refused)
        {
            return Refused(refused);
        }
        upkeep.Ask(Production.Id);
        if (!IsFragment)
        {
            return Redirect(
                FormattableString.Invariant(
                    $"/productions/{Production.Id}/read/{sitting}/texts{(compare is { } other ? $"?compare={other}&skip={skip}" : "")}"
                )
            );
        }
        Load(sitting, compare, skip);
        Response.Headers["HX-Trigger"] = "changed";
        return Partial("_Texts", this);
    }

    private bool Load(long id, long? compare, int skip = 0)
    {
        if (SittingHere(id) is not { } sitting)
        {
            return false;
        }
        Sitting = sitting;
        All = texts.Of(id);
        Transcribing = jobs.Newest(WorkKinds.Transcribe, id);
        Other = All.FirstOrDefault(t => t.Id == compare && t.Id != sitting.TranscriptId);
        Sound = PlayedSitting.Of(sitting, footage.SourcesOf(id), sittingMics.Of(sitting), cache, null).Sound;
        inUse = Other is not null && sitting.TranscriptId is { } used ? transcripts.Get(used) : null;
        Difference = inUse is not null ? TextDifference.Between(inUse, transcripts.Get(Other!.Id)) : null;
        // The last places may be gone since they were asked for.
        Skipped =
            PlacesAtOnce
            * Math.Clamp(skip / PlacesAtOnce, 0, Math.Max(0, (Difference?.Places.Count(p => !p.IsPassage) ?? 0) - 1) / PlacesAtOnce);
        return true;
    }
}
