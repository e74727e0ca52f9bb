using System.Globalization;

namespace EmberLane.Application.Rooms;

/// <summary>A count with its thing, as it is read.</summary>
public static class Many
{
    /// <summary><c>1 file</c>, <c>12 files</c>; <paramref name="several"/> where the plural is not the word with an s.</summary>
    public static string Of(long count, string one, string? several = null) =>
        string.Create(CultureInfo.InvariantCulture, $"{count} {(count == 1 ? one : several ?? one + "s")}");
}
