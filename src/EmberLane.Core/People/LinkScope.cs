namespace EmberLane.Core.People;

/// <summary>
/// What a link shows of a production, by numbers: one sitting, one story, or (neither) its list of both and each of them. What is asked
/// for is named the same way.
/// </summary>
public readonly record struct LinkScope(long? Sitting, long? Story)
{
    /// <summary>All sittings and stories, and the list of them.</summary>
    public static readonly LinkScope All;

    /// <summary>One sitting.</summary>
    public static LinkScope OfSitting(long id) => new(id, null);

    /// <summary>One story.</summary>
    public static LinkScope OfStory(long id) => new(null, id);

    /// <summary>Whether a link that shows this shows what is asked for.</summary>
    public bool Holds(LinkScope asked) => this == All || this == asked;
}
