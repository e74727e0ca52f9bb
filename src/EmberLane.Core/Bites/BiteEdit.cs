using EmberLane.Core.Edits;

namespace EmberLane.Core.Bites;

/// <summary>What people decide about a bite after it was marked. <paramref name="Gone"/>: its keeping was taken back.</summary>
public sealed record BiteState(string Theme, string Note, bool Aside, bool Gone)
{
    /// <summary>How good it is: <see cref="BiteGrade"/>.</summary>
    public int Grade { get; init; }

    /// <summary>What it is in one word, whatever it is about; may be empty.</summary>
    public string Kind { get; init; } = "";

    /// <summary>Where it lies; null where that was not told.</summary>
    public BitePlace? Place { get; init; }
}

/// <summary>
/// A bite as it shall be. Together with the opposite edit only what differs between the two is meant: <see cref="Against"/>.
/// </summary>
public sealed record BiteEdit(long Id, string Theme, string Note, bool Aside, bool Gone)
{
    /// <summary>The longest theme, note and kind, in characters.</summary>
    public const int LongestTheme = BiteThemes.Longest,
        LongestNote = 500,
        LongestKind = 30;

    /// <summary>As in <see cref="BiteState"/>; edits from before there were grades hold none.</summary>
    public int Grade { get; init; }

    /// <summary>As in <see cref="BiteState"/>.</summary>
    public string Kind { get; init; } = "";

    /// <summary>As in <see cref="BiteState"/>.</summary>
    public BitePlace? Place { get; init; }

    /// <summary>The edit that gives a bite this state.</summary>
    public static BiteEdit Of(long id, BiteState state) =>
        new(id, state.Theme, state.Note, state.Aside, state.Gone)
        {
            Grade = state.Grade,
            Kind = state.Kind,
            Place = state.Place,
        };

    /// <summary>Throws <see cref="EditRefusedException"/> for a theme, note or kind that is too long, or a grade that is none.</summary>
    public (BiteState State, BiteEdit Inverse) Apply(BiteState state) =>
        BiteThemes.Of(Theme) is var themes
        && (
            themes.Count > BiteThemes.Most
            || themes.Any(t => t.Length > LongestTheme)
            || Note.Length > LongestNote
            || Kind.Length > LongestKind
        )
            ? throw new EditRefusedException(
                FormattableString.Invariant(
                    $"A theme takes at most {LongestTheme} characters, a note {LongestNote}, a kind {LongestKind}; "
                ) + FormattableString.Invariant($"a bite {BiteThemes.Most} themes.")
            )
        : Grade is < 0 or > BiteGrade.Best ? throw new EditRefusedException("A grade is one, two or three, or none.")
        : (
            new BiteState(Theme, Note, Aside, Gone)
            {
                Grade = Grade,
                Kind = Kind,
                Place = Place,
            },
            Of(Id, state)
        );

    /// <summary>This edit on a bite that others may have changed in other ways since <paramref name="opposite"/> held.</summary>
    public BiteEdit Against(BiteEdit opposite, BiteState now) =>
        new(
            Id,
            Rows.Changed(now.Theme, Theme, opposite.Theme),
            Rows.Changed(now.Note, Note, opposite.Note),
            Rows.Changed(now.Aside, Aside, opposite.Aside),
            Rows.Changed(now.Gone, Gone, opposite.Gone)
        )
        {
            Grade = Rows.Changed(now.Grade, Grade, opposite.Grade),
            Kind = Rows.Changed(now.Kind, Kind, opposite.Kind),
            Place = Rows.Changed(now.Place, Place, opposite.Place),
        };

    /// <summary>What of a bite a change touches, as in <see cref="IEdit{TState,TEdit}.Touches"/>.</summary>
    public static IEnumerable<string> Touches(BiteEdit edit, BiteEdit inverse)
    {
        var isAll = edit.Gone != inverse.Gone;
        return new (string What, bool IsTouched)[]
        {
            // A bite that goes takes all of it along.
            ("theme", isAll || edit.Theme != inverse.Theme),
            ("note", isAll || edit.Note != inverse.Note),
            ("aside", isAll || edit.Aside != inverse.Aside),
            ("grade", isAll || edit.Grade != inverse.Grade),
            ("kind", isAll || edit.Kind != inverse.Kind),
            ("place", isAll || edit.Place != inverse.Place),
        }
            .Where(t => t.IsTouched)
            .Select(t => FormattableString.Invariant($"{t.What} {edit.Id}"));
    }
}
