namespace EmberLane.Core.Transcripts;

/// <summary>Somebody's words without a break of another's: where they lie, how long they are spoken, and the number of the first.</summary>
public sealed record SpokenTurn(SittingRange Range, MediaTime Spoken, WordNumber First);

/// <summary>How much of what is spoken was read, how much was not, and the word where that begins; null where all was.</summary>
public sealed record ReadShare(MediaTime Read, MediaTime Unread, WordNumber? Next)
{
    /// <summary>
    /// Of turns in order of time, where these stretches were read, which are in order and apart. A turn that was read in part counts by how
    /// much of its time was; one of which less than nine tenths were is where to go on. Linear in both.
    /// </summary>
    public static ReadShare Of(IReadOnlyList<SpokenTurn> turns, IReadOnlyList<SittingRange> read)
    {
        MediaTime done = MediaTime.Zero,
            all = MediaTime.Zero;
        WordNumber? next = null;
        var from = 0;
        foreach (var turn in turns)
        {
            // Turns may overlap: who talks over another begins before that one ends.
            while (from < read.Count && read[from].Out <= turn.Range.In)
            {
                from++;
            }
            var covered = MediaTime.Zero;
            for (var i = from; i < read.Count && read[i].In < turn.Range.Out; i++)
            {
                covered +=
                    (read[i].Out < turn.Range.Out ? read[i].Out : turn.Range.Out)
                    - (read[i].In > turn.Range.In ? read[i].In : turn.Range.In);
            }
            var length = Math.Max(1, turn.Range.Length.Units);
            var share = new MediaTime((long)((Int128)turn.Spoken.Units * covered.Units / length));
            done += share;
            all += turn.Spoken;
            if (next is null && 10 * (Int128)covered.Units < 9 * (Int128)length)
            {
                next = turn.First;
            }
        }
        return new ReadShare(done, all - done, next);
    }
}
