using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Captions;
using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;
using EmberLane.Core.Voices;
using EmberLane.Store;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Read;

/// <summary>Read: the page of turns, tied to the pictures.</summary>
public sealed class IndexModel(
    Footage footage,
    Desk desk,
    Store.Transcripts transcripts,
    Store.Bites bites,
    Jobs jobs,
    SittingMics sittingMics,
    Upkeep upkeep,
    MediaCache cache,
    HeardBefore heardBefore,
    Texts texts,
    Recognisers recognisers,
    Settings settings,
    TimeProvider clock
) : LiveRoom(footage, desk)
{
    private readonly Footage footage = footage;

    public override string Room => "Read";

    public IReadOnlyList<Sitting> Sittings { get; private set; } = [];

    public Sitting? Sitting { get; private set; }

    public Transcript? Transcript { get; private set; }

    public IReadOnlyList<Turn> Turns { get; private set; } = [];

    public IReadOnlyDictionary<string, SpeakerMark> People { get; private set; } = new Dictionary<string, SpeakerMark>();

    public IReadOnlyList<Bite> Bites { get; private set; } = [];

    /// <summary>The bites that begin in each turn, by the place of its first word.</summary>
    public ILookup<int, Bite> BitesFrom { get; private set; } = Array.Empty<Bite>().ToLookup(_ => 0);

    /// <summary>From this length on a pause is drawn in the strip: none of its lines is nearer to the next than can be seen.</summary>
    public MediaTime LongPause { get; } = MediaTime.FromMilliseconds(1000);

    /// <summary>Where passages are set aside, each from its first word's start to its last one's end.</summary>
    public IEnumerable<(SittingTime In, SittingTime Out)> AsideStretches => CarriedMarks.Stretches(Transcript!).Select(s => (s.In, s.Out));

    /// <summary>Whether the marks of the bites come beside a single turn, not in the page.</summary>
    public bool IsBesideTurn { get; private set; }

    public PlayedSitting Played { get; private set; } = new([], null);

    /// <summary>How many mics make the sound that is heard, and how long the sitting lasts by it.</summary>
    public int MicsHeard { get; private set; }

    public MediaTime Length { get; private set; }

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

    /// <summary>
    /// Writes what is truly said over the words from first to last, by number. <paramref name="was"/> is what the person saw there; when
    /// somebody else has changed it since, nothing is changed. Answers with their turn.
    /// </summary>
    public IActionResult OnPostRetype(long sitting, int first, int last, string? text, string? was) =>
        Change(
            sitting,
            transcript =>
            {
                var (from, to) = transcript.PlacesOf(first, last);
                return was is not null && transcript.Said(from, to) is var now && now != was
                    ? throw new EditRefusedException(
                        $"Somebody else has changed this meanwhile: it reads “{now}” now. Nothing was changed; close this and look at it "
                            + "again."
                    )
                    : Respell.Over(transcript, from, to, text ?? "") ?? Marking.Settle(transcript, from, to, Signed);
            },
            (first, last)
        );

    /// <summary>Puts words that were missed behind a word, by number. Answers with its turn.</summary>
    public IActionResult OnPostInsert(long sitting, int after, string? text) =>
        Change(sitting, transcript => Respell.Insert(transcript, transcript.PlacesOf(after, after).First, text ?? ""), (after, after));

    /// <summary>
    /// Names a voice everywhere in this text, or makes it one with another; <paramref name="everywhere"/> also where the same person speaks
    /// in other sittings. The page is then shown anew.
    /// </summary>
    public IActionResult OnPostVoice(long sitting, int voice, string? name, int? into, bool everywhere) =>
        Change(
            sitting,
            id =>
            {
                TranscriptEdit Named(Transcript transcript) =>
                    into is { } other ? VoiceEdits.Join(transcript, voice, other) : VoiceEdits.Name(transcript, voice, name);
                return
                    everywhere
                    && into is null
                    && !string.IsNullOrWhiteSpace(name)
                    && transcripts.VoiceNames(id).TryGetValue(voice, out var old)
                    ? transcripts.ApplyAll(
                        [
                            (id, Named),
                            .. TextsWith(old, sitting)
                                .Select(t =>
                                    (
                                        t,
                                        (Func<Transcript, TranscriptEdit?>)(
                                            text => VoiceEdits.VoiceNamed(text, old) is { } same ? VoiceEdits.Name(text, same, name) : null
                                        )
                                    )
                                ),
                        ],
                        Who
                    )
                    : transcripts.Apply(id, Named, Who);
            },
            () => null
        );

    /// <summary>In how many other sittings of the production a person speaks.</summary>
    public int Elsewhere(string name) => TextsWith(name, Sitting!.Id).Count();

    private IEnumerable<long> TextsWith(string name, long without) =>
        footage
            .Sittings(Production.Id)
            .Where(s => s.Id != without && s.TranscriptId is not null)
            .Select(s => s.TranscriptId!.Value)
            .Where(t => transcripts.VoiceNames(t).Values.Contains(name, StringComparer.OrdinalIgnoreCase));

    /// <summary>Gives the selected words to a voice; without one to a voice that did not speak before.</summary>
    public IActionResult OnPostGive(long sitting, int first, int last, int? voice, string? name) =>
        Change(
            sitting,
            transcript =>
            {
                var (from, to) = transcript.PlacesOf(first, last);
                return VoiceEdits.Give(
                    transcript,
                    from,
                    to,
                    voice ?? VoiceEdits.VoiceNamed(transcript, name) ?? transcript.FreshVoice(),
                    voice is null ? name : null
                );
            }
        );

    /// <summary>Takes the selected words out of the text, or brings them back when all of them are out.</summary>
    public IActionResult OnPostHide(long sitting, int first, int last) =>
        Change(
            sitting,
            transcript =>
            {
                var words = Between(transcript, first, last);
                var hide = !words.All(transcript.IsHidden);
                return new Together([.. words.Where(w => transcript.IsHidden(w) != hide).Select(w => new HideWord(w.Number, hide))]);
            },
            (first, last)
        );

    /// <summary>Sets the selected words aside, or brings them back when all of them are.</summary>
    public IActionResult OnPostAside(long sitting, int first, int last) =>
        Change(
            sitting,
            transcript => transcript.PlacesOf(first, last) is var (from, to) ? Marking.TurnAside(transcript, from, to, Signed) : null,
            (first, last),
            marks: true
        );

    /// <summary>
    /// Puts a flag of a kind before a word, in place of the flag <paramref name="mark"/> when that is given; or takes that one away.
    /// </summary>
    public IActionResult OnPostFlag(long sitting, int word, string? kind, string? note, bool away, long? mark) =>
        Change(
            sitting,
            transcript =>
            {
                var flag = away ? null : MarkKind.Find(kind) ?? throw new EditRefusedException("There is no such kind of flag.");
                return Marking.Flag(transcript, transcript.PlacesOf(word, word).First, flag, note ?? "", Signed, mark);
            },
            (word, word),
            marks: true
        );

    /// <summary>
    /// Says that the doubtful ones of the selected words are right, or that they are those of the voices that they stand with.
    /// </summary>
    public IActionResult OnPostSettle(long sitting, int first, int last, bool voice) =>
        Change(
            sitting,
            transcript =>
                transcript.PlacesOf(first, last) is var (from, to) && voice
                    ? VoiceEdits.Confirm(transcript, from, to)
                    : Marking.Settle(transcript, from, to, Signed),
            (first, last)
        );

    private Signed Signed => new(Who, clock.GetUtcNow());

    /// <summary>Writes the selected words in the next of small letters, first letters capital, all capital.</summary>
    public IActionResult OnPostCase(long sitting, int first, int last) =>
        Change(
            sitting,
            transcript => transcript.PlacesOf(first, last) is var (from, to) ? Spelling.NextCase(transcript, from, to) : null,
            (first, last)
        );

    /// <summary>Puts the next of stop, comma, question mark and none behind a word.</summary>
    public IActionResult OnPostMark(long sitting, int word) =>
        Change(sitting, transcript => Spelling.NextMark(transcript, transcript.PlacesOf(word, word).First), (word, word));

    /// <summary>Makes the selected words one word, or words of their own again when they are one already. Their times stay.</summary>
    public IActionResult OnPostJoin(long sitting, int first, int last) =>
        Change(
            sitting,
            transcript =>
            {
                var words = Between(transcript, first, last).Skip(1).ToList();
                var join = !words.All(w => transcript.Layers.Joined.Contains(w.Number));
                return new Together([
                    .. words.Where(w => transcript.Layers.Joined.Contains(w.Number) != join).Select(w => new JoinWord(w.Number, join)),
                ]);
            },
            (first, last)
        );

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

    /// <summary>
    /// Replaces what was asked for at the ticked places; with the <paramref name="rest"/> also at those that are too many to be shown.
    /// </summary>
    public IActionResult OnPostReplace(long sitting, string? asked, string? by, bool whole, bool match, int[] places, bool rest) =>
        Change(
            sitting,
            transcript =>
                WordSearch.Replace(
                    transcript,
                    asked ?? "",
                    by ?? "",
                    whole,
                    match,
                    rest
                        ?
                        [
                            .. places,
                            .. WordSearch
                                .Find(transcript, asked ?? "", whole, match)
                                .Skip(MostPlaces)
                                .Select(p => transcript.Words[p.First].Number),
                        ]
                        : places
                )
        );

    /// <summary>The transcript, or the part of it between two words, by number, as a file.</summary>
    public IActionResult OnGetTake(long sitting, string format, bool names, bool times, bool hidden, bool aside, int? first, int? last)
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
        var choice = new TextChoice(from.Value, to.Value, names, times, hidden, aside);
        var name = Uploads.Upload.SafeName(Sitting!.Title) ?? "transcript";
        if (format == "docx")
        {
            return File(
                Engines.WordDocument.Write(Sitting.Title, TranscriptText.Spoken(Transcript, choice), names, times),
                "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
                name + ".docx"
            );
        }
        var (text, type) = format switch
        {
            "txt" => (TranscriptText.Plain(Transcript, choice), "text/plain"),
            "csv" => (TranscriptText.Csv(Transcript, choice), "text/csv"),
            "srt" => (TranscriptText.SubRip(Transcript, choice), "application/x-subrip"),
            "vtt" => (TranscriptText.WebVtt(Transcript, choice), "text/vtt"),
            "json" => (
                TranscriptText.Words(Transcript, choice, transcripts.Head(Sitting!.TranscriptId!.Value)!.Language),
                "application/json"
            ),
            _ => ("", ""),
        };
        return type.Length == 0 ? NotFound() : File(System.Text.Encoding.UTF8.GetBytes(text), type, $"{name}.{format}");
    }

    public IActionResult OnPostUndo(long sitting, bool redo) =>
        Change(sitting, id => transcripts.Step(id, redo, Who) ?? throw new EditRefusedException(StepWords.Of(null, redo)), () => null);

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
        var bite = Bite.Of(
            Sitting!.Id,
            Sitting.TranscriptId!.Value,
            first,
            last,
            Transcript.RangeOf(from, to),
            TypedText.OneLine(theme ?? ""),
            TypedText.OneLine(note ?? ""),
            Who
        );
        return Try(NewsOf.Bites, () => bites.Add(bite)) is { } refused
            ? Refused(refused)
            : BesideTurn(Reloaded(sitting).Turns.Single(t => t.First <= from && from <= t.Last));
    }

    /// <summary>Writes the theme and the note of a bite of this sitting.</summary>
    public IActionResult OnPostTheme(long sitting, long bite, string? theme, string? note)
    {
        if (bites.Get(bite) is not { } known || known.SittingId != sitting || !Load(sitting) || Transcript is null)
        {
            return NotFound();
        }
        if (
            Try(NewsOf.Bites, () => bites.Describe(bite, TypedText.OneLine(theme ?? ""), TypedText.OneLine(note ?? ""), Who)) is { } refused
        )
        {
            return Refused(refused);
        }
        var turn = BitesFrom.FirstOrDefault(b => b.Any(x => x.Id == bite))?.Key;
        return Reloaded(sitting).Turns.FirstOrDefault(t => t.First == turn) is { } shown ? BesideTurn(shown) : NotFound();
    }

    // The answer to a change of marks, which leaves the text as it is: its turn, and the marks of all bites.
    private PartialViewResult BesideTurn(Turn turn)
    {
        Response.Headers["HX-Trigger"] = "changed, marked";
        IsBesideTurn = true;
        return Partial("_ChangedTurn", (this, turn));
    }

    // Tells the page what it shows from now on: the whole text, or one more change of it; and whether the strip has to be drawn anew.
    private void Changed(bool whole) =>
        Response.Headers["HX-Trigger"] = FormattableString.Invariant(
            $"{{{(whole || isMark ? Marked + "," : "")}\"changed\":{{\"version\":{Version},\"whole\":{(whole ? "true" : "false")}}}}}"
        );

    private const string Marked = "\"marked\":{}";

    // The change is of what the strip shows, not of the words alone.
    private bool isMark;

    private static List<RecordWord> Between(Transcript transcript, int firstNumber, int lastNumber)
    {
        var (first, last) = transcript.PlacesOf(firstNumber, lastNumber);
        return [.. transcript.Words.Skip(first).Take(last - first + 1)];
    }

    private IActionResult Change(
        long sitting,
        Func<Transcript, TranscriptEdit?> wish,
        (int First, int Last)? words = null,
        bool marks = false
    )
    {
        isMark = marks;
        Transcript? before = null;
        return Change(
            sitting,
            id => transcripts.Apply(id, now => wish(before = now), Who),
            words is { } changed ? () => SameTurn(before!, changed.First, changed.Last) : () => null
        );
    }

    // The turn that holds all words that were changed, when it has the words that it had before; otherwise the page is laid anew.
    private Turn? SameTurn(Transcript before, int first, int last)
    {
        var turns = Core.Transcripts.Turns.Lay(before);
        var (was, now) = (TurnOf(before, turns, first), TurnOf(Transcript!, Turns, first));
        return
            was is not null
            && now is not null
            && was == TurnOf(before, turns, last)
            && Ends(before, was) == Ends(Transcript!, now)
            && was.GoesOn == now.GoesOn
            ? now
            : null;
    }

    private static (int, int) Ends(Transcript transcript, Turn turn) =>
        (transcript.Words[turn.First].Number, transcript.Words[turn.Last].Number);

    private static Turn? TurnOf(Transcript transcript, IReadOnlyList<Turn> turns, int number) =>
        transcript.PlaceOf(number) is { } place ? turns.Single(t => t.First <= place && place <= t.Last) : null;

    private IActionResult Change(long sitting, Func<long, ChangedText> change, Func<Turn?> turn)
    {
        if (SittingHere(sitting) is not { TranscriptId: { } id } here)
        {
            return NotFound();
        }
        ChangedText changed = null!;
        var names = transcripts.VoiceNames(id);
        if (Try(NewsOf.Words, () => changed = change(id)) is { } refused)
        {
            return Refused(refused);
        }
        if (!names.OrderBy(n => n.Key).SequenceEqual(changed.Transcript.Layers.VoiceNames))
        {
            // A voice that is named, or not named any more, may be known from elsewhere.
            upkeep.Ask(Production.Id);
        }
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
        Turns = Core.Transcripts.Turns.Lay(Transcript);
        People = Desk.People(Production.Id);
        MarginCode = MarginCode.Of(sitting, footage.SourcesOf(sitting.Id));
    }

    private void LoadBites(Sitting sitting, long transcript)
    {
        Bites =
        [
            .. bites
                .Of(Production.Id)
                .Where(b => b.SittingId == sitting.Id && !b.IsAside)
                .Select(b =>
                    MarkPlace.Of(b.Mark, Transcript!, b.TranscriptId == transcript) is { } place
                        ? b with
                        {
                            Mark = b.Mark with
                            {
                                First = Transcript!.Words[place.First].Number,
                                Last = Transcript.Words[place.Last].Number,
                            },
                        }
                        : null
                )
                .OfType<Bite>(),
        ];
        BitesFrom = ByTurn();
    }

    // The turns are in order, so that the one of a bite's first word is found by halving.
    private ILookup<int, Bite> ByTurn()
    {
        var firsts = Turns.Select(t => t.First).ToList();
        return Bites.ToLookup(b =>
            firsts.BinarySearch(Transcript!.PlaceOf(b.FirstWord)!.Value) is var at && at >= 0 ? firsts[at] : firsts[~at - 1]
        );
    }
}
