using System.Globalization;
using EmberLane.Core.Finding;
using EmberLane.Core.Speech;
using EmberLane.Core.Transcripts;
using EmberLane.Engines.Speech;
using EmberLane.Footage;
using EmberLane.Store;

namespace EmberLane.Bench;

/// <summary>
/// Names that the recogniser does not know, said by made voices within sentences: how many of those that it wrote otherwise a rough
/// question finds within its first ten hits, and how many of these hits are right, beside the talk of all other sentences and the
/// demonstration's.
/// One half of the names is for tuning, the other for the figure that is reported.
/// </summary>
internal static class NamesBench
{
    private const int Rate = SilenceSegmenter.SampleRate,
        Decimation = 3,
        First = 10;

    private static readonly string[] Tuned =
    [
        "Tern Hollow",
        "Marlow Quill",
        "Tobias Fenn",
        "Ilse Varga",
        "Anselm Row",
        "Brackwater",
        "Hesper Lane",
        "Odo Pell",
        "Corrin Vale",
        "Tamsin Orrick",
        "Wexcombe",
        "Jory Penhale",
        "Saltmere",
        "Ludo Marsh",
        "Elowen Tregar",
        "Harrow Fold",
        "Bastian Keel",
        "Minna Roost",
        "Quarry Bank",
        "Osric Thane",
        "Lorne Skerry",
        "Petra Voss",
        "Dunmarrow",
        "Cass Oakhurst",
    ];

    private static readonly string[] Reported =
    [
        "Fallow Ness",
        "Maren Oakhurst",
        "Edda Krohn",
        "Silas Wend",
        "Thornby",
        "Linnet Grove",
        "Abel Torrin",
        "Roska Dell",
        "Vesper Hythe",
        "Callum Drey",
        "Inchmoor",
        "Greta Sand",
        "Morwen Pike",
        "Holt Barrow",
        "Juno Ashby",
        "Sedgewick",
        "Orla Finch",
        "Ravenscar Mill",
        "Toller Green",
        "Ivo Brandt",
        "Merrick Stowe",
        "Nessa Crane",
        "Pollard End",
        "Hanno Weir",
    ];

    private static readonly string[] Sentences =
    [
        "We walked as far as {0} before the rain came.",
        "I had a letter from {0} about the boat.",
        "Nobody ever asked {0} about the winter.",
        "My father always talked about {0} at night.",
    ];

    private static readonly FliteVoice[] Voices = [new("slt", 0, 0.95), new("rms", 0, 0.95)];

    public static async Task RunAsync(string repository)
    {
        await ShowAsync(repository, "the half that is tuned on", Tuned);
        await ShowAsync(repository, "the half that is reported", Reported);
    }

