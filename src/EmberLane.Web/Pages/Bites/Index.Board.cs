using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Store;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Bites;

/// <summary>The bites of a theme as they stand on the board: so many, the first of them, and how long they last.</summary>
public sealed record BoardColumn(string Theme, int Count, MediaTime Length, IReadOnlyList<ShownBite> Shown);

/// <content>The board: a column for each theme, and bites taken from one to another.</content>
public sealed partial class IndexModel
{
    /// <summary>So many bites of a theme are shown.</summary>
    private const int InColumn = 40;

    public IReadOnlyList<BoardColumn> Board { get; private set; } = [];

    /// <summary>
    /// Takes a bite from one theme to another: the one is taken off it, the other put on, unless it has that already. Either may be empty.
    /// </summary>
    public IActionResult OnPostTheme(long bite, string? from, string? to)
    {
        string cleanFrom = TypedText.OneLine(from ?? ""),
            cleanTo = TypedText.OneLine(to ?? "");
        return On(
            bite,
            () => bites.Change([bite], (_, b) => b with { Theme = BiteThemes.With(BiteThemes.Without(b.Theme, cleanFrom), cleanTo) }, Who)
        );
    }

    private void LoadBoard()
    {
        LoadFigures();
        Board =
        [
            .. Themes
                .Where(t => Filter.Theme is null || Filter.Theme.Equals(t, StringComparison.OrdinalIgnoreCase))
                .Select(t =>
                {
                    var filter = Filter with { Theme = t };
                    var (count, length) = bites.Figures(Production.Id, filter);
                    return new BoardColumn(t, count, length, Desk.Shown(Production.Id, bites.Some(Production.Id, filter, 0, InColumn)));
                }),
        ];
        ShownUpTo = AtOnce;
    }
}
