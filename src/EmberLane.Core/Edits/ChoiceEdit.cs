using System.Collections.Immutable;

namespace EmberLane.Core.Edits;

/// <summary>What people chose, each choice under its name.</summary>
public interface IChoices<TState>
    where TState : IChoices<TState>
{
    /// <summary>By name, in the order of names.</summary>
    ImmutableSortedDictionary<string, string> Choices { get; }

    /// <summary>The same with other choices.</summary>
    static abstract TState Of(ImmutableSortedDictionary<string, string> choices);
}

/// <summary>Makes changes of choices.</summary>
public static class ChoiceEdit
{
    /// <summary>Of names and what is chosen under each; null forgets one.</summary>
    public static ChoiceEdit<TState> Of<TState>(params (string Name, string? Value)[] choices)
        where TState : IChoices<TState> => new(choices.ToImmutableSortedDictionary(c => c.Name, c => c.Value, StringComparer.Ordinal));
}

/// <summary>Choices that are made; null forgets one.</summary>
public sealed record ChoiceEdit<TState>(ImmutableSortedDictionary<string, string?> Choices) : IEdit<TState, ChoiceEdit<TState>>
    where TState : IChoices<TState>
{
    /// <summary>This and then another, as one.</summary>
    public ChoiceEdit<TState> Then(ChoiceEdit<TState> next) => new(Choices.SetItems(next.Choices));

    /// <inheritdoc/>
    public (TState State, ChoiceEdit<TState> Inverse) Apply(TState state) =>
        (
            TState.Of(Choices.Aggregate(state.Choices, (all, c) => c.Value is null ? all.Remove(c.Key) : all.SetItem(c.Key, c.Value))),
            new ChoiceEdit<TState>(
                Choices.Keys.ToImmutableSortedDictionary(k => k, k => state.Choices.GetValueOrDefault(k), StringComparer.Ordinal)
            )
        );

    /// <inheritdoc/>
    static IEnumerable<string> IEdit<TState, ChoiceEdit<TState>>.Touches(ChoiceEdit<TState> edit, ChoiceEdit<TState> inverse) =>
        edit.Choices.Where(c => c.Value != inverse.Choices.GetValueOrDefault(c.Key)).Select(c => c.Key);
}
