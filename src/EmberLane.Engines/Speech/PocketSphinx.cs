using System.Globalization;
using EmberLane.Core.Speech;

namespace EmberLane.Engines.Speech;

/// <summary>
/// The local recogniser: pocketsphinx with the English model, from the Debian packages pocketsphinx and pocketsphinx-en-us.
/// </summary>
public sealed class PocketSphinx(string program = "pocketsphinx_batch") : IRecogniser
{
    private const int StepSamples = SilenceSegmenter.SampleRate / Step.PerSecond;

    /// <summary>
    /// Long against the half second in which it starts, short enough to see it get on; it uses one core, so there are as many as those.
    /// </summary>
    private static readonly PiecesTaken OnAllCores = new(2_000, 4_000, Environment.ProcessorCount);

    private static readonly IReadOnlyList<string> English = ["en"];

    /// <inheritdoc/>
    public PiecesTaken? Pieces => OnAllCores;

    /// <inheritdoc/>
    public IReadOnlyList<string>? Languages => English;

    /// <inheritdoc/>
    public string? WhyNot(string language = "en") =>
        !English.Contains(language)
            ? "The local recogniser knows English only. For other languages lay a speech model into the models folder (Settings says "
                + "where), choose a command of yours there, or bring a text in."
        : Programs.Find(program) is null
            ? "The local recogniser is not installed. Install the Debian packages pocketsphinx and pocketsphinx-en-us, "
                + "or run ./ember demo, which does it."
        : null;

    /// <summary>
    /// Hands the program one utterance at a time, so that it takes away that utterance's own mean spectrum: the voice's and the room's. Let
    /// loose on the running sound, it takes away the mean of whoever spoke before (./ember bench speech shows the difference).
    /// </summary>
    public async Task<WordList> RecogniseAsync(ToRecognise sound, CancellationToken cancel)
    {
        if (WhyNot(sound.Language) is { } reason)
        {
            throw new ToolException(reason);
        }
        var samples = PcmFile.ReadWav(sound.WavPath);
        var energy = SilenceSegmenter.Energy(samples);
        var utterances = VoiceActivity.Utterances(VoiceActivity.SpeechByLoudness(energy), energy);
        if (utterances.Count == 0)
        {
            return new WordList(sound.Language, []);
        }
        // Beside the sound: what a killed server leaves is cleared with the rest of the cache.
        var folder = sound.WavPath + ".speech";
        Directory.CreateDirectory(folder);
        try
        {
            foreach (var utterance in utterances)
            {
                await PcmFile.WriteAsync(
                    Path.Combine(folder, Name(utterance.First) + ".raw"),
                    samples.AsMemory((utterance.First.Value * StepSamples)..Math.Min(samples.Length, utterance.End.Value * StepSamples)),
                    cancel
                );
            }
            string list = Path.Combine(folder, "list"),
                words = Path.Combine(folder, "words");
            await File.WriteAllLinesAsync(list, utterances.Select(u => Name(u.First)), cancel);
            // Fewer hypotheses a frame than its default of 30 000 make it fast enough. Its noise removal stays: recorder mixes gave more
            // word errors without. Its silence removal goes: word times after a removed silence came out too early.
            await Tool.RunAsync(
                program,
                [
                    "-adcin",
                    "yes",
                    "-cepdir",
                    folder,
                    "-cepext",
                    ".raw",
                    "-ctl",
                    list,
                    "-ctm",
                    words,
                    "-maxhmmpf",
                    "3500",
                    "-remove_silence",
                    "no",
                    "-logfn",
                    Path.Combine(folder, "log"),
                ],
                TimeSpan.FromHours(2),
                _ => { },
                cancel
            );
            var lines = await File.ReadAllLinesAsync(words, cancel);
            return new WordList(sound.Language, [.. lines.Select(Parse).OfType<RecognisedWord>().OrderBy(w => w.Range.In)]);
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    /// <summary>
    /// A line of its words, <c>u000133 1 0.09 0.26 ferry 0.994</c>: the utterance, named by the step it begins at, a channel, start and
    /// length in seconds, the word, how sure as a probability. Null for silence, noises and anything else.
    /// </summary>
    public static RecognisedWord? Parse(string line)
    {
        var fields = line.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        if (
            fields is not [['u', .. var step], _, var from, var length, var word, var sure]
            || word is ['<', ..] or ['[', ..] or ['+', ..]
            || !int.TryParse(step, NumberStyles.None, CultureInfo.InvariantCulture, out var first)
            || !Decimal(from, out var start)
            || !Decimal(length, out var lasts)
            || !Decimal(sure, out var probability)
        )
        {
            return null;
        }
        var variant = word.IndexOf('(', StringComparison.Ordinal);
        var text = variant > 0 ? word[..variant] : word;
        var at = new SourceTime(new Step(first).FromStart + MediaTime.FromSecondsRounded(start));
        return new RecognisedWord(
            text == "i" || text.StartsWith("i'", StringComparison.Ordinal) ? "I" + text[1..] : text,
            new SourceRange(at, at + MediaTime.FromSecondsRounded(lasts)),
            PerMille.OfShare((double)probability)
        );
    }

    private static string Name(Step first) => string.Create(CultureInfo.InvariantCulture, $"u{first.Value:D6}");

    private static bool Decimal(string text, out decimal value) =>
        decimal.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out value);
}
