using System.Globalization;
using EmberLane.Core.Sync;
using EmberLane.Store;
using EmberLane.Web.Gathering;

namespace EmberLane.Web.Work;

/// <summary>
/// Compares loose footage by sound: one file of each proposed group, and every file that is in none, with all others. The outline of each is measured once and kept; what stands out there is compared closely. A file that
/// has been compared with all before it is noted, so that it goes on where it was, and goes on with files that arrive meanwhile.
/// </summary>
internal sealed class AlikeWork(Footage footage, Likeness likeness, SyncSounds sounds, MediaCache cache) : IWork
{
    public string Kind => WorkKinds.Alike;

    /// <summary>So many files are compared before the list is read anew: files arrive, and what is alike joins groups that need not be compared again.</summary>
    private const int AtOnce = 25;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var index = new OutlineIndex();
        var numbers = new Dictionary<long, int>();
        int found = 0, looked = 0;
        while (Next(job.ProductionId, numbers) is var (waiting, compared))
        {
            foreach (var (source, i) in waiting.Take(AtOnce).Select((s, i) => (s, i)))
            {
                int done = compared.Count, all = done + waiting.Count - i;
                progress(1000 * done / all, string.Create(CultureInfo.InvariantCulture, $"{done} of {all} files, {found} alike: {source.Name}"));
                foreach (var one in compared.Append(source).Where(s => !numbers.ContainsKey(s.Id)))
                {
                    numbers[one.Id] = index.Add(await OutlineAsync(one, cancel));
                }
                var heights = index.Heights(numbers[source.Id], [.. compared.Select(c => numbers[c.Id])], cancel);
                var alike = new List<Alike>();
                foreach (var (other, _) in compared.Zip(heights).Where(p => p.Second >= OutlineIndex.WorthALook).OrderByDescending(p => p.Second))
                {
                    if (alike.Count > 0 && IsSettled(job.ProductionId, alike, other.Id))
                    {
                        continue;
                    }
                    looked++;
                    using var one = await sounds.OpenAsync(other, cancel);
                    using var two = await sounds.OpenAsync(source, cancel);
                    cancel.ThrowIfCancellationRequested();
                    if (SoundMatch.Find(one, two) is { Matched: true } match)
                    {
                        alike.Add(new Alike(other.Id, source.Id, match.Words));
                    }
                }
                likeness.Add(source.Id, alike);
                found += alike.Count;
                compared.Add(source);
            }
        }
        return string.Create(CultureInfo.InvariantCulture, $"{numbers.Count} {(numbers.Count == 1 ? "file" : "files")} compared with each other, {looked} {(looked == 1 ? "pair" : "pairs")} closely, {found} alike");
    }

    /// <summary>Whether loose files wait to be compared: not compared yet, long enough, and at hand.</summary>
    public static bool IsWanted(Footage footage, Likeness likeness, SyncSounds sounds, long production)
    {
        var compared = likeness.Compared(production);
        var heard = LooseHeard.Of(footage.Sources(production), likeness.Of(production));
        return heard.Count > 1 && heard.Any(s => !compared.Contains(s.Id) && sounds.CanOpen(s));
    }

    // Files that wait, and those that they are compared with; null when none waits.
    private (List<Source> Waiting, List<Source> Compared)? Next(long production, Dictionary<long, int> held)
    {
        var done = likeness.Compared(production);
        var heard = LooseHeard.Of(footage.Sources(production), likeness.Of(production));
        var waiting = heard.Where(s => !done.Contains(s.Id) && sounds.CanOpen(s)).ToList();
        return waiting.Count == 0 ? null : (waiting, heard.Where(s => done.Contains(s.Id) && (held.ContainsKey(s.Id) || sounds.CanOpen(s))).ToList());
    }

    // What is alike to something that this one is alike to already belongs with it; no need to hear that too.
    private bool IsSettled(long production, List<Alike> found, long other)
    {
        var links = likeness.Of(production);
        var reached = found.Select(f => f.One).ToHashSet();
        for (var before = 0; before < reached.Count;)
        {
            before = reached.Count;
            foreach (var link in links.Where(l => reached.Contains(l.One) || reached.Contains(l.Other)))
            {
                reached.Add(link.One);
                reached.Add(link.Other);
            }
        }
        return reached.Contains(other);
    }

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
