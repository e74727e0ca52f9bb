using EmberLane.Core.Stories;

namespace EmberLane.Core.Handoff.Back;

/// <summary>Takes some of the lines of a comparison.</summary>
public static class ChosenPieces
{
    /// <summary>
    /// The pieces of what left with the changes of these lines, by number from 0; all where none is named. What is not taken is as it was:
    /// what went out or moved lies behind the piece that it lay behind, as far as that is there. Quadratic in what is not taken.
    /// </summary>
    public static IReadOnlyList<Piece> Of(IReadOnlyList<ComparedPiece> lines, IReadOnlySet<int>? taken)
    {
        var pieces = new List<Piece>();
        var stays = new List<Piece>();
        foreach (var (i, line) in lines.Index())
        {
            var isTaken = line.Became == Became.Same || taken is null || taken.Contains(i);
            switch (line.Became)
            {
                case Became.CameIn when !isTaken:
                    break;
                case Became.WentOut when isTaken:
                    break;
                case Became.Moved or Became.MovedAndChanged when !isTaken:
                    stays.Add(line.Was!);
                    break;
                default:
                    pieces.Add(isTaken ? line.Is! : line.Was!);
                    break;
            }
        }
        return Put(pieces, stays, lines);
    }

    private static List<Piece> Put(List<Piece> pieces, List<Piece> stays, IReadOnlyList<ComparedPiece> lines)
    {
        if (stays.Count == 0)
        {
            return pieces;
        }
        var before = WasOrder(lines);
        foreach (var piece in before.Where(stays.Contains))
        {
            var behind = before
                .TakeWhile(p => p.Id != piece.Id)
                .Select(p => pieces.FindIndex(o => o.Id == p.Id))
                .LastOrDefault(p => p >= 0, -1);
            pieces.Insert(behind + 1, piece);
        }
        return pieces;
    }

    private static List<Piece> WasOrder(IReadOnlyList<ComparedPiece> lines) =>
        [.. lines.Where(l => l.Was is not null).OrderBy(l => l.WasAt).Select(l => l.Was!)];
}
