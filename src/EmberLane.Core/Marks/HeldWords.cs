using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Marks;

/// <summary>Words that somebody asked to leave out: their mark, when they are said, who begins, and what is said.</summary>
public sealed record HeldWords(Mark Mark, SittingRange Range, string Who, string Said)
{
    /// <summary>All of a text, by time. Linear in the marks and what they lie over.</summary>
    public static IReadOnlyList<HeldWords> Of(Transcript text) =>
        [
            .. text
                .Layers.Marks.Values.Where(m => m.Kind.IsHeld)
                .Select(m =>
                    MarkPlace.Of(m, text) is var (first, last)
                        ? new HeldWords(m, text.RangeOf(first, last), text.NameOf(text.VoiceOf(text.At(first))), text.Said(first, last))
                        : new HeldWords(m, m.Range, "", "")
                )
                .OrderBy(h => h.Range.In),
        ];
}
