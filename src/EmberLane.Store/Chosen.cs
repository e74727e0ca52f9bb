using System.Collections.Immutable;
using EmberLane.Core.Edits;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// What people chose for things of one kind: a row a choice in a table of what it is about, its name and its value. Each change is in the
/// log.
/// </summary>
public abstract class Chosen<TState>(Database database, TimeProvider clock)
    where TState : IChoices<TState>
{
    private protected Database Database => database;

    /// <summary>The table, whose columns are its subject, name and value.</summary>
    private protected abstract string Table { get; }

    /// <summary>The column that says what a choice is about.</summary>
    private protected abstract string Subject { get; }

    private protected abstract About About(SqliteConnection c, long subject);

    /// <summary>What was chosen for one.</summary>
    public TState Of(long subject) => database.Read(c => Of(c, subject));

    /// <summary>
    /// Changes what is chosen; <paramref name="said"/> is the change in words. Throws <see cref="Core.EditRefusedException"/> where it does
    /// not fit; then nothing is changed.
    /// </summary>
    public void Change(long subject, Func<TState, ChoiceEdit<TState>> change, string said, string who) =>
        database.Write(c => Apply(c, subject, change(Of(c, subject)), said, who));

    /// <summary>
    /// Takes a person's newest change back, or brings the one that they last took back again. Returns whether there was one. Throws
    /// <see cref="Core.EditRefusedException"/> when somebody changed the same since, with who did.
    /// </summary>
    public bool Step(long subject, bool redo, string who) =>
        database.Write(c =>
        {
            if (ChangeLog.Next<TState, ChoiceEdit<TState>>(c, About(c, subject), redo, who) is not { } step)
            {
                return false;
            }
            ChangeLog.Made(c, step.Change.Id, redo);
            Save(c, subject, step.Edit);
            return true;
        });

    /// <summary>Takes one change alone back, as a change of its own; refused as <see cref="Step"/> is.</summary>
    public void TakeBack(long subject, long change, string who) =>
        database.Write(c =>
        {
            var step = ChangeLog.One<TState, ChoiceEdit<TState>>(c, About(c, subject), change);
            Apply(c, subject, step.Edit, "taken back: " + ChangeLog.SaidOf(c, change), who, change);
        });

    private void Apply(SqliteConnection c, long subject, ChoiceEdit<TState> edit, string said, string who, long? takesBack = null)
    {
        var before = Of(c, subject);
        var (after, inverse) = edit.Apply(before);
        if (after.Choices.SequenceEqual(before.Choices))
        {
            return;
        }
        Save(c, subject, edit);
        ChangeLog.Append(c, About(c, subject), who, clock.GetUtcNow(), edit, inverse, said, takesBack: takesBack);
    }

    private void Save(SqliteConnection c, long subject, ChoiceEdit<TState> edit)
    {
        foreach (var (name, value) in edit.Choices)
        {
            c.Execute($"DELETE FROM {Table} WHERE {Subject} = $s AND name = $n", ("$s", subject), ("$n", name));
            if (value is not null)
            {
                c.Execute($"INSERT INTO {Table} VALUES ($s, $n, $v)", ("$s", subject), ("$n", name), ("$v", value));
            }
        }
    }

    private TState Of(SqliteConnection c, long subject) =>
        TState.Of(
            c.Query(
                    $"SELECT name, value FROM {Table} WHERE {Subject} = $s",
                    r => KeyValuePair.Create(r.GetString(0), r.GetString(1)),
                    ("$s", subject)
                )
                .ToImmutableSortedDictionary(StringComparer.Ordinal)
        );
}
