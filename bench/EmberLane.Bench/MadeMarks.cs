using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;

namespace EmberLane.Bench;

/// <summary>Marks over a made text: passages set aside and flags, evenly spread.</summary>
internal static class MadeMarks
{
    /// <summary>Of <paramref name="each"/> passages of so many words one is aside, and a flag stands before every so many words.</summary>
    public static TranscriptEdit Of(Transcript text, int aside, int each, int flags)
    {
        var by = new Signed("bench", null);
        var passages = Enumerable
            .Range(0, text.Words.Count / aside)
            .Where(n => n % each == 7)
            .Select(n => (MarkKind.SetAsideByHand, First: n * aside, Last: ((n + 1) * aside) - 1));
        var flagged = Enumerable.Range(0, text.Words.Count / flags).Select(n => (MarkKind.LookAgain, First: n * flags, Last: n * flags));
        return new Together([
            .. passages.Concat(flagged).Select((m, i) => new PutMark(Marking.Over(text, m.Item1, new(m.First), new(m.Last), by, later: i))),
        ]);
    }
}
