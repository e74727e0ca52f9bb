using System.Diagnostics;
using System.Globalization;
using EmberLane.Core.Media;
using EmberLane.Core.Mics;
using EmberLane.Core.Speech;
using EmberLane.Engines;
using EmberLane.Engines.Speech;

namespace EmberLane.Bench;

/// <summary>
/// Speed and word errors of the local recogniser: our way, against the same recogniser let loose once on the whole sound with its own
/// settings.
/// </summary>
internal static class SpeechBench
{
    private delegate Task<IReadOnlyList<string>> Way(IReadOnlyList<PlacedMic> mics, string pcm, IReadOnlyList<float[]> levels);

    public static async Task RunAsync(string repository)
    {
        using var footage = await DemoFootage.LayOutAsync(repository);
        Console.WriteLine($"speech: {Environment.ProcessorCount} cores");
        foreach (
            var (name, way) in new (string, Way)[]
            {
                ("each from its own mic", NearAsync),
                ("the mix, by utterances", OursAsync),
                ("once over the whole", WholeAsync),
            }
        )
        {
            int errors = 0,
                words = 0;
            double heard = 0,
                spent = 0;
            foreach (var (title, reference, truth, _) in footage.Truths())
            {
                var facts = await MediaProbe.MeasureAsync(footage.Find(reference), CancellationToken.None);
                var pcm = footage.Work("speech.pcm");
                var mics = Chosen(footage.Find(reference), facts);
                var levels = await SittingSound.MakeAsync(mics, pcm, CancellationToken.None);
                var watch = Stopwatch.StartNew();
                var compared = WordErrorRate.Between(truth, await way(mics, pcm, levels));
                var (sound, took) = (facts.Duration.ToSecondsInexact(), watch.Elapsed.TotalSeconds);
                Print(name, title, sound / took, compared.Errors, compared.TrueWords);
                (errors, words, heard, spent) = (errors + compared.Errors, words + compared.TrueWords, heard + sound, spent + took);
            }
            Print(name, "all", heard / spent, errors, words);
        }
    }

