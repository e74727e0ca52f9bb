using System.Globalization;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Handoff;

/// <summary>A timeline as the lines of an event list, and back.</summary>
public static class EdlEvents
{
    /// <summary>The reel that stands for black.</summary>
    public const string Black = "BL";

    /// <summary>So many sound tracks are made of a list at most.</summary>
    public const int MostTracks = 64;

    /// <summary>What the comment of an event begins with whose source is of another rate, by the clock of its labels.</summary>
    public const string ByCamera = "SOURCE TIMES: CAMERA CLOCK",
        ByList = "SOURCE TIMES: LIST CLOCK";

    private const string ClipName = "FROM CLIP NAME: ",
        Comment = "COMMENT: ",
        Closer = "PUNCH-IN: ",
        Shape = "SHAPE: ";

    /// <summary>
    /// The lines of a timeline, group by group in the order of the record: first the pictures of a group, each with the sound that is the
    /// same stretch of the same file in one line, then what sound is left. Where there is no picture the reel is black. What is not enabled
    /// is left out. Lengths are rounded to the frame of the timeline's count. Throws <see cref="EditRefusedException"/> when it runs past
    /// 24 hours of timecode.
    /// </summary>
    public static EventList Of(EditedTimeline timeline, LabelClock clock = LabelClock.Camera)
    {
        var count = timeline.Start.Count;
        if (timeline.Start.Frame + count.Rate.NearestFrame(timeline.Length) > count.FramesInDay)
        {
            throw new EditRefusedException("The story runs past midnight of its timecode. Start it earlier.");
        }
        var events = new List<ListedEvent>();
        var sounds = timeline
            .Of(TrackKind.Sound)
            .SelectMany(Shown)
            .Where(p => p.Item is Clip || p.Dissolve > MediaTime.Zero)
            .ToLookup(p => p.Item.Group);
        var pictures = timeline.Of(TrackKind.Picture).SelectMany(Shown).ToList();
        foreach (var group in pictures.Select(p => p.Item.Group).Concat(sounds.Select(s => s.Key)).Distinct().Order())
        {
            var heard = sounds[group].ToList();
            foreach (var (item, range, before, dissolve) in pictures.Where(p => p.Item.Group == group))
            {
                var together = heard.FindIndex(h =>
                    item is Clip shown
                    && dissolve == MediaTime.Zero
                    && h.Dissolve == MediaTime.Zero
                    && ((Clip)h.Item).Media == shown.Media
                    && ((Clip)h.Item).Range == shown.Range
                    && h.Range == range
                    && EdlTracks.FitsPicture(((Clip)h.Item).Channels)
                );
                var channels = together < 0 ? [] : ((Clip)heard[together].Item).Channels;
                if (together >= 0)
                {
                    heard.RemoveAt(together);
                }
                var number = events.Count + 1;
                if (dissolve > MediaTime.Zero)
                {
                    events.Add(Leaving(number, before!, range, true, channels, timeline.Start, clock));
                }
                events.Add(Line(number, item, range, true, channels, dissolve > MediaTime.Zero ? dissolve : null, timeline.Start, clock));
            }
            foreach (var (item, range, before, dissolve) in heard)
            {
                var number = events.Count + 1;
                var channels = (item as Clip ?? before as Clip)!.Channels;
                var dissolves = dissolve > MediaTime.Zero;
                if (dissolves)
                {
                    events.Add(Leaving(number, before!, range, false, channels, timeline.Start, clock));
                }
                var quiet = item with { Note = "" };
                events.Add(Line(number, quiet, range, false, channels, dissolves ? dissolve : null, timeline.Start, clock));
            }
        }
        return new EventList(timeline.Title, count, Numbered(events));
    }

    /// <summary>
    /// The lines of each picture track beside the cut, as if it were switched on: an alternate's with its sound, without black. Tracks of
    /// which nothing is left are left out.
    /// </summary>
    public static IReadOnlyList<(Track Track, EventList List)> Further(EditedTimeline timeline, LabelClock clock)
    {
        var sounds = timeline.Of(TrackKind.Sound).Where(t => t.Use == TrackUse.Alternates).ToList();
        return
        [
            .. timeline
                .Of(TrackKind.Picture)
                .GroupBy(t => t.Use)
                .Where(g => g.Key != TrackUse.Cut)
                .SelectMany(g => g.Select((t, i) => (Track: t, Sounds: g.Key == TrackUse.Alternates ? sounds.Skip(i).Take(1) : [])))
                .Select(t => (t.Track, List: Lit(timeline, t.Track, t.Sounds, clock)))
                .Where(t => t.List.Events.Count > 0),
        ];
    }

