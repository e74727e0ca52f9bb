namespace EmberLane.Core.Edits;

/// <summary>Edits that hold values as they shall be, where only those that differ from the inverse's are meant.</summary>
internal static class Rows
{
    /// <summary>
    /// <paramref name="to"/> when the change is about this value, else the value as it is now, whatever others made of it since.
    /// </summary>
    public static T Changed<T>(T now, T to, T from) => EqualityComparer<T>.Default.Equals(to, from) ? now : to;

    /// <summary><paramref name="name"/> when the change is about this value.</summary>
    public static IEnumerable<string> Named<T>(string name, T to, T from) => EqualityComparer<T>.Default.Equals(to, from) ? [] : [name];
}
