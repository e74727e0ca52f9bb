using System.Globalization;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Handoff;

/// <summary>Sound tracks that grow side by side: as many as are ever heard at once, one at least.</summary>
internal sealed class SoundTracks
{
    private readonly SideBySide tracks = new(1);

    /// <summary>Lays what each track has next, as long as <paramref name="nothing"/>, which is what the others have.</summary>
    public void Lay(IReadOnlyList<IReadOnlyList<TimelineItem>> items, Gap nothing) => tracks.Lay(items, nothing);

    /// <summary>The tracks as they are.</summary>
    public IReadOnlyList<Track> Tracks =>
        [.. tracks.Items.Select((t, i) => new Track(TrackKind.Sound, string.Create(CultureInfo.InvariantCulture, $"A{i + 1}"), t))];
}
