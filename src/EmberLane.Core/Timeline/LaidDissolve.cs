namespace EmberLane.Core.Timeline;

/// <summary>How long the picture and the sound of a cut dissolve at a place; zero where they are cut.</summary>
public sealed record LaidDissolve(MediaTime Seen, MediaTime Heard)
{
    /// <summary>
    /// Those of a timeline by the frame of the record at which they begin: of its first picture track, and of its sounds the shortest where
    /// several have one. Linear.
    /// </summary>
    public static IReadOnlyDictionary<long, LaidDissolve> Of(EditedTimeline timeline)
    {
        var rate = timeline.Start.Count.Rate;
        var found = new Dictionary<long, LaidDissolve>();
        foreach (var track in timeline.Of(TrackKind.Picture).Take(1).Concat(timeline.Of(TrackKind.Sound)))
        {
            foreach (var (item, range) in track.Placed())
            {
                if (item is Transition { Lasting: var lasting } && lasting > MediaTime.Zero)
                {
                    var at = rate.NearestFrame(range.In.FromZero);
                    var known = found.GetValueOrDefault(at) ?? new LaidDissolve(MediaTime.Zero, MediaTime.Zero);
                    found[at] =
                        track.Kind == TrackKind.Picture ? known with { Seen = lasting }
                        : known.Heard == MediaTime.Zero ? known with { Heard = lasting }
                        : known with { Heard = MediaTime.Min(known.Heard, lasting) };
                }
            }
        }
        return found;
    }
}
