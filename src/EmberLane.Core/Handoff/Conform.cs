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
public sealed record ListedSitting(long Id, IReadOnlyList<ListedSource> Angles, ListedSource? Sound)
{
    /// <summary>All files of the sitting.</summary>
    public IReadOnlyList<ListedSource> Files { get; init; } = [];

    /// <summary>When which mics are open; none where its sound is heard as it is.</summary>
    public IReadOnlyList<MicShot> Mics { get; init; } = [];
}

/// <summary>A piece of a story as a list needs it: what its comment says.</summary>
public abstract record ListedPiece(string Comment)
{
    /// <summary>How it comes in; null is by a cut.</summary>
    public Dissolve? ComesIn { get; init; }
}

/// <summary>
/// A card with its parts that are in use, in order, and what its comment says: who speaks and about what.
/// </summary>
public sealed record ListedCard(Card Card, IReadOnlyList<SittingRange> Pieces, string Comment) : ListedPiece(Comment)
{
    /// <summary>The file of the picture over it; null where it has none.</summary>
    public ListedSource? Over { get; init; }

    /// <summary>Its shots by a camera plan, in order; none where it follows no plan. An angle that was chosen for it goes before.</summary>
    public IReadOnlyList<AngleShot> Shots { get; init; } = [];

    /// <summary>The bites that are kept beside it, as cards.</summary>
    public IReadOnlyList<ListedCard> Alternates { get; init; } = [];
}

/// <summary>A space, a title or a narration: so many frames of nothing.</summary>
public sealed record ListedGap(long Frames, string Comment) : ListedPiece(Comment);

/// <summary>A stretch of one file: so many frames from its in point on.</summary>
public sealed record ListedMedia(ListedSource Source, SourceTime From, long Frames, string Comment) : ListedPiece(Comment);

/// <summary>Lays a story onto its sources, frame by frame.</summary>
public static class Conform
{
    /// <summary>
    /// The timeline of a story that starts at <paramref name="start"/>: a picture track and a sound track, or one for each open mic, in
    /// whole frames of the story's rate. A stretch of a card without any angle that has its picture, or without sound, is a gap. Each part
    /// of a card is a group. Other tracks lie between them as they are wanted: pictures over cards, then alternates, then angles. An
    /// alternate begins with its card and may run on beyond it, also beyond the story. Pieces dissolve in as far as the file before has
    /// picture or sound for it, <paramref name="beyond"/> lets it, and what comes in lasts. Cost grows with the pieces and their sittings'
    /// sources.
    /// </summary>
    public static EditedTimeline Lay(
        string title,
        Timecode start,
        IReadOnlyList<ListedPiece> pieces,
        IReadOnlyDictionary<long, ListedSitting> sittings,
        WantedTracks? wanted = null,
        FreeBeyond? beyond = null
    )
    {
        wanted ??= new WantedTracks();
        var dissolves = new LaidDissolves(start.Count.Rate, beyond ?? ((_, _) => null));
        var count = start.Count;
        var others = new AngleTracks(wanted.Angles);
        var alternates = new AlternateTracks();
        var overs = new SideBySide(wanted.OversApart ? 1 : 0);
        var pictures = new List<TimelineItem>();
        var sounds = new SideBySide(1);
        var beside = new List<(long At, ListedCard Alternate)>();
        var (group, record) = (0, 0L);
        foreach (var piece in pieces)
        {
            dissolves.Wish(piece.ComesIn, record);
            switch (piece)
            {
                case ListedCard card:
                    LayCard(card);
                    break;
                case ListedMedia media:
                    group++;
                    var clip = Item(RunOf(media, count), group, media.Comment, count);
                    var gap = new Gap(group, media.Comment, count.Rate.TimeOf(media.Frames));
                    pictures.Add(media.Source.Facts.Picture is null ? gap : clip);
                    others.Lay([], gap);
                    overs.Lay([], gap);
                    record += media.Frames;
                    sounds.Lay(
                        [
                            [media.Source.Facts.Channels == 0 ? gap : clip],
                        ],
                        gap
                    );
                    break;
                case ListedGap free:
                    group++;
                    var nothing = new Gap(group, free.Comment, count.Rate.TimeOf(free.Frames));
                    pictures.Add(nothing);
                    others.Lay([], nothing);
                    overs.Lay([], nothing);
                    sounds.Lay([], nothing);
                    record += free.Frames;
                    break;
            }
        }
        foreach (var (at, alternate) in beside)
        {
            LayAlternate(at, alternate);
        }
        return new EditedTimeline(
            title,
            start,
            [
                .. Named(
                    TrackKind.Picture,
                    [
                        (TrackUse.Cut, [dissolves.Into(pictures, TrackKind.Picture)]),
                        (TrackUse.Over, overs.Items.Where(o => o.Any(i => i is Clip))),
                        (TrackUse.Alternates, alternates.Pictures),
                        (TrackUse.Angles, others.Items),
                    ]
                ),
                .. Named(
                    TrackKind.Sound,
                    [
                        (TrackUse.Cut, [.. sounds.Items.Select(s => dissolves.Into(s, TrackKind.Sound))]),
                        (TrackUse.Alternates, alternates.Sounds),
                    ]
                ),
            ],
            []
        );

        void LayAlternate(long at, ListedCard listed)
        {
            var sitting = sittings[listed.Card.SittingId];
            var (seen, heard) = (new List<TimelineItem>(), new List<TimelineItem>());
            foreach (var frames in CardFrames.Of(listed.Pieces, count.Rate))
            {
                group++;
                seen.AddRange(CoverCard(listed, frames, sitting, count).Select(r => Item(r, group, listed.Comment, count)));
                heard.AddRange(
                    Cover(frames, sitting.Sound is { } own ? [own] : [], count).Select(r => Item(r, group, listed.Comment, count))
                );
            }
            alternates.Lay(count.Rate.TimeOf(at), seen, heard);
        }

        void LayCard(ListedCard listed)
        {
            var sitting = sittings[listed.Card.SittingId];
            beside.AddRange(wanted.Alternates ? listed.Alternates.Select(a => (record, a)) : []);
            long at = 0;
            foreach (var frames in CardFrames.Of(listed.Pieces, count.Rate))
            {
                group++;
                var over = OverOf(listed, frames, at, count);
                foreach (
                    var run in wanted.OversApart ? CoverCard(listed, frames, sitting, count) : Seen(listed, frames, over, sitting, count)
                )
                {
                    pictures.Add(Item(run, group, listed.Comment, count));
                }
                var rest = new Gap(group, listed.Comment, count.Rate.TimeOf(frames.Count));
                overs.Lay(
                    wanted.OversApart && over is not null
                        ?
                        [
                            [.. Around(frames, over).Select(r => Item(r, group, listed.Comment, count))],
                        ]
                        : [],
                    rest
                );
                others.Lay(
                    sitting.Angles.Select(a => Cover(frames, [a], count).Select(r => Item(r, group, listed.Comment, count)).ToList()),
                    rest
                );
                sounds.Lay(
                    Heard(sitting.Mics, frames, sitting.Sound, count)
                        .Select(runs => runs.Select(r => Item(r, group, listed.Comment, count)).ToList())
                        .ToList(),
                    rest
                );
                at += frames.Count;
            }
            record += at;
        }
    }

