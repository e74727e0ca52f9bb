using System.Diagnostics;
using EmberLane.Core.Speech;

namespace EmberLane.Bench;

/// <summary>
/// Voices of real people, a few words each, out of Debian's packages. They are fetched when they are asked for and never committed. One
/// half of the people is for tuning, the other only for the figure that is reported; asterisk-core-sounds-* are left alone.
/// </summary>
internal static class RealPeople
{
    private static readonly string[] Packages =
    [
        "klettres-data",
        "asterisk-prompt-es-co",
        "asterisk-prompt-fr-armelle",
        "asterisk-prompt-it-menardi-wav",
        "pocketsphinx-testdata",
        "ktuberling-data",
        "fillets-ng-data-nl",
    ];

    // A folder a person, within the packages; behind an asterisk what the names of a person's files hold, where several are in one folder.
    private static readonly string[] People =
    [
        "klettres/ar",
        "klettres/cs",
        "klettres/da",
        "klettres/de",
        "klettres/en",
        "klettres/en_GB",
        "klettres/es",
        "klettres/fr",
        "klettres/he",
        "klettres/hu",
        "klettres/it",
        "klettres/lt",
        "klettres/ml",
        "klettres/nds",
        "klettres/nl",
        "klettres/pt_BR",
        "klettres/ru",
        "klettres/tn",
        "klettres/uk",
        "asterisk/sounds/es",
        "asterisk/sounds/fr",
        "asterisk/sounds/it_IT_f_Menardi",
        "pocketsphinx/test/data/librivox",
    ];

    /// <summary>The one whose words are known: the last of the tuning half.</summary>
    public const int Reader = 11;

    // More people to learn from, of languages that nobody of the reporting half speaks: none of them can be one of those.
    private static readonly string[] Further =
    [
        "ktuberling/sounds/ca",
        "ktuberling/sounds/nn",
        "ktuberling/sounds/wa",
        "ktuberling/sounds/el",
        "ktuberling/sounds/sl",
        "ktuberling/sounds/gl",
        "ktuberling/sounds/fi",
        "ktuberling/sounds/ga",
        "ktuberling/sounds/ro",
        "ktuberling/sounds/sr",
        "ktuberling/sounds/sv",
        "games/fillets-ng/sound*-m-",
        "games/fillets-ng/sound*-v-",
    ];

    private const int Rate = SilenceSegmenter.SampleRate,
        Least = 30,
        Closure = 15,
        Click = 5,
        Most = 260;

    /// <summary>A level that all people are brought to, as a share of full scale.</summary>
    private const double Loud = 0.08;

    /// <summary>Every second person from the first (tuning) or the second (reporting) on.</summary>
    public static Task<MadePeople> PrepareAsync(string repository, bool tuning) => PrepareAsync(repository, Half(tuning));

    /// <summary>The tuning half and some further people.</summary>
    public static Task<MadePeople> PrepareToLearnAsync(string repository) => PrepareAsync(repository, [.. Half(tuning: true), .. Further]);

    private static IEnumerable<string> Half(bool tuning) => People.Where((_, i) => i % 2 == (tuning ? 0 : 1));

    private static async Task<MadePeople> PrepareAsync(string repository, IEnumerable<string> people)
    {
        var folder = Path.Combine(repository, "bench", "voices");
        await FetchAsync(folder);
        var lines = new List<List<SaidLine>>();
        foreach (var person in people)
        {
            var (within, named) = person.Split('*') is [var one, var own] ? (one, own) : (person, "");
            lines.Add(await OfAsync(Path.Combine(folder, "usr", "share", within), named));
        }
        return new MadePeople(lines);
    }

    private static async Task FetchAsync(string folder)
    {
        string stamp = Path.Combine(folder, "fetched"),
            wanted = string.Join('\n', Packages);
        if (File.Exists(stamp) && await File.ReadAllTextAsync(stamp) == wanted)
        {
            return;
        }
        Directory.CreateDirectory(folder);
        await RunAsync(folder, "apt-get", ["download", .. Packages]);
        foreach (var package in Directory.EnumerateFiles(folder, "*.deb"))
        {
            await RunAsync(folder, "dpkg-deb", ["-x", package, folder]);
            File.Delete(package);
        }
        await File.WriteAllTextAsync(stamp, wanted);
    }

    private static async Task RunAsync(string folder, string program, IEnumerable<string> arguments)
    {
        using var process = Process.Start(new ProcessStartInfo(program, arguments) { WorkingDirectory = folder })!;
        await process.WaitForExitAsync();
        if (process.ExitCode != 0)
        {
            throw new InvalidOperationException($"{program} ended with {process.ExitCode}: are the packages of Debian to be had here?");
        }
    }