    private static EventList Lit(EditedTimeline timeline, Track picture, IEnumerable<Track> sounds, LabelClock clock)
    {
        var all = Of(
            timeline with
            {
                Title = $"{timeline.Title}, {picture.Name}",
                Tracks =
                [
                    .. sounds
                        .Prepend(picture)
                        .Select(t => t with { Items = [.. t.Items.Select(i => i is Clip clip ? clip with { IsEnabled = true } : i)] }),
                ],
            },
            clock
        );
        return all with { Events = Numbered([.. all.Events.Where(e => e.Reel != Black)]) };
    }

    /// <summary>
    /// The timeline of an event list, with gaps where no line has anything, that starts with the first line's record time: a picture track,
    /// and as many sound tracks as are heard at once, up to <see cref="MostTracks"/>. Pictures that overlap those before them are left out,
    /// and so are sounds that find no track, and lines of no track.
    /// </summary>
    public static EditedTimeline Timeline(EventList list)
    {
        var start = list.Events.Count == 0 ? list.Count.LabelOf(0) : list.Events.MinBy(e => e.RecordIn.Frame)!.RecordIn;
        var sounds = SoundsOf(list).DefaultIfEmpty([]);
        return new EditedTimeline(
            list.Title,
            start,
            [
                new Track(TrackKind.Picture, "V1", Items(list, start, list.Events.Where(e => e.Track.HasPicture()))),
                .. sounds.Select((s, i) => new Track(TrackKind.Sound, Say($"A{i + 1}"), Items(list, start, s))),
            ],
            []
        );
    }

    // Each line on a free track, where there is one on that which had the same channels last.
    private static List<List<ListedEvent>> SoundsOf(EventList list)
    {
        var tracks = new List<List<ListedEvent>>();
        foreach (
            var e in list.Events.Where(e => ChannelsOf(e).Count > 0 && e.RecordOut.Frame > e.RecordIn.Frame).OrderBy(e => e.RecordIn.Frame)
        )
        {
            var free = tracks.Where(t => t[^1].RecordOut.Frame <= e.RecordIn.Frame).ToList();
            if ((free.Find(t => ChannelsOf(t[^1]).SequenceEqual(ChannelsOf(e))) ?? free.FirstOrDefault()) is { } track)
            {
                track.Add(e);
            }
            else if (tracks.Count < MostTracks)
            {
                tracks.Add([e]);
            }
        }
        return tracks;
    }

    private static List<TimelineItem> Items(EventList list, Timecode start, IEnumerable<ListedEvent> some)
    {
        var items = new List<TimelineItem>();
        long at = 0;
        foreach (var e in some.Where(e => e.RecordOut.Frame > e.RecordIn.Frame).OrderBy(e => e.RecordIn.Frame))
        {
            long first = e.RecordIn.Frame - start.Frame,
                frames = e.RecordOut.Frame - e.RecordIn.Frame;
            if (first < at)
            {
                continue;
            }
            if (first > at)
            {
                items.Add(new Gap(e.Number, "", list.Count.Rate.TimeOf(first - at)));
            }
            var note = string.Join(
                "; ",
                e.Comments.Where(c => c.StartsWith(Comment, StringComparison.OrdinalIgnoreCase)).Select(c => c[Comment.Length..])
            );
            if (e.DissolveFrames is { } dissolve)
            {
                items.Add(new Transition(e.Number, list.Count.Rate.TimeOf(dissolve)));
            }
            items.Add(
                e.Reel.Equals(Black, StringComparison.OrdinalIgnoreCase)
                    ? new Gap(e.Number, note, list.Count.Rate.TimeOf(frames))
                    : new Clip(e.Number, note, MediaOf(e), Range(e, frames)) { Open = OpenOf(e) }
            );
            at = first + frames;
        }
        return items;
    }

    private static IReadOnlyList<int> ChannelsOf(ListedEvent e) => [.. e.Track.Channels(), .. e.ExtraChannels];

    // Null where a file's channels are all open, as far as a line can tell.
    private static IReadOnlyList<int>? OpenOf(ListedEvent e) =>
        ChannelsOf(e) is var open && open.SequenceEqual(Enumerable.Range(1, open.Count)) ? null : open;

    private static string Say(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);

    private static TimelineMedia MediaOf(ListedEvent e)
    {
        var name = e.Comments.FirstOrDefault(c => c.StartsWith(ClipName, StringComparison.OrdinalIgnoreCase))?[ClipName.Length..] ?? "";
        return new TimelineMedia(null, e.Reel, name, ChannelsOf(e).Count, null, e.SourceIn.Count);
    }

    private static SourceRange Range(ListedEvent e, long frames)
    {
        var from = new SourceTime(e.SourceIn.Count.Rate.TimeOf(e.SourceIn.Frame));
        return new SourceRange(from, from + e.SourceIn.Count.Rate.TimeOf(frames));
    }

