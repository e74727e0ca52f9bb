using System.Globalization;
using EmberLane.Core.Sync;
using EmberLane.Engines;
using EmberLane.Engines.Speech;
using EmberLane.Store;
using EmberLane.Web.Gathering;

namespace EmberLane.Web.Work;

/// <summary>Places the sources of a sitting on one clock by their sound.</summary>
internal sealed class SyncWork(Footage footage, MediaCache cache) : IWork
{
    public string Kind => WorkKinds.Sync;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var sitting = footage.Sitting(job.SubjectId) ?? throw new InvalidOperationException("The sitting is no longer in the production.");
        var sources = footage.SourcesOf(sitting.Id);
        if (sources.FirstOrDefault(s => s.Id == sitting.SoundSourceId) is not { } reference)
        {
            return "no sound to go by";
        }
        var heard = await SoundAsync(reference, cancel);
        var others = sources.Where(s => s.Id != reference.Id).ToList();
        var matched = 0;
        foreach (var (source, i) in others.Select((s, i) => (s, i)))
        {
            progress(1000 * i / others.Count, source.Name);
            if (source.Facts.Channels == 0)
            {
                footage.Place(source.Id, null, "no sound to go by; not placed");
                continue;
            }
            var found = SoundMatch.Find(heard, await SoundAsync(source, cancel));
            var strength = found.Strength.ToString("0.0", CultureInfo.InvariantCulture);
            matched += found.Matched ? 1 : 0;
            footage.Place(source.Id, found.Matched ? new ClockMap(found.Start, found.DriftPerBillion) : null,
                found.Matched ? $"same sound, {strength}× above chance" : $"no match by sound ({strength}× above chance); not placed");
        }
        return string.Create(CultureInfo.InvariantCulture, $"{matched} of {others.Count} placed by sound");
    }

    private async Task<float[]> SoundAsync(Source source, CancellationToken cancel)
    {
        var path = cache.Channel(source, -1, SoundMatch.SampleRate);
        await Ffmpeg.DecodeMonoAsync(source.Path, source.Facts, null, SoundMatch.SampleRate, path, cancel);
        try
        {
            return PcmFile.ReadAll(path);
        }
        finally
        {
            File.Delete(path);
        }
    }
}
