using EmberLane.Core.Edits;

namespace EmberLane.Core.Bites;

/// <summary>What people decide about a bite after it was marked. <paramref name="Gone"/>: its keeping was taken back.</summary>
public sealed record BiteState(string Theme, string Note, bool Aside, bool Gone);

/// <summary>
/// A bite as it shall be. Together with the opposite edit only what differs between the two is meant: <see cref="Against"/>.
/// </summary>
public sealed record BiteEdit(long Id, string Theme, string Note, bool Aside, bool Gone) : IEdit<BiteState, BiteEdit>
{
    /// <summary>The longest theme and note, in characters.</summary>
    public const int LongestTheme = 60,
        LongestNote = 500;

    /// <summary>The edit that gives a bite this state.</summary>
    public static BiteEdit Of(long id, BiteState state) => new(id, state.Theme, state.Note, state.Aside, state.Gone);

    /// <summary>Throws <see cref="EditRefusedException"/> for a theme or note that is too long.</summary>
    public (BiteState State, BiteEdit Inverse) Apply(BiteState state) =>
        Theme.Length > LongestTheme || Note.Length > LongestNote
            ? throw new EditRefusedException(
                FormattableString.Invariant($"A theme takes at most {LongestTheme} characters, a note {LongestNote}.")
            )
            : (new BiteState(Theme, Note, Aside, Gone), Of(Id, state));

    /// <summary>This edit on a bite that others may have changed in other ways since <paramref name="opposite"/> held.</summary>
    public BiteEdit Against(BiteEdit opposite, BiteState now) =>
        new(
            Id,
            Rows.Changed(now.Theme, Theme, opposite.Theme),
            Rows.Changed(now.Note, Note, opposite.Note),
            Rows.Changed(now.Aside, Aside, opposite.Aside),
            Rows.Changed(now.Gone, Gone, opposite.Gone)
        );

    /// <inheritdoc/>
    public static IEnumerable<string> Touches(BiteEdit edit, BiteEdit inverse) =>
        [
            .. Rows.Named(FormattableString.Invariant($"theme {edit.Id}"), edit.Theme, inverse.Theme),
            .. Rows.Named(FormattableString.Invariant($"note {edit.Id}"), edit.Note, inverse.Note),
            .. Rows.Named(FormattableString.Invariant($"aside {edit.Id}"), edit.Aside, inverse.Aside),
            // A bite that goes takes all of it along.
            .. edit.Gone == inverse.Gone
                ? Array.Empty<string>()
                :
                [
                    FormattableString.Invariant($"theme {edit.Id}"),
                    FormattableString.Invariant($"note {edit.Id}"),
                    FormattableString.Invariant($"aside {edit.Id}"),
                ],
        ];
}
