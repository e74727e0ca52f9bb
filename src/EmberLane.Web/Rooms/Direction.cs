using System.Text;

namespace EmberLane.Web.Rooms;

/// <summary>
/// Which way a text runs. Told by the server: a browser that has to find out for each turn takes twice as long to show a long page.
/// </summary>
internal static class Direction
{
    /// <summary>
    /// <c>rtl</c> when the first letter is of a script that runs from right to left (the ranges that Unicode keeps for them), otherwise
    /// null.
    /// </summary>
    public static string? Of(string text) =>
        text.EnumerateRunes().FirstOrDefault(Rune.IsLetter).Value
            is (>= 0x0590 and <= 0x08FF)
                or (>= 0xFB1D and <= 0xFDFF)
                or (>= 0xFE70 and <= 0xFEFF)
                or (>= 0x10800 and <= 0x10FFF)
                or (>= 0x1E800 and <= 0x1EFFF)
            ? "rtl"
            : null;
}
