using System.Globalization;
using EmberLane.Core.Finding;
using EmberLane.Store;

namespace EmberLane.Web.Pages.Gather;

/// <summary>Files as they are looked for: those that fit what was typed and chosen, in the order of a column.</summary>
public static class FileList
{
    private static readonly Dictionary<string, Func<Source, Func<Source, string>, string>> Keys = new(StringComparer.Ordinal)
    {
        ["name"] = (s, _) => s.Name,
        ["sitting"] = (s, titleOf) => titleOf(s),
        ["camera"] = (s, _) => s.Camera,
        ["reel"] = (s, _) => s.Labels.ReelOf(s.Facts),
        ["scene"] = (s, _) => s.Labels.SceneOf(s.Facts) + "\n" + s.Labels.TakeOf(s.Facts),
        ["rate"] = (s, _) => s.Facts.Picture?.Rate.ToString() ?? "",
        ["duration"] = (s, _) => s.Facts.Duration.Units.ToString("D20", CultureInfo.InvariantCulture),
        ["day"] = (s, _) => s.Day + "\n" + (s.Facts.RecordedAt?.ToString("T", CultureInfo.InvariantCulture) ?? ""),
        ["note"] = (s, _) => s.Labels.Description + s.Labels.Note,
    };

    /// <summary>The columns that can be sorted by: key and heading.</summary>
    public static IReadOnlyList<(string Key, string Heading)> Columns { get; } =
    [
        ("name", "File"),
        ("sitting", "Sitting"),
        ("camera", "Camera"),
        ("reel", "Reel"),
        ("scene", "Scene, take"),
        ("rate", "Rate"),
        ("duration", "Length"),
        ("day", "Day"),
        ("note", "What it is"),
    ];

    /// <summary>
    /// The files that hold what was asked for in anything that is known of them, and are of a choice: all (empty), <c>loose</c>,
    /// <c>missing</c>, or those of the sitting with this number. Numbers within texts count as numbers.
    /// </summary>
    public static List<Source> Of(
        IReadOnlyList<Source> all,
        Func<Source, string> titleOf,
        string asked,
        string choice,
        string column,
        bool backwards
    )
    {
        var fitting = all.Where(s =>
                choice switch
                {
                    "" => true,
                    "loose" => s.SittingId is null,
                    "missing" => s.State != FileState.Here,
                    _ => s.SittingId?.ToString(CultureInfo.InvariantCulture) == choice,
                }
            )
            .Where(s => Folded.Fits(asked, Texts(s, titleOf(s))));
        var key = Keys[column];
        var sorted = fitting.OrderBy(s => key(s, titleOf), NumbersInOrder.Comparer).ThenBy(s => s.Name, NumbersInOrder.Comparer).ToList();
        if (backwards)
        {
            sorted.Reverse();
        }
        return sorted;
    }

    // Everything that can be asked for.
    private static IEnumerable<string> Texts(Source s, string title) =>
        [
            s.Name,
            title,
            s.Camera,
            s.Labels.ReelOf(s.Facts),
            s.Labels.SceneOf(s.Facts),
            s.Labels.TakeOf(s.Facts),
            s.Facts.Picture?.Rate.ToString() ?? "sound",
            s.Facts.Duration.ToString(),
            s.Day,
            s.Labels.Description,
            s.Labels.Tags,
            s.Labels.Note,
            s.Said ?? "",
            s.Facts.Make ?? "",
            s.Facts.Model ?? "",
            string.Join(' ', s.Facts.ChannelNames),
            s.Facts.Start.Label?.ToString() ?? "",
        ];
}
