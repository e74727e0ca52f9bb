using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;
using EmberLane.Core.Speech;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Captions;

/// <summary>
/// What is taken out of a transcript: the words from the first to the last place, both included, with or without names, times, the words
/// that were taken out of the text, and what is set aside.
/// </summary>
public sealed record TextChoice(TextPlace First, TextPlace Last, bool Names, bool Times, bool Hidden = false, bool Aside = false);

/// <summary>A paragraph or caption: who, from when to when, and what is said.</summary>
public sealed record TextPiece(string Name, SittingTime In, SittingTime Out, string Said);

/// <summary>
/// Writes a transcript as it is read in the open forms of docs/formats.md. Words taken out of the text and what is set aside are left out
/// unless they are asked for; what is off the record is left out always.
/// </summary>
public static class TranscriptText
{
    private const int LineLetters = 42,
        Lines = 2;

    private static readonly CsvConfiguration Table = new(CultureInfo.InvariantCulture)
    {
        NewLine = "\r\n",
        InjectionOptions = InjectionOptions.Escape,
    };

    private static readonly MediaTime LongestCaption = MediaTime.FromMilliseconds(6_000),
        Pause = MediaTime.FromMilliseconds(900);

    /// <summary>Plain text, a paragraph a turn: <c>[00:01:05] MAREN: words</c>.</summary>
    public static string Plain(Transcript transcript, TextChoice choice) =>
        string.Concat(
            Spoken(transcript, choice)
                .Select(p =>
                    (choice.Times ? $"[{Clock(p.In, ',')[..8]}] " : "")
                    + (choice.Names ? p.Name.ToUpperInvariant() + ": " : "")
                    + p.Said
                    + "\n"
                )
        );

    /// <summary>
    /// CSV (RFC 4180) with a header row. A cell that a spreadsheet would take for a formula gets an apostrophe before it.
    /// </summary>
    public static string Csv(Transcript transcript, TextChoice choice)
    {
        using var text = new StringWriter(CultureInfo.InvariantCulture);
        using (var csv = new CsvWriter(text, Table))
        {
            Row("start", "end", "name", "words");
            foreach (var piece in Spoken(transcript, choice))
            {
                Row(Clock(piece.In, '.'), Clock(piece.Out, '.'), piece.Name, piece.Said);
            }

            void Row(string from, string to, string name, string said)
            {
                foreach (var cell in choice.Times ? [from, to] : Array.Empty<string>())
                {
                    csv.WriteField(cell);
                }
                if (choice.Names)
                {
                    csv.WriteField(name);
                }
                csv.WriteField(said);
                csv.NextRecord();
            }
        }
        return text.ToString();
    }

    /// <summary>SubRip captions: two lines of 42 letters, six seconds at most, lines end with CR LF.</summary>
    public static string SubRip(Transcript transcript, TextChoice choice) =>
        string.Concat(
            Captions(transcript, choice, choice.Names)
                .Select(
                    (c, i) =>
                        string.Create(
                            CultureInfo.InvariantCulture,
                            $"{i + 1}\r\n{Clock(c.In, ',')} --> {Clock(c.Out, ',')}\r\n"
                                + $"{string.Join("\r\n", Wrapped((choice.Names ? c.Name + ": " : "") + c.Said))}\r\n\r\n"
                        )
                )
        );

    /// <summary>WebVTT captions, the name as a voice span.</summary>
    public static string WebVtt(Transcript transcript, TextChoice choice) =>
        "WEBVTT\n"
        + string.Concat(
            Captions(transcript, choice, nameIsShown: false)
                .Select(c =>
                    $"\n{Clock(c.In, '.')} --> {Clock(c.Out, '.')}\n"
                    + $"{(choice.Names ? $"<v {Escaped(c.Name)}>" : "")}{Escaped(string.Join('\n', Wrapped(c.Said)))}\n"
                )
        );

