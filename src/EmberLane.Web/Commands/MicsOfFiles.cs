using EmberLane.Application.Syncing;
using EmberLane.Engines;
using EmberLane.Engines.Speech;

namespace EmberLane.Web.Commands;

/// <summary>
/// All channels of media files that lie on the first one's clock. Where there are recorders, cameras are only there to be laid beside them:
/// their mics hear everybody from afar.
/// </summary>
internal static class MicsOfFiles
{
    /// <summary>
    /// In the order in which the files were named; what can not be placed is left out with a word about it. Throws
    /// <see cref="UnreadableMediaException"/> for a file without sound.
    /// </summary>
    public static async Task<IReadOnlyList<PlacedMic>> PlaceAsync(
        IReadOnlyList<string> paths,
        FilesOnOneClock clock,
        CancellationToken cancel
    )
    {
        var files = await FilesOnOneClock.MeasureAsync(paths, cancel);
        if (files.FirstOrDefault(f => f.Facts.Channels == 0) is { } mute)
        {
            throw new UnreadableMediaException($"{mute.Name} has no sound.");
        }
        var found = await clock.PlaceAsync(files, cancel);
        foreach (var (file, nothing) in found.Left)
        {
            await Console.Error.WriteLineAsync($"{file.Name} is left out: {nothing.Words}.");
        }
        var placed = found.Placed.Select(p => (File: p.What, p.Place)).Prepend((File: files[0], Place: default)).ToList();
        var chosen = placed.Any(p => p.File.Facts.Picture is null) ? placed.Where(p => p.File.Facts.Picture is null) : placed;
        return
        [
            .. chosen
                .OrderBy(p => files.IndexOf(p.File))
                .SelectMany(p =>
                    Enumerable.Range(0, p.File.Facts.Channels).Select(c => new PlacedMic(p.File.Path, p.File.Facts, p.Place, c, true))
                ),
        ];
    }
}
