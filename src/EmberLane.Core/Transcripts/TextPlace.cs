using System.Globalization;

namespace EmberLane.Core.Transcripts;

/// <summary>
/// The place of a word among those that are read (<see cref="Transcript.Words"/>), from 0. It changes as words are added before it; what is
/// to last names words by their <see cref="WordNumber"/>. Two places differ by a count of words.
/// </summary>
public readonly record struct TextPlace(int Value) : IComparable<TextPlace>
{
    /// <summary>The place of the first word.</summary>
    public static readonly TextPlace First = new(0);

    /// <summary>Before the first word.</summary>
    public static readonly TextPlace BeforeFirst = new(-1);

    /// <summary>The places from one to another, both included; none where the second comes first.</summary>
    public static IEnumerable<TextPlace> Between(TextPlace first, TextPlace last)
    {
        for (var place = first; place <= last; place++)
        {
            yield return place;
        }
    }

    /// <summary>How many words there are from one place to another, both included.</summary>
    public static int Count(TextPlace first, TextPlace last) => last - first + 1;

    /// <inheritdoc/>
    public int CompareTo(TextPlace other) => Value.CompareTo(other.Value);

    /// <summary>So many words further on.</summary>
    public static TextPlace operator +(TextPlace place, int words) => new(place.Value + words);

    /// <summary>So many words before.</summary>
    public static TextPlace operator -(TextPlace place, int words) => new(place.Value - words);

    /// <summary>How many words one stands behind the other.</summary>
    public static int operator -(TextPlace one, TextPlace other) => one.Value - other.Value;

    /// <summary>The next place.</summary>
    public static TextPlace operator ++(TextPlace place) => place + 1;

    /// <summary>The place before.</summary>
    public static TextPlace operator --(TextPlace place) => place - 1;

    /// <summary>Whether one stands before the other.</summary>
    public static bool operator <(TextPlace one, TextPlace other) => one.Value < other.Value;

    /// <summary>Whether one stands behind the other.</summary>
    public static bool operator >(TextPlace one, TextPlace other) => one.Value > other.Value;

    /// <summary>Whether one stands before the other or both are the same.</summary>
    public static bool operator <=(TextPlace one, TextPlace other) => one.Value <= other.Value;

    /// <summary>Whether one stands behind the other or both are the same.</summary>
    public static bool operator >=(TextPlace one, TextPlace other) => one.Value >= other.Value;

    /// <summary>The plain number.</summary>
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
}
