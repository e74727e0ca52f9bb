using System.CommandLine;
using System.Globalization;
using EmberLane.Application.Syncing;
using EmberLane.Core.Speech;
using EmberLane.Core.Voices;
using EmberLane.Engines;
using EmberLane.Engines.Speech;
using EmberLane.Engines.Speech.Models;

namespace EmberLane.Web.Commands;

/// <summary>
/// <c>ember transcribe FILE… [--sitting] [--voices N|auto] [--out words.json]</c>: runs the recogniser of this machine, or a speech
/// model, on a media file, or on several of one sitting, and writes words JSON. Times count from the first file's first sample. Words
/// carry their voice when there are several channels, or when voices are asked for.
/// </summary>
internal static class TranscribeCommand
{
    private const int MostVoices = 20,
        MostFiles = 100;

    private sealed record Asked(IReadOnlyList<string> Files, bool WithVoices, int? Voices, string? Out, string? Model, string Language);

    public static Command Make(TextWriter output)
    {
        var files = CommandLine.Files(
            "A media file, or several of one sitting. Times count from the first one's first sample.",
            1,
            MostFiles
        );
        var sitting = new Option<bool>("--sitting")
        {
            Description = "Several files: they are laid on the clock of the first by their sound.",
        };
        var voices = new Option<string?>("--voices")
        {
            Description = "Tell voices apart: how many there are, or auto.",
            HelpName = "N|auto",
        };
        voices.Validators.Add(asked =>
        {
            if (asked.GetValue(voices) is { } text && text != "auto" && Number(text) is not (>= 1 and <= MostVoices))
            {
                asked.AddError($"--voices takes auto or a number from 1 to {MostVoices}, not “{text}”.");
            }
        });
        var into = new Option<string?>("--out") { Description = "Where the words JSON is written; else it is printed.", HelpName = "FILE" };
        var model = new Option<string?>("--model")
        {
            Description = "A speech model's file to recognise by (see ember models).",
            HelpName = "FILE",
        };
        var language = new Option<string>("--language")
        {
            Description = "The language that is spoken: its code, or auto where the model finds it.",
            HelpName = "CODE",
            DefaultValueFactory = _ => "en",
        };
        language.Validators.Add(asked =>
        {
            if (SpokenLanguage.Of(asked.GetValue(language)) is null)
            {
                asked.AddError($"--language takes the code of a language, as en or fr, or auto, not “{asked.GetValue(language)}”.");
            }
        });
        var command = new Command(
            "transcribe",
            "The words of media files of one sitting, with who says them, by the recogniser of this machine."
        )
        {
            files,
            sitting,
            voices,
            into,
            model,
            language,
        };
        command.Validators.Add(asked =>
        {
            if (asked.GetResult(files)?.Tokens.Count > 1 && !asked.GetValue(sitting))
            {
                asked.AddError("Several files need --sitting.");
            }
        });
        command.SetAction(
            (asked, cancel) =>
            {
                var number = asked.GetValue(voices);
                return RunAsync(
                    new Asked(
                        asked.GetValue(files)!,
                        number is not null,
                        Number(number),
                        asked.GetValue(into),
                        asked.GetValue(model),
                        asked.GetValue(language)!
                    ),
                    output,
                    cancel
                );
            }
        );
        return command;
    }

    private static int? Number(string? text) =>
        int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number) ? number : null;

    /// <summary>
    /// Returns 0. Throws <see cref="UnreadableMediaException"/> or <see cref="ToolException"/> with what to do.
    /// </summary>
    private static async Task<int> RunAsync(Asked asked, TextWriter output, CancellationToken cancel)
    {
        var recogniser = RecogniserOf(asked.Model);
        if (recogniser.WhyNot(asked.Language) is { } reason)
        {
            throw new ToolException(reason);
        }
        using var clock = new FilesOnOneClock();
        var mics = await MicsOfFiles.PlaceAsync(asked.Files, clock, cancel);
        var extent = SittingSound.Extent(mics);
        var pcm = Path.Combine(clock.Folder, "sound.pcm");
        var levels = await SittingSound.MakeAsync(mics, pcm, cancel);
        var near = HeardVoices.Layout(levels, pcm, asked.Voices, within: null);
        var (sound, length) = (pcm, extent.Length);
        if (near is not null)
        {
            (sound, length) = (Path.Combine(clock.Folder, "spoken.pcm"), MediaTime.FromSamples(near.Steps, Step.PerSecond));
            await SittingSound.MakeSpokenAsync(mics, near, sound, cancel);
        }
        var heard = MediaTime.Zero;
        var text = await new Transcription(recogniser, asked.Language).RunAsync(
            sound,
            "",
            new Dictionary<StepRange, WordList>(),
            piece =>
            {
                heard += piece.Piece.Length;
                return Console.Error.WriteLineAsync(string.Create(CultureInfo.InvariantCulture, $"{heard} of {length}"));
            },
            cancel
        );
        var words = near?.OnTheSitting(text.Words) ?? text.Words;
        if (asked.WithVoices || mics.Count > 1)
        {
            var given = HeardVoices.Give(words, levels, pcm, asked.Voices);
            words = given.Words;
            if (given.Doubt is { } doubt)
            {
                await Console.Error.WriteLineAsync(Doubted(doubt.Moved(Step.At(extent.In.FromZero) - new Step(0))));
            }
        }
        var json = WordsJson.Write(new WordList(text.Language, OnTheFirst(words, extent.In)));
        await (asked.Out is null ? output.WriteAsync(json) : File.WriteAllTextAsync(asked.Out, json, cancel));
        return 0;
    }

    private static string Doubted(VoiceDoubt doubt)
    {
        static string Places(IReadOnlyList<StepRange> turns) => string.Join(", ", turns.Select(t => t.First.FromStart.ToString()));
        return $"How many voices there are is not sure: it may be {doubt.Perhaps}. Hear whether it is one person at "
            + $"{Places(doubt.One)} and at {Places(doubt.Other)}; then say the number with --voices.";
    }

    private static IRecogniser RecogniserOf(string? model) =>
        model is null ? new PocketSphinx()
        : SpeechModels.Look(model) is { Model: { } found } ? new ModelRecogniser(found)
        : throw new ToolException(SpeechModels.Look(model).WhyNot!);

    // Words from before the first file's start have no time on its clock that the words JSON can hold.
    private static IReadOnlyList<RecognisedWord> OnTheFirst(IReadOnlyList<RecognisedWord> words, SittingTime from)
    {
        var late = from.FromZero;
        return
        [
            .. words
                .Where(w => w.Range.In.FromZero + late >= MediaTime.Zero)
                .Select(w => w with { Range = new SourceRange(w.Range.In + late, w.Range.Out + late) }),
        ];
    }
}
