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
    private delegate Task<IReadOnlyList<string>> Way(string pcm);

    public static async Task RunAsync(string repository)
    {
        using var footage = await DemoFootage.LayOutAsync(repository);
        Console.WriteLine($"speech: {Environment.ProcessorCount} cores");
        foreach (var (name, way) in new (string, Way)[] { ("utterances, all cores", OursAsync), ("once over the whole", WholeAsync) })
        {
            int errors = 0,
                words = 0;
            double heard = 0,
                spent = 0;
            foreach (var (title, reference, truth, _) in footage.Truths())
            {
                var facts = await MediaProbe.MeasureAsync(footage.Find(reference), CancellationToken.None);
                var pcm = footage.Work("speech.pcm");
                await SittingSound.MakeAsync(Chosen(footage.Find(reference), facts), pcm, CancellationToken.None);
                var watch = Stopwatch.StartNew();
                var compared = WordErrorRate.Between(truth, await way(pcm));
                var (sound, took) = (facts.Duration.ToSecondsInexact(), watch.Elapsed.TotalSeconds);
                Print(name, title, sound / took, compared.Errors, compared.TrueWords);
                (errors, words, heard, spent) = (errors + compared.Errors, words + compared.TrueWords, heard + sound, spent + took);
            }
            Print(name, "all", heard / spent, errors, words);
        }
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

    private static async Task<IReadOnlyList<string>> OursAsync(string pcm) =>
        [
            .. (
                await new Transcription(new PocketSphinx(), Environment.ProcessorCount).RunAsync(
                    pcm,
                    "",
                    new Dictionary<StepRange, IReadOnlyList<RecognisedWord>>(),
                    _ => Task.CompletedTask,
                    CancellationToken.None
                )
            ).Select(w => w.Text),
        ];

    private static async Task<IReadOnlyList<string>> WholeAsync(string pcm)
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
