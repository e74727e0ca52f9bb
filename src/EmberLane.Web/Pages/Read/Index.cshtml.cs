using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Captions;
using EmberLane.Core.Transcripts;
using EmberLane.Core.Voices;
using EmberLane.Store;
using EmberLane.Web.Gathering;
using EmberLane.Web.Rooms;
using EmberLane.Web.Work;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Read;

/// <summary>Read: the page of turns, tied to the pictures.</summary>
public sealed class IndexModel(Footage footage, Desk desk, Store.Transcripts transcripts, Store.Bites bites, Jobs jobs, SittingMics sittingMics, SittingChanges changes, MediaCache cache, WorkNews news, HeardBefore heardBefore) : LiveRoom(footage, desk)
{
    private readonly Footage footage = footage;

    public override string Room => "Read";

    public IReadOnlyList<Sitting> Sittings { get; private set; } = [];

    public Sitting? Sitting { get; private set; }

    public Transcript? Transcript { get; private set; }

    public IReadOnlyList<Turn> Turns { get; private set; } = [];

    public IReadOnlyDictionary<string, SpeakerMark> People { get; private set; } = new Dictionary<string, SpeakerMark>();

    public IReadOnlyList<Bite> Bites { get; private set; } = [];

    /// <summary>Whether the marks of the bites come beside a single turn, not in the page.</summary>
    public bool IsBesideTurn { get; private set; }

    public PlayedSitting Played { get; private set; } = new([], null);

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

    public SpeakerMark MarkOf(int voice) => Desk.MarkOf(People, Transcript!.NameOf(voice));

