using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Captions;
using EmberLane.Core.Transcripts;
using EmberLane.Store;
using EmberLane.Web.Gathering;
using EmberLane.Web.Rooms;
using EmberLane.Web.Work;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Read;

/// <summary>Read: the page of turns, tied to the pictures.</summary>
public sealed class IndexModel(Footage footage, Desk desk, Store.Transcripts transcripts, Store.Bites bites, Jobs jobs, SittingMics sittingMics, SittingChanges changes, MediaCache cache) : LiveRoom(footage, desk)
{
    private readonly Footage footage = footage;

    public override string Room => "Read";

    public IReadOnlyList<Sitting> Sittings { get; private set; } = [];

    public Sitting? Sitting { get; private set; }

    public Transcript? Transcript { get; private set; }

    public IReadOnlyList<Turn> Turns { get; private set; } = [];

    public IReadOnlyDictionary<string, SpeakerMark> People { get; private set; } = new Dictionary<string, SpeakerMark>();

    public IReadOnlyList<Bite> Bites { get; private set; } = [];

    public PlayedSitting Played { get; private set; } = new([], null);

    public Job? Transcribing { get; private set; }

    /// <summary>The timecode that the margin can show; null when no file of the sitting has one.</summary>
    public MarginCode? MarginCode { get; private set; }

    public IReadOnlyList<Found> Places { get; private set; } = [];

    public SpeakerMark MarkOf(int voice) => Desk.MarkOf(People, Transcript!.NameOf(voice));

    public IActionResult OnGet(long? sitting) => Load(sitting) ? Page() : NotFound();

    /// <summary>The voices and their shares, after a change.</summary>
    public IActionResult OnGetVoices(long sitting) => Load(sitting) && Transcript is not null ? Partial("_Voices", this) : NotFound();

    /// <summary>The playing copies, as they are made.</summary>
    public IActionResult OnGetAngles(long sitting) => Load(sitting) ? Partial("_Angles", Played) : NotFound();

    /// <summary>Retypes a word; answers with its turn.</summary>
    public IActionResult OnPostRetype(long sitting, int word, string? text) => Change(sitting, id => transcripts.Apply(id, new Retype(word, text), Who), word);

    /// <summary>Names a voice everywhere, or makes it one with another; the page is then shown anew.</summary>
    public IActionResult OnPostVoice(long sitting, int voice, string? name, int? into) => Change(sitting, id => transcripts.Apply(id, into is { } other ? VoiceEdits.Join(transcripts.Get(id), voice, other) : new NameVoice(voice, name), Who), null);

    /// <summary>Gives the selected words to a voice; without one to a voice that did not speak before.</summary>
    public IActionResult OnPostGive(long sitting, int first, int last, int? voice, string? name) => Change(sitting, id =>
    {
        var transcript = transcripts.Get(id);
        return transcripts.Apply(id, VoiceEdits.Give(transcript, first, last, voice ?? transcript.FreshVoice(), voice is null ? name : null), Who);
    }, null);

    /// <summary>Takes the selected words out of the text, or brings them back when all of them are out.</summary>
    public IActionResult OnPostHide(long sitting, int first, int last) => Change(sitting, id =>
    {
        var transcript = transcripts.Get(id);
        var words = transcript.Words.Where(w => w.Number >= first && w.Number <= last).ToList();
        var hide = !words.All(transcript.IsHidden);
        return transcripts.Apply(id, new Together([.. words.Where(w => transcript.IsHidden(w) != hide).Select(w => new HideWord(w.Number, hide))]), Who);
    }, null);

    /// <summary>Makes the selected words one word, or words of their own again when they are one already. Their times stay.</summary>
    public IActionResult OnPostJoin(long sitting, int first, int last) => Change(sitting, id =>
    {
        var transcript = transcripts.Get(id);
        var words = transcript.Words.Where(w => w.Number > first && w.Number <= last).ToList();
        var join = !words.All(w => transcript.Layers.Joined.Contains(w.Number));
        return transcripts.Apply(id, new Together([.. words.Where(w => transcript.Layers.Joined.Contains(w.Number) != join).Select(w => new JoinWord(w.Number, join))]), Who);
    }, null);

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
        Change(sitting, id => transcripts.Apply(id, WordSearch.Replace(transcripts.Get(id), asked ?? "", by ?? "", whole, match, places), Who), null);

    /// <summary>The transcript, or a part of it, as a file.</summary>
    public IActionResult OnGetTake(long sitting, string format, bool names, bool times, int? first, int? last)
    {
        if (!Load(sitting) || Transcript is null)
        {
            return NotFound();
        }
        var choice = new TextChoice(Math.Max(0, first ?? 0), Math.Min(Transcript.Words.Count - 1, last ?? int.MaxValue), names, times);
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

    public IActionResult OnPostUndo(long sitting, bool redo) => Change(sitting, id => transcripts.Step(id, redo) ?? throw new EditRefusedException(StepWords.Of(null, redo)), null);

    public IActionResult OnPostKeep(long sitting, int first, int last, string? theme, string? note)
    {
        if (!Load(sitting) || Transcript is null)
        {
            return NotFound();
        }
        if (first < 0 || last >= Transcript.Words.Count || last < first)
        {
            return Refused("Select the words to keep first.");
        }
        string cleanTheme = TypedText.OneLine(theme ?? ""), cleanNote = TypedText.OneLine(note ?? "");
        if (cleanTheme.Length > 60 || cleanNote.Length > 500)
        {
            return Refused("A theme takes at most 60 characters, a note 500.");
        }
        var range = new SittingRange(Transcript.Words[first].Range.In, Transcript.Words.Skip(first).Take(last - first + 1).Max(w => w.Range.Out));
        bites.Add(new Bite(0, Sitting!.Id, Sitting.TranscriptId!.Value, first, last, range, cleanTheme, cleanNote, Who, false));
        Response.Headers["HX-Trigger"] = "changed";
        return Partial("_BiteMarks", Reloaded(sitting));
    }

    private IActionResult Change(long sitting, Func<long, Transcript> change, int? word)
    {
        if (SittingHere(sitting) is not { TranscriptId: { } id })
        {
            return NotFound();
        }
        try
        {
            change(id);
        }
        catch (EditRefusedException refused)
        {
            return Refused(refused.Message);
        }
        Load(sitting);
        Response.Headers["HX-Trigger"] = "changed";
        if (!IsFragment)
        {
            return Redirect(FormattableString.Invariant($"/productions/{Production.Id}/read/{sitting}"));
        }
        return word is { } number ? Partial("_Turn", (this, Turns.Single(t => t.First <= number && number <= t.Last))) : Partial("_Page", this);
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
        var sources = footage.SourcesOf(Sitting.Id);
        var mics = sittingMics.Of(Sitting);
        changes.NeedSound(Sitting, mics);
        Played = PlayedSitting.Of(Sitting, sources, mics, cache);
        MarginCode = MarginCode.Of(Sitting, sources);
        Transcribing = jobs.Newest(WorkKinds.Transcribe, Sitting.Id);
        if (Sitting.TranscriptId is { } transcript)
        {
            Transcript = transcripts.Get(transcript);
            Turns = Core.Transcripts.Turns.Lay(Transcript);
            People = Desk.People(Production.Id);
            Bites = [.. bites.Of(Production.Id).Where(b => b.SittingId == Sitting.Id && !b.IsAside)
                .Select(b => BitePlace.Of(b, Transcript, transcript) is { } place ? b with { FirstWord = place.First, LastWord = place.Last } : null).OfType<Bite>()];
        }
        return true;
    }
}
