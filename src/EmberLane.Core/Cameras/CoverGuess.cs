namespace EmberLane.Core.Cameras;

/// <summary>Whom the angles of a sitting cover, guessed from named faces and from the angles' names, for a person to check.</summary>
public static class CoverGuess
{
    private const int ShortestName = 3;

    private static readonly string[] WideNames = ["wide", "all", "both", "total", "master", "group"];

    /// <summary>
    /// For each angle whom it covers. A word for everybody in its name is everybody; else those whose faces somebody named in its picture
    /// (<paramref name="faces"/>, for each angle) are there, else a name of a person in its name is that person; one angle and one person
    /// that are left belong together. An interviewer is taken to be out of view. Where one person alone is in view, or there is one angle,
    /// it is that.
    /// </summary>
    public static IReadOnlyList<IReadOnlyList<string>> Of(
        IReadOnlyList<string> angles,
        IReadOnlyList<string> people,
        IReadOnlyList<IReadOnlyList<string>> faces
    )
    {
        var inView = people.Where(p => !p.Contains("interviewer", StringComparison.OrdinalIgnoreCase)).ToList();
        if (inView.Count == 1 || angles.Count == 1)
        {
            return [.. angles.Select(_ => inView)];
        }
        var found = angles
            .Zip(
                faces,
                (angle, seen) => Named(Words(angle), inView) is var named && named?.Count == inView.Count ? named : Seen(seen) ?? named
            )
            .ToList();
        var left = inView.Where(p => !found.Any(f => f?.Count == 1 && f[0] == p)).ToList();
        var isOne = left.Count == 1 && found.Count(f => f is null) == 1;
        return [.. found.Select(f => f ?? (isOne ? left : []))];

        List<string>? Seen(IReadOnlyList<string> names) =>
            inView.Where(p => names.Contains(p, StringComparer.OrdinalIgnoreCase)).ToList() is { Count: > 0 } seen ? seen : null;
    }

    private static List<string>? Named(HashSet<string> words, List<string> inView)
    {
        var named = inView.Where(p => Words(p).Any(w => w.Length >= ShortestName && words.Contains(w))).ToList();
        return named.Count > 0 ? named
            : WideNames.Any(words.Contains) ? inView
            : null;
    }

    private static HashSet<string> Words(string name) =>
        new string([.. name.Select(c => char.IsLetter(c) ? char.ToLowerInvariant(c) : ' ')])
            .Split(' ', StringSplitOptions.RemoveEmptyEntries)
            .ToHashSet(StringComparer.Ordinal);
}
