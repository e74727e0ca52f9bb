using EmberLane.Core.Stories;

namespace EmberLane.Web.Rooms;

/// <summary>How a line of two compared versions is shown.</summary>
public static class ComparedLook
{
    /// <summary>Its class, its mark, and the mark in words; nothing where it is the same.</summary>
    public static (string CssClass, string Mark, string Says) Of(Became became) =>
        became switch
        {
            Became.CameIn => ("came-in", "+", "came in"),
            Became.WentOut => ("went-out", "−", "went out"),
            Became.Moved => ("moved", "↕", "moved"),
            Became.Changed => ("changed", "≠", "changed"),
            Became.MovedAndChanged => ("moved changed", "↕", "moved, changed"),
            _ => ("same", "", ""),
        };

    /// <summary>Whether what it was is said beside what it is: where it went out, or says something else now.</summary>
    public static bool IsToldTwice(ComparedPiece line, Func<Piece, string> said) =>
        line is { Was: { } was } && (line.Is is not { } now || said(was) != said(now));

    /// <summary>What changed of a card beside its words.</summary>
    public static string Change(ComparedPiece line) =>
        line is not { Was: Card was, Is: Card now }
            ? ""
            : string.Join(
                ", ",
                new[]
                {
                    was.Range.Length == now.Range.Length ? ""
                    : was.Range.Length < now.Range.Length ? $"{now.Range.Length - was.Range.Length} longer"
                    : $"{was.Range.Length - now.Range.Length} shorter",
                    was.Angle == now.Angle ? "" : "another angle",
                    was.BiteId == now.BiteId ? "" : "another take",
                    was.Over == now.Over ? "" : "another picture over it",
                    was.ComesIn == now.ComesIn ? ""
                    : now.ComesIn is { } dissolve ? $"dissolves in over {dissolve.Lasting}"
                    : "comes in by a cut",
                }.Where(t => t.Length > 0)
            );
}
