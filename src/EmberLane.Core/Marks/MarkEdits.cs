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
            new TakeMark(mark)
        );
    }
}

/// <summary>Takes a mark away; what it held comes back.</summary>
public sealed record TakeMark(Mark Mark) : TranscriptEdit
{
    internal override IEnumerable<string> Touched() => [MarkName.Of(Mark)];

    /// <inheritdoc/>
    public override (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript) =>
        transcript.Layers.Marks.TryGetValue(Mark.Id, out var there)
            ? (transcript.Layers with { Marks = transcript.Layers.Marks.Remove(Mark.Id) }, new PutMark(there))
            : throw new EditRefusedException("That mark is no longer there. Load the page again.");
}

/// <summary>What a mark is called where changes are compared.</summary>
internal static class MarkName
{
    public static string Of(Mark mark) => FormattableString.Invariant($"mark {mark.Id}");
}
