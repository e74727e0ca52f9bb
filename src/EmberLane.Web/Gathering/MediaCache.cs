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

    /// <summary>All channels as 16 kHz mono, for recognising.</summary>
    public string Speech(Source source) => In(source.Fingerprint + ".16k.pcm");

    public string Channel(Source source, int channel, int rate) => In(FormattableString.Invariant($"{source.Fingerprint}.{rate}.{channel}.pcm"));

    /// <summary>Whether the source can be played in the browser now.</summary>
    public bool IsPlayable(Source source) => source.Facts.PlaysAsItIs ? File.Exists(source.Path) : File.Exists(Playing(source));

    private string In(string name)
    {
        Directory.CreateDirectory(folder);
        return Path.Combine(folder, name);
    }
}
