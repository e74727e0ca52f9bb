using System.Globalization;
using EmberLane.Core.Speech;

namespace EmberLane.Engines.Speech.Models;

/// <summary>
/// Recognises by a speech model that the studio has, in a program of its own: a damaged model ends that program and nothing else.
/// </summary>
public sealed class ModelRecogniser(SpeechModel model) : IRecogniser
{
    /// <summary>
    /// What such a model hears at a time is 30 s; a piece that is longer would be cut anywhere. It uses all cores for one piece.
    /// </summary>
    private static readonly PiecesTaken UpToHalfAMinute = new(1_500, 2_900, 1);

    /// <summary>Letters of names and terms that are told beforehand: a model keeps some 220 parts of words in mind.</summary>
    private const int MostTold = 500;

    private static readonly TimeSpan LongestPiece = TimeSpan.FromHours(2);

    private static readonly IReadOnlyList<string> Many = [SpokenLanguage.Found, .. SpokenLanguage.All.Select(l => l.Code)];

    private static readonly IReadOnlyList<string> English = ["en"];

    /// <summary>The program that listens, beside this one.</summary>
    public static string Listener { get; } = Path.Combine(AppContext.BaseDirectory, "EmberLane.Listener.dll");

    /// <inheritdoc/>
    public PiecesTaken? Pieces => UpToHalfAMinute;

    /// <inheritdoc/>
    public IReadOnlyList<string>? Languages => model.KnowsManyLanguages ? Many : English;

    /// <inheritdoc/>
    public string? WhyNot(string language = "en") =>
        !File.Exists(model.Path) ? $"The speech model {model.Path} is not there any more. Choose another recogniser in Settings."
        : !Languages!.Contains(language)
            ? model.KnowsManyLanguages ? $"The speech model {model.Name} does not know the language “{language}”."
                : $"The speech model {model.Name} knows English only. Choose another recogniser in Settings for other languages."
        : null;

    /// <inheritdoc/>
    public async Task<WordList> RecogniseAsync(ToRecognise sound, CancellationToken cancel)
    {
        if (WhyNot(sound.Language) is { } reason)
        {
            throw new ToolException(reason);
        }
        try
        {
            var answer = await Tool.ReadAsync(
                Programs.Find("dotnet") ?? Environment.ProcessPath ?? "dotnet",
                [
                    Listener,
                    model.Path,
                    sound.Language,
                    sound.WavPath,
                    Environment.ProcessorCount.ToString(CultureInfo.InvariantCulture),
                    Told(sound.Terms),
                ],
                LongestPiece,
                cancel
            );
            return WordsJson.Read(answer);
        }
        catch (Exception failed) when (failed is ToolException or FormatException)
        {
            throw new ToolException(
                $"The speech model {model.Name} could not be used: its file may be damaged, or too large for this machine's memory. Get it "
                    + $"anew, or choose another recogniser in Settings. ({failed.Message})",
                failed
            );
        }
    }

    // As running text, which is what a model expects before the talk; whole terms only.
    private static string Told(IReadOnlyList<string> terms)
    {
        var told = "";
        foreach (var term in terms.Select(t => t.Trim()).Where(t => t.Length > 0))
        {
            if (told.Length + term.Length + 2 > MostTold)
            {
                break;
            }
            told += (told.Length == 0 ? "" : ", ") + term;
        }
        return told;
    }
}
