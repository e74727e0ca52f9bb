using EmberLane.Core.Transcripts;

namespace EmberLane.Store;

/// <summary>
/// The records that were read last. A record never changes, so that it is read from the disk once; those not asked for the longest go when
/// there are too many words.
/// </summary>
internal sealed class KeptRecords
{
    private const int MostWords = 400_000;

    private readonly Lock asking = new();
    private readonly LinkedList<(long Id, IReadOnlyList<RecordWord> Words)> kept = [];

    /// <summary>The record with this id; null when it is not kept.</summary>
    public IReadOnlyList<RecordWord>? Find(long id)
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
            return null;
        }
    }

    /// <summary>
    /// Keeps a record that is on disk for good. One whose change may still be taken back must not come here: its id would be given to
    /// another.
    /// </summary>
    public void Keep(long id, IReadOnlyList<RecordWord> words)
    {
        lock (asking)
        {
            if (kept.Any(k => k.Id == id))
            {
                return;
            }
            kept.AddFirst((id, words));
            while (kept.Count > 1 && kept.Sum(k => k.Words.Count) > MostWords)
            {
                kept.RemoveLast();
            }
        }
    }

    /// <summary>Lets go of a record whose text came to nothing.</summary>
    public void Forget(long id)
    {
        lock (asking)
        {
            for (var node = kept.First; node is not null; node = node.Next)
            {
                if (node.Value.Id == id)
                {
                    kept.Remove(node);
                    return;
                }
            }
        }
    }
}