    // The items of a track that are seen or heard, each with the one that dissolves into it, and for how long.
    private static IEnumerable<(TimelineItem Item, RecordRange Range, TimelineItem? Before, MediaTime Dissolve)> Shown(Track track)
    {
        TimelineItem? before = null;
        var dissolve = MediaTime.Zero;
        foreach (var (item, range) in track.Placed())
        {
            if (item is Transition transition)
            {
                dissolve = transition.Lasting;
                continue;
            }
            if (item is not Clip { IsEnabled: false })
            {
                yield return (item, range, before, before is null ? MediaTime.Zero : dissolve);
            }
            (before, dissolve) = (item, MediaTime.Zero);
        }
    }

    private static ListedEvent Leaving(
        int number,
        TimelineItem before,
        RecordRange range,
        bool isSeen,
        IReadOnlyList<int> channels,
        Timecode start,
        LabelClock clock
    )
    {
        var (reel, _, sourceOut, _) = Source(before, start.Count, clock);
        var record = start.Later(start.Count.Rate.NearestFrame(range.In.FromZero));
        return new ListedEvent(
            number,
            reel,
            EdlTracks.Of(isSeen, channels),
            null,
            sourceOut,
            sourceOut,
            record,
            record,
            [.. channels.Where(c => c > 2)],
            []
        );
    }

    private static ListedEvent Line(
        int number,
        TimelineItem item,
        RecordRange range,
        bool isSeen,
        IReadOnlyList<int> channels,
        MediaTime? dissolve,
        Timecode start,
        LabelClock clock
    )
    {
        var (reel, sourceIn, sourceOut, isByCamera) = Source(item, start.Count, clock);
        var comments = new List<string>();
        if (item is Clip clip)
        {
            comments.Add(ClipName + clip.Media.FileName);
        }
        if (item.Note.Length > 0)
        {
            comments.Add(Comment + item.Note.ToUpper(CultureInfo.InvariantCulture));
        }
        if (isSeen && item is Clip { Framed: { } framed })
        {
            comments.Add(Say($"{Closer}{Told(framed)}"));
        }
        if (isSeen && item is Clip { Narrow: { } narrow })
        {
            comments.AddRange(narrow.Told.Select(t => Shape + t));
        }
        if (item is Clip { Media.Facts.Picture: { } picture } && picture.Rate != start.Count.Rate)
        {
            comments.Add(isByCamera ? Say($"{ByCamera} AT {picture.Rate}") : Say($"{ByList} AT {start.Count.Rate}"));
        }
        long first = start.Count.Rate.NearestFrame(range.In.FromZero),
            end = start.Count.Rate.NearestFrame(range.Out.FromZero);
        return new ListedEvent(
            number,
            reel,
            EdlTracks.Of(isSeen, channels),
            dissolve is { } lasting ? (int)start.Count.Rate.NearestFrame(lasting) : null,
            sourceIn,
            sourceOut,
            start.Later(first),
            start.Later(end),
            [.. channels.Where(c => c > 2)],
            comments
        );
    }

    // Enlarged to, around which centre in hundredths across and down; from the whole picture on, where it moves.
    private static string Told(Framed framed)
    {
        return framed.IsStill ? One(framed.To) : $"{One(framed.From)} TO {One(framed.To)}";

        static string One(Crop crop) =>
            Say($"{crop.Percent} % AT {(crop.Left + (crop.Size / 2)) / 100m:0.#} {(crop.Top + (crop.Size / 2)) / 100m:0.#}");
    }

    private static (string Reel, Timecode In, Timecode Out, bool IsByCamera) Source(
        TimelineItem item,
        TimecodeCount count,
        LabelClock clock
    )
    {
        var frames = count.Rate.NearestFrame(item.Length);
        if (item is not Clip { Media: { } media } clip)
        {
            return (Black, count.LabelOf(0), count.LabelOf(frames), false);
        }
        if (media.Facts is not { } facts)
        {
            var from = media.Count.Rate.NearestFrame(clip.Range.In.FromZero);
            return (media.Reel, media.Count.LabelOf(from), media.Count.LabelOf(from + frames), false);
        }
        var label = SourceTimecode.For(facts, count, clock);
        var first = label.Label(label.FrameAt(clip.Range.In, frames));
        return (media.Reel, first, first.Later(frames), label.IsByCamera);
    }

    // The two lines of a dissolve are one event.
    private static List<ListedEvent> Numbered(List<ListedEvent> events)
    {
        var number = 0;
        var numbered = new List<ListedEvent>();
        for (var i = 0; i < events.Count; i++)
        {
            number += i > 0 && events[i].Number == events[i - 1].Number ? 0 : 1;
            numbered.Add(events[i] with { Number = number });
        }
        return numbered;
    }
}
