namespace EmberLane.Core.Marks;

/// <summary>
/// What is set aside lies in layers, each of which is switched off and on as a whole: off, all that it holds is in use. Keys are kept for
/// ever.
/// </summary>
public sealed class MarkLayer
{
    /// <summary>Pauses, or what is too long of them.</summary>
    public static readonly MarkLayer Pauses = new("pauses", "Pauses");

    /// <summary>What people say while looking for words.</summary>
    public static readonly MarkLayer Hesitations = new("hesitations", "Hesitations");

    /// <summary>Other tries at what is said elsewhere.</summary>
    public static readonly MarkLayer Retakes = new("retakes", "Retakes");

    /// <summary>What was said off the record.</summary>
    public static readonly MarkLayer OffTheRecord = new("off-record", "Off the record");

    /// <summary>What people have set aside by hand.</summary>
    public static readonly MarkLayer ByHand = new("by-hand", "By hand");

    private MarkLayer(string key, string name) => (Key, Name) = (key, name);

    /// <summary>All layers, in the order in which they are listed.</summary>
    public static IReadOnlyList<MarkLayer> All { get; } = [Pauses, Hesitations, Retakes, OffTheRecord, ByHand];

    /// <summary>How it is kept and sent.</summary>
    public string Key { get; }

    /// <summary>As a person reads it.</summary>
    public string Name { get; }

    /// <summary>
    /// Whether what it holds is kept out of everything that leaves until a named person releases it: it can not be switched off.
    /// </summary>
    public bool IsHeld => this == OffTheRecord;

    /// <summary>The layer with this key; null when there is none.</summary>
    public static MarkLayer? Find(string? key) => All.FirstOrDefault(l => l.Key == key);

    /// <inheritdoc/>
    public override string ToString() => Key;
}