    /// <summary>Without a sitting goes to the first one that can be read, so that all that the page asks for names it.</summary>
    public IActionResult OnGet(long? sitting) => !Load(sitting) ? NotFound() : sitting is null && Sitting is { } first ? Redirect(FormattableString.Invariant($"/productions/{Production.Id}/read/{first.Id}")) : Page();

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
        Newer = Version > seen ? transcripts.Changes(id, 1) is [var newest, ..] ? newest : null : null;
        return Partial("_Others", this);
    }

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

    /// <summary>Writes what is truly said over the words from first to last, by number. <paramref name="was"/> is what the person saw there; when somebody else has changed it since, nothing is changed. Answers with their turn.</summary>
    public IActionResult OnPostRetype(long sitting, int first, int last, string? text, string? was) => Change(sitting, transcript =>
    {
        var (from, to) = transcript.PlacesOf(first, last);
        return was is not null && transcript.Said(from, to) is var now && now != was
            ? throw new EditRefusedException($"Somebody else has changed this meanwhile: it reads “{now}” now. Nothing was changed; close this and look at it again.")
            : Respell.Over(transcript, from, to, text ?? "");
    }, first);

    /// <summary>Puts words that were missed behind a word, by number. Answers with its turn.</summary>
    public IActionResult OnPostInsert(long sitting, int after, string? text) => Change(sitting, transcript => Respell.Insert(transcript, transcript.PlacesOf(after, after).First, text ?? ""), after);

    /// <summary>Names a voice everywhere, or makes it one with another; the page is then shown anew.</summary>
    public IActionResult OnPostVoice(long sitting, int voice, string? name, int? into) => Change(sitting, transcript => into is { } other ? VoiceEdits.Join(transcript, voice, other) : new NameVoice(voice, name));

    /// <summary>Gives the selected words to a voice; without one to a voice that did not speak before.</summary>
    public IActionResult OnPostGive(long sitting, int first, int last, int? voice, string? name) => Change(sitting, transcript =>
    {
        var (from, to) = transcript.PlacesOf(first, last);
        return VoiceEdits.Give(transcript, from, to, voice ?? transcript.FreshVoice(), voice is null ? name : null);
    });

    /// <summary>Takes the selected words out of the text, or brings them back when all of them are out.</summary>
    public IActionResult OnPostHide(long sitting, int first, int last) => Change(sitting, transcript =>
    {
        var words = Between(transcript, first, last);
        var hide = !words.All(transcript.IsHidden);
        return new Together([.. words.Where(w => transcript.IsHidden(w) != hide).Select(w => new HideWord(w.Number, hide))]);
    });

    /// <summary>Makes the selected words one word, or words of their own again when they are one already. Their times stay.</summary>
    public IActionResult OnPostJoin(long sitting, int first, int last) => Change(sitting, transcript =>
    {
        var words = Between(transcript, first, last).Skip(1).ToList();
        var join = !words.All(w => transcript.Layers.Joined.Contains(w.Number));
        return new Together([.. words.Where(w => transcript.Layers.Joined.Contains(w.Number) != join).Select(w => new JoinWord(w.Number, join))]);
    });

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

    /// <summary>Replaces what was asked for at the ticked places.</summary>
    public IActionResult OnPostReplace(long sitting, string? asked, string? by, bool whole, bool match, int[] places) =>
        Change(sitting, transcript => WordSearch.Replace(transcript, asked ?? "", by ?? "", whole, match, places));

    /// <summary>The transcript, or the part of it between two words, by number, as a file.</summary>
    public IActionResult OnGetTake(long sitting, string format, bool names, bool times, bool hidden, int? first, int? last)
    {
        if (!Load(sitting) || Transcript is null)
        {
            return NotFound();
        }
        var from = first is { } begin ? Transcript.PlaceOf(begin) : 0;
        var to = last is { } end ? Transcript.PlaceOf(end) : Transcript.Words.Count - 1;
        if (from is null || to is null)
        {
            return Refused("These words are not in the text as it is now. Select them again.");
        }
        var choice = new TextChoice(from.Value, to.Value, names, times, hidden);
        var name = Gathering.Upload.SafeName(Sitting!.Title) ?? "transcript";
        if (format == "docx")
        {
            return File(Engines.WordDocument.Write(Sitting.Title, TranscriptText.Spoken(Transcript, choice), names, times), "application/vnd.openxmlformats-officedocument.wordprocessingml.document", name + ".docx");
        }
        var (text, type) = format switch
        {
            "txt" => (TranscriptText.Plain(Transcript, choice), "text/plain"),
            "csv" => (TranscriptText.Csv(Transcript, choice), "text/csv"),
            "srt" => (TranscriptText.SubRip(Transcript, choice), "application/x-subrip"),
            "vtt" => (TranscriptText.WebVtt(Transcript, choice), "text/vtt"),
            "json" => (TranscriptText.Words(Transcript, choice, transcripts.Head(Sitting!.TranscriptId!.Value)!.Language), "application/json"),
            _ => ("", ""),
        };
        return type.Length == 0 ? NotFound() : File(System.Text.Encoding.UTF8.GetBytes(text), type, $"{name}.{format}");
    }

    public IActionResult OnPostUndo(long sitting, bool redo) => Change(sitting, id => transcripts.Step(id, redo, Who) ?? throw new EditRefusedException(StepWords.Of(null, redo)), () => null);

    public IActionResult OnPostKeep(long sitting, int first, int last, string? theme, string? note)
    {
        if (!Load(sitting) || Transcript is null)
        {
            return NotFound();
        }
        if (Transcript.PlaceOf(first) is not { } from || Transcript.PlaceOf(last) is not { } to || to < from)
        {
            return Refused("Select the words to keep first.");
        }
        string cleanTheme = TypedText.OneLine(theme ?? ""), cleanNote = TypedText.OneLine(note ?? "");
        if (cleanTheme.Length > 60 || cleanNote.Length > 500)
        {
            return Refused("A theme takes at most 60 characters, a note 500.");
        }
        var range = new SittingRange(Transcript.Words[from].Range.In, Transcript.Words.Skip(from).Take(to - from + 1).Max(w => w.Range.Out));
        bites.Add(new Bite(0, Sitting!.Id, Sitting.TranscriptId!.Value, first, last, range, cleanTheme, cleanNote, Who, false));
        Response.Headers["HX-Trigger"] = "changed";
        return Partial("_BiteMarks", Reloaded(sitting));
    }

    // Tells the page what it shows from now on: the whole text, or one more change of it.
    private void Changed(bool whole) => Response.Headers["HX-Trigger"] = FormattableString.Invariant($"{{\"changed\":{{\"version\":{Version},\"whole\":{(whole ? "true" : "false")}}}}}");

    private static List<RecordWord> Between(Transcript transcript, int firstNumber, int lastNumber)
    {
        var (first, last) = transcript.PlacesOf(firstNumber, lastNumber);
        return [.. transcript.Words.Skip(first).Take(last - first + 1)];
    }

    private IActionResult Change(long sitting, Func<Transcript, TranscriptEdit?> wish, int? word = null)
    {
        Transcript? before = null;
        return Change(sitting, id => transcripts.Apply(id, now => wish(before = now), Who), word is { } number ? () => SameTurn(before!, number) : () => null);
    }

    // The turn of a word, when it has the words that it had before the change; otherwise the page is laid anew.
    private Turn? SameTurn(Transcript before, int number)
    {
        var (was, now) = (TurnOf(before, Core.Transcripts.Turns.Lay(before), number), TurnOf(Transcript!, Turns, number));
        return was is not null && now is not null && Ends(before, was) == Ends(Transcript!, now) && was.GoesOn == now.GoesOn ? now : null;
    }

    private static (int, int) Ends(Transcript transcript, Turn turn) => (transcript.Words[turn.First].Number, transcript.Words[turn.Last].Number);

    private static Turn? TurnOf(Transcript transcript, IReadOnlyList<Turn> turns, int number) => transcript.PlaceOf(number) is { } place ? turns.Single(t => t.First <= place && place <= t.Last) : null;

    private IActionResult Change(long sitting, Func<long, ChangedText> change, Func<Turn?> turn)
    {
        if (SittingHere(sitting) is not { TranscriptId: { } id } here)
        {
            return NotFound();
        }
        ChangedText changed;
        try
        {
            changed = change(id);
        }
        catch (EditRefusedException refused)
        {
            return Refused(refused.Message);
        }
        news.TellAfter(Response);
        if (!IsFragment)
        {
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/read/{sitting}"));
        }
        LoadText(here, id, changed);
        LoadBites(here, id);
        if (turn() is { } only)
        {
            Changed(whole: false);
            IsBesideTurn = true;
            return Partial("_ChangedTurn", (this, only));
        }
        Changed(whole: true);
        Response.Headers["HX-Retarget"] = "#page";
        Response.Headers["HX-Reswap"] = "outerHTML";
        Response.Headers["HX-Reselect"] = "#page";
        return Partial("_Page", this);
    }

    private IndexModel Reloaded(long sitting)
    {
        Load(sitting);
        return this;
    }

    private bool Load(long? id)
    {
        Sittings = footage.Sittings(Production.Id);
        Sitting = id is null ? Sittings.FirstOrDefault(s => s.TranscriptId is not null) ?? (Sittings.Count > 0 ? Sittings[0] : null) : Sittings.FirstOrDefault(s => s.Id == id);
        if (Sitting is null)
        {
            return id is null;
        }
        var mics = sittingMics.Of(Sitting);
        changes.NeedSound(Sitting, mics);
        Played = PlayedSitting.Of(Sitting, footage.SourcesOf(Sitting.Id), mics, cache);
        Transcribing = jobs.Newest(WorkKinds.Transcribe, Sitting.Id);
        if (Sitting.TranscriptId is { } transcript)
        {
            LoadText(Sitting, transcript, null);
            LoadBites(Sitting, transcript);
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
        Turns = Core.Transcripts.Turns.Lay(Transcript);
        People = Desk.People(Production.Id);
        MarginCode = MarginCode.Of(sitting, footage.SourcesOf(sitting.Id));
    }

    private void LoadBites(Sitting sitting, long transcript) => Bites = [.. bites.Of(Production.Id).Where(b => b.SittingId == sitting.Id && !b.IsAside)
        .Select(b => BitePlace.Of(b, Transcript!, transcript) is { } place ? b with { FirstWord = Transcript!.Words[place.First].Number, LastWord = Transcript.Words[place.Last].Number } : null).OfType<Bite>()];
}
