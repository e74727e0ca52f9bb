using EmberLane.Core.Bites;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>Moves the ends of bites along the text that their sitting is read by.</summary>
public sealed class BiteMoves(Footage footage, Store.Transcripts transcripts, Store.Bites bites)
{
    /// <summary>
    /// Moves an end by words, or where these are 0 by steps of <see cref="BiteEnds.Step"/>; back where negative. Throws
    /// <see cref="Core.EditRefusedException"/> where the bite is gone or the text has no words there.
    /// </summary>
    public void Move(long bite, BiteEnd end, int words, int steps, string who)
    {
        var kept = bites.Get(bite) ?? throw new Core.EditRefusedException("That bite is no longer there.");
        var textId = TextOf(kept);
        var text = transcripts.Get(textId);
        var place =
            words != 0
                ? BiteEnds.ByWords(kept, textId, text, end, words)
                : BiteEnds.ByEar(kept, textId, text, end, new MediaTime(BiteEnds.Step.Units * steps));
        bites.Change([bite], (_, b) => b with { Place = place }, who);
    }

    /// <summary>The text that a bite is read by.</summary>
    public long TextOf(Bite kept) => footage.Sitting(kept.SittingId)?.TranscriptId ?? kept.TranscriptId;
}