    /// <summary>Words JSON, each word with its time on the sitting's clock.</summary>
    public static string Words(Transcript transcript, TextChoice choice, string language) =>
        WordsJson.Write(
            new WordList(
                language,
                [
                    .. transcript
                        .Units(choice.First, choice.Last, choice.Hidden, choice.Aside)
                        .Where(w => !w.Any(transcript.IsHeld))
                        .Select(w => new RecognisedWord(
                            transcript.Said(w),
                            new SourceRange(new SourceTime(w[0].Range.In.FromZero), new SourceTime(w[^1].Range.Out.FromZero)),
                            w[0].Confidence
                        )
                        {
                            Voice = choice.Names ? transcript.NameOf(transcript.VoiceOf(w[0])) : null,
                        }),
                ]
            )
        );

    private static IEnumerable<RecordWord> Between(Transcript transcript, TextPlace first, TextPlace last, TextChoice choice) =>
        transcript
            .Between(first, last)
            .Where(w => (choice.Hidden || !transcript.IsHidden(w)) && (choice.Aside ? !transcript.IsHeld(w) : !transcript.IsAside(w)));

    /// <summary>A paragraph a turn.</summary>
    public static IEnumerable<TextPiece> Spoken(Transcript transcript, TextChoice choice) =>
        Turns
            .Lay(transcript)
            .Select(t =>
                (
                    t.Voice,
                    Words: Between(
                            transcript,
                            t.First < choice.First ? choice.First : t.First,
                            t.Last > choice.Last ? choice.Last : t.Last,
                            choice
                        )
                        .ToList()
                )
            )
            .Where(t => t.Words.Count > 0)
            .Select(t => Of(transcript, t.Voice, t.Words));

    private static IEnumerable<TextPiece> Captions(Transcript transcript, TextChoice choice, bool nameIsShown)
    {
        var held = new List<RecordWord>();
        foreach (var word in Between(transcript, choice.First, choice.Last, choice))
        {
            if (
                held.Count > 0
                && (
                    transcript.VoiceOf(held[^1]) != transcript.VoiceOf(word)
                    || word.Range.In - held[^1].Range.Out > Pause
                    || word.Range.Out - held[0].Range.In > LongestCaption
                    || Wrapped(
                        (nameIsShown ? transcript.NameOf(transcript.VoiceOf(word)) + ": " : "") + transcript.Said(held.Append(word))
                    ).Count > Lines
                )
            )
            {
                yield return Of(transcript, transcript.VoiceOf(held[0]), held);
                held = [];
            }
            held.Add(word);
        }
        if (held.Count > 0)
        {
            yield return Of(transcript, transcript.VoiceOf(held[0]), held);
        }
    }

    // A recogniser's words may lie over one another by a little; a caption never ends before it begins.
    private static TextPiece Of(Transcript transcript, int voice, List<RecordWord> words) =>
        new(transcript.NameOf(voice), words[0].Range.In, words.Max(w => w.Range.Out), transcript.Said(words));

    private static List<string> Wrapped(string said)
    {
        var lines = new List<string> { "" };
        foreach (var word in said.Split(' '))
        {
            if (lines[^1].Length > 0 && lines[^1].Length + 1 + word.Length > LineLetters)
            {
                lines.Add("");
            }
            lines[^1] += (lines[^1].Length > 0 ? " " : "") + word;
        }
        return lines;
    }

    /// <summary>Hours, minutes, seconds and milliseconds, with a mark before the last.</summary>
    public static string Clock(SittingTime at, char mark)
    {
        var milliseconds = Math.Max(0, at.FromZero.ToMillisecondsRounded());
        return string.Create(
            CultureInfo.InvariantCulture,
            $"{milliseconds / 3_600_000:00}:{milliseconds / 60_000 % 60:00}:{milliseconds / 1000 % 60:00}{mark}{milliseconds % 1000:000}"
        );
    }

    private static string Escaped(string text) =>
        text.Replace("&", "&amp;", StringComparison.Ordinal)
            .Replace("<", "&lt;", StringComparison.Ordinal)
            .Replace(">", "&gt;", StringComparison.Ordinal);
}
