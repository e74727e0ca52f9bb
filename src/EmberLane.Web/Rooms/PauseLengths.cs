using System.Globalization;

namespace EmberLane.Web.Rooms;

/// <summary>
/// From which length on a pause is shown is the reader's choice: the page holds them all, each named after the longest of the choices that
/// it reaches.
/// </summary>
internal static class PauseLengths
{
    /// <summary>What a reader can choose from, in milliseconds.</summary>
    public static IReadOnlyList<int> Choices { get; } = [500, 1000, 2000, 4000];

    public static string Of(MediaTime pause) =>
        FormattableString.Invariant($"from-{Choices.Last(c => c == Choices[0] || Tenths(pause) * 100 >= c)}");

    /// <summary>Whether the shortest of the choices shows it.</summary>
    public static bool IsShown(MediaTime pause) => Tenths(pause) * 100 >= Choices[0];

    /// <summary>Seconds to the tenth: <c>1.8 s</c>.</summary>
    public static string ToPauseText(this MediaTime pause) => (Tenths(pause) / 10m).ToString("0.0", CultureInfo.InvariantCulture) + " s";

    // What a person reads decides which pauses are shown: “1.0 s” is one of a second.
    private static long Tenths(MediaTime pause) => (pause.ToMillisecondsRounded() + 50) / 100;
}
