using System.Globalization;
using EmberLane.Core.Sync;
using EmberLane.Store;
using EmberLane.Web.Gathering;

namespace EmberLane.Web.Work;

/// <summary>
/// Compares loose footage by sound: one file of each proposed group, and every file that is in none, with each other. What was compared is kept, so that it goes on where it was.
/// </summary>
internal sealed class AlikeWork(Footage footage, Likeness likeness, SyncSounds sounds) : IWork
{
    /// <summary>Shorter files (15 s) are cutaways: too little to compare by.</summary>
    private static readonly MediaTime Shortest = MediaTime.FromMilliseconds(15_000);

    public string Kind => WorkKinds.Alike;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var loose = footage.Sources(job.ProductionId).Where(s => s.SittingId is null).ToList();
        var known = likeness.Compared(job.ProductionId);
        var grouped = Proposals.Of([.. loose.Select(s => new LooseFile(s.Id, s.Name, s.Facts))], [.. known.Where(k => k.Words.Length > 0)]).SelectMany((p, n) => p.Files.Select(f => (f.Id, n))).ToDictionary(g => g.Id, g => g.n);
        var heard = loose.Where(s => s.Facts.Channels > 0 && s.Facts.Duration >= Shortest)
            .GroupBy(s => grouped.TryGetValue(s.Id, out var n) ? n : -1 - s.Id).Select(g => g.OrderByDescending(s => s.Facts.Picture is null).ThenByDescending(s => s.Facts.Duration).First()).ToList();
        var done = known.Select(k => (k.One, k.Other)).ToHashSet();
        var pairs = heard.SelectMany((a, i) => heard.Skip(i + 1).Select(b => (A: a, B: b))).Where(p => !done.Contains((Math.Min(p.A.Id, p.B.Id), Math.Max(p.A.Id, p.B.Id)))).ToList();
        int found = 0, seen = 0;
        foreach (var (a, b) in pairs)
        {
            progress(1000 * seen / pairs.Count, string.Create(CultureInfo.InvariantCulture, $"{seen} of {pairs.Count} pairs, {found} alike"));
            seen++;
            using var one = await sounds.OpenAsync(a, cancel);
            using var other = await sounds.OpenAsync(b, cancel);
            cancel.ThrowIfCancellationRequested();
            var match = SoundMatch.Find(one, other);
            likeness.Add(new Alike(a.Id, b.Id, match.Matched ? match.Words : ""));
            found += match.Matched ? 1 : 0;
        }
        return string.Create(CultureInfo.InvariantCulture, $"{pairs.Count} pairs compared, {found} alike");
    }
}
