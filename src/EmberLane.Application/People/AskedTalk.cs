namespace EmberLane.Application.People;

/// <summary>
/// What a page names of a production, as a comment or somebody's place is of it: words of a sitting, a bite, or a piece of a story (of
/// the one in hand where none is named).
/// </summary>
public sealed record AskedTalk
{
    /// <summary>The sitting of the words.</summary>
    public long? Sitting { get; init; }

    /// <summary>Their first, by number.</summary>
    public int? First { get; init; }

    /// <summary>Their last.</summary>
    public int? Last { get; init; }

    /// <summary>A bite.</summary>
    public long? Bite { get; init; }

    /// <summary>The story of a piece.</summary>
    public long? Story { get; init; }

    /// <summary>A piece of a story.</summary>
    public Guid? Card { get; init; }
}
