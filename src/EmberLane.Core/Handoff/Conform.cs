using System.Globalization;
using EmberLane.Core.Media;
using EmberLane.Core.Stories;

namespace EmberLane.Core.Handoff;

/// <summary>A source as a decision list needs it: reel and file name, what was measured, where it lies in its sitting (null: not placed).</summary>
public sealed record ListedSource(long Id, string Reel, string FileName, SourceFacts Facts, ClockMap? Place);

/// <summary>The sources of one sitting: its angles in the order in which they are preferred, and the source whose sound is read, if any.</summary>
public sealed record ListedSitting(long Id, IReadOnlyList<ListedSource> Angles, ListedSource? Sound);

/// <summary>A card with its parts that are in use, in order, and what its comment says: who speaks and about what.</summary>
public sealed record ListedCard(Card Card, IReadOnlyList<SittingRange> Pieces, string Comment);

/// <summary>Lays a story onto its sources, frame by frame.</summary>
public static class Conform
{
    /// <summary>
    /// The decision list of a story that starts at <paramref name="start"/>. A stretch of a card without any angle that has its picture becomes black (reel BL);
    /// a stretch without sound gets no sound event. Throws <see cref="EditRefusedException"/> when the story runs past 24 hours of timecode.
    /// </summary>
    public static EventList Lay(string title, Timecode start, IReadOnlyList<ListedCard> cards, IReadOnlyDictionary<long, ListedSitting> sittings)
    {
        var count = start.Count;
        var events = new List<ListedEvent>();
        long record = 0;
        foreach (var (card, frames, comment) in cards.SelectMany(c => c.Pieces.Select(p => (c.Card, CardFrames.Of(p, count.Rate), c.Comment))))
        {
            var sitting = sittings[card.SittingId];
            var picture = Cover(frames, Preferred(sitting.Angles, card.Angle), count);
            var sound = sitting.Sound is { } own ? Cover(frames, [own], count).Where(s => s.Source is not null).ToList() : [];
            foreach (var shot in picture)
            {
                var together = sound.FirstOrDefault(s => s.Source == shot.Source && s.First == shot.First && s.Count == shot.Count && s.SourceFrame == shot.SourceFrame);
                sound.Remove(together!);
                events.Add(Event(events.Count + 1, shot, together is null ? "V" : BothTracks(shot.Source!), record + shot.First - frames.First, start, comment, together is not null));
            }
            foreach (var heard in sound)
            {
                events.Add(Event(events.Count + 1, heard, SoundTracks(heard.Source!), record + heard.First - frames.First, start, null, true));
            }
            record += frames.Count;
        }
        return start.Frame + record > count.FramesInDay
            ? throw new EditRefusedException("The story runs past midnight of its timecode. Start it earlier.")
            : new EventList(title, count, events);
    }

    /// <summary>
    /// What is shown where the angle that was chosen for a card has no picture, by the names of the files, or “black”; empty when it has all of it, or none was chosen.
    /// </summary>
    public static IReadOnlyList<string> ShownInstead(Card card, IReadOnlyList<SittingRange> pieces, ListedSitting sitting, TimecodeCount count) => card.Angle is not { } wanted ? []
        : [.. pieces.SelectMany(p => Cover(CardFrames.Of(p, count.Rate), Preferred(sitting.Angles, wanted), count)).Where(r => r.Source?.Id != wanted).Select(r => r.Source?.FileName ?? "black").Distinct()];

    /// <summary>A run of a card's frames that one source covers, or none.</summary>
    private sealed record Run(ListedSource? Source, SourceLabel? Label, long First, long Count, long SourceFrame);

    private static IEnumerable<ListedSource> Preferred(IReadOnlyList<ListedSource> angles, long? wanted) => angles.OrderBy(a => a.Id == wanted ? 0 : 1);

    // Fills the frames with the first source that has them; what it lacks goes to the next; what all lack stays empty.
    private static List<Run> Cover(CardFrames frames, IEnumerable<ListedSource> sources, TimecodeCount count)
    {
        var open = new List<(long First, long End)> { (frames.First, frames.First + frames.Count) };
        var runs = new List<Run>();
        foreach (var source in sources.Where(s => s.Place is not null))
        {
            var label = SourceLabel.For(source.Facts, count);
            var (has, until) = Has(source, label, count.Rate);
            foreach (var (first, end) in open.ToList())
            {
                long from = Math.Max(first, has), to = Math.Min(end, until);
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
    private static (long First, long End) Has(ListedSource source, SourceLabel label, FrameRate rate)
    {
        var fill = source.Place!.Value.Fill(source.Facts.Duration);
        var first = rate.FrameAtOrAfter(fill.In.FromZero);
        return (first, Math.Min(rate.FrameAt(fill.Out.FromZero), first + label.Available));
    }

    private static ListedEvent Event(int number, Run run, string track, long record, Timecode start, string? comment, bool withSound)
    {
        Timecode sourceIn, sourceOut;
        string reel;
        var comments = new List<string>();
        if (run.Source is { } source)
        {
            (sourceIn, sourceOut, reel) = (run.Label!.Label(run.SourceFrame), run.Label.Label(run.SourceFrame + run.Count), source.Reel);
            comments.Add("FROM CLIP NAME: " + source.FileName);
        }
        else
        {
            (sourceIn, sourceOut, reel) = (start.Count.LabelOf(0), start.Count.LabelOf(run.Count), "BL");
        }
        if (comment is { Length: > 0 })
        {
            comments.Add("COMMENT: " + comment.ToUpper(CultureInfo.InvariantCulture));
        }
        var channels = withSound ? run.Source!.Facts.Channels : 0;
        return new ListedEvent(number, reel, track, null, sourceIn, sourceOut, start.Later(record), start.Later(record + run.Count), [.. Enumerable.Range(3, Math.Max(0, channels - 2))], comments);
    }

    private static string SoundTracks(ListedSource source) => source.Facts.Channels >= 2 ? "AA" : "A";

    private static string BothTracks(ListedSource source) => source.Facts.Channels >= 2 ? "AA/V" : "B";
}
