using EmberLane.Core.Captions;
using EmberLane.Core.Speech;

namespace EmberLane.Engines.Speech;

/// <summary>
/// A recogniser that a studio already has: a program that gets the path of a WAV file as its last argument (before it <c>--language</c> and
/// two letters when that is not English) and answers with words JSON or WebVTT.
/// </summary>
public sealed class CommandRecogniser(string? program) : IRecogniser
{
    /// <inheritdoc/>
    public PiecesTaken? Pieces => null;

    /// <inheritdoc/>
    public IReadOnlyList<string>? Languages => null;

    /// <inheritdoc/>
    public string? WhyNot(string language = "en") =>
        program is null ? "No command is set. Start Ember Lane with --recogniser-command PROGRAM."
        : Programs.Find(program) is null
            ? $"The command {program} is not there. Start Ember Lane with --recogniser-command and a program that exists."
        : language == SpokenLanguage.Found ? "A command of yours is told the language that is spoken. Choose which it is."
        : null;

    /// <inheritdoc/>
    public async Task<WordList> RecogniseAsync(ToRecognise sound, CancellationToken cancel)
    {
        if (WhyNot(sound.Language) is { } reason)
        {
            throw new ToolException(reason);
        }
        var answer = await Tool.ReadAsync(
            program!,
            sound.Language == "en" ? [sound.WavPath] : ["--language", sound.Language, sound.WavPath],
            TimeSpan.FromHours(12),
            cancel
        );
        try
        {
            return answer.TrimStart('\uFEFF').StartsWith("WEBVTT", StringComparison.Ordinal)
                ? new WordList(sound.Language, WebVtt.ReadWords(answer))
                : WordsJson.Read(answer) with
                {
                    Language = sound.Language,
                };
        }
        catch (FormatException bad)
        {
            throw new ToolException(
                $"The command {Path.GetFileName(program)} answered with something that can not be read. {bad.Message}",
                bad
            );
        }
    }
}
