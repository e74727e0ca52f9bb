using System.CommandLine;
using System.Globalization;
using System.Text.Json;
using EmberLane.Application.Syncing;
using EmberLane.Engines;

namespace EmberLane.Web.Commands;

/// <summary><c>ember sync FILE FILE… [--json]</c>: where each file lies on the clock of the first.</summary>
internal static class SyncCommand
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        WriteIndented = true,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <summary>
    /// One file's place: the offset of its first sample on the reference's clock, negative when it started before; drift positive when its
    /// clock ran slow.
    /// </summary>
    private sealed record Place(string File, bool Matched, double? OffsetSeconds, double? DriftPpm, double Confidence, string Evidence);

    public static Command Make(TextWriter output)
    {
        var files = CommandLine.Files("Media files. The first is the reference.", 2, MostFiles);
        var json = new Option<bool>("--json")
        {
            Description = "As JSON: file, matched, offsetSeconds, driftPpm, confidence, evidence of each.",
        };
        var command = new Command("sync", "Where each file lies on the clock of the first, by its sound.") { files, json };
        command.SetAction((asked, cancel) => RunAsync(asked.GetValue(files)!, asked.GetValue(json), output, cancel));
        return command;
    }

    private const int MostFiles = 10_000;

    /// <summary>
    /// Returns 0, also when a file is not matched. Throws <see cref="UnreadableMediaException"/> or <see cref="ToolException"/> with what
    /// to do.
    /// </summary>
    private static async Task<int> RunAsync(IReadOnlyList<string> files, bool asJson, TextWriter output, CancellationToken cancel)
    {
        var measured = await FilesOnOneClock.MeasureAsync(files, cancel);
        if (measured[0].Facts.Channels == 0)
        {
            throw new UnreadableMediaException(
                $"{measured[0].Name} has no sound, so nothing can be compared with it. Name a file with sound first."
            );
        }
        using var clock = new FilesOnOneClock();
        var found = await clock.PlaceAsync(measured, cancel);
        var places = files
            .Select((name, i) => i == 0 ? new Place(name, true, 0, 0, 1, "reference") : PlaceOf(name, measured[i], found))
            .ToList();
        await output.WriteLineAsync(
            asJson ? JsonSerializer.Serialize(places, Json) : string.Join(Environment.NewLine, places.Select(Line))
        );
        return 0;
    }

    private static Place PlaceOf(string name, FileInHand file, SoundPlaces<FileInHand> found)
    {
        if (found.Placed.FirstOrDefault(p => ReferenceEquals(p.What, file)) is { } placed)
        {
            var offset = Math.Round((double)placed.Place.Start.FromZero.Units / MediaTime.UnitsPerSecond, 7);
            return new Place(
                name,
                true,
                offset,
                placed.Place.DriftPerBillion / 1000.0,
                placed.Found.Confidence,
                placed.Found.Words + (placed.ByWayOf is { } bridge ? $", by way of {bridge.Name}" : "")
            );
        }
        return found.Left.FirstOrDefault(l => ReferenceEquals(l.What, file)) is (not null, var nothing)
            ? new Place(name, false, null, null, nothing.Confidence, nothing.Words)
            : new Place(name, false, null, null, 0, "no sound to go by");
    }

    private static string Line(Place place) =>
        place.Matched
            ? string.Create(
                CultureInfo.InvariantCulture,
                $"{place.File}: {place.OffsetSeconds:+0.0000;-0.0000;0} s, {place.DriftPpm:+0.0;-0.0;0} ppm, confidence "
                    + $"{place.Confidence:0.00} ({place.Evidence})"
            )
            : $"{place.File}: not matched ({place.Evidence})";
}
