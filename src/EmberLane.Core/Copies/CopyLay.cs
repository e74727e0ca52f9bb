using EmberLane.Core.Handoff;
using EmberLane.Core.Speech;
using EmberLane.Core.Stories;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Copies;

/// <summary>Lays out what is heard and seen of a story, in frames of its rate from the first of the copy on.</summary>
public static class CopyLay
{
    /// <summary>A sound that is cut comes and goes in so long (8 ms), against clicks.</summary>
    private static readonly MediaTime Softly = MediaTime.FromMilliseconds(8);

    /// <summary>What lies within so much (1 ms) goes on.</summary>
    private static readonly MediaTime Touch = MediaTime.FromMilliseconds(1);

    /// <summary>
    /// What is heard in a span of the story: of a card the sound of its sitting, or the open mics where the timeline opens any; narration
    /// where it is read. What goes on over a join is one stretch; what is cut comes and goes softly. In order; mics that are open together
    /// overlap.
    /// </summary>
    public static IReadOnlyList<HeardStretch> Heard(
        HandedStory story,
        FrameSpan span,
        Func<Card, IReadOnlyList<CardFrames>> partsOf,
        bool isNarrationRead
    )
    {
        var rate = story.Start.Count.Rate;
        var stretches = new List<HeardStretch>();
        var mics = MicCards(story, rate);
        foreach (var piece in story.Pieces.Where(p => new FrameSpan(p.First, p.Frames).Within(span) is not null))
        {
            switch (piece.Piece)
            {
                case Card card when !mics.Contains(new FrameSpan(piece.First, piece.Frames)):
                    var at = piece.First;
                    foreach (var part in partsOf(card))
                    {
                        stretches.Add(new(new(at, part.Count), new FromSitting(card.SittingId, new SittingTime(rate.TimeOf(part.First)))));
                        at += part.Count;
                    }
                    break;
                case PlainMedia media:
                    stretches.Add(
                        new(new(piece.First, piece.Frames), new FromFile(media.SourceId, null, media.Range.In))
                        {
                            Level = media.Level,
                            FadeIn = media.FadeIn,
                            FadeOut = media.FadeOut,
                        }
                    );
                    break;
                case Narration narration when isNarrationRead:
                    stretches.Add(new(new(piece.First, piece.Frames), new FromNarration(narration, MediaTime.Zero)));
                    break;
            }
        }
        stretches.AddRange(mics.Count == 0 ? [] : story.Timeline.Of(TrackKind.Sound).SelectMany(t => OpenMics(t, mics, rate)));
        stretches = Dissolved(stretches, story.Timeline, rate);
        return [.. Joined(stretches, rate).Select(s => Clipped(s, span, rate)).OfType<HeardStretch>().OrderBy(s => s.Frames.First)];
    }

    /// <summary>What is seen in a span of the story, in order and without holes.</summary>
    public static IReadOnlyList<SeenStretch> Seen(HandedStory story, FrameSpan span)
    {
        var rate = story.Start.Count.Rate;
        var seen = new List<SeenStretch>();
        TimelineItem? before = null;
        long dissolve = 0;
        foreach (var (item, range) in story.Timeline.Of(TrackKind.Picture).First().Placed())
        {
            if (item is Transition transition)
            {
                dissolve = rate.NearestFrame(transition.Lasting);
                continue;
            }
            var frames = FramesOf(range, rate);
            var both = new FrameSpan(frames.First, before is null ? 0 : Math.Min(dissolve, frames.Count));
            if (both.Within(span) is { } under)
            {
                // What goes on under it lies behind the end of the item before.
                var leaving = Seen(before!, frames with { First = frames.First - LengthOf(before!, rate) }, under, span, rate);
                seen.Add(
                    Seen(item, frames, under, span, rate) with
                    {
                        Leaving = new Leaving(leaving, under.First - both.First, both.Count),
                    }
                );
            }
            if (new FrameSpan(both.End, frames.Count - both.Count).Within(span) is { } alone)
            {
                seen.Add(Seen(item, frames, alone, span, rate));
            }
            (before, dissolve) = (item, 0);
        }
        return seen;
    }

    private static long LengthOf(TimelineItem item, FrameRate rate) => rate.NearestFrame(item.Length);

    // Some frames of an item that has these.
    private static SeenStretch Seen(TimelineItem item, FrameSpan frames, FrameSpan within, FrameSpan span, FrameRate rate)
    {
        if (item is not Clip { Media.SourceId: { } source } clip)
        {
            return new SeenStretch(Moved(within, span), null, default);
        }
        var into = rate.TimeOf(within.First - frames.First);
        return new SeenStretch(Moved(within, span), source, clip.Range.In + into)
        {
            Framed = clip.Framed?.Part(
                MediaTime.Min(into, clip.Length),
                MediaTime.Min(into + rate.TimeOf(within.Count), clip.Length),
                clip.Length
            ),
        };
    }

    // What ends where something dissolves in sounds on under it, and goes as that comes.
    private static List<HeardStretch> Dissolved(List<HeardStretch> stretches, EditedTimeline timeline, FrameRate rate)
    {
        var lasting = LaidDissolve
            .Of(timeline)
            .Where(d => d.Value.Heard > MediaTime.Zero)
            .ToDictionary(d => d.Key, d => rate.NearestFrame(d.Value.Heard));
        return lasting.Count == 0 ? stretches : [.. stretches.Select(s => Over(s))];

        HeardStretch Over(HeardStretch stretch)
        {
            var (from, on) = (lasting.GetValueOrDefault(stretch.Frames.First), lasting.GetValueOrDefault(stretch.Frames.End));
            return stretch with
            {
                Frames = stretch.Frames with { Count = stretch.Frames.Count + on },
                FadeIn = from > 0 ? rate.TimeOf(from) : stretch.FadeIn,
                FadeOut = on > 0 ? rate.TimeOf(on) : stretch.FadeOut,
            };
        }
    }

