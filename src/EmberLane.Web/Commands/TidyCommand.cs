using System.CommandLine;
using System.Globalization;
using EmberLane.Core;
using EmberLane.Core.Import;
using EmberLane.Core.Speech;
using EmberLane.Core.Tidy;
using EmberLane.Core.Time;
using EmberLane.Engines;
using EmberLane.Engines.Speech;

namespace EmberLane.Web.Commands;

/// <summary>
/// <c>ember tidy WORDS.json [--sound FILE]… [--script FILE] [--pause SECONDS] [--json]</c>: what a talk surely does not need: pauses,
/// hesitations, retakes; what was said to find a place later; and the takes of a written script.
/// </summary>
internal static class TidyCommand
{
    private const decimal ShortestPause = 0.05m,
        LongestPause = 3600;

    private const int MostFiles = 100;

    /// <summary>More than this is no text of a sitting, and no script.</summary>
    private const long MostBytes = 200 << 20,
        MostScriptBytes = 20 << 20;

    private sealed record Asked(string Words, IReadOnlyList<string> Sound, string? Script, decimal Pause, bool Json);

    public static Command Make(TextWriter output)
    {
        var words = new Argument<string>("WORDS.json") { Description = "The words, as ember transcribe writes them." };
        var sound = new Option<string[]>("--sound")
        {
            Description = "The sound of the words, once for each file of the sitting; times count from the first one's first sample.",
            HelpName = "FILE",
            Arity = new ArgumentArity(0, MostFiles),
        };
        var script = new Option<string?>("--script") { Description = "A written script, a line each, as text or Word.", HelpName = "FILE" };
        var pause = new Option<string>("--pause")
        {
            Description = "From how many seconds on a pause is one.",
            HelpName = "SECONDS",
            DefaultValueFactory = _ => "0.4",
        };
        pause.Validators.Add(asked =>
        {
            if (Seconds(asked.GetValue(pause)) is not (>= ShortestPause and <= LongestPause))
            {
                asked.AddError($"--pause takes seconds from {ShortestPause} to {LongestPause}, not “{asked.GetValue(pause)}”.");
            }
        });
        var json = new Option<bool>("--json") { Description = "All of it as JSON; else a line each." };
        var command = new Command("tidy", "Pauses, hesitations, retakes, spoken cues and the takes of a script in the words of a sitting.")
        {
            words,
            sound,
            script,
            pause,
            json,
        };
        command.SetAction(
            (asked, cancel) =>
                RunAsync(
                    new Asked(
                        asked.GetValue(words)!,
                        asked.GetValue(sound) ?? [],
                        asked.GetValue(script),
                        Seconds(asked.GetValue(pause))!.Value,
                        asked.GetValue(json)
                    ),
                    output,
                    cancel
                )
        );
        return command;
    }

    private static decimal? Seconds(string? text) =>
        decimal.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number) ? number : null;

    private static async Task<int> RunAsync(Asked asked, TextWriter output, CancellationToken cancel)
    {
        var list = CommandFiles.Named(
            asked.Words,
            () => WordsJson.ReadAsWritten(TextFiles.Decode(CommandFiles.Bytes(asked.Words, MostBytes)))
        );
        // Places are told as the file counts them, whatever order its words are in.
        int[] places = [.. Enumerable.Range(0, list.Words.Count).OrderBy(i => list.Words[i].Range.In)];
        var talk = Talk.Of(list with { Words = [.. places.Select(i => list.Words[i])] });
        var script = asked.Script is { } file ? CommandFiles.Named(file, () => ScriptText.Read(ScriptOf(file))) : [];
        var found = TidyFindings.Of(
            talk,
            await SoundAsync(asked.Sound, cancel),
            MediaTime.FromSecondsRounded(asked.Pause),
            HesitationWords.Of(list.Language, []),
            SpokenCues.English,
            script
        );
        if (asked.Sound.Count == 0)
        {
            await Console.Error.WriteLineAsync("Without --sound pauses and what would be clipped are told by the words' times alone.");
        }
        await output.WriteAsync(asked.Json ? TidyJson.Write(talk, found, p => places[p]) : TidyLines.Of(talk, found));
        return 0;
    }

    private static string ScriptOf(string file)
    {
        var bytes = CommandFiles.Bytes(file, MostScriptBytes);
        return Path.GetExtension(file).Equals(".docx", StringComparison.OrdinalIgnoreCase)
            ? WordDocument.ReadText(new MemoryStream(bytes))
            : TextFiles.Decode(bytes);
    }

    private static async Task<TalkSound?> SoundAsync(IReadOnlyList<string> files, CancellationToken cancel)
    {
        if (files.Count == 0)
        {
            return null;
        }
        using var clock = new Application.Syncing.FilesOnOneClock();
        var mics = await MicsOfFiles.PlaceAsync(files, clock, cancel);
        var pcm = Path.Combine(clock.Folder, "sound.pcm");
        await SittingSound.MakeAsync(mics, pcm, cancel);
        var energy = PcmFile.Energy(pcm);
        return new TalkSound(energy, SpeechNetwork.Chances(pcm, energy), PcmFile.Steady(pcm), SittingSound.Extent(mics).In.FromZero);
    }
}