    /// <summary>
    /// One real person who reads English among two or three others who speak other languages, a mic each: word errors of that person by
    /// the mic of who speaks, by the tool's mix, and by that person's own mic alone with everything that bleeds into it.
    /// </summary>
    public static async Task RealAsync(string repository)
    {
        const int sittings = 3;
        var people = await RealPeople.PrepareAsync(repository, tuning: true);
        var folder = Directory.CreateTempSubdirectory("ember-words").FullName;
        try
        {
            Console.WriteLine($"words of a real person: {sittings} made sittings of 2 min with a mic each");
            var all = new Dictionary<string, (int Errors, int Words)>();
            for (var n = 0; n < sittings; n++)
            {
                var sitting = people.Make(3 + (n % 2), 120, 40 + n, spoiled: false, with: RealPeople.Reader);
                var mics = new List<PlacedMic>();
                foreach (var (mic, i) in sitting.Mics.Select((m, i) => (m, i)))
                {
                    string raw = Path.Combine(folder, $"{n}-{i}.pcm"),
                        wav = Path.ChangeExtension(raw, "wav");
                    await PcmFile.WriteAsync(raw, mic, CancellationToken.None);
                    await PcmFile.WriteWavAsync(raw, 0, mic.Length, wav, CancellationToken.None);
                    mics.AddRange(SittingSound.AllOf(wav, await MediaProbe.MeasureAsync(wav, CancellationToken.None)));
                }
                var reader = sitting.People.ToList().IndexOf(RealPeople.Reader);
                var said = sitting.Said.Where(l => l.Voice == reader).SelectMany(l => l.Text.Split(' ')).ToList();
                foreach (
                    var (name, heard) in new[]
                    {
                        ("each from its own mic", mics),
                        ("the mix", mics),
                        ("that person's mic alone", [mics[reader]]),
                    }
                )
                {
                    var pcm = Path.Combine(folder, "heard.pcm");
                    var levels = await SittingSound.MakeAsync(heard, pcm, CancellationToken.None);
                    var words = HeardVoices.Give(
                        name == "the mix" || heard.Count == 1 ? await WordsAsync(pcm) : await NearWordsAsync(heard, pcm, levels),
                        await SittingSound.MakeAsync(mics, pcm, CancellationToken.None),
                        pcm,
                        null
                    );
                    var label = $"mic {reader + 1}";
                    var compared = WordErrorRate.Between(said, [.. words.Words.Where(w => w.Voice == label).Select(w => w.Text)]);
                    var (errors, count) = all.GetValueOrDefault(name);
                    all[name] = (errors + compared.Errors, count + compared.TrueWords);
                }
            }
            foreach (var (name, (errors, words)) in all)
            {
                Console.WriteLine(
                    string.Create(CultureInfo.InvariantCulture, $"  {name,-24} {100.0 * errors / words,5:0.0} % word errors of {words}")
                );
            }
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private static async Task<IReadOnlyList<RecognisedWord>> NearWordsAsync(
        IReadOnlyList<PlacedMic> mics,
        string pcm,
        IReadOnlyList<float[]> levels
    )
    {
        if (HeardVoices.Layout(levels, pcm, null, null) is not { } layout)
        {
            return await WordsAsync(pcm);
        }
        var spoken = pcm + ".spoken";
        await SittingSound.MakeSpokenAsync(mics, layout, spoken, CancellationToken.None);
        return layout.OnTheSitting(await WordsAsync(spoken));
    }

    private static async Task<IReadOnlyList<string>> NearAsync(IReadOnlyList<PlacedMic> mics, string pcm, IReadOnlyList<float[]> levels) =>
        [.. (await NearWordsAsync(mics, pcm, levels)).Select(w => w.Text)];

    internal static async Task<IReadOnlyList<RecognisedWord>> WordsAsync(string pcm)
    {
        var heard = await new Transcription(new PocketSphinx()).RunAsync(
            pcm,
            "",
            new Dictionary<StepRange, WordList>(),
            _ => Task.CompletedTask,
            CancellationToken.None
        );
        return heard.Words;
    }

    // The mics that the tool hears without being told: by the names that the recorder gave them.
    private static IReadOnlyList<PlacedMic> Chosen(string path, SourceFacts facts)
    {
        var mics = MicGuess.Of(
            [
                .. Enumerable
                    .Range(0, facts.Channels)
                    .Select(c => new KnownChannel(
                        0,
                        c,
                        facts.ChannelName(c),
                        facts.Picture is not null,
                        facts.Channels,
                        null,
                        MicChoice.None
                    )),
            ],
            []
        );
        return [.. mics.Where(m => m.Heard).Select(m => new PlacedMic(path, facts, default, m.Channel, true))];
    }

    private static async Task<IReadOnlyList<string>> OursAsync(IReadOnlyList<PlacedMic> mics, string pcm, IReadOnlyList<float[]> levels) =>
        [.. (await WordsAsync(pcm)).Select(w => w.Text)];

    private static async Task<IReadOnlyList<string>> WholeAsync(IReadOnlyList<PlacedMic> mics, string pcm, IReadOnlyList<float[]> levels)
    {
        var wav = pcm + ".wav";
        await PcmFile.WriteWavAsync(pcm, 0, long.MaxValue / 4, wav, CancellationToken.None);
        var lines = await Tool.ReadAsync(
            "pocketsphinx_continuous",
            ["-infile", wav, "-logfn", "/dev/null"],
            TimeSpan.FromHours(1),
            CancellationToken.None
        );
        return lines.Split([' ', '\n'], StringSplitOptions.RemoveEmptyEntries);
    }

    private static void Print(string way, string sitting, double speed, int errors, int words) =>
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"  {way,-22} {sitting,-20} {speed,5:0.0}x real time  {100.0 * errors / words,5:0.0} % word errors of {words}"
            )
        );
}
