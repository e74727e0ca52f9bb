using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Store;

namespace EmberLane.Web.Rooms;

/// <summary>
/// Something placed that is played, as the player needs it: an address, and seconds on the sitting's clock; not exact, for the screen only.
/// The address is null until the playing copy is made.
/// </summary>
public sealed record Played(string Name, string? Address, string Start, string Rate, string Length)
{
    public static Played Of(Source source, MediaCache cache) =>
        Of(
            Path.GetFileNameWithoutExtension(source.Name),
            cache.IsPlayable(source) ? FormattableString.Invariant($"/media/{source.Id}/play") : null,
            source.Place ?? default,
            source.Facts.Duration
        );

    public static Played Of(string name, string? address, ClockMap place, MediaTime length) =>
        new(
            name,
            address,
            place.Start.FromZero.ToSecondsText(),
            (1 + (place.DriftPerBillion / 1e9)).ToString("0.000000000", CultureInfo.InvariantCulture),
            length.ToSecondsText()
        );
}

/// <summary>One camera's view of a sitting: its clips one after another.</summary>
public sealed record Angle(string Name, IReadOnlyList<Played> Clips);

/// <summary>
/// What is seen and heard of a sitting: its angles, and its sound (null when there is none). More angles come while cameras are being
/// placed.
/// </summary>
public sealed record PlayedSitting(IReadOnlyList<Angle> Angles, Played? Sound, bool IsPlacing = false, bool HasCamera = false)
{
    public bool IsWaiting => IsPlacing || Angles.Any(a => a.Clips.Any(c => c.Address is null)) || Sound is { Address: null };

    /// <summary>
    /// The sound is the mix of the mics; until that is made, the reference's own playing copy. <paramref name="sync"/> is the newest sync
    /// of the sitting.
    /// </summary>
    public static PlayedSitting Of(Sitting sitting, IReadOnlyList<Source> sources, MicsOfSitting mics, MediaCache cache, Job? sync)
    {
        var byId = sources.ToDictionary(s => s.Id);
        var angles = SittingAngles.Of(sources).Select(a => new Angle(a.Name, [.. a.Clips.Select(c => Played.Of(c, cache))]));
        return new PlayedSitting(
            [.. angles],
            SoundOf(sitting, byId, mics, cache),
            sync is { IsOpen: true } && sources.Any(s => s is { Facts.Picture: not null, Place: null }),
            sources.Any(s => s.Facts.Picture is not null)
        );
    }

    private static Played? SoundOf(Sitting sitting, Dictionary<long, Source> sources, MicsOfSitting mics, MediaCache cache)
    {
        if (mics.Placed.Count > 0 && cache.IsWhole(cache.SittingSound(mics.Key)))
        {
            var extent = Engines.Speech.SittingSound.Extent(mics.Placed);
            return Played.Of(
                sitting.Title,
                FormattableString.Invariant($"/media/sitting/{sitting.Id}/sound?v={mics.Key[..12]}"),
                new ClockMap(extent.In, 0),
                extent.Length
            );
        }
        return sitting.SoundSourceId is { } id && sources.TryGetValue(id, out var reference) ? Played.Of(reference, cache) : null;
    }
}
