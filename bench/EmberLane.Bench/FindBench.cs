using System.Diagnostics;
using System.Globalization;
using EmberLane.Core.Finding;
using EmberLane.Core.Signal;
using EmberLane.Core.Transcripts;
using EmberLane.Engines.Speech;
using EmberLane.Store;
using Microsoft.Data.Sqlite;

namespace EmberLane.Bench;

/// <summary>
/// Ten million words in a thousand hours, of a made vocabulary in which few words are frequent and most are rare: how soon the first hits
/// of a question are there, beside what the full-text engine takes for the same; how large the index is; and how soon a mended word is
/// found.
/// </summary>
internal static class FindBench
{
    private const int Words = 15_000,
        Vocabulary = 50_000,
        WordMilliseconds = 360,
        Asked = 120,
        First = 50,
        Rounds = 2;

    public static async Task RunAsync(int sittings, string? keep)
    {
        var folder = keep ?? Directory.CreateTempSubdirectory("ember-find").FullName;
        Directory.CreateDirectory(folder);
        try
        {
            var path = Path.Combine(folder, "ember.sqlite");
            var vocabulary = MadeVocabulary(new Random(3));
            if (!File.Exists(path + ".made"))
            {
                Make(path, sittings, vocabulary);
                await File.WriteAllTextAsync(path + ".made", "");
            }
            var database = new Database(path);
            Sizes(database);
            Ask(database, vocabulary);
            Mend(database);
        }
        finally
        {
            if (keep is null)
            {
                SqliteConnection.ClearAllPools();
                Directory.Delete(folder, recursive: true);
            }
        }
    }

