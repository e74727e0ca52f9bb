using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Marks;

/// <summary>
/// Lays a mark over words of the text. Its id is one that no mark has had (<see cref="Layers.NextMark"/>), or its own from before when it
/// is brought again.
/// </summary>
public sealed record PutMark(Mark Mark) : TranscriptEdit
{
    internal override IEnumerable<string> Touched() => [MarkName.Of(Mark)];

    /// <inheritdoc/>
    public override (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript)
    {
        transcript.PlacesOf(Mark.First, Mark.Last);
        var layers = transcript.Layers;
        if (Mark.Kind.Use == MarkUse.Keeps)
        {
            throw new EditRefusedException("Bites are not kept with the text.");
        }
        if (Mark.Id <= 0 || layers.Marks.ContainsKey(Mark.Id))
        {
            throw new EditRefusedException("There is a mark under this number already. Load the page again and repeat it.");
        }
        var note = TypedText.OneLine(Mark.Note);
        if (note.Length > Mark.LongestNote)
        {
            throw new EditRefusedException($"A flag's note takes at most {Mark.LongestNote} characters.");
        }
        var mark = Mark with { Note = note };
        return (
            layers with
            {
                Marks = layers.Marks.Add(mark.Id, mark),
                NextMark = Math.Max(layers.NextMark, mark.Id + 1),
            },
            mark.Kind.IsHeld ? new ReleaseMark(mark, ReleaseMark.TakenBack, mark.Owner) : new TakeMark(mark)
        );
    }
}

/// <summary>Takes a mark away; what it held comes back. What is off the record is refused: it is released.</summary>
public sealed record TakeMark(Mark Mark) : TranscriptEdit
{
    internal override IEnumerable<string> Touched() => [MarkName.Of(Mark)];

    /// <inheritdoc/>
    public override (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript) =>
        !transcript.Layers.Marks.TryGetValue(Mark.Id, out var there)
            ? throw new EditRefusedException("That mark is no longer there. Load the page again.")
        : there.Kind.IsHeld ? throw new EditRefusedException(ReleaseMark.Needed)
        : (transcript.Layers with { Marks = transcript.Layers.Marks.Remove(Mark.Id) }, new PutMark(there));
}

/// <summary>
/// Releases what was off the record: it may be used again. Who does that, and why, stays in the log for ever.
/// </summary>
public sealed record ReleaseMark(Mark Mark, string Reason, string By) : TranscriptEdit
{
    /// <summary>The longest reason and the longest name, in characters.</summary>
    public const int Longest = 200;

    /// <summary>The reason where the one who laid it takes that back.</summary>
    internal const string TakenBack = "taken back by who had marked it";

    /// <summary>What is said where somebody would bring it back otherwise.</summary>
    public const string Needed = "That is off the record: it stays out until somebody releases it by name, under Off the record.";

    /// <summary>Whether an edit releases anything.</summary>
    public static bool IsIn(TranscriptEdit edit) => edit is ReleaseMark || (edit is Together many && many.Edits.Any(IsIn));

    internal override IEnumerable<string> Touched() => [MarkName.Of(Mark)];

    /// <inheritdoc/>
    public override (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript)
    {
        if (transcript.Layers.Marks.GetValueOrDefault(Mark.Id) is not { Kind.IsHeld: true } there)
        {
            throw new EditRefusedException("That is no longer off the record. Load the page again.");
        }
        if (string.IsNullOrWhiteSpace(By) || string.IsNullOrWhiteSpace(Reason))
        {
            throw new EditRefusedException("Say who releases it, and why: both stay with it.");
        }
        if (By.Length > Longest || Reason.Length > Longest)
        {
            throw new EditRefusedException(FormattableString.Invariant($"A name and a reason take at most {Longest} characters."));
        }
        return (transcript.Layers with { Marks = transcript.Layers.Marks.Remove(Mark.Id) }, new PutMark(there));
    }
}

/// <summary>What a mark is called where changes are compared.</summary>
internal static class MarkName
{
    public static string Of(Mark mark) => FormattableString.Invariant($"mark {mark.Id}");
}