    // V1, V2 and so on, or A1; what is not of the cut says what it is for.
    private static IEnumerable<Track> Named(
        TrackKind kind,
        IEnumerable<(TrackUse Use, IEnumerable<IReadOnlyList<TimelineItem>> Rows)> uses
    ) =>
        uses.SelectMany(u => u.Rows.Select(items => (u.Use, Items: items)))
            .Select(
                (r, i) =>
                    new Track(
                        kind,
                        FormattableString.Invariant($"{(kind == TrackKind.Picture ? 'V' : 'A')}{i + 1}")
                            + (r.Use == TrackUse.Cut ? "" : " " + r.Use.ToString().ToLowerInvariant()),
                        r.Items
                    )
                    {
                        Use = r.Use,
                    }
            );

    // What is heard of a part of a card, a list of runs for each track: the open mics where they are, else the sitting's own sound, which
    // lies on the first track.
    private static List<List<Run>> Heard(IReadOnlyList<MicShot> mics, CardFrames frames, ListedSource? own, TimecodeCount count)
    {
        var tracks = mics.Select(m => (Mic: m, Frames: m.FramesIn(frames, count.Rate)))
            .Where(m => m.Frames is not null)
            .GroupBy(m => m.Mic.Track)
            .ToDictionary(
                g => g.Key,
                g =>
                    g.SelectMany(m =>
                            Cover(m.Frames!.Value, [m.Mic.Source], count)
                                .Where(r => r.Source is not null)
                                .Select(r => r with { Channel = m.Mic.Channel })
                        )
                        .ToList()
            );
        var open = tracks.Values.SelectMany(t => t).ToList();
        var rest = Free(frames, open).SelectMany(f => Cover(f, own is null ? [] : [own], count));
        tracks[0] = [.. tracks.GetValueOrDefault(0) ?? [], .. rest.Where(r => r.Source is not null)];
        return
        [
            .. Enumerable
                .Range(0, tracks.Keys.Max() + 1)
                .Select(t => tracks.GetValueOrDefault(t) ?? [])
                .Select(runs =>
                    runs.Concat(Free(frames, runs).Select(f => new Run(null, null, f.First, f.Count, 0))).OrderBy(r => r.First).ToList()
                ),
        ];
    }

