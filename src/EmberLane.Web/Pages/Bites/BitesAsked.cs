using System.Globalization;
using EmberLane.Core;
using EmberLane.Store;

namespace EmberLane.Web.Pages.Bites;

/// <summary>What of the bites a person wants to see, and how, as it stands in the address.</summary>
public sealed class BitesAsked
{
    /// <summary>The theme that asks for bites without one.</summary>
    public const string NoTheme = "-";

    /// <summary>By sitting, by person, or the board: <c>person</c>, <c>board</c>, else by sitting.</summary>
    public string? View { get; set; }

    public string? Theme { get; set; }

    public string? Who { get; set; }

    public long? Sitting { get; set; }

    public int Least { get; set; }

    /// <summary><c>in</c> the story in hand, <c>out</c> of it, else both.</summary>
    public string? Story { get; set; }

    public string? Words { get; set; }

    public bool IsBoard => View == "board";

    public bool ByPerson => View == "person";

    /// <summary>Whether less than all is asked for.</summary>
    public bool IsLess =>
        !string.IsNullOrEmpty(Theme)
        || !string.IsNullOrEmpty(Who)
        || Sitting is not null
        || Least > 0
        || Story is "in" or "out"
        || !string.IsNullOrWhiteSpace(Words);

    /// <summary>What is asked for as fields of a form.</summary>
    public IEnumerable<(string Name, string Value)> Fields =>
        new (string Name, string? Value)[]
        {
            ("is.View", View),
            ("is.Theme", Theme),
            ("is.Who", Who),
            ("is.Sitting", Sitting?.ToString(CultureInfo.InvariantCulture)),
            ("is.Least", Least > 0 ? Least.ToString(CultureInfo.InvariantCulture) : null),
            ("is.Story", Story),
            ("is.Words", Words),
        }
            .Where(f => !string.IsNullOrEmpty(f.Value))
            .Select(f => (f.Name, f.Value!));

    /// <summary>As the store is asked, where a story is in hand.</summary>
    public BiteFilter Filter(long story) =>
        new()
        {
            Theme =
                string.IsNullOrEmpty(Theme) ? null
                : Theme == NoTheme ? ""
                : Theme,
            Person = string.IsNullOrEmpty(Who) ? null : Who,
            Sitting = Sitting,
            LeastGrade = Math.Clamp(Least, 0, 3),
            InStory = Story switch
            {
                "in" => true,
                "out" => false,
                _ => null,
            },
            Story = story,
            Words = TypedText.OneLine(Words ?? ""),
        };
}
