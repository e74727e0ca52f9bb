using System.Diagnostics;
using System.Globalization;
using EmberLane.Core.Speech;
using EmberLane.Engines;
using EmberLane.Engines.Speech;

namespace EmberLane.Bench;

/// <summary>Speed and word errors of the local recogniser: in pieces on all cores, against the same program run once over the whole sound, with its own settings and with ours.</summary>
internal static class SpeechBench
{
    private sealed class Whole(PocketSphinx inner) : IRecogniser
    {
        public bool TakesPieces => false;

        public string? WhyNot() => inner.WhyNot();

        public Task<IReadOnlyList<RecognisedWord>> RecogniseAsync(string wavPath, string title, CancellationToken cancel) => inner.RecogniseAsync(wavPath, title, cancel);
    }

    public static async Task RunAsync(string repository)
    {
        using var footage = await DemoFootage.LayOutAsync(repository);
        (string Name, IRecogniser Recogniser, int Workers)[] ways =
        [
            ("pieces, all cores", new PocketSphinx(), Environment.ProcessorCount),
            ("whole, our settings", new Whole(new PocketSphinx()), 1),
            ("whole, its settings", new Whole(new PocketSphinx(options: [])), 1),
        ];
        Console.WriteLine($"speech: {Environment.ProcessorCount} cores");
        foreach (var (name, recogniser, workers) in ways)
        {
            int errors = 0, words = 0;
            double heard = 0, spent = 0;
            foreach (var (title, reference, truth, _) in footage.Truths())
            {
                var facts = await MediaProbe.MeasureAsync(footage.Find(reference), CancellationToken.None);
                var pcm = footage.Work("speech.pcm");
                await ReadingSound.MakeAsync(footage.Find(reference), facts, pcm, CancellationToken.None);
                var watch = Stopwatch.StartNew();
                var found = await new Transcription(recogniser, workers).RunAsync(pcm, title, new Dictionary<int, IReadOnlyList<RecognisedWord>>(), (_, _, _) => Task.CompletedTask, CancellationToken.None);
                var compared = WordErrors.Between(truth, found.Select(w => w.Text));
                Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  {name,-20} {title,-20} {facts.Duration.ToSecondsInexact() / watch.Elapsed.TotalSeconds,5:0.0}x real time  {compared.PerMille / 10.0,5:0.0} % word errors of {compared.TrueWords}"));
                (errors, words, heard, spent) = (errors + compared.Errors, words + compared.TrueWords, heard + facts.Duration.ToSecondsInexact(), spent + watch.Elapsed.TotalSeconds);
            }
            Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  {name,-20} {"all",-20} {heard / spent,5:0.0}x real time  {100.0 * errors / words,5:0.0} % word errors of {words}"));
        }
    }
}