    // The frames that no run fills, in order; runs may lie over each other.
    private static IEnumerable<CardFrames> Free(CardFrames frames, IReadOnlyList<Run> runs)
    {
        var at = frames.First;
        foreach (var run in runs.OrderBy(r => r.First))
        {
            if (at < run.First)
            {
                yield return new CardFrames(at, run.First - at);
            }
            at = Math.Max(at, run.First + run.Count);
        }
        if (at < frames.First + frames.Count)
        {
            yield return new CardFrames(at, frames.First + frames.Count - at);
        }
    }

    private static Run RunOf(ListedMedia media, TimecodeCount count)
    {
        var label = SourceTimecode.For(media.Source.Facts, count);
        return new Run(media.Source, label, 0, media.Frames, label.FrameAt(media.From, media.Frames));
    }

    // What is seen of the picture over a card in a part of it that begins so many frames after the card does.
    private static Run? OverOf(ListedCard listed, CardFrames frames, long at, TimecodeCount count)
    {
        if (listed is not { Over: { } source, Card.Over: { } over })
        {
            return null;
        }
        long begins = count.Rate.NearestFrame(over.After),
            ends = begins + Math.Max(1, count.Rate.NearestFrame(over.Range.Length)),
            first = Math.Clamp(begins - at, 0, frames.Count),
            end = Math.Clamp(ends - at, first, frames.Count);
        if (first == end)
        {
            return null;
        }
        var label = SourceTimecode.For(source.Facts, count);
        var from = label.FrameAt(over.Range.In, ends - begins) + (at + first - begins);
        return new Run(source, label, frames.First + first, end - first, from);
    }

    // A run with nothing before and behind it.
    private static List<Run> Around(CardFrames frames, Run run) =>
        [
            .. new[]
            {
                new Run(null, null, frames.First, run.First - frames.First, 0),
                run,
                new Run(null, null, run.First + run.Count, frames.First + frames.Count - run.First - run.Count, 0),
            }.Where(r => r.Count > 0),
        ];

    // The card's own angles, and the picture over it where that is.
    private static List<Run> Seen(ListedCard listed, CardFrames frames, Run? over, ListedSitting sitting, TimecodeCount count) =>
        over is null
            ? CoverCard(listed, frames, sitting, count)
            :
            [
                .. Around(frames, over)
                    .SelectMany(r => r == over ? [r] : CoverCard(listed, new CardFrames(r.First, r.Count), sitting, count)),
            ];

    // The angle that was chosen for the card, else those of its plan, else the first that has its picture.
    private static List<Run> CoverCard(ListedCard listed, CardFrames frames, ListedSitting sitting, TimecodeCount count) =>
        listed.Card.Angle is { } wanted
            ? Cover(frames, Preferred(sitting.Angles, [wanted]), count)
            :
            [
                .. AngleShot
                    .Part(frames, listed.Shots, count.Rate)
                    .SelectMany(part =>
                        Cover(part.Frames, Preferred(sitting.Angles, part.Shot?.Clips ?? []), count)
                            .Select(run => FramedBy(part.Shot, run, count.Rate))
                    ),
            ];

    // Another angle that fills in is seen as it is.
    private static Run FramedBy(AngleShot? shot, Run run, FrameRate rate) =>
        shot is not null && run.Source is { } source && shot.Clips.Contains(source.Id)
            ? run with
            {
                Framed = shot.FramedIn(new CardFrames(run.First, run.Count), rate),
            }
            : run;

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
                    .SelectMany(f => Cover(f, Preferred(sitting.Angles, [wanted]), count))
                    .Where(r => r.Source?.Id != wanted)
                    .Select(r => r.Source?.FileName ?? "black")
                    .Distinct(),
            ];

    /// <summary>A run of a card's frames that one source covers, or none; of one channel, or all.</summary>
    private sealed record Run(ListedSource? Source, SourceTimecode? Label, long First, long Count, long SourceFrame, int? Channel = null)
    {
        /// <summary>What of its picture is seen; null for all of it.</summary>
        public Framed? Framed { get; init; }
    }

    private static IEnumerable<ListedSource> Preferred(IReadOnlyList<ListedSource> angles, IReadOnlyList<long> wanted) =>
        angles.OrderBy(a => wanted.Contains(a.Id) ? 0 : 1);

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
        )
        {
            Open = run.Channel is { } one ? [one] : null,
            Framed = run.Framed,
        };
    }
}
