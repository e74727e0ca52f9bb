using EmberLane.Core.Marks;

namespace EmberLane.Core.Transcripts;

/// <summary>Says what a change of a transcript was, for a person.</summary>
public static class EditWords
{
    private const int Named = 3,
        Quoted = 6;

    /// <summary>
    /// One sentence without its stop, and the first word it touched, or null. Words are quoted as the record has them; the word is named by
    /// its number.
    /// </summary>
    public static (string Said, WordNumber? Word) Of(TranscriptEdit edit, Transcript transcript) =>
        edit switch
        {
            Retype retype => (
                retype.Text is null
                    ? $"“{Word(transcript, retype.Word)}” as recognised again"
                    : $"“{Word(transcript, retype.Word)}” is “{retype.Text}”",
                retype.Word
            ),
            GiveWord give => (
                $"“{Word(transcript, give.Word)}” given to "
                    + $"{(give.Voice is { } voice ? transcript.NameOf(voice) : "the voice it was heard in")}",
                give.Word
            ),
            HideWord hide => ($"“{Word(transcript, hide.Word)}” {(hide.Hidden ? "out of the text" : "back in the text")}", hide.Word),
            PutMark put => (Laid(put.Mark, transcript), put.Mark.First),
            TakeMark take => (Taken(take.Mark, transcript), take.Mark.First),
            ReleaseMark release => ($"“{Words(transcript, release.Mark)}” released by {release.By}: {release.Reason}", release.Mark.First),
            JoinWord join => (
                $"“{(WordBefore(transcript, join.Word) is { } before ? Word(transcript, before) : "?")}” and "
                    + $"“{Word(transcript, join.Word)}” {(join.Joined ? "are one word" : "are two words")}",
                join.Word
            ),
            AddWord add => (
                $"“{add.Text}” added{(Before(transcript, add) is { } behind ? $" after “{behind}”" : " at the beginning")}",
                add.Number
            ),
            WithdrawWord withdraw => ($"“{Word(transcript, withdraw.Number)}” taken away again", null),
            NameVoice name => (name.Name is null or "" ? "a voice lost its name" : $"a voice is {name.Name}", null),
            SwitchLayer change => ($"the layer “{MarkLayer.Find(change.Layer)?.Name}” is {(change.Off ? "off" : "on")}", null),
            Together { Edits: [var one] } => Of(one, transcript),
            Together many when OfOneKind(many) is { } counted => (counted, Of(many.Edits[0], transcript).Word),
            Together together when together.Edits.All(IsOfAside) && together.Edits[0] is TakeMark { Mark: var was } => (
                BroughtBack(together.Edits, transcript),
                was.First
            ),
            Together together => (
                string.Join("; ", together.Edits.Take(Named).Select(e => Of(e, transcript).Said))
                    + (together.Edits.Count > Named ? FormattableString.Invariant($"; and {together.Edits.Count - Named} more") : ""),
                together.Edits.Select(e => Of(e, transcript).Word).FirstOrDefault(w => w is not null)
            ),
            _ => ("a change", null),
        };

    // Many marks of one kind at once are told by their number.
    private static string? OfOneKind(Together together) =>
        together.Edits.Count > Named
        && (Kind(together.Edits[0]), together.Edits[0] is PutMark) is ({ Layer: { } layer } kind, var put)
        && together.Edits.All(e => Kind(e) == kind && e is PutMark == put)
            ? FormattableString.Invariant($"{layer.Name}: {together.Edits.Count} places {(put ? "set aside" : "brought back")}")
            : null;

    private static MarkKind? Kind(TranscriptEdit edit) =>
        edit switch
        {
            PutMark put => put.Mark.Kind,
            TakeMark take => take.Mark.Kind,
            _ => null,
        };

    private static string Laid(Mark mark, Transcript transcript) =>
        mark.Kind.Use switch
        {
            MarkUse.Flags =>
                $"a flag “{mark.Kind.Says}” before “{Word(transcript, mark.First)}”{(mark.Note.Length > 0 ? ": " + mark.Note : "")}",
            MarkUse.SetsTimeAside => $"{mark.Range.Length} before “{Word(transcript, mark.Last)}” set aside: {mark.Kind.Says}",
            MarkUse.Parts => $"part “{mark.Note}” from “{Word(transcript, mark.First)}” to “{Word(transcript, mark.Last)}”",
            _ when mark.Kind == MarkKind.LeftSound => $"the sound before “{Word(transcript, mark.Last)}” stays",
            _ when mark.IsOfTime => $"the pause before “{Word(transcript, mark.Last)}” stays",
            _ => $"“{Words(transcript, mark)}” {mark.Kind.Says}",
        };

    private static string Taken(Mark mark, Transcript transcript) =>
        mark.Kind.Use switch
        {
            MarkUse.Flags => $"no flag before “{Word(transcript, mark.First)}”",
            MarkUse.Settles => $"“{Words(transcript, mark)}” is doubtful again",
            MarkUse.SetsTimeAside => $"{mark.Range.Length} before “{Word(transcript, mark.Last)}” brought back",
            MarkUse.Parts => $"“{mark.Note}” is no part any more",
            MarkUse.Spares => $"“{Words(transcript, mark)}” may be proposed again",
            _ => $"“{Words(transcript, mark)}” brought back",
        };

    private static bool IsOfAside(TranscriptEdit edit) =>
        edit is TakeMark { Mark.Kind.Use: MarkUse.SetsAside } or PutMark { Mark.Kind.Use: MarkUse.SetsAside };

    // Marks that were taken away but for what stays aside before and behind the words that came back.
    private static string BroughtBack(IReadOnlyList<TranscriptEdit> edits, Transcript transcript)
    {
        var kept = edits.OfType<PutMark>().SelectMany(p => Places(transcript, p.Mark)).ToHashSet();
        var places = edits.OfType<TakeMark>().SelectMany(t => Places(transcript, t.Mark)).Where(p => !kept.Contains(p)).Distinct().Order();
        return $"“{Excerpt(places.Select(transcript.At), transcript)}” brought back";
    }

    private static IEnumerable<TextPlace> Places(Transcript transcript, Mark mark) =>
        MarkPlace.Of(mark, transcript) is { } place ? TextPlace.Between(place.First, place.Last) : [];

    private static string Words(Transcript transcript, Mark mark) =>
        MarkPlace.Of(mark, transcript) is { } place
            ? Excerpt(transcript.Between(place.First, place.Last), transcript)
            : Word(transcript, mark.First);

    private static string Excerpt(IEnumerable<RecordWord> words, Transcript transcript)
    {
        var quoted = words.Take(Quoted + 1).Select(w => Word(transcript, w.Number)).ToList();
        return string.Join(' ', quoted.Take(Quoted)) + (quoted.Count > Quoted ? " …" : "");
    }

    private static string Word(Transcript transcript, WordNumber number) =>
        number.Value >= 0 && number.Value < transcript.Record.Count ? transcript.Record[number.Value].Text
        : transcript.Layers.Added.TryGetValue(number, out var added) ? added.Text
        : "?";

    // The word that it was put behind, which may itself have been added.
    private static string? Before(Transcript transcript, AddWord add) =>
        WordBefore(transcript, add.Number) is { } before ? Word(transcript, before)
        : add.After > WordNumber.BeforeFirst ? Word(transcript, add.After)
        : null;

    private static WordNumber? WordBefore(Transcript transcript, WordNumber number) =>
        transcript.PlaceOf(number) is { } place && place > TextPlace.First ? transcript.At(place - 1).Number : null;
}
