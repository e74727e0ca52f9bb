namespace EmberLane.Core.Media;

/// <summary>
/// The picture of a file, as measured. <see cref="Rate"/> is the file's nominal rate; <see cref="RateVaries"/> says that frames do not keep
/// to it.
/// </summary>
public sealed record PictureFacts(string Codec, string PixelFormat, int Width, int Height, FrameRate Rate, bool RateVaries);

/// <summary>One sound stream of a file: its index among all streams, and its channels.</summary>
public sealed record SoundTrack(int Index, string Codec, int SampleRate, int Channels);

/// <summary>
/// Where a file's own count of time begins: a timecode label for pictures, or time since midnight for a recorder (Broadcast WAV time
/// reference). Neither when the file has none; its hand-off then counts from 00:00:00:00.
/// </summary>
public sealed record StartOfFile(Timecode? Label, MediaTime? SinceMidnight)
{
    /// <summary>Neither timecode nor time of day.</summary>
    public static StartOfFile Unknown { get; } = new(null, null);
}

/// <summary>What was measured from a media file; nothing here is typed in by a person.</summary>
public sealed record SourceFacts(
    string Container,
    MediaTime Duration,
    PictureFacts? Picture,
    IReadOnlyList<SoundTrack> Sound,
    StartOfFile Start,
    string? ReelTag,
    string? Make,
    string? Model
)
{
    /// <summary>The scene, as the recorder wrote it.</summary>
    public string? Scene { get; init; }

    /// <summary>The take, as the recorder wrote it.</summary>
    public string? Take { get; init; }

    /// <summary>When it was recorded as the file says, by the device's own clock; the time zone is not known.</summary>
    public DateTime? RecordedAt { get; init; }

    /// <summary>The names of the channels, as a recorder wrote them; empty for one without a name.</summary>
    public IReadOnlyList<string> ChannelNames { get; init; } = [];

    /// <summary>The name of a channel, counted through all tracks; empty when it has none.</summary>
    public string ChannelName(int channel) => channel < ChannelNames.Count ? ChannelNames[channel] : "";

    /// <summary>The track and the place in it of a channel that is counted through all tracks.</summary>
    public (SoundTrack Track, int Channel) Locate(int channel)
    {
        foreach (var track in Sound)
        {
            if (channel < track.Channels)
            {
                return (track, channel);
            }
            channel -= track.Channels;
        }
        throw new ArgumentOutOfRangeException(nameof(channel));
    }

    /// <summary>How many channels of sound all its tracks have.</summary>
    public int Channels => Sound.Sum(s => s.Channels);

    /// <summary>Whether any common browser plays the file as it is: H.264 4:2:0 with AAC, or nothing, in MP4.</summary>
    public bool PlaysAsItIs => Container.Contains("mp4", StringComparison.Ordinal) && CanBeRewrapped;

    /// <summary>Whether the streams play in a browser once they lie in an MP4 file.</summary>
    public bool CanBeRewrapped =>
        Picture is { Codec: "h264", PixelFormat: "yuv420p" or "yuvj420p", RateVaries: false }
        && Sound.Count <= 1
        && Sound.All(s => s is { Codec: "aac", Channels: <= 2 });
}
