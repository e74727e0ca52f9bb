using System.Runtime.InteropServices;
using EmberLane.Core.Voices;

namespace EmberLane.Store;

/// <summary>What the voices of each text sound like.</summary>
public sealed class VoicePrints(Database database)
{
    /// <summary>The prints of a text by voice; one without steps where a voice says too little.</summary>
    public IReadOnlyDictionary<int, VoicePrint> Of(long transcriptId) =>
        database
            .Read(c =>
                c.Query(
                    "SELECT voice, steps, covariances, lower_pitch, pitch, upper_pitch FROM voice_print WHERE transcript_id = $t",
                    r =>
                        (
                            Voice: r.GetInt32(0),
                            Print: new VoicePrint(
                                r.GetInt32(1),
                                MemoryMarshal.Cast<byte, float>(r.GetFieldValue<byte[]>(2)).ToArray(),
                                r.GetFloat(3),
                                r.GetFloat(4),
                                r.GetFloat(5)
                            )
                        ),
                    ("$t", transcriptId)
                )
            )
            .ToDictionary(p => p.Voice, p => p.Print);

    /// <summary>Keeps the prints of a text in place of those it had.</summary>
    public void Keep(long transcriptId, IReadOnlyDictionary<int, VoicePrint> prints) =>
        database.Write(c =>
        {
            c.Execute("DELETE FROM voice_print WHERE transcript_id = $t", ("$t", transcriptId));
            foreach (var (voice, print) in prints)
            {
                c.Execute(
                    "INSERT INTO voice_print VALUES ($t, $v, $steps, $c, $low, $pitch, $up)",
                    ("$t", transcriptId),
                    ("$v", voice),
                    ("$steps", print.Steps),
                    ("$c", MemoryMarshal.AsBytes<float>(print.Covariances.ToArray()).ToArray()),
                    ("$low", print.LowerPitch),
                    ("$pitch", print.Pitch),
                    ("$up", print.UpperPitch)
                );
            }
        });
}
