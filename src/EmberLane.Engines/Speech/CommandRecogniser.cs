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
    public bool TakesPieces => false;

    /// <inheritdoc/>
    public string? WhyNot(string language = "en") =>
        program is null ? "No command is set. Start Ember Lane with --recogniser-command PROGRAM."
        : Programs.Find(program) is null
            ? $"The command {program} is not there. Start Ember Lane with --recogniser-command and a program that exists."
        : null;

    /// <inheritdoc/>
    public async Task<IReadOnlyList<RecognisedWord>> RecogniseAsync(string wavPath, string title, string language, CancellationToken cancel)
    {
        if (WhyNot(language) is { } reason)
        {
            throw new ToolException(reason);
        }
        var answer = await Tool.ReadAsync(
            program!,
            language == "en" ? [wavPath] : ["--language", language, wavPath],
            TimeSpan.FromHours(12),
            cancel
        );
        try
        {
            return answer.TrimStart('\uFEFF').StartsWith("WEBVTT", StringComparison.Ordinal)
                ? WebVtt.ReadWords(answer)
                : WordsJson.Read(answer).Words;
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
