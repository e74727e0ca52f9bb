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

/// <summary>A paragraph: who, from when to when, and what is said.</summary>
public sealed record TextPiece(string Name, SittingTime In, SittingTime Out, string Said);

/// <summary>
/// Writes a transcript as it is read in the open forms of docs/formats.md. Words taken out of the text and what is set aside are left out
/// unless they are asked for; what is off the record is left out always.
/// </summary>
public static class TranscriptText
{
    private const string Behind = ": ";

    private static readonly CsvConfiguration Table = new(CultureInfo.InvariantCulture)
    {
        NewLine = "\r\n",
        InjectionOptions = InjectionOptions.Escape,
    };

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

    /// <summary>
    /// SubRip captions by the rules, each of one person. Where names are wanted the name stands before the words, on a line of its own
    /// where it would leave them no room.
    /// </summary>
    public static string SubRip(Transcript transcript, TextChoice choice, CaptionRules rules)
    {
        var words = Recognised(transcript, choice).ToList();
        rules = rules with { AreSpeakersApart = true };
        if (!choice.Names)
        {
            return CaptionFiles.SubRip(CaptionMaker.Make(words, rules, []));
        }
        var longest = words.Max(w => w.Voice?.Length) + Behind.Length ?? 0;
        var isBeside = longest * 2 <= rules.Line;
        var made = CaptionMaker.Make(
            words,
            isBeside
                ? rules with
                {
                    Line = rules.Line - longest,
                    AreSpeakersApart = true,
                }
                : rules with
                {
                    Lines = Math.Max(1, rules.Lines - 1),
                    AreSpeakersApart = true,
                },
            []
        );
        return CaptionFiles.SubRip([.. made.Select(c => c with { Lines = Named(c.Lines, isBeside) })]);
    }

    /// <summary>WebVTT captions by the rules, each of one person, the name as a voice span where names are wanted.</summary>
    public static string WebVtt(Transcript transcript, TextChoice choice, CaptionRules rules)
    {
        var made = CaptionMaker.Make([.. Recognised(transcript, choice)], rules with { AreSpeakersApart = choice.Names }, []);
        return CaptionFiles.WebVtt(
            choice.Names ? made : [.. made.Select(c => c with { Lines = [.. c.Lines.Select(l => l with { Who = null })] })]
        );
    }

    private static IReadOnlyList<CaptionLine> Named(IReadOnlyList<CaptionLine> lines, bool isBeside) =>
        lines[0] is not { Who: { } who } first ? lines
        : isBeside ? [first with { Said = who + Behind + first.Said }, .. lines.Skip(1)]
        : [first with { Said = (who + Behind).TrimEnd() }, .. lines];

    /// <summary>Words JSON, each word with its time on the sitting's clock.</summary>
    public static string Words(Transcript transcript, TextChoice choice, string language) =>
        WordsJson.Write(
            new WordList(language, [.. Recognised(transcript, choice).Select(w => choice.Names ? w : w with { Voice = null })])
        );

    private static IEnumerable<RecognisedWord> Recognised(Transcript transcript, TextChoice choice) =>
        transcript
            .Units(choice.First, choice.Last, choice.Hidden, choice.Aside)
            .Where(w => !w.Any(transcript.IsHeld))
            .Select(w => new RecognisedWord(
                transcript.Said(w),
                new SourceRange(new SourceTime(w[0].Range.In.FromZero), new SourceTime(w[^1].Range.Out.FromZero)),
                w[0].Confidence
            )
            {
                Voice = transcript.NameOf(transcript.VoiceOf(w[0])),
            });

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

    // A recogniser's words may lie over one another by a little; a paragraph never ends before it begins.
    private static TextPiece Of(Transcript transcript, int voice, List<RecordWord> words) =>
        new(transcript.NameOf(voice), words[0].Range.In, words.Max(w => w.Range.Out), transcript.Said(words));

    /// <summary>Hours, minutes, seconds and milliseconds, with a mark before the last.</summary>
    public static string Clock(SittingTime at, char mark)
    {
        var milliseconds = Math.Max(0, at.FromZero.ToMillisecondsRounded());
        return string.Create(
            CultureInfo.InvariantCulture,
            $"{milliseconds / 3_600_000:00}:{milliseconds / 60_000 % 60:00}:{milliseconds / 1000 % 60:00}{mark}{milliseconds % 1000:000}"
        );
    }
}
