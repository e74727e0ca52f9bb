using EmberLane.Core.Finding;
using EmberLane.Core.Finding.Sounds;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// A stretch of an entry's words that sounds like what is asked: their places in its passage, and how far from it, in hundredths.
/// </summary>
internal readonly record struct SoundHit(long Entry, int First, int Last, int Apart, int Share);

/// <summary>
/// All talk as its sounds, in memory from the first rough question on, some five bytes a word. What has been written since is read before
/// each question; what is gone is told by whoever reads the entry.
/// </summary>
internal sealed class TalkSounds(Pronouncing pronouncing)
{
    /// <summary>So many ends are looked at, the nearest ones, of which a stretch has several; and so many stretches are told.</summary>
    private const int MostEnds = 1_500,
        MostHits = 400;

    private readonly Lock gate = new();
    private readonly List<byte[]> terms = [];
    private readonly List<(SoundBlock Block, long[] Ids)> blocks = [];
    private readonly Dictionary<long, int> blockOf = [];
    private long mark;

    /// <summary>
    /// Where words are said that sound like those asked for, the nearest first, none over another; of the sittings that are looked in.
    /// </summary>
    public IReadOnlyList<SoundHit> Find(SqliteConnection c, IReadOnlyList<string> words, Func<long, bool> isLookedIn)
    {
        lock (gate)
        {
            Load(c);
            var hits = new List<SoundHit>();
            foreach (var question in pronouncing.WaysOf(words).Select(SoundQuestion.Of).OfType<SoundQuestion>())
            {
                hits.AddRange(EndsOf(question, isLookedIn).Select(e => HitOf(question, e.Block, e.End)));
            }
            return [.. Apart(hits).Take(MostHits)];
        }
    }

    private List<(int Block, SoundEnd End)> EndsOf(SoundQuestion question, Func<long, bool> isLookedIn)
    {
        var found = new List<(int Block, SoundEnd End)>[blocks.Count];
        Parallel.For(
            0,
            blocks.Count,
            () => new List<SoundEnd>(),
            (n, _, ends) =>
            {
                var (block, ids) = blocks[n];
                ends.Clear();
                if (ids.Any(id => isLookedIn(id / FindIndex.Places)))
                {
                    block.EndsOf(question, question.MostCost, ends);
                    found[n] = [.. ends.Where(e => e.Lane < ids.Length && isLookedIn(ids[e.Lane] / FindIndex.Places)).Select(e => (n, e))];
                }
                return ends;
            },
            _ => { }
        );
        return [.. found.Where(f => f is not null).SelectMany(f => f).OrderBy(e => e.End.Cost).Take(MostEnds)];
    }

    private SoundHit HitOf(SoundQuestion question, int block, SoundEnd end)
    {
        var said = blocks[block].Block.Lane(end.Lane);
        return new SoundHit(
            blocks[block].Ids[end.Lane],
            SaidSounds.WordAt(said, question.BeginOf(said, end.At)),
            SaidSounds.WordAt(said, end.At),
            end.Cost * Phonemes.Unit,
            question.ShareOf(end.Cost)
        );
    }

    private static List<SoundHit> Apart(List<SoundHit> hits)
    {
        var taken = new Dictionary<long, List<SoundHit>>();
        var apart = new List<SoundHit>();
        foreach (var hit in hits.OrderBy(h => h.Share).ThenBy(h => h.Entry).ThenBy(h => h.First))
        {
            if (!taken.TryGetValue(hit.Entry, out var there))
            {
                taken[hit.Entry] = there = [];
            }
            if (!there.Any(t => t.First <= hit.Last && hit.First <= t.Last))
            {
                there.Add(hit);
                apart.Add(hit);
            }
        }
        return apart;
    }

    private void Load(SqliteConnection c)
    {
        var now = c.Query("SELECT number FROM find_mark", r => r.GetInt64(0)).Single();
        if (now == mark)
        {
            return;
        }
        LoadTerms(c);
        var changed = new Dictionary<int, List<(long Id, byte[] Sounds)>>();
        var fresh = new List<(long Id, byte[] Sounds)>();
        foreach (
            var (id, passage) in c.Query(
                "SELECT id, passage FROM find_entry WHERE mark > $m ORDER BY id",
                r => (r.GetInt64(0), SaidPassage.Of(r.GetFieldValue<byte[]>(1))),
                ("$m", mark)
            )
        )
        {
            var sounds = SaidSounds.Of(passage.Terms.Select(t => terms[t]));
            if (blockOf.TryGetValue(id, out var n))
            {
                (changed.TryGetValue(n, out var there) ? there : changed[n] = []).Add((id, sounds));
            }
            else
            {
                fresh.Add((id, sounds));
            }
        }
        foreach (var (n, entries) in changed)
        {
            var (block, ids) = blocks[n];
            var anew = entries.ToDictionary(e => e.Id, e => e.Sounds);
            blocks[n] = (new SoundBlock([.. ids.Select((id, lane) => anew.GetValueOrDefault(id) ?? block.Lane(lane))]), ids);
        }
        Add(fresh);
        mark = now;
    }

    // The last block is filled first.
    private void Add(List<(long Id, byte[] Sounds)> fresh)
    {
        if (blocks is [.., var last] && last.Ids.Length < SoundBlock.Lanes && fresh.Count > 0)
        {
            fresh.InsertRange(0, last.Ids.Select((id, lane) => (id, last.Block.Lane(lane))));
            blocks.RemoveAt(blocks.Count - 1);
        }
        foreach (var some in fresh.Chunk(SoundBlock.Lanes))
        {
            foreach (var (id, _) in some)
            {
                blockOf[id] = blocks.Count;
            }
            blocks.Add((new SoundBlock([.. some.Select(s => s.Sounds)]), [.. some.Select(s => s.Id)]));
        }
    }

    // Terms are only ever added; their numbers may have gaps.
    private void LoadTerms(SqliteConnection c)
    {
        foreach (
            var (id, language, term) in c.Query(
                "SELECT id, language, term FROM find_term WHERE id >= $id ORDER BY id",
                r => (r.GetInt32(0), r.GetString(1), r.GetString(2)),
                ("$id", terms.Count)
            )
        )
        {
            while (terms.Count < id)
            {
                terms.Add([Phonemes.Unknown]);
            }
            terms.Add(pronouncing.Of(term, language));
        }
    }
}
