using System.Collections.Immutable;
using EmberLane.Core.Edits;

namespace EmberLane.Core.Productions;

/// <summary>
/// What people decide about a production as a whole: its name, whether it was put away, and what was chosen for it, by the choice's name.
/// </summary>
public sealed record ProductionState(string Name, bool IsAway, ImmutableSortedDictionary<string, string> Choices);

/// <summary>Another name, put away or brought back, other choices; null leaves as it is. A choice of null is none.</summary>
public sealed record ProductionEdit(string? Name, bool? Away, ImmutableSortedDictionary<string, string?>? Choices)
    : IEdit<ProductionState, ProductionEdit>
{
    /// <summary>The longest name, in characters.</summary>
    public const int LongestName = 120;

    /// <summary>Gives it another name.</summary>
    public static ProductionEdit Rename(string name) => new(name, null, null);

    /// <summary>Puts it away, or brings it back.</summary>
    public static ProductionEdit PutAway(bool away) => new(null, away, null);

    /// <summary>Makes choices; null forgets one.</summary>
    public static ProductionEdit Choose(IEnumerable<(string Name, string? Value)> choices) =>
        new(null, null, choices.ToImmutableSortedDictionary(c => c.Name, c => c.Value));

    /// <inheritdoc/>
    public (ProductionState State, ProductionEdit Inverse) Apply(ProductionState state)
    {
        var name = Name is null ? state.Name : TypedText.OneLine(Name);
        if (name.Length is 0 or > LongestName)
        {
            throw new EditRefusedException(FormattableString.Invariant($"A production needs a name of at most {LongestName} characters."));
        }
        var choices = state.Choices;
        foreach (var (key, value) in Choices ?? ImmutableSortedDictionary<string, string?>.Empty)
        {
            choices = value is null ? choices.Remove(key) : choices.SetItem(key, value);
        }
        return (
            new ProductionState(name, Away ?? state.IsAway, choices),
            new ProductionEdit(
                Name is null ? null : state.Name,
                Away is null ? null : state.IsAway,
                Choices?.Keys.ToImmutableSortedDictionary(k => k, k => state.Choices.GetValueOrDefault(k))
            )
        );
    }

    /// <inheritdoc/>
    public static IEnumerable<string> Touches(ProductionEdit edit, ProductionEdit inverse) =>
        [
            .. edit.Name is null ? Array.Empty<string>() : ["name"],
            .. edit.Away is null ? Array.Empty<string>() : ["away"],
            .. edit.Choices?.Keys.Select(k => "choice " + k) ?? [],
        ];
}
