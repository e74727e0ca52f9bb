using System.Collections.Concurrent;
using System.Globalization;
using EmberLane.Store;

namespace EmberLane.Application.Gathering;

/// <summary>
/// Files made from footage, in a folder that may be deleted at any time and is made again. Named by content, so a renamed file keeps them.
/// A mark beside each, written last, holds its length: what a power cut or somebody's hand has shortened is not taken for whole.
/// </summary>
public sealed class MediaCache
{
    private const string Mark = ".whole",
        Marked = ".marked",
        ShownEnding = ".shown.mp4";

    private readonly string folder;
    private readonly SourceFiles files;
    private readonly ConcurrentDictionary<string, long> lengths = new();

    /// <summary>Makes the folder where it is missing.</summary>
    public MediaCache(Options options, SourceFiles files)
    {
        this.files = files;
        folder = Path.Combine(options.Data, "cache");
        Directory.CreateDirectory(folder);
        MarkOlder();
    }

    /// <summary>Where the copy lies that a browser can play.</summary>
    public string Playing(Source source) => In(source.Fingerprint + ".play.mp4");

    /// <summary>Where a picture from the middle of the source lies.</summary>
    public string Thumbnail(Source source) => In(source.Fingerprint + ".jpg");

    /// <summary>Where a picture of one of its shots lies, by number from 1.</summary>
    public string ShotPicture(Source source, int number) => In(FormattableString.Invariant($"{source.Fingerprint}.shot{number}.jpg"));

    /// <summary>How loud the source is, 100 bytes a second, for drawing.</summary>
    public string Peaks(Source source) => In(source.Fingerprint + ".peaks");

    /// <summary>What its sound is compared by with many others at once.</summary>
    public string Outline(Source source) => In(source.Fingerprint + ".outline");

    /// <summary>
    /// The mix of a sitting's mics as 16 kHz mono, for recognising; <paramref name="key"/> tells the mics and how they lie.
    /// </summary>
    public string Speech(string key) => In(key + ".16k.pcm");

    /// <summary>The mix of a sitting's mics, for playing.</summary>
    public string SittingSound(string key) => In(key + ".sound.mp4");

    /// <summary>The same mix without what is off the record; <paramref name="without"/> tells which stretches those are.</summary>
    public string ShownSound(string key, string without) => In($"{key}.{without}{ShownEnding}");

    /// <summary>The copy that a browser can play, without its sound and without some of its picture, as <see cref="ShownSound"/>.</summary>
    public string ShownPicture(Source source, string without) =>
        In(FormattableString.Invariant($"{source.Fingerprint}.{source.Id}.{without}{ShownEnding}"));

    /// <summary>Lets go of what was made beside such a file of the same, without other stretches.</summary>
    public static void KeepOnly(string shown)
    {
        var (folder, name) = (Path.GetDirectoryName(shown)!, Path.GetFileName(shown));
        var same = name[..name[..^ShownEnding.Length].LastIndexOf('.')];
        foreach (var older in Directory.EnumerateFiles(folder, $"{same}.*{ShownEnding}").Where(f => f != shown))
        {
            File.Delete(older);
            File.Delete(older + Mark);
        }
    }

    /// <summary>How loud that mix is and how likely somebody speaks, step by step, for tidying.</summary>
    public string Talk(string key) => In(key + ".talk2");

    /// <summary>How loud that mix is, finely enough to cut by, for seams.</summary>
    public string Seams(string key) => In(key + ".seams");

    /// <summary>How loud each of the mics of a sitting is, step by step.</summary>
    public string MicLevels(string key) => In(key + ".levels");

    /// <summary>A narration as a machine reads it, by its words and length.</summary>
    public string Narration(string key) => In(key + ".narration.wav");

    /// <summary>Where one channel's sound lies, at so many samples a second.</summary>
    public string Channel(Source source, int channel, int rate) =>
        In(FormattableString.Invariant($"{source.Fingerprint}.{rate}.{channel}.pcm"));

    /// <summary>Whether the source can be played in the browser now.</summary>
    public bool IsPlayable(Source source) => source.Facts.PlaysAsItIs ? files.Find(source) is not null : IsWhole(Playing(source));

    /// <summary>Whether all that pages show of a source is there.</summary>
    public bool IsComplete(Source source) =>
        (source.Facts.Picture is null || IsWhole(Thumbnail(source)))
        && IsPlayable(source)
        && (source.Facts.Channels == 0 || IsWhole(Peaks(source)));

    /// <summary>Whether a made file is there with the length that it was made with.</summary>
    public bool IsWhole(string path)
    {
        var file = new FileInfo(path);
        if (!file.Exists)
        {
            lengths.TryRemove(path, out _);
            return false;
        }
        return (lengths.TryGetValue(path, out var length) || ReadMark(path, out length)) && length == file.Length;
    }

    /// <summary>
    /// Has <paramref name="make"/> make the file at the path that it is given, and marks it as whole when that has ended and all of it is
    /// on the disk.
    /// </summary>
    public async Task MakeAsync(string path, Func<string, Task> make)
    {
        lengths.TryRemove(path, out _);
        File.Delete(path + Mark);
        await make(path);
        long length;
        await using (var made = new FileStream(path, FileMode.Open, FileAccess.ReadWrite))
        {
            made.Flush(flushToDisk: true);
            length = made.Length;
        }
        WriteMark(path, length);
        lengths[path] = length;
    }

    private static void WriteMark(string path, long length) =>
        File.WriteAllText(path + Mark, length.ToString(CultureInfo.InvariantCulture));

    private bool ReadMark(string path, out long length)
    {
        length = 0;
        if (
            !File.Exists(path + Mark)
            || !long.TryParse(File.ReadAllText(path + Mark), NumberStyles.None, CultureInfo.InvariantCulture, out length)
        )
        {
            return false;
        }
        lengths[path] = length;
        return true;
    }

    // Files of a version that did not mark them were moved into place when they were whole: they are taken as they are, once.
    private void MarkOlder()
    {
        if (File.Exists(Path.Combine(folder, Marked)))
        {
            return;
        }
        foreach (
            var file in new DirectoryInfo(folder)
                .GetFiles()
                .Where(f => f.Extension is ".mp4" or ".jpg" or ".peaks" or ".pcm" && !File.Exists(f.FullName + Mark))
        )
        {
            WriteMark(file.FullName, file.Length);
        }
        File.WriteAllBytes(Path.Combine(folder, Marked), []);
    }

    private string In(string name)
    {
        Directory.CreateDirectory(folder);
        return Path.Combine(folder, name);
    }
}
