using EmberLane.Core.Media;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Handoff.Back;

/// <summary>A source that a returned list may be of: its sitting, null where it lies in none.</summary>
public sealed record BackSource(ListedSource Listed, long? SittingId);

/// <summary>How a returned list tells source times.</summary>
public enum BackForm
{
    /// <summary>As labels at the list's rate.</summary>
    Edl,

    /// <summary>As time of the file's own timecode.</summary>
    Otio,
}

/// <summary>Finds the source of a returned clip by its reel, else by the name of its file, and where in it the clip begins.</summary>
public sealed class BackSources
{
    private readonly ILookup<string, BackSource> byReel,
        byName;

    /// <summary>Over all sources that a list may be of.</summary>
    public BackSources(IReadOnlyList<BackSource> sources)
    {
        byReel = sources
            .SelectMany(s =>
                new[] { Plain(s.Listed.Reel), Plain(ReelName.From(null, s.Listed.FileName, ReelName.LongLength)) }
                    .Distinct()
                    .Select(r => (Reel: r, Source: s))
            )
            .ToLookup(r => r.Reel, r => r.Source);
        byName = sources.ToLookup(s => Plain(Path.GetFileNameWithoutExtension(s.Listed.FileName)));
    }

    /// <summary>
    /// The source of a clip that has the time which the clip begins at, and that time; a reel that is called otherwise is known by the name
    /// of the file, or by the eight characters that it begins with. Null where none has it.
    /// </summary>
    public (BackSource Source, SourceTime At)? Of(Clip clip, BackForm form, TimecodeCount list)
    {
        foreach (
            var source in byReel[Plain(clip.Media.Reel)]
                .Concat(byName[Plain(Path.GetFileNameWithoutExtension(clip.Media.FileName))])
                .Concat(byReel[Short(clip.Media.Reel)])
                .Concat(byName[Plain(Path.GetFileNameWithoutExtension(clip.Media.Reel))])
                .Distinct()
        )
        {
            if (TimeIn(source.Listed.Facts, clip, form, list) is { } at)
            {
                return (source, at);
            }
        }
        return null;
    }

    private static string Plain(string name) =>
        string.Concat(name.ToUpperInvariant().Select(c => char.IsAsciiLetterOrDigit(c) ? c : '_')).Trim('_');

    private static string Short(string reel) => Plain(reel) is var plain && plain.Length > 8 ? plain[..8] : plain;

    private static SourceTime? TimeIn(SourceFacts facts, Clip clip, BackForm form, TimecodeCount list)
    {
        var at = form == BackForm.Otio ? ByOwnTime(facts, clip, list) : ByLabel(facts, clip, list);
        var frame = list.Rate.TimeOf(2);
        return at >= -frame && at <= facts.Duration + frame ? new SourceTime(MediaTime.Max(at, MediaTime.Zero)) : null;
    }

    private static MediaTime ByOwnTime(SourceFacts facts, Clip clip, TimecodeCount list)
    {
        var (numerator, denominator, first) = OtioWriter.ClockOf(clip.Media with { Facts = facts, Count = list });
        return clip.Range.In.FromZero - new MediaTime(Exact.RoundDivide((Int128)first * denominator * MediaTime.UnitsPerSecond, numerator));
    }

    private static MediaTime ByLabel(SourceFacts facts, Clip clip, TimecodeCount list)
    {
        var count = clip.Media.Count;
        var label = count.LabelOf(count.Rate.NearestFrame(clip.Range.In.FromZero));
        if (facts.Picture is { } picture)
        {
            var start = facts.Start.Label ?? new TimecodeCount(picture.Rate, false).LabelOf(0);
            var own = start.Count;
            var frames = (int)Exact.FloorDivide((Int128)label.Frames * own.Rate.Nominal, count.Rate.Nominal);
            return picture.Rate.TimeOf(FrameOf(own, label, frames) - start.Frame);
        }
        return list.Rate.TimeOf(label.Frame) - (facts.Start.SinceMidnight ?? MediaTime.Zero);
    }

    // Drop frame leaves a few labels out: the next that exists.
    private static long FrameOf(TimecodeCount count, Timecode label, int frames)
    {
        while (Timecode.WhyNot(count, label.Hours, label.Minutes, label.Seconds, frames) is not null)
        {
            frames++;
        }
        return new Timecode(count, label.Hours, label.Minutes, label.Seconds, frames).Frame;
    }
}
