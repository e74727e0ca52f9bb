using EmberLane.Core.Seams;
using EmberLane.Core.Transcripts;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>What seams are judged by of each sitting, looked up once for a whole page.</summary>
public sealed class SeamSittings(SeamSounds sounds, Footage footage, Store.Transcripts transcripts)
{
    private readonly Dictionary<long, SittingSeamSound?> heard = [];
    private readonly Dictionary<long, Transcript?> read = [];

    /// <summary>The sound of a sitting; null while it is not measured.</summary>
    public SittingSeamSound? SoundOf(long sitting)
    {
        if (!heard.TryGetValue(sitting, out var sound))
        {
            heard[sitting] = sound = sounds.Of(sitting);
        }
        return sound;
    }

    /// <summary>The text that a sitting is read by; null where it has none.</summary>
    public Transcript? TextOf(long sitting)
    {
        if (!read.TryGetValue(sitting, out var text))
        {
            read[sitting] = text = footage.Sitting(sitting)?.TranscriptId is { } id ? transcripts.Get(id) : null;
        }
        return text;
    }
}
