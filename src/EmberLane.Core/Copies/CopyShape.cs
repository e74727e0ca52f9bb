namespace EmberLane.Core.Copies;

/// <summary>The shape of a viewing copy: its name, and its size in pixels where it is made from playing copies.</summary>
public sealed record CopyShape(string Name, int Width, int Height)
{
    /// <summary>As most cameras film.</summary>
    public static CopyShape Wide { get; } = new("16:9", 960, 540);

    /// <summary>All of them; what is filmed wider is cut at both sides.</summary>
    public static IReadOnlyList<CopyShape> All { get; } =
    [Wide, new CopyShape("1:1", 540, 540), new CopyShape("4:5", 544, 680), new CopyShape("9:16", 540, 960)];

    /// <summary>The shape of this name. Throws <see cref="FormatException"/> with the names that there are.</summary>
    public static CopyShape Named(string name) =>
        All.FirstOrDefault(s => s.Name == name)
        ?? throw new FormatException($"There is no shape “{name}”. Known are {string.Join(", ", All.Select(s => s.Name))}.");

    /// <summary>Twice the size, for copies that are made from the sources.</summary>
    public CopyShape Large => this with { Width = 2 * Width, Height = 2 * Height };
}
