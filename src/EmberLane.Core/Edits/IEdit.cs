namespace EmberLane.Core.Edits;

/// <summary>
/// A change to a state, as a value. Every change that a person makes is one, is kept in the log of changes with its inverse, and is taken
/// back by it; so undo survives a restart, goes by person, and out of order where nothing else touched the same.
/// </summary>
public interface IEdit<TState, TEdit>
    where TEdit : IEdit<TState, TEdit>
{
    /// <summary>
    /// The new state, and the edit that leads back. Throws <see cref="EditRefusedException"/> with a sentence when the edit does not fit
    /// the state; then nothing is changed.
    /// </summary>
    (TState State, TEdit Inverse) Apply(TState state);

    /// <summary>
    /// What of the state a change touches, given with its inverse; two changes that name nothing in common can be taken back in any order.
    /// Names are for comparing only.
    /// </summary>
    static abstract IEnumerable<string> Touches(TEdit edit, TEdit inverse);
}
