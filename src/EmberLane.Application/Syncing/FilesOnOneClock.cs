using EmberLane.Core.Media;
using EmberLane.Core.Sync;
using EmberLane.Engines;
using EmberLane.Engines.Sync;

namespace EmberLane.Application.Syncing;

/// <summary>A file that is laid beside others, with what was measured of it.</summary>
public sealed record FileInHand(string Path, SourceFacts Facts)
{
    /// <summary>Without its folders.</summary>
    public string Name => System.IO.Path.GetFileName(Path);
}

/// <summary>
/// Files of one sitting on the clock of the first, outside any production; what is decoded for that is in a folder of its own until this is
/// disposed. Each file is decoded once.
/// </summary>
public sealed class FilesOnOneClock : IDisposable
{
    private readonly DirectoryInfo work = Directory.CreateTempSubdirectory("ember-files");
    private readonly Dictionary<FileInHand, PcmSound> sounds = [];

    /// <summary>A place for files that are made on the way; gone with this.</summary>
    public string Folder => work.FullName;

    /// <summary>Measures files. Throws <see cref="UnreadableMediaException"/> or <see cref="ToolException"/> with what to do.</summary>
    public static async Task<List<FileInHand>> MeasureAsync(IReadOnlyList<string> paths, CancellationToken cancel)
    {
        var files = new List<FileInHand>();
        foreach (var path in paths)
        {
            files.Add(new FileInHand(System.IO.Path.GetFullPath(path), await MediaProbe.MeasureAsync(path, cancel)));
        }
        return files;
    }

    /// <summary>
    /// Places all others with sound on the clock of the first, which must have some. Throws <see cref="ToolException"/> when a sound can
    /// not be decoded.
    /// </summary>
    public Task<SoundPlaces<FileInHand>> PlaceAsync(IReadOnlyList<FileInHand> files, CancellationToken cancel) =>
        SoundRounds.PlaceAsync(
            files[0],
            [.. files.Skip(1).Where(f => f.Facts.Channels > 0)],
            f => f.Facts.Duration,
            async (one, other) => SoundMatch.Find(await OpenAsync(one, cancel), await OpenAsync(other, cancel)),
            (_, _) => { }
        );

    /// <inheritdoc/>
    public void Dispose()
    {
        foreach (var sound in sounds.Values)
        {
            sound.Dispose();
        }
        work.Delete(recursive: true);
    }

    private async Task<PcmSound> OpenAsync(FileInHand file, CancellationToken cancel) =>
        sounds.TryGetValue(file, out var open)
            ? open
            : sounds[file] = await SyncSound.OpenAsync(
                file.Path,
                file.Facts,
                System.IO.Path.Combine(Folder, FormattableString.Invariant($"{sounds.Count}.pcm")),
                cancel
            );
}
