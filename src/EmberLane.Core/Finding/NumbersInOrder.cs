namespace EmberLane.Core.Finding;

/// <summary>
/// Names in the order in which people count: A2 before A10. Case does not matter; equal then is what differs in zeros only, by plain order.
/// </summary>
public sealed class NumbersInOrder : IComparer<string>
{
    public static NumbersInOrder Comparer { get; } = new();

    public int Compare(string? x, string? y)
    {
        ReadOnlySpan<char> one = x ?? "",
            other = y ?? "";
        while (one.Length > 0 && other.Length > 0)
        {
            int digitsOne = Digits(one),
                digitsOther = Digits(other);
            int taken = 1,
                takenOther = 1,
                order;
            if (digitsOne > 0 && digitsOther > 0)
            {
                (taken, takenOther) = (digitsOne, digitsOther);
                ReadOnlySpan<char> a = one[..digitsOne].TrimStart('0'),
                    b = other[..digitsOther].TrimStart('0');
                order = a.Length != b.Length ? a.Length - b.Length : a.SequenceCompareTo(b);
            }
            else
            {
                order = char.ToLowerInvariant(one[0]) - char.ToLowerInvariant(other[0]);
            }
            if (order != 0)
            {
                return order;
            }
            one = one[taken..];
            other = other[takenOther..];
        }
        return one.Length != other.Length ? one.Length - other.Length : string.CompareOrdinal(x, y);
    }

    private static int Digits(ReadOnlySpan<char> text)
    {
        var n = 0;
        while (n < text.Length && char.IsAsciiDigit(text[n]))
        {
            n++;
        }
        return n;
    }
}
