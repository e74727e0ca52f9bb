namespace EmberLane.Core.Finding;

/// <summary>How a word is looked for.</summary>
public enum WordFit
{
    /// <summary>As it is written, but for case and accents.</summary>
    Exact,

    /// <summary>In all of its forms.</summary>
    Inflected,

    /// <summary>Spelled or sounding nearly so.</summary>
    Rough,
}

/// <summary>A folded word that is looked for.</summary>
public readonly record struct AskedWord(string Key, WordFit How);

/// <summary>Words that follow each other.</summary>
public sealed record AskedPhrase(IReadOnlyList<AskedWord> Words)
{
    /// <inheritdoc/>
    public bool Equals(AskedPhrase? other) => other is not null && Words.SequenceEqual(other.Words);

    /// <inheritdoc/>
    public override int GetHashCode() => Words.Aggregate(0, (hash, w) => HashCode.Combine(hash, w));
}

/// <summary>
/// Phrases of which each is said within so many words of the others, in any order.
/// </summary>
public sealed record AskedTogether(IReadOnlyList<AskedPhrase> Phrases, int Within)
{
    /// <inheritdoc/>
    public bool Equals(AskedTogether? other) => other is not null && Within == other.Within && Phrases.SequenceEqual(other.Phrases);

    /// <inheritdoc/>
    public override int GetHashCode() => Phrases.Aggregate(Within, (hash, p) => HashCode.Combine(hash, p));
}

/// <summary>
/// What is found of what fits the words: each null for all. Names hold the folded words that a name must have; a length is in seconds, both
/// ends included.
/// </summary>
public sealed record FindLimits
{
    /// <summary>Who says it.</summary>
    public string? By { get; init; }

    /// <summary>In which sitting, by its title.</summary>
    public string? Sitting { get; init; }

    /// <summary>Kept in a bite of this theme.</summary>
    public string? Theme { get; init; }

    /// <summary>Kept in a bite of this grade at least.</summary>
    public int? LeastGrade { get; init; }

    /// <summary>Filmed by this camera.</summary>
    public string? Camera { get; init; }

    /// <summary>Filmed on this day, as 2026-06-14, or its beginning.</summary>
    public string? Day { get; init; }

    /// <summary>On this reel, as a list names it.</summary>
    public string? Reel { get; init; }

    /// <summary>Of this scene, by its number or name.</summary>
    public string? Scene { get; init; }

    /// <summary>Whether something is asked of the files themselves.</summary>
    public bool AreOfFiles => (Camera ?? Day ?? Reel ?? Scene) is not null;

    /// <summary>Of this kind alone.</summary>
    public FoundKind? Kind { get; init; }

    /// <summary>Whether it is kept in a bite.</summary>
    public bool? Kept { get; init; }

    /// <summary>Whether all of it is set aside.</summary>
    public bool? Aside { get; init; }

    /// <summary>Whether it is shown in a story.</summary>
    public bool? InStory { get; init; }

    /// <summary>How long a bite or a shot is.</summary>
    public (int Least, int Most)? Length { get; init; }

    /// <summary>What a picture shows, as it was measured; shots alone have that.</summary>
    public PictureLimits? Picture { get; init; }

    /// <summary>Whether a length, in seconds, is one that is asked for.</summary>
    public bool IsLong(MediaTime length) =>
        Length is not { } asked
        || (
            length >= MediaTime.FromMilliseconds(1000L * asked.Least)
            && length <= MediaTime.FromMilliseconds((1000L * Math.Min(asked.Most, 1_000_000)) + 999)
        );
}

/// <summary>What a hit is.</summary>
public enum FoundKind
{
    /// <summary>What somebody says.</summary>
    Speech,

    /// <summary>Theme or note of a bite.</summary>
    Bite,

    /// <summary>A flag's words.</summary>
    Flag,

    /// <summary>The name, the labels or the first words of a source.</summary>
    Source,

    /// <summary>A shot by what its picture shows, or the best seconds of a file.</summary>
    Picture,

    /// <summary>The title of a sitting.</summary>
    Sitting,

    /// <summary>The name of somebody who speaks in a sitting.</summary>
    Name,
}

/// <summary>
/// A question: all of <see cref="Together"/> must be said within <see cref="Spread"/> words, none of <see cref="Without"/> within
/// <see cref="Around"/> words before or behind.
/// </summary>
public sealed record FindQuestion(IReadOnlyList<AskedTogether> Together, IReadOnlyList<AskedPhrase> Without, FindLimits Limits)
{
    /// <summary>In words: how far apart words may be that are asked for together, how far around an excluded one counts.</summary>
    public const int Spread = 30,
        Around = 15;

    /// <summary>Longer questions are refused.</summary>
    public const int LongestText = 1_000,
        MostWords = 24;
}
