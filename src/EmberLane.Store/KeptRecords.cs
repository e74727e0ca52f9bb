using EmberLane.Core.Transcripts;

namespace EmberLane.Store;

/// <summary>The records that were read last. A record never changes, so that it is read from the disk once; those not asked for the longest go when there are too many words.</summary>
internal sealed class KeptRecords
{
    private const int MostWords = 400_000;

    private readonly Lock asking = new();
    private readonly LinkedList<(long Id, IReadOnlyList<RecordWord> Words)> kept = [];

    /// <summary>The record with this id, read by <paramref name="read"/> when it is not kept.</summary>
    public IReadOnlyList<RecordWord> Get(long id, Func<IReadOnlyList<RecordWord>> read)
    {
        lock (asking)
        {
            for (var node = kept.First; node is not null; node = node.Next)
            {
                if (node.Value.Id == id)
                {
                    kept.Remove(node);
                    kept.AddFirst(node);
                    return node.Value.Words;
                }
            }
        }
        var words = read();
        lock (asking)
        {
            kept.AddFirst((id, words));
            while (kept.Count > 1 && kept.Sum(k => k.Words.Count) > MostWords)
            {
                kept.RemoveLast();
            }
        }
        return words;
    }
}
