using System.Text.Json;
using EmberLane.Core.Speech;

namespace EmberLane.Engines.Speech;

/// <summary>
/// A simulated recognition service for demonstrations and tests without waiting. It does not listen: it answers from the demonstration
/// script, with mishearings and delays that are the same each time for the same seed.
/// </summary>
public sealed class SimulatedService(string footageFolder, TimeSpan delay, int seed = 11) : IRecogniser
{
    private static readonly Dictionary<string, string> Mishearings = new()
    {
        ["ferry"] = "fairy",
        ["tern"] = "turn",
        ["cable"] = "table",
        ["ramp"] = "lamp",
        ["where"] = "wear",
        ["water"] = "waiter",
        ["bridge"] = "ridge",
        ["compass"] = "come pass",
        ["quarry"] = "query",
    };

    /// <inheritdoc/>
    public PiecesTaken? Pieces => null;

    /// <inheritdoc/>
    public IReadOnlyList<string>? Languages { get; } = ["en"];

    /// <inheritdoc/>
    public string? WhyNot(string language = "en") =>
        language != "en" ? "The simulated service knows English only."
        : Directory.Exists(footageFolder) ? null
        : "The simulated service answers from the demonstration script, which is not installed here.";

    /// <inheritdoc/>
    public async Task<WordList> RecogniseAsync(ToRecognise sound, CancellationToken cancel)
    {
        var truth =
            Directory
                .EnumerateFiles(footageFolder, "*.truth.json")
                .Select(f => JsonDocument.Parse(File.ReadAllText(f)))
                .FirstOrDefault(d => d.RootElement.GetProperty("sitting").GetString() == sound.Title)
            ?? throw new ToolException(
                $"The simulated service knows only the demonstration sittings, and “{sound.Title}” is none of them. "
                    + "Choose another recogniser."
            );
        using (truth)
        {
            await Task.Delay(delay, cancel);
            var random = new Random(seed);
            return new WordList("en", [.. truth.RootElement.GetProperty("words").EnumerateArray().Select(w => Heard(w, random))]);
        }
    }

    private static RecognisedWord Heard(JsonElement word, Random random)
    {
        var text = word.GetProperty("t").GetString()!;
        var range = new SourceRange(At(word, "s"), At(word, "e"));
        var misheard = Mishearings.GetValueOrDefault(WordErrorRate.Plain(text));
        return misheard is not null && random.Next(3) == 0
            ? new RecognisedWord(misheard, range, new PerMille(150 + random.Next(200)))
            : new RecognisedWord(text, range, new PerMille(700 + random.Next(300)));
    }

    private static SourceTime At(JsonElement word, string name) => new(MediaTime.FromSecondsRounded(word.GetProperty(name).GetDecimal()));
}
