using System.Globalization;
using System.Text.RegularExpressions;

namespace EmberLane.Core.Handoff;

/// <summary>
/// Reads edit decision lists: any case, any run of blanks and tabs, LF or CRLF, blank and unknown lines, <c>;</c> or <c>.</c> before the
/// frames.
/// </summary>
public static partial class EdlReader
{
    /// <summary>
    /// Reads a list whose frames run at <paramref name="rate"/>, which the text itself does not say. FCM says how record times count; a
    /// source time with <c>;</c> or <c>.</c> counts drop frame where the rate has it. Throws <see cref="FormatException"/> with the line's
    /// number and the reason.
    /// </summary>
    public static EventList Read(string text, FrameRate rate)
    {
        var title = "";
        var count = new TimecodeCount(rate, false);
        var events = new List<ListedEvent>();
        var comments = new List<List<string>>();
        var number = 0;
        foreach (var raw in text.TrimStart('\uFEFF').Split('\n'))
        {
            number++;
            var line = Blanks().Replace(raw, " ").Trim();
            if (line.Length == 0)
            {
                continue;
            }
            if (Starts(line, "TITLE:"))
            {
                title = line["TITLE:".Length..].Trim();
            }
            else if (Starts(line, "FCM:"))
            {
                var drop =
                    !line.Contains("NON", StringComparison.OrdinalIgnoreCase) && line.Contains("DROP", StringComparison.OrdinalIgnoreCase);
                count =
                    drop && !TimecodeCount.CanDrop(rate)
                        ? throw Bad(number, $"it says drop frame, which does not exist at {rate}")
                        : new TimecodeCount(rate, drop);
            }
            else if (line[0] == '*' && events.Count > 0)
            {
                comments[^1].Add(line[1..].Trim());
            }
            else if (Starts(line, "AUD ") && events.Count > 0)
            {
                events[^1] = events[^1] with
                {
                    ExtraChannels =
                    [
                        .. line[4..].Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(c => Whole(c, number, "a channel")),
                    ],
                };
            }
            else if (char.IsAsciiDigit(line[0]))
            {
                events.Add(Event(line.Split(' '), count, number));
                comments.Add([]);
            }
        }
        return new EventList(title, count, [.. events.Zip(comments, (e, said) => e with { Comments = said })]);
    }

    private static ListedEvent Event(string[] fields, TimecodeCount count, int line)
    {
        var dissolve = fields.Length > 3 && fields[3].Equals("D", StringComparison.OrdinalIgnoreCase);
        var times = dissolve ? 5 : 4;
        if (fields.Length != times + 4)
        {
            throw Bad(line, "an event needs a number, a reel, a track, a transition and four times");
        }
        var track =
            EdlTracks.Read(fields[2]) ?? throw Bad(line, $"“{fields[2]}” is not a track; known are {string.Join(", ", EdlTracks.All)}");
        if (!dissolve && !fields[3].Equals("C", StringComparison.OrdinalIgnoreCase))
        {
            throw Bad(line, $"the transition “{fields[3]}” is not one that is read here; known are C and D");
        }
        var e = new ListedEvent(
            Whole(fields[0], line, "an event number"),
            fields[1],
            track,
            dissolve ? Whole(fields[4], line, "a number of frames") : null,
            Source(fields[times], count, line),
            Source(fields[times + 1], count, line),
            Time(fields[times + 2], count, line),
            Time(fields[times + 3], count, line),
            [],
            []
        );
        return e.RecordOut.Frame < e.RecordIn.Frame ? throw Bad(line, "the record out lies before the record in") : e;
    }

    private static Timecode Source(string text, TimecodeCount record, int line)
    {
        var drop =
            TimecodeCount.CanDrop(record.Rate)
            && (text.Contains(';', StringComparison.Ordinal) || text.Contains('.', StringComparison.Ordinal));
        return Time(text, new TimecodeCount(record.Rate, drop), line);
    }

    private static Timecode Time(string text, TimecodeCount count, int line) =>
        count.TryParse(text, out var time, out var error) ? time.Value : throw Bad(line, error);

    private static int Whole(string text, int line, string what) =>
        int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var value)
            ? value
            : throw Bad(line, $"“{text}” is not {what}");

    private static bool Starts(string line, string with) => line.StartsWith(with, StringComparison.OrdinalIgnoreCase);

    private static FormatException Bad(int line, string reason) =>
        new(string.Create(CultureInfo.InvariantCulture, $"Line {line}: {reason}."));

    [GeneratedRegex(@"[ \t\r\f\v]+")]
    private static partial Regex Blanks();
}
