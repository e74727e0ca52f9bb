namespace EmberLane.Web.Rooms;

/// <summary>Tells which stories a change of what is set aside has made longer or shorter.</summary>
internal static class StoryLengths
{
    private const int Named = 3;

    /// <summary>A sentence for each of the first few; empty where none is.</summary>
    public static string Touched(
        IReadOnlyDictionary<long, (string Title, MediaTime Length)> before,
        IReadOnlyDictionary<long, (string Title, MediaTime Length)> now
    )
    {
        var touched = now.Where(s => before.TryGetValue(s.Key, out var was) && was.Length != s.Value.Length).ToList();
        var told = touched
            .Take(Named)
            .Select(s =>
                s.Value.Length > before[s.Key].Length
                    ? $"“{s.Value.Title}” is {s.Value.Length - before[s.Key].Length} longer."
                    : $"“{s.Value.Title}” is {before[s.Key].Length - s.Value.Length} shorter."
            );
        return string.Join(' ', touched.Count > Named ? told.Append($"{touched.Count - Named} more stories are touched.") : told);
    }
}
