using EmberLane.Core.Edits;
using EmberLane.Core.Finding;
using EmberLane.Core.Handoff;
using EmberLane.Core.Import;
using EmberLane.Core.Media;

namespace EmberLane.Core.Bites;

/// <summary>A source as a paper edit may name it: by its sitting's title, its reel or its file's name.</summary>
public sealed record NamedTape(long SittingId, string Sitting, string Reel, string File, SourceFacts Facts, ClockMap? Place);

/// <summary>Where the lines of a paper edit lie on the clocks of their sittings.</summary>
public static class PaperPlace
{
    /// <summary>
    /// The sitting of a line and its range there. Times with frames are timecode of a source that is named, or of any that has it; others
    /// count from the sitting's zero. Throws <see cref="EditRefusedException"/> with the reason for one that fits nothing.
    /// </summary>
    public static (long SittingId, SittingRange Range) Of(PaperRange line, IReadOnlyList<NamedTape> tapes)
    {
        var named = line.Where.Length == 0 ? tapes : Named(line.Where, tapes);
        if (named.Count == 0)
        {
            throw new EditRefusedException($"No sitting, reel or file is called “{line.Where}”.");
        }
        return HasFrames(line.In) || HasFrames(line.Out) ? ByTimecode(line, named) : ByClock(line, named);
    }

    private static List<NamedTape> Named(string where, IReadOnlyList<NamedTape> tapes)
    {
        bool Is(string name) => name.Equals(where, StringComparison.OrdinalIgnoreCase);
        var exact = tapes.Where(t => Is(t.Sitting) || Is(t.Reel) || Is(t.File) || Is(Path.GetFileNameWithoutExtension(t.File))).ToList();
        var words = FoldedWords.Of(where);
        return exact.Count > 0 ? exact
            : words.Count == 0 ? []
            : [.. tapes.Where(t => FoldedWords.Of(t.Sitting) is var title && words.All(title.Contains))];
    }

    private static bool HasFrames(string time) => time.Count(c => c is ':' or ';') == 3;

    private static (long, SittingRange) ByTimecode(PaperRange line, IReadOnlyList<NamedTape> named)
    {
        var labelled = named.Where(t => t is { Place: not null, Facts.Start.Label: not null }).ToList();
        if (labelled.Count == 0)
        {
            throw new EditRefusedException(
                "None of the files there has a timecode. Write the times as 1:02.5, from the sitting’s beginning."
            );
        }
        string? why = null;
        foreach (var tape in labelled)
        {
            var count = tape.Facts.Start.Label!.Value.Count;
            if (!count.TryParse(line.In, out var begins, out var error) || !count.TryParse(line.Out, out var ends, out error))
            {
                why ??= $"{error} “{tape.File}” counts {count} frames a second.";
                continue;
            }
            if (ends.Value.Frame <= begins.Value.Frame)
            {
                throw new EditRefusedException("Its end does not lie behind its begin.");
            }
            var first = tape.Facts.Start.Label.Value.Frame;
            var available = count.Rate.FrameAt(tape.Facts.Duration);
            long from = begins.Value.Frame - first,
                to = ends.Value.Frame - first;
            if (from < 0 || to > available)
            {
                why = $"It lies beyond “{tape.File}”, which has {count.LabelOf(first)} to {count.LabelOf(first + available)}.";
                continue;
            }
            return (
                tape.SittingId,
                new SittingRange(
                    tape.Place!.Value.ToSitting(new SourceTime(count.Rate.TimeOf(from))),
                    tape.Place.Value.ToSitting(new SourceTime(count.Rate.TimeOf(to)))
                )
            );
        }
        throw new EditRefusedException(why ?? "No file there has that timecode.");
    }

    private static (long, SittingRange) ByClock(PaperRange line, IReadOnlyList<NamedTape> named)
    {
        if (ClockText.Read(line.In) is not { } begins || ClockText.Read(line.Out) is not { } ends)
        {
            throw new EditRefusedException($"“{(ClockText.Read(line.In) is null ? line.In : line.Out)}” is not a time.");
        }
        if (ends <= begins)
        {
            throw new EditRefusedException("Its end does not lie behind its begin.");
        }
        if (named.DistinctBy(t => t.SittingId).Skip(1).Any())
        {
            throw new EditRefusedException("Several sittings are meant. Name one, or write timecode with frames.");
        }
        var range = new SittingRange(new SittingTime(begins), new SittingTime(ends));
        var last = named
            .Where(t => t.Place is not null)
            .Select(t => t.Place!.Value.Fill(t.Facts.Duration).Out)
            .DefaultIfEmpty(range.Out)
            .Max();
        return range.Out > last
            ? throw new EditRefusedException($"It lies beyond “{named[0].Sitting}”, which ends at {last}.")
            : (named[0].SittingId, range);
    }
}
