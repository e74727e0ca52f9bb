using System.Globalization;
using EmberLane.Core.Media;

namespace EmberLane.Core.Pictures;

/// <summary>The best seconds of a file, in its own time, with what they show; the note may be empty.</summary>
public sealed record BestPart(SourceRange Range, string Note)
{
    /// <summary>So many are kept of a file; and a note has so many characters.</summary>
    public const int Most = 40,
        LongestNote = 120;

    /// <summary>Those that are marked on a file, in order of time.</summary>
    public static IReadOnlyList<BestPart> Of(Labels labels) =>
        [.. labels.Best.Split('\n', StringSplitOptions.RemoveEmptyEntries).Select(Read)];

    /// <summary>
    /// A file's labels with one more; it takes the place of those that it overlaps, and their notes over. Throws
    /// <see cref="EditRefusedException"/> for a range that is empty or not within the file, and where there are too many.
    /// </summary>
    public static Labels Mark(Labels labels, SourceRange range, MediaTime length)
    {
        if (range.In == range.Out || range.In < default(SourceTime) || range.Out.FromZero > length)
        {
            throw new EditRefusedException("The best seconds must lie within the file: first where they begin, then where they end.");
        }
        var beside = Of(labels).ToLookup(p => p.Range.Out <= range.In || p.Range.In >= range.Out);
        var notes = string.Join("; ", beside[false].Select(p => p.Note).Where(n => n.Length > 0).Distinct());
        List<BestPart> parts = [.. beside[true], new BestPart(range, notes[..Math.Min(notes.Length, LongestNote)])];
        return parts.Count > Most
            ? throw new EditRefusedException(string.Create(CultureInfo.InvariantCulture, $"A file has at most {Most} best parts."))
            : Written(labels, parts);
    }

    /// <summary>
    /// With another note for the one that begins there. Throws <see cref="EditRefusedException"/> where there is none, and for a note that
    /// is too long.
    /// </summary>
    public static Labels Describe(Labels labels, SourceTime begin, string note)
    {
        var clean = TypedText.OneLine(note);
        if (clean.Length > LongestNote)
        {
            throw new EditRefusedException(
                string.Create(CultureInfo.InvariantCulture, $"A note of best seconds takes at most {LongestNote} characters.")
            );
        }
        var parts = Of(labels);
        return parts.All(p => p.Range.In != begin)
            ? throw new EditRefusedException("Those best seconds are no longer marked. Load the page again.")
            : Written(labels, parts.Select(p => p.Range.In == begin ? p with { Note = clean } : p));
    }

    /// <summary>Without the one that begins there.</summary>
    public static Labels Unmark(Labels labels, SourceTime begin) => Written(labels, Of(labels).Where(p => p.Range.In != begin));

    private static Labels Written(Labels labels, IEnumerable<BestPart> parts) =>
        labels with
        {
            Best = string.Join(
                '\n',
                parts
                    .OrderBy(p => p.Range.In)
                    .Select(p =>
                        string.Create(CultureInfo.InvariantCulture, $"{p.Range.In.FromZero.Units} {p.Range.Out.FromZero.Units} {p.Note}")
                    )
            ),
        };

    private static BestPart Read(string line)
    {
        var parts = line.Split(' ', 3);
        return new BestPart(new SourceRange(At(parts[0]), At(parts[1])), parts[2]);
    }

    private static SourceTime At(string units) => new(new MediaTime(long.Parse(units, CultureInfo.InvariantCulture)));
}
