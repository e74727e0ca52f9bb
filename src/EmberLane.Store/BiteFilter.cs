namespace EmberLane.Store;

/// <summary>Which bites are wanted; what is null or empty asks for nothing.</summary>
public sealed record BiteFilter
{
    /// <summary>Those that were set aside, instead of those that were not.</summary>
    public bool Aside { get; init; }

    /// <summary>Of this sitting.</summary>
    public long? Sitting { get; init; }

    /// <summary>With this theme; one of no letters asks for those without.</summary>
    public string? Theme { get; init; }

    /// <summary>In which this person speaks.</summary>
    public string? Person { get; init; }

    /// <summary>Of this grade at least.</summary>
    public int LeastGrade { get; init; }

    /// <summary>Whether they lie in <see cref="Story"/>.</summary>
    public bool? InStory { get; init; }

    /// <summary>The story that is meant.</summary>
    public long Story { get; init; }

    /// <summary>Standing in what is said, the note, the themes or the kind, whatever the case of Latin letters.</summary>
    public string Words { get; init; } = "";
}
