using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using EmberLane.Core.Seams;
using EmberLane.Core.Speech;
using EmberLane.Engines;
using EmberLane.Engines.Speech;

namespace EmberLane.Bench;

/// <summary>
/// Seams: pieces of the demonstration's sittings, cut at the ends of words as the recogniser times them, and mended: how many ends clip a
/// word or let another in by more than 10 ms, by the true words; where there is room for a cut, and where there is none; and of those with
/// room the ends that were not listed as without. One sitting is tuned on, the others are reported.
/// </summary>
internal static class SeamsBench
{
    private const int PiecesOfSitting = 400;

    private const string Tuned = "The first crossing";

    // Words that are this far apart leave room; a cut may miss by so much unheard.
    private static readonly MediaTime Room = MediaTime.FromMilliseconds(40),
        Unheard = MediaTime.FromMilliseconds(10);

    private sealed record Said(MediaTime In, MediaTime Out);

    private sealed class Tally
    {
        public int Ends { get; set; }

        public int Clips { get; set; }

        public int Leaks { get; set; }

        public void Add(bool clips, bool leaks) => (Ends, Clips, Leaks) = (Ends + 1, Clips + (clips ? 1 : 0), Leaks + (leaks ? 1 : 0));

        public override string ToString() =>
            string.Create(
                CultureInfo.InvariantCulture,
                $"{100.0 * Clips / Math.Max(1, Ends):0.0} % clip, {100.0 * Leaks / Math.Max(1, Ends):0.0} % let in"
            );
    }

    public static async Task RunAsync(string repository)
    {
        using var footage = await DemoFootage.LayOutAsync(repository);
        var halves = new Dictionary<(bool Tuned, bool Room, bool After), Tally>();
        var unlisted = new Dictionary<bool, Tally> { [true] = new(), [false] = new() };
        foreach (
            var truth in Directory.EnumerateFiles(Path.Combine(repository, "demo", "footage"), "*.truth.json").Order(StringComparer.Ordinal)
        )
        {
            var (title, reference, said) = Read(truth);
            var facts = await MediaProbe.MeasureAsync(footage.Find(reference), CancellationToken.None);
            var pcm = footage.Work("seams.pcm");
            await Ffmpeg.DecodeMonoAsync(footage.Find(reference), facts, null, SeamSound.Rate, pcm, CancellationToken.None);
            var words = (await SpeechBench.WordsAsync(pcm)).OrderBy(w => w.Range.In).ToList();
            using var file = SeamFile.Open(pcm);
            var pieces = Pieces(words, new Random(title.Length));
            var watch = Stopwatch.StartNew();
            var mended = SeamMending.Mend(file.Sound, pieces, words);
            Console.WriteLine(
                FormattableString.Invariant($"seams: {title}: {pieces.Count} pieces judged in {watch.ElapsedMilliseconds} ms")
            );
            for (var i = 0; i < pieces.Count; i++)
            {
                foreach (var after in new[] { false, true })
                {
                    var range = after ? mended[i].Range : pieces[i];
                    foreach (var isEnd in new[] { false, true })
                    {
                        if (Judge(said, words, pieces[i], range, isEnd) is var (room, clips, leaks))
                        {
                            var key = (title == Tuned, room, after);
                            (halves.TryGetValue(key, out var tally) ? tally : halves[key] = new Tally()).Add(clips, leaks);
                            if (after && room && (isEnd ? mended[i].Out : mended[i].In) is { HasRoom: true })
                            {
                                unlisted[title == Tuned].Add(clips, leaks);
                            }
                        }
                    }
                }
            }
        }
        foreach (var (tuned, room) in new[] { (true, true), (true, false), (false, true), (false, false) })
        {
            if (halves.TryGetValue((tuned, room, false), out var before))
            {
                var half = (tuned ? "tuned on, " : "reported, ") + (room ? "with room" : "without");
                Console.WriteLine($"  {half}: {before.Ends} ends; by word ends {before}; mended {halves[(tuned, room, true)]}");
                if (room)
                {
                    Console.WriteLine($"    of these {unlisted[tuned].Ends} not listed as without room: {unlisted[tuned]}");
                }
            }
        }
    }

    private static (string Title, string Reference, List<Said> Words) Read(string path)
    {
        using var json = JsonDocument.Parse(File.ReadAllText(path));
        var root = json.RootElement;
        MediaTime Time(JsonElement word, string name) => MediaTime.FromSecondsRounded(word.GetProperty(name).GetDecimal());
        return (
            root.GetProperty("sitting").GetString()!,
            root.GetProperty("reference").GetString()!,
            [.. root.GetProperty("words").EnumerateArray().Select(w => new Said(Time(w, "s"), Time(w, "e"))).OrderBy(w => w.In)]
        );
    }

    // Spans of three to twenty-five words, in any order.
    private static List<SourceRange> Pieces(List<RecognisedWord> words, Random random) =>
        [
            .. Enumerable
                .Range(0, PiecesOfSitting)
                .Select(_ => (First: random.Next(words.Count - 30), Length: random.Next(3, 26)))
                .Select(p => new SourceRange(words[p.First].Range.In, words[p.First + p.Length].Range.Out)),
        ];

    // Whether there is room at an end, and what is wrong with a cut there; null where it is not plain which true word it is.
    private static (bool Room, bool Clips, bool Leaks)? Judge(
        List<Said> said,
        List<RecognisedWord> words,
        SourceRange piece,
        SourceRange cut,
        bool isEnd
    )
    {
        var heard = isEnd ? words.Last(w => w.Range.Out == piece.Out) : words.First(w => w.Range.In == piece.In);
        var own = said.FindIndex(s => Shared(s, heard) * 2 > (s.Out - s.In).Units);
        if (isEnd)
        {
            own = said.FindLastIndex(s => Shared(s, heard) * 2 > (s.Out - s.In).Units);
        }
        if (own < 0)
        {
            return null;
        }
        var beside = isEnd ? said.Skip(own + 1).FirstOrDefault() : said.Take(own).MaxBy(s => s.Out);
        if (beside is null)
        {
            return null;
        }
        var at = isEnd ? cut.Out.FromZero : cut.In.FromZero;
        var gap = isEnd ? beside.In - said[own].Out : said[own].In - beside.Out;
        // Where two talk at once nobody can say.
        return gap < MediaTime.Zero - Unheard
            ? null
            : (
                gap >= Room,
                isEnd ? said[own].Out - at > Unheard : at - said[own].In > Unheard,
                isEnd ? at - beside.In > Unheard : beside.Out - at > Unheard
            );
    }

    private static long Shared(Said said, RecognisedWord heard) =>
        Math.Max(0, Math.Min(said.Out.Units, heard.Range.Out.FromZero.Units) - Math.Max(said.In.Units, heard.Range.In.FromZero.Units));
}
