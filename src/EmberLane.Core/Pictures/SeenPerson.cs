namespace EmberLane.Core.Pictures;

/// <summary>
/// Somebody who is seen in a file, by the faces that lie at one place of the picture: where the face is usually, when it is seen best, in
/// how much of the frames that were looked at, and what head and clothes look like.
/// </summary>
public sealed record SeenPerson(PictureBox Box, SourceTime Best, PerMille Seen, PictureLook Look)
{
    /// <summary>A face belongs to a person whose last one was as near as this, in heights of the face.</summary>
    private const int NearBy = 2;

    /// <summary>One who is seen in fewer of the frames is none.</summary>
    private static readonly PerMille Least = new(250);

    /// <summary>
    /// The persons that are seen in the frames of a shot, from left to right. A face belongs to who was last seen near its place with much
    /// the same size; whoever walks through the picture may be found more than once.
    /// </summary>
    public static IReadOnlyList<SeenPerson> Of(IReadOnlyList<SeenFrame> frames, SourceRange shot)
    {
        var looked = frames.Where(f => f.Faces is not null && f.At >= shot.In && f.At < shot.Out).ToList();
        var tracks = new List<List<(SeenFrame Frame, SeenFace Face)>>();
        foreach (var frame in looked)
        {
            var free = tracks.ToList();
            foreach (var face in frame.Faces!.OrderByDescending(f => f.Face.Box.Height))
            {
                var nearest = free.Where(t => IsNear(t[^1].Face.Face.Box, face.Face.Box))
                    .MinBy(t => Apart(t[^1].Face.Face.Box, face.Face.Box));
                if (nearest is null)
                {
                    tracks.Add([(frame, face)]);
                }
                else
                {
                    free.Remove(nearest);
                    nearest.Add((frame, face));
                }
            }
        }
        return
        [
            .. tracks
                .Where(t => PerMille.Of(t.Count, looked.Count) >= Least)
                .Select(t => PersonOf(t, looked.Count))
                .OrderBy(p => p.Box.Middle.X),
        ];
    }

    /// <summary>How far apart the looks of two persons are: of the same one little, in the same clothes and light.</summary>
    public PerMille Apart(SeenPerson other) => Look.ColoursApart(other.Look);

    private static SeenPerson PersonOf(List<(SeenFrame Frame, SeenFace Seen)> track, int looked)
    {
        var boxes = track.ConvertAll(t => t.Seen.Face.Box);
        return new SeenPerson(
            new PictureBox(
                Middle(boxes.ConvertAll(b => b.X)),
                Middle(boxes.ConvertAll(b => b.Y)),
                Middle(boxes.ConvertAll(b => b.Width)),
                Middle(boxes.ConvertAll(b => b.Height))
            ),
            track.MaxBy(t => t.Seen.Face.Chance).Frame.At,
            PerMille.Of(track.Count, looked),
            PictureLook.Mean(track.ConvertAll(t => t.Seen.Figure))
        );
    }

    private static bool IsNear(PictureBox one, PictureBox other)
    {
        var size = Math.Max(one.Height, other.Height);
        return Apart(one, other) <= NearBy * size && 2 * Math.Min(one.Height, other.Height) >= size;
    }

    private static int Apart(PictureBox one, PictureBox other) =>
        Math.Max(Math.Abs(one.Middle.X - other.Middle.X), Math.Abs(one.Middle.Y - other.Middle.Y));

    private static int Middle(List<int> numbers) => numbers.Order().ElementAt(numbers.Count / 2);
}
