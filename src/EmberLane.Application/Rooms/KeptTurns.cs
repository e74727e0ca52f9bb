using EmberLane.Core.Cameras;
using EmberLane.Core.Tidy;

namespace EmberLane.Application.Rooms;

/// <summary>Who speaks when in texts: kept until a text changes, for to read one costs with its words.</summary>
public sealed class KeptTurns(Store.Transcripts transcripts)
{
    /// <summary>A thousand hours of talk, in texts of two hours; some thousand turns each.</summary>
    private const int Most = 500;

    private readonly Lock gate = new();
    private readonly Dictionary<long, (long Version, IReadOnlyList<PlanTurn> Turns)> kept = [];

    /// <summary>The turns of a text as it is now; none where there is none.</summary>
    public IReadOnlyList<PlanTurn> Of(long? transcript)
    {
        if (transcript is not { } id || transcripts.Head(id) is not { } head)
        {
            return [];
        }
        lock (gate)
        {
            if (kept.TryGetValue(id, out var known) && known.Version == head.Version)
            {
                return known.Turns;
            }
        }
        // A change that falls between the two reads is seen by the next look, for what is kept then has the version before it.
        var text = transcripts.Get(id);
        var turns = SpokenTurns.Of(new TextTalk(text).Talk, text.NameOf);
        lock (gate)
        {
            if (kept.Count >= Most)
            {
                kept.Clear();
            }
            kept[id] = (head.Version, turns);
        }
        return turns;
    }
}
