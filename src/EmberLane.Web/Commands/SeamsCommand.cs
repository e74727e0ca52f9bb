using System.CommandLine;
using System.Globalization;
using System.Text;
using EmberLane.Core.Import;
using EmberLane.Core.Seams;
using EmberLane.Core.Speech;
using EmberLane.Engines;
using EmberLane.Engines.Speech;

namespace EmberLane.Web.Commands;

/// <summary>
/// <c>ember seams CUTS.json --words WORDS.json --sound FILE [--json]</c>: whether the joins of pieces of a sound lose or let in parts of
/// words, and where each is cut best.
/// </summary>
internal static class SeamsCommand
{
    private const long MostBytes = 200 << 20;

    public static Command Make(TextWriter output)
    {
        var cuts = new Argument<string>("CUTS.json")
        {
            Description = "The pieces in playing order: [{\"in\":1.2,\"out\":3.4}, …], in seconds.",
        };
        var words = new Option<string>("--words")
        {
            Description = "The words, as ember transcribe writes them.",
            HelpName = "WORDS.json",
            Required = true,
        };
        var sound = new Option<string>("--sound")
        {
            Description = "The sound that is cut.",
            HelpName = "FILE",
            Required = true,
        };
        var json = new Option<bool>("--json") { Description = "All of it as JSON; else a line each." };
        var command = new Command("seams", "The joins of pieces of a sound: what they clip or let in, and where each is cut best.")
        {
            cuts,
            words,
            sound,
            json,
        };
        command.SetAction(
            (asked, cancel) =>
                RunAsync(asked.GetValue(cuts)!, asked.GetValue(words)!, asked.GetValue(sound)!, asked.GetValue(json), output, cancel)
        );
        return command;
    }

    private static async Task<int> RunAsync(string cuts, string words, string sound, bool json, TextWriter output, CancellationToken cancel)
    {
        var pieces = CommandFiles.Named(cuts, () => SeamsJson.ReadCuts(TextFiles.Decode(CommandFiles.Bytes(cuts, MostBytes))));
        var list = CommandFiles.Named(words, () => WordsJson.Read(TextFiles.Decode(CommandFiles.Bytes(words, MostBytes))));
        var facts = await MediaProbe.MeasureAsync(sound, cancel);
        if (facts.Channels == 0)
        {
            throw new ArgumentException($"{Path.GetFileName(sound)} has no sound.");
        }
        if (
            pieces.FirstOrDefault(p => p.Out.FromZero > facts.Duration + MediaTime.FromMilliseconds(1_000)) is { } beyond
            && beyond != default
        )
        {
            throw new ArgumentException(
                $"{Path.GetFileName(cuts)}: a piece ends at {beyond.Out}, and {Path.GetFileName(sound)} lasts {facts.Duration}."
            );
        }
        var folder = Directory.CreateTempSubdirectory("ember-seams");
        try
        {
            var pcm = Path.Combine(folder.FullName, "sound.pcm");
            await Ffmpeg.DecodeMonoAsync(sound, facts, null, SeamSound.Rate, pcm, cancel);
            using var file = SeamFile.Open(pcm);
            var mended = SeamMending.Mend(file.Sound, pieces, list.Words);
            await output.WriteAsync(json ? SeamsJson.Write(mended) : Lines(mended));
            return 0;
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    private static string Lines(IReadOnlyList<MendedPiece> pieces)
    {
        var text = new StringBuilder();
        foreach (var (piece, i) in pieces.Select((p, i) => (p, i)).OrderByDescending(p => p.p.Score).ThenBy(p => p.i))
        {
            text.Append(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{i + 1}  {piece.Range.In} – {piece.Range.Out}  {piece.Score}  {string.Join("; ", piece.Reasons)}\n"
                )
            );
        }
        var bad = pieces.Count(p => p.Score > 0);
        return text.Append(Application.Rooms.Many.Of(bad, "piece")).Append(" to look at, the worst first\n").ToString();
    }
}
