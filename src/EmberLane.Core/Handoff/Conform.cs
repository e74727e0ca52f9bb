using EmberLane.Core.Media;
using EmberLane.Core.Stories;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Handoff;

/// <summary>
/// A source as a decision list needs it: reel and file name, what was measured, where it lies in its sitting (null: not placed).
/// </summary>
public sealed record ListedSource(long Id, string Reel, string FileName, SourceFacts Facts, ClockMap? Place);

/// <summary>
/// The sources of one sitting: its angles in the order in which they are preferred, and the source whose sound is read, if any.
/// </summary>
public sealed record ListedSitting(long Id, IReadOnlyList<ListedSource> Angles, ListedSource? Sound);

/// <summary>A card with its parts that are in use, in order, and what its comment says: who speaks and about what.</summary>
public sealed record ListedCard(Card Card, IReadOnlyList<SittingRange> Pieces, string Comment);

/// <summary>Lays a story onto its sources, frame by frame.</summary>
public static class Conform
{
    /// <summary>
    /// The timeline of a story that starts at <paramref name="start"/>: a picture track and a sound track, whole frames of the story's
    /// rate. A stretch of a card without any angle that has its picture, or without sound, is a gap. Each part of a card is a group. Cost
    /// grows with the cards and their sittings' sources.
    /// </summary>
    public static EditedTimeline Lay(
        string title,
        Timecode start,
        IReadOnlyList<ListedCard> cards,
        IReadOnlyDictionary<long, ListedSitting> sittings
    )
    {
        var count = start.Count;
        List<TimelineItem> pictures = [],
            sounds = [];
        var group = 0;
        foreach (
            var (card, frames, comment) in cards.SelectMany(c => CardFrames.Of(c.Pieces, count.Rate).Select(f => (c.Card, f, c.Comment)))
        )
        {
            var sitting = sittings[card.SittingId];
            group++;
            pictures.AddRange(Cover(frames, Preferred(sitting.Angles, card.Angle), count).Select(r => Item(r, group, comment, count)));
            sounds.AddRange(Cover(frames, sitting.Sound is { } own ? [own] : [], count).Select(r => Item(r, group, comment, count)));
        }
        return new EditedTimeline(
            title,
            start,
            [new Track(TrackKind.Picture, "V1", pictures), new Track(TrackKind.Sound, "A1", sounds)],
            []
        );
    }

    /// <summary>
    /// What is shown where the angle that was chosen for a card has no picture, by the names of the files, or “black”; empty when it has
    /// all of it, or none was chosen.
    /// </summary>
    public static IReadOnlyList<string> ShownInstead(
        Card card,
        IReadOnlyList<SittingRange> pieces,
        ListedSitting sitting,
        TimecodeCount count
    ) =>
        card.Angle is not { } wanted
            ? []
            :
            [
                .. CardFrames
                    .Of(pieces, count.Rate)
                    .SelectMany(f => Cover(f, Preferred(sitting.Angles, wanted), count))
                    .Where(r => r.Source?.Id != wanted)
                    .Select(r => r.Source?.FileName ?? "black")
                    .Distinct(),
            ];

    /// <summary>A run of a card's frames that one source covers, or none.</summary>
    private sealed record Run(ListedSource? Source, SourceTimecode? Label, long First, long Count, long SourceFrame);

    private static IEnumerable<ListedSource> Preferred(IReadOnlyList<ListedSource> angles, long? wanted) =>
        angles.OrderBy(a => a.Id == wanted ? 0 : 1);

    // Fills the frames with the first source that has them; what it lacks goes to the next; what all lack stays empty.
    private static List<Run> Cover(CardFrames frames, IEnumerable<ListedSource> sources, TimecodeCount count)
    {
        var open = new List<(long First, long End)> { (frames.First, frames.First + frames.Count) };
        var runs = new List<Run>();
        foreach (var source in sources.Where(s => s.Place is not null))
        {
            var label = SourceTimecode.For(source.Facts, count);
            var (has, until) = Has(source, label, count.Rate);
            foreach (var (first, end) in open.ToList())
            {
                long from = Math.Max(first, has),
                    to = Math.Min(end, until);
                if (from >= to)
                {
                    continue;
                }
                var at = source.Place!.Value.ToSource(new SittingTime(count.Rate.TimeOf(from)));
                runs.Add(new Run(source, label, from, to - from, label.FrameAt(at, to - from)));
                open.Remove((first, end));
                if (first < from)
                {
                    open.Add((first, from));
                }
                if (to < end)
                {
                    open.Add((to, end));
                }
            }
        }
        runs.AddRange(open.Select(gap => new Run(null, null, gap.First, gap.End - gap.First, 0)));
        return [.. runs.OrderBy(r => r.First)];
    }

    // The story frames, counted on the sitting's clock, for which the source has a whole frame.
    private static (long First, long End) Has(ListedSource source, SourceTimecode label, FrameRate rate)
    {
        var fill = source.Place!.Value.Fill(source.Facts.Duration);
        var first = rate.FrameAtOrAfter(fill.In.FromZero);
        return (first, Math.Min(rate.FrameAt(fill.Out.FromZero), first + label.Available));
    }

    private static TimelineItem Item(Run run, int group, string comment, TimecodeCount count)
    {
        var lasting = count.Rate.TimeOf(run.Count);
        if (run.Source is not { } source)
        {
            return new Gap(group, comment, lasting);
        }
        var from = run.Label!.TimeOf(run.SourceFrame);
        return new Clip(
            group,
            comment,
            new TimelineMedia(source.Id, source.Reel, source.FileName, source.Facts.Channels, source.Facts, count),
            new SourceRange(from, from + lasting)
        );
    }
}
