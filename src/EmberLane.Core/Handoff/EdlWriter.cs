using System.Globalization;
using System.Text;

namespace EmberLane.Core.Handoff;

/// <summary>Writes event lists as docs/formats.md describes them, the trade's 3600-style text.</summary>
public static class EdlWriter
{
    /// <summary>
    /// One text a file. More than 999 events continue in a further file that starts again at 001 while record times go on; lines of one
    /// event stay together.
    /// </summary>
    public static IReadOnlyList<string> Write(EventList list)
    {
        var files = new List<string>();
        var file = new StringBuilder();
        int number = 0,
            last = int.MinValue;
        Begin(file, list, 1);
        foreach (var line in list.Events)
        {
            if (line.Number != last)
            {
                last = line.Number;
                if (++number > EventList.MostEvents)
                {
                    files.Add(file.ToString());
                    file.Clear();
                    Begin(file, list, files.Count + 1);
                    number = 1;
                }
            }
            Line(file, line, number);
        }
        files.Add(file.ToString());
        return files;
    }

    private static void Begin(StringBuilder file, EventList list, int part)
    {
        var title = Plain(list.Title).ToUpperInvariant();
        file.Append(CultureInfo.InvariantCulture, $"TITLE: {title}{(part > 1 ? FormattableString.Invariant($" PART {part}") : "")}\n");
        file.Append("FCM: ").Append(list.Count.DropFrame ? "DROP FRAME" : "NON-DROP FRAME").Append("\n\n");
    }

    private static void Line(StringBuilder file, ListedEvent e, int number)
    {
        var transition = e.DissolveFrames is { } frames ? FormattableString.Invariant($"D    {frames:000}") : "C       ";
        file.Append(
            CultureInfo.InvariantCulture,
            $"{number:000}  {e.Reel,-8} {e.Track.Code(),-5} {transition} {e.SourceIn} {e.SourceOut} {e.RecordIn} {e.RecordOut}\n"
        );
        if (e.ExtraChannels.Count > 0)
        {
            file.Append("AUD  ").AppendJoin("  ", e.ExtraChannels).Append('\n');
        }
        foreach (var comment in e.Comments)
        {
            file.Append("* ").Append(OneLine(comment)).Append('\n');
        }
    }

    private static string OneLine(string text) => TypedText.OneLine(text);

    // Programs that show the title in a page, or keep the list as markup, trip over these.
    private static string Plain(string title) =>
        OneLine(title.Replace("&", " and ", StringComparison.Ordinal).Replace('<', '(').Replace('>', ')').Replace('"', '\''));

    /// <summary>
    /// A list as it is kept: programs that read such lists expect ASCII, so that letters with marks lose them, signs become those of a
    /// typewriter, and what is left becomes a question mark.
    /// </summary>
    public static byte[] Bytes(string list)
    {
        var ascii = new StringBuilder(list.Length);
        for (var at = 0; at < list.Length;)
        {
            var plain = list.AsSpan(at).IndexOfAnyExceptInRange('\0', '\x7F');
            ascii.Append(list, at, plain < 0 ? list.Length - at : plain);
            at = plain < 0 ? list.Length : at + plain;
            var odd = list.AsSpan(at).IndexOfAnyInRange('\0', '\x7F');
            var end = odd < 0 ? list.Length : at + odd;
            foreach (var c in Finding.FoldedWords.Decomposed(list[at..end]))
            {
                if (CharUnicodeInfo.GetUnicodeCategory(c) != UnicodeCategory.NonSpacingMark)
                {
                    ascii.Append(Typed(c));
                }
            }
            at = end;
        }
        return Encoding.ASCII.GetBytes(ascii.ToString());
    }

    private static string Typed(char c) =>
        c switch
        {
            '“' or '”' or '„' or '«' or '»' or '‘' or '’' or '‚' or '‹' or '›' => "'",
            '–' or '—' or '‐' or '−' => "-",
            '×' => "x",
            'ß' => "ss",
            'æ' => "ae",
            'Æ' => "AE",
            'œ' => "oe",
            'Œ' => "OE",
            'ø' => "o",
            'Ø' => "O",
            'ł' => "l",
            'Ł' => "L",
            'đ' or 'ð' => "d",
            'Đ' or 'Ð' => "D",
            'þ' => "th",
            'Þ' => "TH",
            _ => c.ToString(),
        };
}
