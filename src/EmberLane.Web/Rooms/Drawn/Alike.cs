using System.Collections;

namespace EmberLane.Web.Rooms.Drawn;

/// <summary>A list that equals another when their items do.</summary>
public sealed class Alike<T>(IReadOnlyList<T> items) : IReadOnlyList<T>, IEquatable<Alike<T>>
{
    public int Count => items.Count;

    public T this[int index] => items[index];

    /// <inheritdoc/>
    public bool Equals(Alike<T>? other) => other is not null && items.SequenceEqual(other);

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as Alike<T>);

    /// <inheritdoc/>
    public override int GetHashCode() => items.Count;

    public IEnumerator<T> GetEnumerator() => items.GetEnumerator();

    IEnumerator IEnumerable.GetEnumerator() => GetEnumerator();
}
