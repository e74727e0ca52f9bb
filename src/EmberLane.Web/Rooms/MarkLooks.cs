using EmberLane.Core.Marks;

namespace EmberLane.Web.Rooms;

/// <summary>
/// How a kind of mark looks: the glyph before a flagged word, and what a fold says of the words that it holds. Never told apart by colour.
/// </summary>
public sealed record MarkLook(string Glyph, string Fold);

/// <summary>The look of every kind of mark, in one place.</summary>
public static class MarkLooks
{
    private const string Pennant = "<svg viewBox=\"0 0 12 12\" aria-hidden=\"true\"><path d=\"M2 0v12M2 1h8L7.5 3.5 10 6H2\"/></svg>";

    private static readonly Dictionary<MarkKind, MarkLook> Looks = new()
    {
        [MarkKind.SetAsideByHand] = new MarkLook("", "aside"),
        [MarkKind.OffTheRecord] = new MarkLook("", "off the record"),
        [MarkKind.OtherTry] = new MarkLook("", "of another try"),
        [MarkKind.Hesitation] = new MarkLook("", "of hesitation"),
        [MarkKind.Pause] = new MarkLook("", ""),
        [MarkKind.FilledSound] = new MarkLook("", ""),
        [MarkKind.LookAgain] = new MarkLook(Pennant, ""),
        [MarkKind.UseThis] = new MarkLook(Pennant, ""),
        [MarkKind.LeaveOut] = new MarkLook(Pennant, ""),
        [MarkKind.AskAbout] = new MarkLook(Pennant, ""),
        // Shown by what they do to the words, or in the margin.
        [MarkKind.Settled] = new MarkLook("", ""),
        [MarkKind.Bite] = new MarkLook("", ""),
        [MarkKind.LeftPause] = new MarkLook("", ""),
        [MarkKind.LeftHesitation] = new MarkLook("", ""),
        [MarkKind.LeftSound] = new MarkLook("", ""),
        [MarkKind.LeftTry] = new MarkLook("", ""),
        [MarkKind.LeftCue] = new MarkLook("", ""),
        [MarkKind.Part] = new MarkLook("", ""),
    };

    public static MarkLook Of(MarkKind kind) => Looks[kind];
}
