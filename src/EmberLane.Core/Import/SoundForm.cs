using System.Runtime.Intrinsics;
using EmberLane.Core.Speech;

namespace EmberLane.Core.Import;

/// <summary>
/// How a word or expression looks and sounds, worked out once to be compared with many: its letters, and its letters with those that sound
/// alike made one.
/// </summary>
public sealed class SoundForm
{
    private readonly Vector256<byte> plainLetters,
        heardLetters;

    private SoundForm(string text)
    {
        Plain = WordErrorRate.Plain(text);
        Heard = SoundsLike.Heard(Plain);
        (plainLetters, heardLetters) = (Counted(Plain), Counted(Heard));
    }

    /// <summary>Case, punctuation and blanks do not count.</summary>
    public static SoundForm Of(string text) => new(text);

    /// <summary>Its letters without case and punctuation.</summary>
    public string Plain { get; }

    /// <summary>Those with letters that sound alike made one.</summary>
    public string Heard { get; }

    /// <summary>
    /// At most so alike are the two, 0–1, as <see cref="SoundsLike"/> measures it: letters that only one of them has must each be changed,
    /// put in or left out. Never less than the truth, and much quicker to tell.
    /// </summary>
    public double AtMostLike(SoundForm other) =>
        Math.Max(
            1 - Apart(Plain, plainLetters, other.Plain, other.plainLetters),
            SoundsLike.ByEar * (1 - Apart(Heard, heardLetters, other.Heard, other.heardLetters))
        );

    // Letters that one has more of than the other, of the longer one's length.
    private static double Apart(string one, Vector256<byte> letters, string other, Vector256<byte> otherLetters)
    {
        var longer = Math.Max(one.Length, other.Length);
        return longer == 0 ? 0 : (double)Math.Max(More(letters, otherLetters), More(otherLetters, letters)) / longer;
    }

    private static int More(Vector256<byte> one, Vector256<byte> other)
    {
        var more = Vector256.Max(one, other) - other;
        return Vector256.Sum(Vector256.WidenLower(more) + Vector256.WidenUpper(more));
    }

    // In 32 kinds; letters that share a kind are taken for one, which can only make two words more alike than they are.
    private static Vector256<byte> Counted(string text)
    {
        Span<byte> counts = stackalloc byte[Vector256<byte>.Count];
        foreach (var c in text)
        {
            ref var count = ref counts[c % counts.Length];
            count = (byte)Math.Min(byte.MaxValue, count + 1);
        }
        return Vector256.Create<byte>(counts);
    }
}
