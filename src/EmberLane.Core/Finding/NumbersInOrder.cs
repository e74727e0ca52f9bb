using System.Globalization;

namespace EmberLane.Core.Finding;

/// <summary>Names in the order in which people count: A2 before A10. Case and zeros before a number do not matter.</summary>
public static class NumbersInOrder
{
    /// <summary>The framework's own order, the same in every language of the machine.</summary>
    public static StringComparer Comparer { get; } =
        StringComparer.Create(CultureInfo.InvariantCulture, CompareOptions.NumericOrdering | CompareOptions.IgnoreCase);
}