    /// <summary>
    /// Who speaks from when on in a span of the story; another takes over half-way between the words. Rising, the first from zero on; empty
    /// without words.
    /// </summary>
    public static IReadOnlyList<SpeakerRun> Speakers(HandedStory story, FrameSpan span)
    {
        var rate = story.Start.Count.Rate;
        MediaTime from = rate.TimeOf(span.First),
            end = rate.TimeOf(span.End);
        var runs = new List<SpeakerRun>();
        RecognisedWord? last = null;
        foreach (var word in story.Words.Where(w => w.Range.Out.FromZero > from && w.Range.In.FromZero < end))
        {
            var who = word.Voice ?? "";
            if (last is null)
            {
                runs.Add(new SpeakerRun(MediaTime.Zero, who));
            }
            else if (runs[^1].Who != who)
            {
                MediaTime before = last.Range.Out.FromZero,
                    next = MediaTime.Max(before, word.Range.In.FromZero);
                var at = MediaTime.Max(before + new MediaTime((next - before).Units / 2) - from, runs[^1].From);
                runs.Add(new SpeakerRun(at, who));
            }
            last = word;
        }
        return runs;
    }

    // The cards in which the timeline opens single mics, in order.
    private static List<FrameSpan> MicCards(HandedStory story, FrameRate rate)
    {
        var opened = story
            .Timeline.Of(TrackKind.Sound)
            .SelectMany(t => t.Placed())
            .Where(p => p.Item is Clip { Open: not null })
            .Select(p => FramesOf(p.Range, rate))
            .ToHashSet();
        return opened.Count == 0
            ? []
            :
            [
                .. story
                    .Pieces.Where(p => p.Piece is Card)
                    .Select(p => new FrameSpan(p.First, p.Frames))
                    .Where(card => opened.Any(o => o.Within(card) is not null)),
            ];
    }

    private static IEnumerable<HeardStretch> OpenMics(Track track, List<FrameSpan> cards, FrameRate rate)
    {
        var card = 0;
        foreach (var (item, range) in track.Placed())
        {
            var frames = FramesOf(range, rate);
            while (card < cards.Count && cards[card].End <= frames.First)
            {
                card++;
            }
            if (item is Clip { Media.SourceId: { } source } clip && card < cards.Count && frames.Within(cards[card]) is not null)
            {
                yield return new HeardStretch(frames, new FromFile(source, clip.Channels, clip.Range.In));
            }
        }
    }

    // One stretch of those that go on over a join; the others softly cut.
    private static List<HeardStretch> Joined(List<HeardStretch> stretches, FrameRate rate)
    {
        var joined = new List<HeardStretch>();
        var open = new Dictionary<long, List<int>>();
        foreach (var next in stretches.OrderBy(s => s.Frames.First))
        {
            var at = open.GetValueOrDefault(next.Frames.First)
                ?.Where(i => GoesOn(joined[i], next, rate))
                .Select(i => (int?)i)
                .FirstOrDefault();
            if (at is { } before)
            {
                var one = joined[before];
                joined[before] = one with
                {
                    Frames = one.Frames with { Count = one.Frames.Count + next.Frames.Count },
                    FadeOut = next.FadeOut,
                };
                open[next.Frames.First].Remove(before);
            }
            else
            {
                joined.Add(next);
                before = joined.Count - 1;
            }
            var end = joined[before].Frames.End;
            if (!open.TryGetValue(end, out var ends))
            {
                open[end] = ends = [];
            }
            ends.Add(before);
        }
        return [.. joined.Select(s => s with { FadeIn = MediaTime.Max(s.FadeIn, Softly), FadeOut = MediaTime.Max(s.FadeOut, Softly) })];
    }

    private static bool GoesOn(HeardStretch one, HeardStretch next, FrameRate rate) =>
        one.Level == next.Level
        && next.FadeIn == MediaTime.Zero
        && one.FadeOut == MediaTime.Zero
        && one.From.Apart(next.From) is { } apart
        && apart - rate.TimeOf(one.Frames.Count) is var off
        && off < Touch
        && -off < Touch;

    private static HeardStretch? Clipped(HeardStretch stretch, FrameSpan span, FrameRate rate)
    {
        if (stretch.Frames.Within(span) is not { } within)
        {
            return null;
        }
        var into = rate.TimeOf(within.First) - rate.TimeOf(stretch.Frames.First);
        return stretch with
        {
            Frames = Moved(within, span),
            From = stretch.From.Later(into),
            FadeIn = within.First > stretch.Frames.First ? Softly : stretch.FadeIn,
            FadeOut = within.End < stretch.Frames.End ? Softly : stretch.FadeOut,
        };
    }

    private static FrameSpan Moved(FrameSpan frames, FrameSpan span) => frames with { First = frames.First - span.First };

    private static FrameSpan FramesOf(RecordRange range, FrameRate rate)
    {
        var first = rate.NearestFrame(range.In.FromZero);
        return new FrameSpan(first, rate.NearestFrame(range.Out.FromZero) - first);
    }
}
