using System.Globalization;
using System.Text.RegularExpressions;
using EmberLane.Core.Import;
using EmberLane.Core.Speech;
using EmberLane.Core.Transcripts;

namespace EmberLane.Bench;

/// <summary>
/// The texts that the demonstration is read by: what a typist made of it, laid onto the words that were heard by our own feature, and
/// settled but for a few words. Written into demo/transcripts beside what was heard.
/// </summary>
internal static partial class DemoTexts
{
    private static readonly PerMille Settled = new(900);

    private static readonly (string Sitting, IReadOnlyDictionary<string, string> Names)[] Sittings =
    [
        (
            "first-crossing",
            new Dictionary<string, string>
            {
                ["MAREN"] = "Maren Oakhurst",
                ["TOBIAS"] = "Tobias Fenn",
                ["INTERVIEWER"] = "Interviewer",
            }
        ),
        ("school-hut", new Dictionary<string, string> { ["ILSE"] = "Ilse Varga", ["INTERVIEWER"] = "Interviewer" }),
    ];

    // Words that the typist was not sure of, as they were typed, and how sure: something to settle for who tries it.
    private static readonly Dictionary<string, (string Typed, int Sure)> Doubtful = new(StringComparer.Ordinal)
    {
        ["the quarry boat"] = ("quay", 340),
        ["on the ramp. Twice"] = ("lamp.", 310),
        ["gulls"] = ("girls.", 360),
        ["Anselm Roe"] = ("Row", 380),
        ["rails, and"] = ("rails,", 390),
        ["wet Thursday"] = ("Thursday,", 370),
    };

    public static void Write(string repository)
    {
        foreach (var (sitting, names) in Sittings)
        {
            var heard = WordsJson.Read(File.ReadAllText(Path.Combine(repository, "demo", "transcripts", sitting + ".words.json")));
            var labels = heard.Words.Select(w => w.Voice ?? "").Distinct().ToList();
            var transcript = new Transcript(
                [
                    .. heard.Words.Select(
                        (w, i) =>
                            new RecordWord(
                                new(i),
                                w.Text,
                                new SittingRange(new SittingTime(w.Range.In.FromZero), new SittingTime(w.Range.Out.FromZero)),
                                w.Confidence,
                                labels.IndexOf(w.Voice ?? ""),
                                w.VoiceSure
                            )
                    ),
                ],
                Layers.None
            );
            var typed = string.Join(
                '\n',
                File.ReadLines(Path.Combine(repository, "demo", "script", sitting + ".txt"))
                    .Select(l => Line().Match(l))
                    .Where(m => m.Success)
                    .Select(m => $"{m.Groups["who"].Value}: {m.Groups["said"].Value}")
            );
            var laid = NewText.Of(TextFiles.Read("typed.txt", typed), transcript, transcript.Words[^1].Range.Out, [.. names.Values]);
            var words = Unsure(laid.Words.Select(w => w with { Confidence = w.Confidence > Settled ? w.Confidence : Settled }).ToList());
            File.WriteAllText(
                Path.Combine(repository, "demo", "transcripts", sitting + ".typed.json"),
                WordsJson.Write(
                    new WordList(
                        "en",
                        [
                            .. words.Select(w => new RecognisedWord(
                                w.Text,
                                new SourceRange(new SourceTime(w.Range.In.FromZero), new SourceTime(w.Range.Out.FromZero)),
                                w.Confidence,
                                laid.Names[w.Voice]
                            )),
                        ]
                    )
                )
            );
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{sitting}: {words.Count} words, {laid.HeardPercent} of 100 heard, "
                        + $"{words.Count(w => w.Confidence < Transcript.DoubtBelow)} doubtful"
                )
            );
        }
    }

    private static List<RecordWord> Unsure(List<RecordWord> words)
    {
        foreach (var (passage, (typed, sure)) in Doubtful)
        {
            var looked = passage.Split(' ');
            var at = Enumerable
                .Range(0, Math.Max(0, words.Count - looked.Length + 1))
                .FirstOrDefault(
                    i => looked.Select((w, k) => words[i + k].Text.StartsWith(w, StringComparison.Ordinal)).All(same => same),
                    -1
                );
            if (at >= 0)
            {
                // The doubtful one is the word that was typed otherwise, or the one that is named.
                var which = Enumerable
                    .Range(at, looked.Length)
                    .MaxBy(i =>
                        words[i].Text.StartsWith(typed[..2], StringComparison.Ordinal) ? 2
                        : words[i].Text.Length > 3 ? 1
                        : 0
                    );
                words[which] = words[which] with { Text = typed, Confidence = new(sure) };
            }
        }
        return words;
    }

    [GeneratedRegex(@"^(?<who>[A-Z]+) -?[0-9.]+: (?<said>.+)$")]
    private static partial Regex Line();
}
