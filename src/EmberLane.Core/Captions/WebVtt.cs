using System.Globalization;
using System.Net;
using System.Text.RegularExpressions;
using EmberLane.Core.Speech;

namespace EmberLane.Core.Captions;

/// <summary>
/// Reads words from WebVTT (W3C). A cue's time is shared among its words by their letters, also where several people speak in it, except
/// where the text itself holds times.
/// </summary>
public static partial class WebVtt
{
    /// <summary>The words in order of their starts. Throws <see cref="FormatException"/> with the line's number and the reason.</summary>
    public static IReadOnlyList<RecognisedWord> ReadWords(string text) =>
        [.. ReadCues(text).SelectMany(c => c.Words).OrderBy(w => w.Range.In)];

    private const string Signature = "WEBVTT";

    private static List<(int Line, List<RecognisedWord> Words)> ReadCues(string text, CancellationToken cancel = default)
    {
        var lines = text.TrimStart('\uFEFF').ReplaceLineEndings("\n").Split('\n');
        if (!lines[0].StartsWith(Signature, StringComparison.Ordinal) || lines[0][Signature.Length..] is [not (' ' or '\t'), ..])
        {
            throw new FormatException("Line 1: a WebVTT file begins with WEBVTT.");
        }
        var cues = new List<(int, List<RecognisedWord>)>();
        for (var i = 1; i < lines.Length; i++)
        {
            cancel.ThrowIfCancellationRequested();
            if (!lines[i].Contains("-->", StringComparison.Ordinal))
            {
                continue;
            }
            var times = Timing().Match(lines[i]);
            if (!times.Success)
            {
                throw Bad(i, "the times of a cue are written 00:01.000 --> 00:02.000");
            }
            SourceTime start = Time(times.Groups[1].Value, i),
                end = Time(times.Groups[2].Value, i);
            if (end < start)
            {
                throw Bad(i, "the cue ends before it begins");
            }
            var (said, first) = (new List<string>(), i + 1);
            while (i + 1 < lines.Length && lines[i + 1].Length > 0)
            {
                said.Add(lines[++i]);
            }
            cues.Add((first, Cue(string.Join(' ', said), start, end, i)));
        }
        return cues;
    }

    /// <summary>The cues as lines of typed text; a cue in which several speak gives a line each.</summary>
    public static IReadOnlyList<Import.TypedLine> ReadLines(string text, CancellationToken cancel = default) =>
        [
            .. ReadCues(text, cancel)
                .SelectMany(c =>
                    Runs(c.Words)
                        .Select(r => new Import.TypedLine(
                            c.Line,
                            r[0].Voice,
                            string.Join(' ', r.Select(w => w.Text)),
                            r[0].Range.In.FromZero,
                            r[^1].Range.Out.FromZero
                        ))
                ),
        ];

    private static IEnumerable<List<RecognisedWord>> Runs(List<RecognisedWord> words)
    {
        for (var first = 0; first < words.Count;)
        {
            var run = words.Skip(first).TakeWhile(w => w.Voice == words[first].Voice).ToList();
            yield return run;
            first += run.Count;
        }
    }

    private static List<RecognisedWord> Cue(string text, SourceTime start, SourceTime end, int line)
    {
        string? voice = null;
        var at = start;
        var words = new List<RecognisedWord>();
        var waiting = new List<(string Text, string? Voice)>();
        void Share(SourceTime until)
        {
            var letters = Math.Max(1, waiting.Sum(w => w.Text.Length));
            var before = 0;
            foreach (var (word, who) in waiting)
            {
                var span = until < at ? MediaTime.Zero : until - at;
                var from = at + new MediaTime(Exact.FloorDivide((Int128)span.Units * before, letters));
                before += word.Length;
                words.Add(
                    new RecognisedWord(
                        word,
                        new SourceRange(from, at + new MediaTime(Exact.FloorDivide((Int128)span.Units * before, letters))),
                        null,
                        who
                    )
                );
            }
            waiting.Clear();
        }
        foreach (Match part in Parts().Matches(text))
        {
            var token = part.Value;
            if (token[0] != '<')
            {
                var read = WebUtility.HtmlDecode(token).Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries);
                waiting.AddRange(read.Select(w => (w, voice)));
            }
            else if (token.Length > 1 && char.IsAsciiDigit(token[1]))
            {
                var stamp = Time(token[1..^1], line);
                Share(stamp);
                at = stamp;
            }
            else if (token == "</v>")
            {
                voice = null;
            }
            else if (Voice().Match(token) is { Success: true } named)
            {
                voice = WebUtility.HtmlDecode(named.Groups[1].Value).Trim();
            }
        }
        Share(end);
        return words;
    }

    private static SourceTime Time(string text, int line)
    {
        var fields = text.Split(':');
        if (
            fields.Length is not (2 or 3)
            || !decimal.TryParse(fields[^1], NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var seconds)
            || seconds >= 60
            || !int.TryParse(fields[^2], NumberStyles.None, CultureInfo.InvariantCulture, out var minutes)
            || minutes > 59
        )
        {
            throw Bad(line, $"“{text}” is not a time");
        }
        var hours = fields.Length == 3 && int.TryParse(fields[0], NumberStyles.None, CultureInfo.InvariantCulture, out var h) ? h : 0;
        return hours > 9999
            ? throw Bad(line, $"“{text}” is not a time")
            : new SourceTime(MediaTime.FromSecondsRounded((hours * 3600m) + (minutes * 60m) + seconds));
    }

    private static FormatException Bad(int line, string reason) =>
        new(string.Create(CultureInfo.InvariantCulture, $"Line {line + 1}: {reason}."));

    [GeneratedRegex(@"^\s*([0-9:.]+)\s+-->\s+([0-9:.]+)(\s.*)?$")]
    private static partial Regex Timing();

    [GeneratedRegex(@"<[^<>]*>|[^<]+")]
    private static partial Regex Parts();

    [GeneratedRegex(@"^<v(?:\.[^ \t>]*)?[ \t]+([^>]+)>$")]
    private static partial Regex Voice();
}
