using System.Globalization;
using System.Text.RegularExpressions;
using EmberLane.Core.Speech;

namespace EmberLane.Engines.Speech;

/// <summary>The local recogniser: pocketsphinx with the English model, from the Debian packages pocketsphinx and pocketsphinx-en-us.</summary>
public sealed partial class PocketSphinx(string program = "pocketsphinx_continuous", IReadOnlyList<string>? options = null) : IRecogniser
{
    // Fewer hypotheses a frame than its default of 30 000 makes it faster. Its own noise removal stays: without it the recorder mixes gave more word errors (./ember bench speech).
    private static readonly string[] Quick = ["-maxhmmpf", "4000"];

    private const string Model = "/usr/share/pocketsphinx/model/en-us/en-us/feat.params";

    public bool TakesPieces => true;

    public string? WhyNot() => Programs.Find(program) is null
        ? "The local recogniser is not installed. Install the Debian packages pocketsphinx and pocketsphinx-en-us, or run ./ember demo, which does it."
        : null;

    /// <summary>
    /// The recogniser takes away the sound's mean spectrum, which it learns as it listens; in pieces it would begin each time from the mean of its training. Here it learns it once, from a sample and
    /// with hardly any search, and begins every piece from that.
    /// </summary>
    public async Task<IRecogniser> TunedAsync(string samplePath, CancellationToken cancel)
    {
        var log = samplePath + ".log";
        try
        {
            if (!File.Exists(Model))
            {
                return this;
            }
            await Tool.RunAsync(program, ["-infile", samplePath, "-maxhmmpf", "100", "-fwdflat", "no", "-bestpath", "no", "-logfn", log], TimeSpan.FromMinutes(5), _ => { }, cancel);
            if (Mean().Matches(await File.ReadAllTextAsync(log, cancel)) is not [.., var last])
            {
                return this;
            }
            var mean = string.Join(',', last.Groups[1].Value.Split(' ', StringSplitOptions.RemoveEmptyEntries));
            var parameters = samplePath + ".params";
            await File.WriteAllLinesAsync(parameters, (await File.ReadAllLinesAsync(Model, cancel)).Where(l => !l.StartsWith("-cmninit", StringComparison.Ordinal)).Append("-cmninit " + mean), cancel);
            return new PocketSphinx(program, [.. options ?? Quick, "-featparams", parameters]);
        }
        finally
        {
            File.Delete(log);
        }
    }

    public async Task<IReadOnlyList<RecognisedWord>> RecogniseAsync(string wavPath, string title, CancellationToken cancel)
    {
        if (WhyNot() is { } reason)
        {
            throw new ToolException(reason);
        }
        var words = new List<RecognisedWord>();
        await Tool.RunAsync(program, ["-infile", wavPath, "-time", "yes", "-logfn", "/dev/null", .. options ?? Quick], TimeSpan.FromHours(2), line =>
        {
            if (Parse(line) is { } word)
            {
                words.Add(word);
            }
        }, cancel);
        return words;
    }

    /// <summary>
    /// A line of its word times, <c>ferry(2) 1.230 1.570 0.871</c>, in seconds and as a probability that may pass 1 a little; null for silence, noises and anything else.
    /// The end is the start of its last 10 ms frame, so the word goes on until a frame later.
    /// </summary>
    public static RecognisedWord? Parse(string line)
    {
        var fields = line.Split(' ');
        if (fields.Length != 4 || fields[0] is "" or ['<', ..] or ['[', ..] or ['+', ..] || !Seconds(fields[1], out var start) || !Seconds(fields[2], out var end) || !Seconds(fields[3], out var sure) || end < start)
        {
            return null;
        }
        var variant = fields[0].IndexOf('(', StringComparison.Ordinal);
        var text = variant > 0 ? fields[0][..variant] : fields[0];
        var range = new SourceRange(new SourceTime(MediaTime.FromSecondsRounded(start)), new SourceTime(MediaTime.FromSecondsRounded(end + 0.01m)));
        return new RecognisedWord(text == "i" || text.StartsWith("i'", StringComparison.Ordinal) ? "I" + text[1..] : text, range, (int)Math.Min(1000, decimal.Round(sure * 1000)));
    }

    private static bool Seconds(string text, out decimal value) => decimal.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out value);

    [GeneratedRegex(@"Update to\s+<\s*([-0-9. ]+?)\s*>")]
    private static partial Regex Mean();
}
