using System.Globalization;
using System.Text.RegularExpressions;

namespace EmberLane.Core.Media;

/// <summary>What a person wrote on a file. Empty means: nothing written, so that what was measured holds.</summary>
public sealed partial record Labels
{
    /// <summary>The longest text of one label.</summary>
    public const int Longest = 500;

    /// <summary>Nothing written.</summary>
    public static Labels None { get; } = new();

    /// <summary>Which camera; empty when nobody wrote it, as all labels.</summary>
    public string Camera { get; init; } = "";

    /// <summary>The reel, as a list names it.</summary>
    public string Reel { get; init; } = "";

    /// <summary>The scene's number or name.</summary>
    public string Scene { get; init; } = "";

    /// <summary>The take's number or name.</summary>
    public string Take { get; init; } = "";

    /// <summary>The day of recording, as <c>2026-09-14</c>.</summary>
    public string Day { get; init; } = "";

    /// <summary>What is seen or heard.</summary>
    public string Description { get; init; } = "";

    /// <summary>Words to find it by, separated by commas.</summary>
    public string Tags { get; init; } = "";

    /// <summary>For whoever works with it.</summary>
    public string Note { get; init; } = "";

    /// <summary>The best seconds of it, as <see cref="Pictures.BestPart"/> reads and writes them.</summary>
    public string Best { get; init; } = "";

    /// <summary>Whose faces are seen in it, as <see cref="Pictures.NamedFace"/> reads and writes them.</summary>
    public string Seen { get; init; } = "";

    /// <summary>The names that <see cref="With"/> takes, in the order in which they are shown.</summary>
    public static IReadOnlyList<string> Names { get; } = ["camera", "reel", "scene", "take", "day", "description", "tags", "note"];

    /// <summary>What is written under a name of <see cref="Names"/>; the note under any other.</summary>
    public string Of(string name) =>
        name switch
        {
            "camera" => Camera,
            "reel" => Reel,
            "scene" => Scene,
            "take" => Take,
            "day" => Day,
            "description" => Description,
            "tags" => Tags,
            _ => Note,
        };

    /// <summary>
    /// The labels with one of them written anew, cleaned to one line. Throws <see cref="EditRefusedException"/> for a text that is too
    /// long, a day that is no date, and a name that is none.
    /// </summary>
    public Labels With(string name, string text)
    {
        var clean = TypedText.OneLine(text);
        if (clean.Length > Longest)
        {
            throw new EditRefusedException(string.Create(CultureInfo.InvariantCulture, $"The {name} takes at most {Longest} characters."));
        }
        return name switch
        {
            "camera" => this with { Camera = clean },
            "reel" => this with { Reel = clean },
            "scene" => this with { Scene = clean },
            "take" => this with { Take = clean },
            "day" => this with { Day = AsDay(clean) },
            "description" => this with { Description = clean },
            "tags" => this with
            {
                Tags = string.Join(
                    ", ",
                    clean
                        .Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
                        .Distinct(StringComparer.OrdinalIgnoreCase)
                ),
            },
            "note" => this with { Note = clean },
            _ => throw new EditRefusedException($"A file has no label “{name}”."),
        };
    }

    private static string AsDay(string text) =>
        text.Length == 0 || DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out _)
            ? text
            : throw new EditRefusedException("Give the day as year, month and day, for example 2026-09-14.");

    /// <summary>
    /// The camera: as written, else by the letter of a card's clip name or reel (A001C002 is camera A), else the device as the file names
    /// it. Empty for sound alone with nothing written.
    /// </summary>
    public string CameraOf(SourceFacts facts, string name)
    {
        if (Camera.Length > 0 || facts.Picture is null)
        {
            return Camera;
        }
        var card = CardName().Match(facts.ReelTag ?? "") is { Success: true } reel ? reel : CardName().Match(name);
        return card.Success
            ? card.Groups[1].Value
            : string.Join(' ', new[] { facts.Make, facts.Model }.Where(t => !string.IsNullOrWhiteSpace(t)));
    }

    /// <summary>The reel, as a list names it.</summary>
    public string ReelOf(SourceFacts facts) => Reel.Length > 0 ? Reel : facts.ReelTag ?? "";

    /// <summary>The scene's number or name.</summary>
    public string SceneOf(SourceFacts facts) => Scene.Length > 0 ? Scene : facts.Scene ?? "";

    /// <summary>The take's number or name.</summary>
    public string TakeOf(SourceFacts facts) => Take.Length > 0 ? Take : facts.Take ?? "";

    /// <summary>The day that was written, else that of the recording; may be empty.</summary>
    public string DayOf(SourceFacts facts) =>
        Day.Length > 0 ? Day : facts.RecordedAt?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) ?? "";

    [GeneratedRegex("^([A-Z])[0-9]{3}(?:[A-Z_]|$)")]
    private static partial Regex CardName();
}
