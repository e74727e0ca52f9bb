namespace EmberLane.Core.Transcripts;

/// <summary>
/// An unbroken stretch of one speaker's words: the places of its first and last word. A turn that goes on after a paragraph break is
/// marked so. How sure the voice is is the mean over its words.
/// </summary>
public sealed record Turn(int Voice, TextPlace First, TextPlace Last, bool GoesOn, PerMille Sure)
{
    /// <summary>Below this a turn's voice is worth a look.</summary>
    public static readonly PerMille UnsureBelow = new(750);

    /// <summary>Whether it is doubtful whose turn it is.</summary>
    public bool IsUnsure => Sure < UnsureBelow;
}

/// <summary>Lays the words of a transcript into turns.</summary>
public static class Turns
{
    private static readonly MediaTime LongPause = MediaTime.FromMilliseconds(700);

    /// <summary>Words after which a pause begins a new paragraph, and after which one begins in any case.</summary>
    private const int ParagraphFrom = 60,
        ParagraphAtMost = 140;

    /// <summary>A turn ends where the voice changes; a long one is broken into paragraphs at pauses. Linear in the words.</summary>
    public static IReadOnlyList<Turn> Lay(Transcript transcript)
    {
        var words = transcript.Words;
        var turns = new List<Turn>();
        var first = 0;
        var goesOn = false;
        for (var i = 1; i <= words.Count; i++)
        {
            var voiceChanges = i == words.Count || transcript.VoiceOf(words[i]) != transcript.VoiceOf(words[i - 1]);
            var paragraph =
                !voiceChanges
                && (
                    i - first >= ParagraphAtMost || (i - first >= ParagraphFrom && words[i].Range.In - words[i - 1].Range.Out >= LongPause)
                );
            if (voiceChanges || paragraph)
            {
                turns.Add(
                    new Turn(
                        transcript.VoiceOf(words[first]),
                        new TextPlace(first),
                        new TextPlace(i - 1),
                        goesOn,
                        new PerMille((int)words.Take(first..i).Average(w => transcript.SureOf(w).Value))
                    )
                );
                goesOn = paragraph;
                first = i;
            }
        }
        return turns;
    }
}
