using EmberLane.Core.Media;

namespace EmberLane.Core.Handoff;

/// <summary>By which clock a picture of another rate than the story's is labelled in lists.</summary>
public enum LabelClock
{
    /// <summary>Hours, minutes and seconds as the camera shows them, the frames of that second scaled to the story's rate.</summary>
    Camera,

    /// <summary>Counted at the story's rate from the label of the file's first frame.</summary>
    List,
}

/// <summary>
/// How a source's own time is written at a story's rate. A picture at the story's rate keeps its own labels, drop frame or not, frame for
/// frame; one of another rate is labelled by one of two clocks. A sound is counted at the story's rate from its time since midnight.
/// </summary>
public sealed class SourceTimecode
{
    private readonly TimecodeCount count;
    private readonly long origin;
    private readonly MediaTime offset;

    // What the camera shows at the file's first frame, where its display is kept.
    private readonly Timecode? shown;

    private SourceTimecode(TimecodeCount count, long origin, MediaTime offset, bool sameRate, long available, Timecode? shown = null)
    {
        (this.count, this.origin, this.offset, IsSameRate, Available, this.shown) = (count, origin, offset, sameRate, available, shown);
    }

    /// <summary>Whether labels keep to a camera of another rate than the story's.</summary>
    public bool IsByCamera => shown is not null;

    /// <summary>Whether the source's frames are the story's frames.</summary>
    public bool IsSameRate { get; }

    /// <summary>Whole story frames that the source has.</summary>
    public long Available { get; }

    /// <summary>
    /// How a source's frames are counted in a list of a story that counts so: by its own start, or from zero where it has none.
    /// </summary>
    public static SourceTimecode For(SourceFacts facts, TimecodeCount story, LabelClock clock = LabelClock.Camera)
    {
        var rate = story.Rate;
        if (facts.Picture is { } picture && picture.Rate == rate)
        {
            var own = facts.Start.Label ?? new TimecodeCount(rate, false).LabelOf(0);
            return new SourceTimecode(own.Count, own.Frame, MediaTime.Zero, true, Math.Max(0, rate.FrameAt(facts.Duration)));
        }
        if (facts.Start.SinceMidnight is { } midnight)
        {
            // The first whole frame that the file has sound for; what lies before it is part of a frame.
            var first = rate.FrameAtOrAfter(midnight);
            var offset = rate.TimeOf(first) - midnight;
            return new SourceTimecode(story, first, offset, false, Math.Max(0, rate.FrameAt(facts.Duration - offset)));
        }
        if (clock == LabelClock.Camera && facts.Picture is { } other)
        {
            var first = facts.Start.Label ?? new TimecodeCount(other.Rate, false).LabelOf(0);
            var labels = new TimecodeCount(rate, story.DropFrame && first.Count.DropFrame);
            return new SourceTimecode(labels, 0, MediaTime.Zero, false, Math.Max(0, rate.FrameAt(facts.Duration)), first);
        }
        var start = facts.Start.Label is { } label ? Translate(label, story) : 0;
        return new SourceTimecode(story, start, MediaTime.Zero, false, Math.Max(0, rate.FrameAt(facts.Duration)));
    }

    /// <summary>
    /// The story frame of the source that is nearest to a moment, picture and sound alike, so that the two are never more than half a frame
    /// off, nor a frame apart; kept so that <paramref name="length"/> frames from it are frames which the source has, as far as it has that
    /// many.
    /// </summary>
    public long FrameAt(SourceTime at, long length)
    {
        var since = at.FromZero - offset;
        return Math.Max(0, Math.Min(count.Rate.NearestFrame(since), Available - length));
    }

    /// <summary>Where a story frame, counted from the first that the source has, begins in the source.</summary>
    public SourceTime TimeOf(long frame) => new(offset + count.Rate.TimeOf(frame));

    /// <summary>
    /// The label of a story frame counted from the first that the source has. By the camera's clock it is the first label of the story's
    /// rate within the camera's frame that is seen then, the last of the second where there is none; labels of frames that follow each
    /// other may then be equal, or leave some out, so that an out is counted from its in.
    /// </summary>
    public Timecode Label(long frame)
    {
        if (shown is not { } first)
        {
            return count.LabelOf(origin + frame);
        }
        var own = first.Later(first.Count.Rate.FrameAt(TimeOf(frame).FromZero));
        var scaled = Exact.CeilingDivide((Int128)own.Frames * count.Rate.Nominal, own.Count.Rate.Nominal);
        return new Timecode(count, own.Hours, own.Minutes, own.Seconds, (int)Math.Min(scaled, count.Rate.Nominal - 1));
    }

    // The same hour, minute and second; the part of a second rounded up, so that the file's first frame is not claimed too early.
    private static long Translate(Timecode label, TimecodeCount story)
    {
        var frames = (int)Exact.CeilingDivide((Int128)label.Frames * story.Rate.Nominal, label.Count.Rate.Nominal);
        var (carry, rest) = Math.DivRem(frames, story.Rate.Nominal);
        var whole = new TimecodeCount(story.Rate, false);
        var labels = new Timecode(whole, label.Hours, label.Minutes, label.Seconds, 0).Frame + ((long)carry * story.Rate.Nominal) + rest;
        var plain = whole.LabelOf(labels);
        for (var f = plain.Frames; ; f++)
        {
            // Drop frame leaves a few labels out: the next that exists.
            if (Timecode.WhyNot(story, plain.Hours, plain.Minutes, plain.Seconds, f) is null)
            {
                return new Timecode(story, plain.Hours, plain.Minutes, plain.Seconds, f).Frame;
            }
        }
    }
}
