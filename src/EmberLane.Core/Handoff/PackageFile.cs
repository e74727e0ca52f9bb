using System.Security.Cryptography;

namespace EmberLane.Core.Handoff;

/// <summary>A file of a package: its name and what is in it.</summary>
public sealed record PackageFile(string Name, byte[] Bytes)
{
    /// <summary>SHA-256 of all of it, as hexadecimal digits.</summary>
    public string Sum => Convert.ToHexStringLower(SHA256.HashData(Bytes));

    /// <summary>It as a manifest tells of it.</summary>
    public WrittenFile Written => new(Name, Bytes.Length, Sum);
}

/// <summary>A file of a package as its manifest tells of it: name, bytes, SHA-256 of all of it.</summary>
public sealed record WrittenFile(string Name, long Size, string Sum);

/// <summary>What a package can hold, besides its manifest.</summary>
public sealed record PackagePart(string Name, string Says)
{
    /// <summary>All of them, in the order in which a package lists them.</summary>
    public static IReadOnlyList<PackagePart> All { get; } =
    [
        new("edl", "Decision list (EDL)"),
        new("otio", "Timeline with all angles (OpenTimelineIO)"),
        new("cuts", "Cut list (CSV)"),
        new("markers", "Markers (CSV)"),
        new("srt", "Captions (SubRip)"),
        new("vtt", "Captions (WebVTT)"),
        new("chapters", "Section times"),
        new("docx", "Paper edit (Word)"),
        new("txt", "Paper edit (text)"),
        new("translation", "Table for a translator (CSV)"),
        new("page", "A page that tells what is in it (HTML)"),
    ];

    /// <summary>
    /// The parts of these names, all where none is named. Throws <see cref="FormatException"/> with the names that there are.
    /// </summary>
    public static IReadOnlyList<PackagePart> Named(IReadOnlyList<string> names) =>
        names.FirstOrDefault(n => All.All(p => p.Name != n)) is { } unknown
            ? throw new FormatException($"There is no part “{unknown}”. Known are {string.Join(", ", All.Select(p => p.Name))}.")
            : [.. All.Where(p => names.Count == 0 || names.Contains(p.Name))];
}
