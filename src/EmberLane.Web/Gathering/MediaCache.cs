using EmberLane.Store;

namespace EmberLane.Web.Gathering;

/// <summary>Files made from footage, in a folder that may be deleted at any time and is made again. Named by content, so a renamed file keeps them.</summary>
public sealed class MediaCache
{
    private readonly string folder;

    public MediaCache(Options options)
    {
        folder = Path.Combine(options.Data, "cache");
        Directory.CreateDirectory(folder);
    }

    public string Playing(Source source) => In(source.Fingerprint + ".play.mp4");

    public string Thumbnail(Source source) => In(source.Fingerprint + ".jpg");

    /// <summary>How loud the source is, 100 bytes a second, for drawing.</summary>
    public string Peaks(Source source) => In(source.Fingerprint + ".peaks");

    /// <summary>The mix of a sitting's mics as 16 kHz mono, for recognising; <paramref name="key"/> tells the mics and how they lie.</summary>
    public string Speech(string key) => In(key + ".16k.pcm");

    /// <summary>The mix of a sitting's mics, for playing.</summary>
    public string SittingSound(string key) => In(key + ".sound.mp4");

    public string Channel(Source source, int channel, int rate) => In(FormattableString.Invariant($"{source.Fingerprint}.{rate}.{channel}.pcm"));

    /// <summary>Whether the source can be played in the browser now.</summary>
    public bool IsPlayable(Source source) => source.Facts.PlaysAsItIs ? File.Exists(source.Path) : File.Exists(Playing(source));

    private string In(string name)
    {
        Directory.CreateDirectory(folder);
        return Path.Combine(folder, name);
    }
}