    private static async Task ShowAsync(string repository, string what, string[] names)
    {
        var folder = Directory.CreateTempSubdirectory("ember-names").FullName;
        try
        {
            var (sound, said) = await SayAsync(names, folder);
            var pcm = Path.Combine(folder, "talk.pcm");
            await PcmFile.WriteAsync(pcm, sound, CancellationToken.None);
            var heard = await SpeechBench.WordsAsync(pcm);
            var finder = Kept(repository, folder, heard);
            int misheard = 0,
                found = 0,
                right = 0,
                listed = 0;
            foreach (var (name, range) in said)
            {
                bool IsThere(SittingRange r) => r.In < range.Out && range.In < r.Out;
                var written = string.Join(' ', heard.Where(w => IsThere(RangeOf(w))).Select(w => w.Text));
                var folded = string.Join(' ', FoldedWords.Of(written));
                if (folded.Contains(string.Join(' ', FoldedWords.Of(name)), StringComparison.Ordinal))
                {
                    continue;
                }
                misheard++;
                var hits = finder.Find(QuestionText.Read($"kind:speech {name}", rough: true), null, First).Hits;
                // The same name is said twice: both places are right.
                var good = hits.Count(h =>
                    said.Any(s => s.Name == name && h.Sitting!.Id == 1 && h.Range!.Value.In < s.Range.Out && s.Range.In < h.Range.Value.Out)
                );
                found += hits.Any(h => h.Sitting!.Id == 1 && IsThere(h.Range!.Value)) ? 1 : 0;
                right += good;
                listed += hits.Count;
                if (Environment.GetEnvironmentVariable("EMBER_TELL") is not null)
                {
                    Console.WriteLine($"  {name}: “{written}” → {string.Join(", ", hits.Select(h => h.Text.Said))}");
                }
            }
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"names, {what}: {misheard} of {said.Count} written otherwise; of these {(double)found / misheard:0.0%} "
                        + $"found roughly within the first {First} hits, {(double)right / Math.Max(1, listed):0.0%} of these hits right"
                )
            );
        }
        finally
        {
            Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
            Directory.Delete(folder, recursive: true);
        }
    }

    private static async Task<(short[] Sound, List<(string Name, SittingRange Range)> Said)> SayAsync(string[] names, string folder)
    {
        var sound = new List<float>(new float[Rate]);
        var said = new List<(string, SittingRange)>();
        var random = new Random(1);
        foreach (var (v, voice) in Voices.Index())
        {
            foreach (var (n, name) in names.Index())
            {
                var sentence = Sentences[(n + v) % Sentences.Length];
                var before = sentence.Split("{0}")[0].Split(' ', StringSplitOptions.RemoveEmptyEntries).Length;
                var line = await voice.SayAsync(string.Format(CultureInfo.InvariantCulture, sentence, name), folder);
                var begins = 1000L * sound.Count / Rate;
                var count = name.Split(' ').Length;
                said.Add(
                    (
                        name,
                        new SittingRange(
                            At(begins + (long)(1000 * line.Words[before].Start)),
                            At(begins + (long)(1000 * line.Words[before + count - 1].End))
                        )
                    )
                );
                sound.AddRange(line.Samples.Where((_, i) => i % Decimation == 0));
                sound.AddRange(new float[Rate]);
            }
        }
        return (
            [.. sound.Select(s => (short)Math.Clamp(16_000 * (s + (0.003 * (random.NextDouble() - 0.5))), short.MinValue, short.MaxValue))],
            said
        );

        static SittingTime At(long milliseconds) => new(MediaTime.FromMilliseconds(milliseconds));
    }

    private static SittingRange RangeOf(RecognisedWord word) =>
        new(new SittingTime(word.Range.In.FromZero), new SittingTime(word.Range.Out.FromZero));

    // What was heard, and the demonstration's talk as it was heard.
    private static Finder Kept(string repository, string folder, IReadOnlyList<RecognisedWord> heard)
    {
        var database = new Database(Path.Combine(folder, "ember.sqlite"));
        var footage = new Store.Footage(database, TimeProvider.System);
        var transcripts = new Transcripts(database, TimeProvider.System);
        new Readings(database, transcripts).MakeFirst();
        var production = footage.AddProduction("Names");
        Add("Names", heard);
        foreach (
            var file in Directory
                .EnumerateFiles(Path.Combine(repository, "demo", "transcripts"), "*.words.json")
                .Order(StringComparer.Ordinal)
        )
        {
            Add(Path.GetFileName(file), WordsJson.Read(File.ReadAllText(file)).Words);
        }
        return new Finder(database, EnglishPronouncing.Read);

        void Add(string title, IReadOnlyList<RecognisedWord> words)
        {
            var sitting = footage.BringIn(production, title, [FindBench.Source(title)])!.Value;
            transcripts.Add(
                sitting,
                "local",
                "en",
                [.. words.Select((w, i) => new RecordWord(new(i), w.Text, RangeOf(w), null, 0))],
                new Dictionary<int, string>()
            );
        }
    }
}
