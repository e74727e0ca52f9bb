using System.Globalization;
using System.Text;
using EmberLane.Core.Stories;

namespace EmberLane.Core.Handoff;

/// <summary>
/// A piece of a story as it is read: its frames in the record, and of a card who, about what, the words, and from which sitting; of other
/// pieces what they are.
/// </summary>
public sealed record PaperLine(Piece Piece, long Frames, string Speaker, string Theme, string Said, string Sitting);

/// <summary>The story as a text to read.</summary>
public static class PaperEdit
{
    private const int Wide = 78;

    /// <summary>Each card with its record time, its place in the sitting and its length; the words are broken at 78 characters.</summary>
    public static string Write(string title, Timecode start, IReadOnlyList<PaperLine> lines)
    {
        var rate = start.Count.Rate;
        var text = new StringBuilder();
        var cards = lines.Count(l => l.Piece is Card);
        var running = rate.TimeOf(lines.Sum(l => l.Frames));
        text.Append(
            CultureInfo.InvariantCulture,
            $"{title}\n{cards} {(cards == 1 ? "card" : "cards")}, {running}, {start.Count} frames a second from {start}\n"
        );
        long record = 0;
        foreach (var line in lines)
        {
            if (line.Piece is SectionHead head)
            {
                text.Append(CultureInfo.InvariantCulture, $"\n{head.Name.ToUpperInvariant()}\n");
                continue;
            }
            if (line.Piece is not Card card)
            {
                text.Append(CultureInfo.InvariantCulture, $"\n{start.Later(record)}  ({rate.TimeOf(line.Frames)})\n");
                foreach (var row in Rows(line.Said))
                {
                    text.Append(row).Append('\n');
                }
                record += line.Frames;
                continue;
            }
            text.Append(
                CultureInfo.InvariantCulture,
                $"\n{start.Later(record)}  {line.Speaker.ToUpperInvariant()}{(line.Theme.Length > 0 ? " / " + line.Theme : "")}\n"
            );
            text.Append(CultureInfo.InvariantCulture, $"             {line.Sitting} at {card.Range.In}, {rate.TimeOf(line.Frames)} long\n");
            foreach (var row in Rows(line.Said))
            {
                text.Append(row).Append('\n');
            }
            record += line.Frames;
        }
        return text.ToString();
    }

    private static IEnumerable<string> Rows(string said)
    {
        var row = new StringBuilder();
        foreach (var word in said.Split(' '))
        {
            if (row.Length > 0 && row.Length + 1 + word.Length > Wide)
            {
                yield return row.ToString();
                row.Clear();
            }
            row.Append(row.Length > 0 ? " " : "").Append(word);
        }
        yield return row.ToString();
    }
}
