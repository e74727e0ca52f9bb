using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Core.Sync;
using EmberLane.Engines;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>
/// Compares loose footage by sound: one file of each proposed group, and every file that is in none, with all others. The outline of each
/// is measured once and kept; what stands out there is compared closely. A file that has been compared with all before it is noted, so that
/// it goes on where it was, and goes on with files that arrive meanwhile.
/// </summary>
internal sealed class AlikeWork(Footage footage, Likeness likeness, SyncSounds sounds, MediaCache cache) : IWork
{
    public string Kind => WorkKinds.Alike;

    /// <summary>
    /// So many files are compared before the list is read anew: files arrive, and what is alike joins groups that need not be compared
    /// again.
    /// </summary>
    private const int AtOnce = 25;

    /// <summary>So many lags of a pair that stands out are compared closely: its true one is among the first.</summary>
    private const int Lags = 2;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var index = new OutlineIndex();
        var numbers = new Dictionary<long, int>();
        var passed = new HashSet<long>();
        var groups = new SoundGroups(likeness.Of(job.ProductionId));
        int found = 0,
            looked = 0;
        while (Next(job.ProductionId, numbers, passed) is var (waiting, compared))
        {
            var batch = waiting.Take(AtOnce).ToList();
            progress(
                PerMille.Of(compared.Count, compared.Count + waiting.Count),
                string.Create(CultureInfo.InvariantCulture, $"{compared.Count} of {compared.Count + waiting.Count} files, {found} alike")
            );
            await HoldAsync([.. compared.Concat(batch).Where(s => !numbers.ContainsKey(s.Id))], index, numbers, passed, cancel);
            compared.RemoveAll(c => !numbers.ContainsKey(c.Id));
            foreach (var source in batch.Where(s => numbers.ContainsKey(s.Id)))
            {
                var heights = index.Heights(numbers[source.Id], [.. compared.Select(c => numbers[c.Id])], cancel);
                var alike = new List<Alike>();
                foreach (var other in groups.WorthALook([.. compared.Zip(heights, (c, h) => (c.Id, h))]))
                {
                    looked++;
                    using var one = await sounds.OpenAsync(compared.First(c => c.Id == other), cancel);
                    using var two = await sounds.OpenAsync(source, cancel);
                    cancel.ThrowIfCancellationRequested();
                    if (SoundMatch.Find(one, two, Lags) is { Matched: true } match)
                    {
                        alike.Add(new Alike(other, source.Id, match.Words));
                        groups.Join(other, source.Id);
                    }
                }
                likeness.Add(source.Id, alike);
                found += alike.Count;
                compared.Add(source);
            }
        }
        return string.Create(
            CultureInfo.InvariantCulture,
            $"{numbers.Count} {(numbers.Count == 1 ? "file" : "files")} compared with each other, {looked} "
                + $"{(looked == 1 ? "pair" : "pairs")} closely, {found} alike"
        );
    }

    // Outlines are measured on all cores and held in order. What can not be heard is passed over for this time; where its sound can not be
    // decoded it is noted, since there is nothing to compare and nothing that should hold the others up, and where its file has gone
    // meanwhile it is compared when it is back.
    private async Task HoldAsync(
        List<Source> sources,
        OutlineIndex index,
        Dictionary<long, int> numbers,
        HashSet<long> passed,
        CancellationToken cancel
    )
    {
        var outlines = new SoundOutline?[sources.Count];
        var unheard = new bool[sources.Count];
        await Parallel.ForEachAsync(
            Enumerable.Range(0, sources.Count),
            new ParallelOptions { MaxDegreeOfParallelism = Environment.ProcessorCount, CancellationToken = cancel },
            async (i, stop) =>
            {
                try
                {
                    outlines[i] = await OutlineAsync(sources[i], stop);
                }
                catch (ToolException)
                {
                    unheard[i] = true;
                }
                catch (FileNotFoundException)
                {
                    // It has gone since the list was read.
                }
            }
        );
        for (var i = 0; i < sources.Count; i++)
        {
            if (outlines[i] is { } outline)
            {
                numbers[sources[i].Id] = index.Add(outline);
                continue;
            }
            passed.Add(sources[i].Id);
            if (unheard[i])
            {
                likeness.Add(sources[i].Id, []);
            }
        }
    }

    /// <summary>Whether loose files wait to be compared: not compared yet, long enough, and at hand.</summary>
    public static bool IsWanted(Footage footage, Likeness likeness, SyncSounds sounds, long production)
    {
        var compared = likeness.Compared(production);
        var heard = LooseHeard.Of(footage.Sources(production), likeness.Of(production));
        return heard.Count > 1 && heard.Any(s => !compared.Contains(s.Id) && sounds.CanOpen(s));
    }

    // Files that wait, and those that they are compared with; null when none waits.
    private (List<Source> Waiting, List<Source> Compared)? Next(long production, Dictionary<long, int> held, HashSet<long> passed)
    {
        var done = likeness.Compared(production);
        var heard = LooseHeard.Of(footage.Sources(production), likeness.Of(production)).Where(s => !passed.Contains(s.Id)).ToList();
        var waiting = heard.Where(s => !done.Contains(s.Id) && sounds.CanOpen(s)).ToList();
        return waiting.Count == 0
            ? null
            : (waiting, heard.Where(s => done.Contains(s.Id) && (held.ContainsKey(s.Id) || sounds.CanOpen(s))).ToList());
    }

    // Throws ToolException where the sound can not be decoded, FileNotFoundException where the file is gone.
    private async Task<SoundOutline> OutlineAsync(Source source, CancellationToken cancel)
    {
        var path = cache.Outline(source);
        if (!cache.IsWhole(path))
        {
            using var sound = await sounds.OpenAsync(source, cancel);
            await cache.MakeAsync(path, output => File.WriteAllBytesAsync(output, SoundOutline.Of(sound).Write(), cancel));
        }
        return SoundOutline.Read(await File.ReadAllBytesAsync(path, cancel));
    }
}
