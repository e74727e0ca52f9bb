using System.Security.Cryptography;
using System.Text;

namespace EmberLane.Core.SetFlags;

/// <summary>
/// A flag that somebody stamped beside the camera: on which day, at what time of day by their clock, and a word or two.
/// </summary>
public sealed record SetFlag(Guid Id, DateOnly Day, MediaTime At, string Who, string Words)
{
    /// <summary>The longest name and the longest words, in characters.</summary>
    public const int LongestWho = 40,
        LongestWords = 120;

    /// <summary>A day is so long.</summary>
    public static MediaTime WholeDay { get; } = MediaTime.FromMilliseconds(86_400_000);

    /// <summary>
    /// One as it was typed or sent. Without an id of its own it has one that follows from the rest, so that the same is kept once. Throws
    /// <see cref="EditRefusedException"/> for a time that is no time of day, and for a name or words that are too long.
    /// </summary>
    public static SetFlag Of(Guid? id, DateOnly day, MediaTime at, string who, string words)
    {
        var (name, said) = (TypedText.OneLine(who), TypedText.OneLine(words));
        if (at < MediaTime.Zero || at >= WholeDay)
        {
            throw new EditRefusedException("A flag stands at a time of day, from 00:00:00 to 23:59:59.");
        }
        if (name.Length > LongestWho || said.Length > LongestWords)
        {
            throw new EditRefusedException($"A flag takes a name of {LongestWho} and words of {LongestWords} characters at most.");
        }
        return new SetFlag(id ?? IdOf(day, at, name, said), day, at, name, said);
    }

    private static Guid IdOf(DateOnly day, MediaTime at, string who, string words) =>
        new(SHA256.HashData(Encoding.UTF8.GetBytes(FormattableString.Invariant($"{day:o}\n{at.Units}\n{who}\n{words}"))).AsSpan(0, 16));
}