    private static void Make(string path, int sittings, string[] vocabulary)
    {
        var watch = Stopwatch.StartNew();
        var database = new Database(path);
        var footage = new Store.Footage(database, TimeProvider.System);
        var transcripts = new Transcripts(database, TimeProvider.System);
        new Readings(database, transcripts).MakeFirst();
        var production = footage.AddProduction("A thousand hours");
        for (var n = 0; n < sittings; n++)
        {
            var random = new Random(n);
            var sitting = footage
                .BringIn(
                    production,
                    FormattableString.Invariant($"Conversation {n + 1:000}"),
                    [Source(n.ToString(CultureInfo.InvariantCulture))]
                )!
                .Value;
            transcripts.Add(
                sitting,
                "made",
                "en",
                [
                    .. Enumerable
                        .Range(0, Words)
                        .Select(i => new RecordWord(
                            new(i),
                            Draw(vocabulary, random) + (i % 14 == 13 ? "." : ""),
                            new SittingRange(At(i), At(i) + MediaTime.FromMilliseconds(WordMilliseconds - 60)),
                            null,
                            i / 41 % 4
                        )),
                ],
                new Dictionary<int, string>
                {
                    [0] = "Maren Oakhurst",
                    [1] = "Tobias Fennel",
                    [2] = FormattableString.Invariant($"Guest {n % 25 + 1}"),
                    [3] = FormattableString.Invariant($"Neighbour {n % 40 + 1}"),
                }
            );
        }
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{sittings} texts of {Words} words written and indexed in {watch.Elapsed.TotalSeconds:0} s"
            )
        );
    }

    private static SittingTime At(int word) => new(MediaTime.FromMilliseconds((long)word * WordMilliseconds));

    /// <summary>A source that was never recorded.</summary>
    internal static NewSource Source(string name) =>
        new(
            $"/footage/{name}.wav",
            $"{name}.wav",
            5,
            "find" + name,
            new Core.Media.SourceFacts(
                "wav",
                MediaTime.FromMilliseconds((long)Words * WordMilliseconds),
                null,
                [],
                Core.Media.StartOfFile.Unknown,
                null,
                null,
                null
            )
        );

    // Made words of two to four syllables; the first ones come often (Zipf, 1935).
    private static string[] MadeVocabulary(Random random) => MadeWords(random, Vocabulary);

    /// <summary>So many made words.</summary>
    internal static string[] MadeWords(Random random, int count)
    {
        string[] begins = ["b", "br", "c", "d", "f", "fl", "g", "h", "k", "l", "m", "n", "p", "pr", "r", "s", "st", "t", "tr", "v", "w"],
            middles = ["a", "e", "i", "o", "u", "ai", "ea", "ou"],
            ends = ["", "n", "r", "l", "s", "t", "m", "nd"];
        var words = new HashSet<string>();
        while (words.Count < count)
        {
            words.Add(
                string.Concat(
                    Enumerable
                        .Range(0, random.Next(1, 4))
                        .Select(_ =>
                            begins[random.Next(begins.Length)] + middles[random.Next(middles.Length)] + ends[random.Next(ends.Length)]
                        )
                )
            );
        }
        return [.. words.OrderBy(w => w.Length).ThenBy(w => w, StringComparer.Ordinal)];
    }

    private static string Draw(string[] vocabulary, Random random) =>
        vocabulary[(int)Math.Min(vocabulary.Length - 1, Math.Exp(random.NextDouble() * Math.Log(vocabulary.Length + 1)) - 1)];

    private static void Sizes(Database database)
    {
        var (text, index) = database.Read(c =>
            (
                c.Query("SELECT SUM(LENGTH(text) + 1) FROM word", r => r.GetInt64(0)).Single(),
                // What the rows hold, and eight bytes for the number of each; the vocabulary twice more for its indices.
                new[]
                {
                    "SELECT SUM(LENGTH(passage) + 16) FROM find_entry",
                    "SELECT SUM(LENGTH(block) + 8) FROM find_text_data",
                    "SELECT SUM(LENGTH(sz) + 8) FROM find_text_docsize",
                    "SELECT SUM(3 * (LENGTH(term) + LENGTH(stem) + LENGTH(said) + 10)) FROM find_term",
                }.Sum(q => c.Query(q, r => r.GetInt64(0)).Single())
            )
        );
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"index: {index / 1e6:0} MB for {text / 1e6:0} MB of text, {(double)index / text:0.00} of it"
            )
        );
    }

    private static void Ask(Database database, string[] vocabulary)
    {
        var finder = new Finder(database, EnglishPronouncing.Read);
        var random = new Random(7);
        string Rare() => vocabulary[random.Next(2_000, vocabulary.Length)];
        string Often() => vocabulary[random.Next(20, 400)];
        (string What, Func<string> Ask)[] kinds =
        [
            ("a rare word", Rare),
            ("a frequent word", Often),
            ("two words near each other", () => $"near({Often()} {Often()}, 5)"),
            ("two words together", () => $"{Often()} {Often()}"),
            ("a phrase", () => $"\"{vocabulary[random.Next(40)]} {vocabulary[random.Next(40)]}\""),
            ("a frequent word of one person", () => $"{Often()} by:\"guest 7\""),
            ("a word without another", () => $"{Often()} -{vocabulary[random.Next(40)]}"),
            ("a misspelled word", () => "~" + Misspelled(Rare(), random)),
        ];
        finder.Find(QuestionText.Read("~maren"), null, First, First);
        foreach (var (what, ask) in kinds)
        {
            var questions = Enumerable.Range(0, Asked).Select(_ => ask()).ToList();
            var took = new List<double>();
            var bare = new List<double>();
            var hits = 0;
            for (var round = 0; round < Rounds; round++)
            {
                foreach (var question in questions)
                {
                    var read = QuestionText.Read(question);
                    var watch = Stopwatch.StartNew();
                    var found = finder.Find(read, null, First, First);
                    took.Add(watch.Elapsed.TotalMilliseconds);
                    hits += found.Count;
                    watch.Restart();
                    Bare(database, finder, read);
                    bare.Add(watch.Elapsed.TotalMilliseconds);
                }
            }
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"first {First} hits of {what}: {Percentile.Of([.. took], 50):0.0} ms at the median, "
                        + $"{Percentile.Of([.. took], 95):0.0} ms at the "
                        + $"95th; the full-text engine {Percentile.Of([.. bare], 50):0.0} and {Percentile.Of([.. bare], 95):0.0} ms; "
                        + $"{hits / (double)(Rounds * Asked):0} hits in the mean"
                )
            );
        }
    }

    // What the engine itself takes for the entries that are asked for.
    private static void Bare(Database database, Finder finder, FindQuestion question) =>
        database.Read(c =>
            c.Query(
                "SELECT rowid FROM find_text WHERE find_text MATCH $m LIMIT $n",
                r => r.GetInt64(0),
                ("$m", finder.MatchOf(c, question)),
                ("$n", First)
            )
        );

    private static string Misspelled(string word, Random random)
    {
        var at = word.Select((c, i) => (c, i)).Where(p => "aeiou".Contains(p.c, StringComparison.Ordinal)).ToList();
        var place = at[random.Next(at.Count)].i;
        return word[..place] + "aeiou"[random.Next(5)] + word[(place + 1)..];
    }

    private static void Mend(Database database)
    {
        var transcripts = new Transcripts(database, TimeProvider.System);
        var finder = new Finder(database, EnglishPronouncing.Read);
        var took = new List<double>();
        for (var n = 1; n <= 9; n++)
        {
            var sitting = new Store.Footage(database, TimeProvider.System).Sitting(n)!;
            var spelled = FormattableString.Invariant($"quillhaven{n}{Environment.ProcessId}");
            var watch = Stopwatch.StartNew();
            transcripts.Apply(sitting.TranscriptId!.Value, new Retype(new WordNumber(700 * n), spelled), "bench");
            var found = finder.Find(QuestionText.Read($"\"{spelled}\""), null, First, First);
            took.Add(watch.Elapsed.TotalMilliseconds);
            if (found.Count != 1)
            {
                throw new InvalidOperationException("A mended word is not found.");
            }
        }
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"a mended word is kept and found in {Percentile.Of([.. took], 50):0} ms at the median"
            )
        );
    }
}
