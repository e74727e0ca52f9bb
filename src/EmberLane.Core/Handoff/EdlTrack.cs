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

    /// <summary>The track for sound of so many channels, with picture or without.</summary>
    public static EdlTrack Of(bool picture, int channels) =>
        channels switch
        {
            0 => picture ? EdlTrack.Video : EdlTrack.None,
            1 => picture ? EdlTrack.VideoAndFirstAudio : EdlTrack.FirstAudio,
            _ => picture ? EdlTrack.VideoAndBothAudio : EdlTrack.BothAudio,
        };

    /// <summary>Whether it is seen.</summary>
    public static bool HasPicture(this EdlTrack track) =>
        track is EdlTrack.Video or EdlTrack.VideoAndFirstAudio or EdlTrack.VideoAndBothAudio;

    /// <summary>Whether it is heard.</summary>
    public static bool HasSound(this EdlTrack track) => track is not (EdlTrack.Video or EdlTrack.None);
}
