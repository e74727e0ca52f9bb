namespace EmberLane.Application.Hands;

/// <summary>The kinds of errands, as workers are asked for them by <c>--kinds</c>.</summary>
public static class ErrandKinds
{
    /// <summary>A piece of sound whose words are recognised; playing copies and pictures; sound for sync; shots and faces.</summary>
    public const string Speech = "speech",
        Copies = "copies",
        Sound = "sound",
        Faces = "faces";

    /// <summary>All of them, in the order that a worker looks for them.</summary>
    public static IReadOnlyList<string> All { get; } = [Speech, Sound, Copies, Faces];
}

/// <summary>
/// A piece of heavy work that needs neither the database nor the data folder, so that any machine can do it: its kind, what it is for a
/// person, what is asked (JSON of its kind), and how much of media it covers.
/// </summary>
public sealed record Errand(string Kind, string Title, string Asked, MediaTime Length)
{
    /// <summary>A 16 kHz mono WAV file that goes along; null where none is needed.</summary>
    public string? Sound { get; init; }

    /// <summary>The file of footage that is looked at, without links; null where none is needed.</summary>
    public string? Footage { get; init; }

    /// <summary>Where the file goes that is made; null where the answer is all.</summary>
    public string? Output { get; init; }
}
