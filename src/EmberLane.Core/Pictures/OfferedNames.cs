namespace EmberLane.Core.Pictures;

/// <summary>Names offered for faces that nobody named, by those that somebody did.</summary>
public static class OfferedNames
{
    /// <summary>Looks further apart than this are of different persons; one must be nearer by this much than the next name.</summary>
    private static readonly PerMille Furthest = new(150);

    private const int Clearly = 60;

    /// <summary>
    /// For each of those who are seen in one shot, the name of who looks most like them, or null: nobody is offered twice in a picture, nor
    /// where a <paramref name="taken"/> name stands beside them, nor where two names fit nearly alike.
    /// </summary>
    public static IReadOnlyList<string?> Of(
        IReadOnlyList<SeenPerson> unnamed,
        IReadOnlyList<(SeenPerson Person, string Name)> named,
        IReadOnlyCollection<string> taken
    )
    {
        var offers = new string?[unnamed.Count];
        var fits = unnamed
            .SelectMany((p, i) => Nearest(p, named).Select(n => (Index: i, n.Name, n.Apart, n.Next)))
            .Where(f => f.Apart <= Furthest && !taken.Contains(f.Name) && f.Next - f.Apart.Value >= Clearly)
            .OrderBy(f => f.Apart);
        foreach (var fit in fits)
        {
            if (offers[fit.Index] is null && !offers.Contains(fit.Name))
            {
                offers[fit.Index] = fit.Name;
            }
        }
        return offers;
    }

    // The nearest name, and how far the next one is.
    private static IEnumerable<(string Name, PerMille Apart, int Next)> Nearest(
        SeenPerson person,
        IReadOnlyList<(SeenPerson Person, string Name)> named
    )
    {
        var byName = named
            .GroupBy(n => n.Name)
            .Select(g => (Name: g.Key, Apart: g.Min(n => person.Apart(n.Person))))
            .OrderBy(n => n.Apart)
            .ToList();
        return byName.Count == 0 ? [] : [(byName[0].Name, byName[0].Apart, byName.Count > 1 ? byName[1].Apart.Value : 1000)];
    }
}
