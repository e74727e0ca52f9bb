using System.Globalization;
using System.Text.Json;
using EmberLane.Core.Media;
using EmberLane.Core.Sync;
using EmberLane.Engines;
using EmberLane.Engines.Sync;

namespace EmberLane.Web.Commands;

/// <summary><c>ember sync FILE FILE… [--json]</c>: where each file lies on the clock of the first.</summary>
internal static class SyncCommand
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { WriteIndented = true, Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>One file's place: the offset of its first sample on the reference's clock, negative when it started before; drift positive when its clock ran slow.</summary>
    private sealed record Place(string File, bool Matched, double? OffsetSeconds, double? DriftPpm, double Confidence, string Evidence);

    /// <summary>Returns 0, also when a file is not matched. Throws <see cref="ArgumentException"/>, <see cref="UnreadableMediaException"/> or <see cref="ToolException"/> with what to do.</summary>
    public static async Task<int> RunAsync(IReadOnlyList<string> arguments, TextWriter output, CancellationToken cancel)
    {
        var files = arguments.Where(a => a != "--json").ToList();
        if (files.Count < 2 || files.FirstOrDefault(f => f.StartsWith("--", StringComparison.Ordinal)) is not null)
        {
            throw new ArgumentException("Use: ember sync FILE FILE… [--json]. The first file is the reference.");
        }
        var work = Directory.CreateTempSubdirectory("ember-sync");
        try
        {
            var facts = new List<SourceFacts>();
            foreach (var file in files)
            {
                facts.Add(await MediaProbe.MeasureAsync(file, cancel));
            }
            if (facts[0].Channels == 0)
            {
                throw new UnreadableMediaException($"{Path.GetFileName(files[0])} has no sound, so nothing can be compared with it. Name a file with sound first.");
            }
            var places = new List<Place> { new(files[0], true, 0, 0, 1, "reference") };
            using var reference = await SyncSound.OpenAsync(files[0], facts[0], Path.Combine(work.FullName, "reference.pcm"), cancel);
            for (var i = 1; i < files.Count; i++)
            {
                places.Add(await PlaceAsync(reference, files[i], facts[i], work, cancel));
            }
            await output.WriteLineAsync(arguments.Contains("--json") ? JsonSerializer.Serialize(places, Json) : string.Join(Environment.NewLine, places.Select(Line)));
            return 0;
        }
        finally
        {
            work.Delete(recursive: true);
        }
    }

    private static async Task<Place> PlaceAsync(PcmSound reference, string file, SourceFacts facts, DirectoryInfo work, CancellationToken cancel)
    {
        if (facts.Channels == 0)
        {
            return new Place(file, false, null, null, 0, "no sound to go by");
        }
        using var sound = await SyncSound.OpenAsync(file, facts, Path.Combine(work.FullName, "source.pcm"), cancel);
        var found = SoundMatch.Find(reference, sound);
        return found.Matched
            ? new Place(file, true, Math.Round((double)found.Start.FromZero.Units / MediaTime.UnitsPerSecond, 7), found.DriftPerBillion / 1000.0, found.Confidence, found.Words)
            : new Place(file, false, null, null, found.Confidence, found.Words);
    }

    private static string Line(Place place) => place.Matched
        ? string.Create(CultureInfo.InvariantCulture, $"{place.File}: {place.OffsetSeconds:+0.0000;-0.0000;0} s, {place.DriftPpm:+0.0;-0.0;0} ppm, confidence {place.Confidence:0.00} ({place.Evidence})")
        : $"{place.File}: not matched ({place.Evidence})";
}
