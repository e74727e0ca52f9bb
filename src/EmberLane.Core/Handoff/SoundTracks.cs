using System.Globalization;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Handoff;

/// <summary>Sound tracks that grow side by side: as many as are ever heard at once, all of one length.</summary>
internal sealed class SoundTracks
{
    private readonly List<List<TimelineItem>> tracks =
    [
        [],
    ];
    private MediaTime length = MediaTime.Zero;

    /// <summary>Lays what each track has next, as long as <paramref name="nothing"/>, which is what the others have.</summary>
    public void Lay(IReadOnlyList<IReadOnlyList<TimelineItem>> items, Gap nothing)
    {
        while (tracks.Count < items.Count)
        {
            tracks.Add(length == MediaTime.Zero ? [] : [new Gap(0, "", length)]);
        }
        for (var t = 0; t < tracks.Count; t++)
        {
            tracks[t].AddRange(t < items.Count ? items[t] : [nothing]);
        }
        length += nothing.Length;
    }

    /// <summary>The tracks as they are.</summary>
    public IReadOnlyList<Track> Tracks =>
        [.. tracks.Select((t, i) => new Track(TrackKind.Sound, string.Create(CultureInfo.InvariantCulture, $"A{i + 1}"), t))];
}
