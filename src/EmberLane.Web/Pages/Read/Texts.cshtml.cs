using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Import;
using EmberLane.Core.Transcripts;
using EmberLane.Engines;
using EmberLane.Engines.Speech;
using EmberLane.Store;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Read;

/// <summary>
/// The texts of a sitting: which one it is read by, how two differ, one brought in from outside, and another run of a recogniser.
/// </summary>
[RequestSizeLimit(MostTaken)]
[RequestFormLimits(MultipartBodyLengthLimit = MostTaken)]
public sealed class TextsModel(
    Footage footage,
    Desk desk,
    Store.Transcripts transcripts,
    Texts texts,
    Jobs jobs,
    Recognisers recognisers,
    SittingMics sittingMics,
    MediaCache cache,
    Upkeep upkeep
) : LiveRoom(footage, desk)
{
    // More than a text may have, so that what is too large is refused with the reason.
    private const int MostTaken = 10 * TextFiles.MostBytes;

    private const int MostVoices = 20;

    private static readonly TimeSpan LongestReading = TimeSpan.FromSeconds(60);

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

    /// <summary>The sitting's sound, to hear the places where texts differ; null when there is none.</summary>
    public Played? Sound { get; private set; }

    public Recognisers Recognisers => recognisers;

    /// <summary>Languages that a recogniser may be asked for: two letters and a name.</summary>
    public static IReadOnlyList<(string Code, string Name)> Languages { get; } =
    [
        .. new[]
        {
            "en",
            "ar",
            "bn",
            "cs",
            "da",
            "de",
            "el",
            "es",
            "fa",
            "fi",
            "fr",
            "he",
            "hi",
            "hu",
            "id",
            "it",
            "ja",
            "ko",
            "nl",
            "no",
            "pl",
            "pt",
            "ro",
            "ru",
            "sv",
            "th",
            "tr",
            "uk",
            "ur",
            "vi",
            "zh",
        }
            .Select(code => (code, CultureInfo.GetCultureInfo(code).EnglishName))
            .OrderBy(l => l.code != "en")
            .ThenBy(l => l.EnglishName, StringComparer.Ordinal),
    ];

    /// <summary>So many places of word by word are shown at a time.</summary>
    public const int PlacesAtOnce = 300;

    /// <summary>How many of those places lie before the first that is shown: <see cref="PlacesAtOnce"/> times a whole number.</summary>
    public int Skipped { get; private set; }

    /// <summary>The place in its sentence: a few words of the text in use before and after it.</summary>
    public (string Before, string After) Around(Differing place)
    {
        const int around = 4;
        var text = inUse!;
        var first =
            place.Ours.Count > 0 ? text.PlaceOf(place.Ours[0])!.Value
            : place.After is { } before ? text.PlaceOf(before)!.Value + 1
            : 0;
        var end = place.Ours.Count > 0 ? text.PlaceOf(place.Ours[^1])!.Value + 1 : first;
        return (text.Said(Math.Max(0, first - around), first - 1), text.Said(end, end + around - 1));
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
    public IActionResult OnPostAgain(long sitting, string? recogniser, string? language, string? from, string? to, int? voices) =>
        Change(
            sitting,
            () =>
            {
                if (Transcribing is { IsOpen: true })
                {
                    throw new EditRefusedException("A transcription of this sitting is under way. Wait until it is done, or cancel it.");
                }
                var spoken = Languages.FirstOrDefault(l => l.Code == language).Code ?? TranscribeOrder.English;
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

    /// <summary>
    /// Takes a delivered text, as a file or pasted, and keeps it beside the others; where there was none, the sitting is read by it at
    /// once.
    /// </summary>
    public async Task<IActionResult> OnPostBringAsync(long sitting, IFormFile? file, string? pasted)
    {
        if (!Load(sitting, null))
        {
            return NotFound();
        }
        try
        {
            var name = file is null ? "pasted.txt" : Uploads.Upload.SafeName(file.FileName) ?? "text.txt";
            var delivered = await InTimeAsync(cancel => ReadAsync(file, name, pasted ?? "", cancel));
            var heard = Sitting.TranscriptId is { } current ? transcripts.Get(current) : null;
            var laid = NewText.Of(delivered, heard, End(), [.. Desk.People(Production.Id).Keys]);
            var id = transcripts.AddBeside(
                sitting,
                Recognisers.Brought + name,
                delivered.Language.Length > 0 ? delivered.Language : TranscribeOrder.English,
                laid.Words,
                laid.Names,
                laid.Flags
            );
            if (Sitting.TranscriptId is null)
            {
                texts.Choose(sitting, id, Who);
            }
            upkeep.Ask(Production.Id);
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/read/{sitting}/texts?compare={id}"));
        }
        catch (FormatException bad)
        {
            Message = bad.Message;
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
            return Page();
        }
    }

    // In a thread of its own and for so long only, whatever the text holds.
    private async Task<DeliveredText> InTimeAsync(Func<CancellationToken, Task<DeliveredText>> read)
    {
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(HttpContext.RequestAborted);
        limit.CancelAfter(LongestReading);
        try
        {
            return await Task.Run(() => read(limit.Token), limit.Token).WaitAsync(limit.Token);
        }
        catch (OperationCanceledException) when (!HttpContext.RequestAborted.IsCancellationRequested)
        {
            throw new FormatException(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"The text could not be read within {LongestReading.TotalSeconds} seconds and was left. Save it as plain text (.txt) "
                        + $"and bring that."
                )
            );
        }
    }

    private static async Task<DeliveredText> ReadAsync(IFormFile? file, string name, string pasted, CancellationToken cancel)
    {
        if (file is null)
        {
            return TextFiles.Read(name, pasted, cancel);
        }
        if (file.Length > TextFiles.MostBytes)
        {
            throw new FormatException("The file is larger than 20 MB, which no text of a sitting is.");
        }
        using var held = new MemoryStream();
        await file.CopyToAsync(held, cancel);
        if (!Path.GetExtension(name).Equals(".docx", StringComparison.OrdinalIgnoreCase))
        {
            return TextFiles.Read(name, held.ToArray(), cancel);
        }
        held.Position = 0;
        return TextFiles.Read(Path.ChangeExtension(name, ".txt"), WordDocument.ReadText(held, cancel), cancel);
    }

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

    private SittingTime End()
    {
        var mics = sittingMics.Of(Sitting);
        return mics.Placed.Count > 0
            ? SittingSound.Extent(mics.Placed).Out
            : footage
                .SourcesOf(Sitting.Id)
                .Where(s => s.Place is not null)
                .Select(s => s.Place!.Value.Fill(s.Facts.Duration).Out)
                .DefaultIfEmpty()
                .Max();
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
