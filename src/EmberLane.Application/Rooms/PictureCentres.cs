using EmberLane.Core.Copies;
using EmberLane.Core.Pictures;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>
/// Around what the pictures of a source are cut that are seen narrower than they were filmed: around who speaks, where somebody said where
/// they are (in thousandths of the width); else around the faces that were found.
/// </summary>
public sealed record CentresOfSource(Source Source, IReadOnlyDictionary<string, int> Places, IReadOnlyList<PictureBox> Faces)
{
    /// <summary>
    /// Parts of what is seen, in order and without holes, each with the middle of what is seen in thousandths of the width; null for the
    /// whole picture.
    /// </summary>
    public IReadOnlyList<(FrameSpan Frames, int? Centre)> Of(
        FrameSpan seen,
        IReadOnlyList<SpeakerRun> speakers,
        FrameRate rate,
        CopyShape shape
    ) =>
        Places.Count > 0 ? [.. CentreOfSpeaker.Of(seen, speakers, Places, rate).Select(p => (p.Frames, (int?)p.Centre))]
        : Source.Facts.Picture is { } picture ? [(seen, PeopleCrop.Of(Faces, picture, shape))]
        : [(seen, null)];
}

/// <summary>What is known of where people are in pictures.</summary>
public sealed class PictureCentres(Footage footage, Shots shots, Store.Cameras cameras)
{
    /// <summary>Of a source; to be asked once for each.</summary>
    public CentresOfSource Of(Source source)
    {
        var places = PlacesIn(source);
        return new CentresOfSource(
            source,
            places,
            places.Count > 0 ? [] : [.. shots.OfSource(source.Id).SelectMany(s => s.People).Select(p => p.Box)]
        );
    }

    private Dictionary<string, int> PlacesIn(Source source) =>
        source.SittingId is { } sitting
        && cameras.Of(sitting) is var setup
        && SittingAngles.Of(footage.SourcesOf(sitting)).FirstOrDefault(a => a.Clips.Any(c => c.Id == source.Id)) is { } angle
            ? setup.PlacesOf(angle.Id).ToDictionary(p => p.Key, p => p.Value * 10, StringComparer.Ordinal)
            : [];
}