    // What one person says, file by file, without the silence around it, at one level. The sound is kept in one piece beside the files, so
    // that it is decoded once.
    private static async Task<List<SaidLine>> OfAsync(string folder, string named)
    {
        var lines = new List<SaidLine>();
        var files = Directory
            .EnumerateFiles(folder, "*", SearchOption.AllDirectories)
            .Where(f => Path.GetExtension(f) is ".ogg" or ".opus" or ".gsm" or ".wav")
            .Where(f => Path.GetFileName(f).Contains(named, StringComparison.Ordinal))
            .Order(StringComparer.Ordinal)
            .ToList();
        var texts = await TextsAsync(Path.Combine(folder, "transcription"));
        foreach (var file in files.Where((_, i) => files.Count <= Most || i % ((files.Count / Most) + 1) == 0))
        {
            var samples = await DecodedAsync(file);
            var spoken = Spoken(SilenceSegmenter.Energy(samples));
            if (spoken.Count == 0 || spoken[^1].End - spoken[0].First < Least)
            {
                continue;
            }
            var first = spoken[0].First;
            var part = samples[
                (first.Value * Rate / Step.PerSecond)..Math.Min(samples.Length, spoken[^1].End.Value * Rate / Step.PerSecond)
            ];
            var power = Math.Sqrt(spoken.SelectMany(s => s.Steps).Average(s => Power(samples, s)));
            lines.Add(
                new SaidLine(
                    [.. part.Select(s => (float)(s * Loud / Math.Max(1, power)))],
                    [.. spoken.Select(s => new StepRange(s.First - first.Value, s.End - first.Value))],
                    texts.GetValueOrDefault(Path.GetFileNameWithoutExtension(file), "")
                )
            );
        }
        return lines;
    }

    // Lines of a file of texts, “<s> words </s> (name)”, by name; none where there is no such file.
    private static async Task<Dictionary<string, string>> TextsAsync(string file) =>
        !File.Exists(file)
            ? []
            : (await File.ReadAllLinesAsync(file))
                .Select(l => l.Split("</s>"))
                .Where(l => l.Length == 2)
                .ToDictionary(l => l[1].Trim(' ', '(', ')'), l => l[0].Replace("<s>", "", StringComparison.Ordinal).Trim());

    // Recordings of a word or a sentence, each with a quiet of its own: what passes two fifths of the way up from that, and lies less than
    // 32 dB below the loudest, without clicks; short closures belong to it.
    private static List<StepRange> Spoken(float[] energy)
    {
        var runs = new List<StepRange>();
        var sorted = energy.Order().ToArray();
        double quiet = sorted.Length == 0 ? 0 : sorted[sorted.Length / 20],
            most = sorted.Length == 0 ? 0 : sorted[sorted.Length * 95 / 100];
        var least = Math.Max(most / 1_600, Math.Exp(Math.Log(1 + quiet) + (0.4 * (Math.Log(1 + most) - Math.Log(1 + quiet)))));
        for (var i = 0; i < energy.Length; i++)
        {
            if (energy[i] < least || energy[i] < 10)
            {
                continue;
            }
            if (runs is [.., var last] && i - last.End.Value <= Closure)
            {
                runs[^1] = last with { End = new Step(i + 1) };
            }
            else
            {
                runs.Add(StepRange.Of(i, i + 1));
            }
        }
        return [.. runs.Where(r => r.Count >= Click)];
    }

    private static double Power(short[] samples, int step)
    {
        double sum = 0;
        var from = step * Rate / Step.PerSecond;
        var to = Math.Min(samples.Length, from + (Rate / Step.PerSecond));
        for (var i = from; i < to; i++)
        {
            sum += (double)samples[i] * samples[i];
        }
        return sum / Math.Max(1, to - from);
    }

    private static async Task<short[]> DecodedAsync(string file)
    {
        string kept = file + ".pcm",
            part = file + ".part";
        if (!File.Exists(kept))
        {
            try
            {
                await RunAsync(
                    Path.GetDirectoryName(file)!,
                    "ffmpeg",
                    ["-v", "error", "-y", "-i", file, "-ac", "1", "-ar", "16000", "-f", "s16le", part]
                );
                // Whole or not there: what a stopped bench leaves is made again.
                File.Move(part, kept, overwrite: true);
            }
            catch (InvalidOperationException)
            {
                // A few files of the packages are damaged: nothing is said in them.
                await File.WriteAllBytesAsync(kept, []);
            }
        }
        var bytes = await File.ReadAllBytesAsync(kept);
        var samples = new short[bytes.Length / 2];
        Buffer.BlockCopy(bytes, 0, samples, 0, samples.Length * 2);
        return samples;
    }
}
