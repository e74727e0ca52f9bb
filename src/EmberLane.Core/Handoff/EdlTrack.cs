namespace EmberLane.Core.Handoff;

/// <summary>The tracks that a line of an event list is about.</summary>
public enum EdlTrack
{
    /// <summary>The picture.</summary>
    Video,

    /// <summary>The first channel of sound.</summary>
    FirstAudio,

    /// <summary>The second channel of sound.</summary>
    SecondAudio,

    /// <summary>Both channels of sound.</summary>
    BothAudio,

    /// <summary>Picture and first channel.</summary>
    VideoAndFirstAudio,

    /// <summary>Picture and both channels.</summary>
    VideoAndBothAudio,

    /// <summary>Nothing that is seen or heard.</summary>
    None,
}

/// <summary>How tracks are written in the trade's lists.</summary>
public static class EdlTracks
{
    private static readonly string[] Codes = ["V", "A", "A2", "AA", "B", "AA/V", "NONE"];

    /// <summary>All of them as written, in the order of the type.</summary>
    public static IReadOnlyList<string> All => Codes;

    /// <summary>As it stands in a list.</summary>
    public static string Code(this EdlTrack track) => Codes[(int)track];

    /// <summary>The track that is written so, in any case; null when none is.</summary>
    public static EdlTrack? Read(string code) =>
        Array.FindIndex(Codes, c => c.Equals(code, StringComparison.OrdinalIgnoreCase)) is >= 0 and var i ? (EdlTrack)i : null;

    /// <summary>
    /// The track for sound of these channels, from 1, with picture or without; channels from three up have no name of their own.
    /// </summary>
    public static EdlTrack Of(bool picture, IReadOnlyList<int> channels) =>
        (picture, channels.Contains(1), channels.Contains(2)) switch
        {
            (true, true, true) => EdlTrack.VideoAndBothAudio,
            (true, true, false) => EdlTrack.VideoAndFirstAudio,
            (true, false, false) => EdlTrack.Video,
            (false, true, true) => EdlTrack.BothAudio,
            (false, true, false) => EdlTrack.FirstAudio,
            (false, false, true) => EdlTrack.SecondAudio,
            (false, false, false) => EdlTrack.None,
            _ => throw new ArgumentException("No track is picture and the second channel alone.", nameof(channels)),
        };

    /// <summary>Whether picture and these channels fit in one line.</summary>
    public static bool FitsPicture(IReadOnlyList<int> channels) => channels.Contains(1) || !channels.Contains(2);

    /// <summary>The channels that it names, from 1.</summary>
    public static IReadOnlyList<int> Channels(this EdlTrack track) =>
        track switch
        {
            EdlTrack.FirstAudio or EdlTrack.VideoAndFirstAudio => [1],
            EdlTrack.SecondAudio => [2],
            EdlTrack.BothAudio or EdlTrack.VideoAndBothAudio => [1, 2],
            _ => [],
        };

    /// <summary>Whether it is seen.</summary>
    public static bool HasPicture(this EdlTrack track) =>
        track is EdlTrack.Video or EdlTrack.VideoAndFirstAudio or EdlTrack.VideoAndBothAudio;
}
