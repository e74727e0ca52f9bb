using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Marks;
using EmberLane.Core.People;
using EmberLane.Core.Transcripts;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Read;

/// <content>What people change of the text: each answers with its turn, or with the page laid anew.</content>
public sealed partial class IndexModel
{
    /// <summary>
    /// Writes what is truly said over the words from first to last, by number. <paramref name="was"/> is what the person saw there; when
    /// somebody else has changed it since, nothing is changed. Answers with their turn.
    /// </summary>
    public IActionResult OnPostRetype(long sitting, WordNumber first, WordNumber last, string? text, string? was) =>
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
    public IActionResult OnPostInsert(long sitting, WordNumber after, string? text) =>
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
    public IActionResult OnPostGive(long sitting, WordNumber first, WordNumber last, int? voice, string? name) =>
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
    [Needs(Rights.Mark | Rights.Log)]
    public IActionResult OnPostHide(long sitting, WordNumber first, WordNumber last) =>
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
    [Needs(Rights.Mark | Rights.Log)]
    public IActionResult OnPostAside(long sitting, WordNumber first, WordNumber last) =>
        Change(
            sitting,
            transcript => transcript.PlacesOf(first, last) is var (from, to) ? Marking.TurnAside(transcript, from, to, Signed) : null,
            (first, last),
            marks: true
        );

    /// <summary>Sets the selected words aside as said off the record.</summary>
    [Needs(Rights.Mark | Rights.Log)]
    public IActionResult OnPostOffRecord(long sitting, WordNumber first, WordNumber last) =>
        Change(
            sitting,
            transcript =>
                transcript.PlacesOf(first, last) is var (from, to)
                    ? new PutMark(Marking.Over(transcript, MarkKind.OffTheRecord, from, to, Signed))
                    : null,
            (first, last),
            marks: true
        );

    /// <summary>
    /// Makes the selected words a part of the sitting, called by its first words until it is given a name among the parts.
    /// </summary>
    [Needs(Rights.Mark | Rights.Log)]
    public IActionResult OnPostPart(long sitting, WordNumber first, WordNumber last)
    {
        return Change(
            sitting,
            transcript =>
            {
                var (from, to) = transcript.PlacesOf(first, last);
                made = BiteWords.Excerpt(transcript.Said(from, to));
                return new PutMark(Marking.Over(transcript, MarkKind.Part, from, to, Signed, made));
            },
            (first, last),
            marks: true
        );
    }

    /// <summary>Brings back what one mark sets aside. The page is shown anew.</summary>
    [Needs(Rights.Mark | Rights.Log)]
    public IActionResult OnPostBack(long sitting, long mark) =>
        Change(sitting, transcript => Marking.TakeAway(transcript, mark), marks: true);

    /// <summary>Switches a layer of what is set aside off or on. The page is shown anew.</summary>
    [Needs(Rights.Mark | Rights.Log)]
    public IActionResult OnPostLayer(long sitting, string? layer, bool off) =>
        Change(sitting, _ => new SwitchLayer(layer ?? "", off), marks: true);

    /// <summary>
    /// Puts a flag of a kind before a word, in place of the flag <paramref name="mark"/> when that is given; or takes that one away.
    /// </summary>
    [Needs(Rights.Mark | Rights.Log)]
    public IActionResult OnPostFlag(long sitting, WordNumber word, string? kind, string? note, bool away, long? mark) =>
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
    public IActionResult OnPostSettle(long sitting, WordNumber first, WordNumber last, bool voice) =>
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
    public IActionResult OnPostCase(long sitting, WordNumber first, WordNumber last) =>
        Change(
            sitting,
            transcript => transcript.PlacesOf(first, last) is var (from, to) ? Spelling.NextCase(transcript, from, to) : null,
            (first, last)
        );

    /// <summary>Puts the next of stop, comma, question mark and none behind a word.</summary>
    public IActionResult OnPostMark(long sitting, WordNumber word) =>
        Change(sitting, transcript => Spelling.NextMark(transcript, transcript.PlacesOf(word, word).First), (word, word));

    /// <summary>Makes the selected words one word, or words of their own again when they are one already. Their times stay.</summary>
    public IActionResult OnPostJoin(long sitting, WordNumber first, WordNumber last) =>
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

    /// <summary>
    /// Replaces what was asked for at the ticked places; with the <paramref name="rest"/> also at those that are too many to be shown.
    /// </summary>
    public IActionResult OnPostReplace(long sitting, string? asked, string? by, bool whole, bool match, WordNumber[] places, bool rest) =>
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
                                .Select(p => transcript.At(p.First).Number),
                        ]
                        : places
                )
        );

    [Needs(Rights.Mark | Rights.Log)]
    public IActionResult OnPostUndo(long sitting, bool redo)
    {
        // It may be of what is set aside.
        isMark = true;
        return Change(
            sitting,
            id => transcripts.Step(id, redo, Who) ?? throw new EditRefusedException(StepWords.Of(null, redo)),
            () => null
        );
    }

    // Tells the page what it shows from now on: the whole text, or one more change of it; and whether the strip has to be drawn anew.
    private void Changed(bool whole) =>
        Response.Headers["HX-Trigger"] = FormattableString.Invariant(
            $"{{{(whole || isMark ? Marked + "," : "")}{Touched}\"changed\":{{\"version\":{Version},\"whole\":{Json(whole)}}}}}"
        );

    private static string Json(bool whole) => whole ? "true" : "false";

    private const string Unreadable = "The request names words by something that is no number. Load the page again and repeat it.";

    // The part that was made.
    private string? made;

    // Which stories are longer or shorter for it, or what was made, told in a sentence.
    private string touched = "";

    private string Touched => touched.Length == 0 ? "" : $"\"touched\":{System.Text.Json.JsonSerializer.Serialize(touched)},";

    private const string Marked = "\"marked\":{}";

    // The change is of what the strip shows, not of the words alone.
    private bool isMark;

    private static List<RecordWord> Between(Transcript transcript, WordNumber firstNumber, WordNumber lastNumber)
    {
        var (first, last) = transcript.PlacesOf(firstNumber, lastNumber);
        return [.. transcript.Between(first, last)];
    }

    private IActionResult Change(
        long sitting,
        Func<Transcript, TranscriptEdit?> wish,
        (WordNumber First, WordNumber Last)? words = null,
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
    private Turn? SameTurn(Transcript before, WordNumber first, WordNumber last)
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

    private static Turn? TurnOf(Transcript transcript, IReadOnlyList<Turn> turns, WordNumber number) =>
        transcript.PlaceOf(number) is { } place ? turns.Single(t => t.First <= place && place <= t.Last) : null;

    private IActionResult Change(long sitting, Func<long, ChangedText> change, Func<Turn?> turn)
    {
        if (SittingHere(sitting) is not { TranscriptId: { } id } here)
        {
            return NotFound();
        }
        if (!ModelState.IsValid)
        {
            // What does not bind would count as word 0.
            return Refused(Unreadable);
        }
        ChangedText changed = null!;
        var names = transcripts.VoiceNames(id);
        var stories = isMark ? Desk.ShownOf(sitting) : null;
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
        touched =
            made is not null ? $"“{made}” is a part of the sitting. Its name, and sending it to the story: Tidy, Parts and story."
            : stories is null ? ""
            : StoryLengths.Touched(stories, Desk.ShownOf(sitting));
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
}
