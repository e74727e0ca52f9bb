using EmberLane.Core.Copies;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>
/// Around what a picture is cut that is seen narrower than it was filmed: around who speaks, where somebody said where they are; else
/// around the faces that were found.
/// </summary>
public sealed class PictureCentres(Footage footage, Shots shots, Store.Cameras cameras)
{
    /// <summary>
    /// Parts of what is seen of a source, in order and without holes, each with the middle of what is seen in thousandths of its width;
    /// null for the whole picture.
    /// </summary>
    public IReadOnlyList<(FrameSpan Frames, int? Centre)> Of(
        Source source,
        FrameSpan seen,
        IReadOnlyList<SpeakerRun> speakers,
        FrameRate rate,
        CopyShape shape
    )
    {
        if (PlacesIn(source) is { Count: > 0 } places)
        {
            return [.. CentreOfSpeaker.Of(seen, speakers, places, rate).Select(p => (p.Frames, (int?)p.Centre))];
        }
        var faces = shots.OfSource(source.Id).SelectMany(s => s.People).Select(p => p.Box).ToList();
        return [(seen, source.Facts.Picture is { } picture ? PeopleCrop.Of(faces, picture, shape) : null)];
    }

    // Where people are in the picture of a camera, in thousandths of its width, where somebody said so.
    private Dictionary<string, int> PlacesIn(Source source) =>
        source.SittingId is { } sitting
        && cameras.Of(sitting) is var setup
        && SittingAngles.Of(footage.SourcesOf(sitting)).FirstOrDefault(a => a.Clips.Any(c => c.Id == source.Id)) is { } angle
            ? setup.PlacesOf(angle.Id).ToDictionary(p => p.Key, p => p.Value * 10, StringComparer.Ordinal)
            : [];
}
