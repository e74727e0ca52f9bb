using System.Text.Json.Serialization;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Marks;

/// <summary>
/// Whatever a person, or the product for them, lays over words: one kind of thing for what is set aside, flags, words found right and
/// bites. It lies over words by their numbers, first and last included, and over their time; where the words are not to be found, in
/// another text or after one was taken out again, the time says where it lies. Marks may overlap.
/// </summary>
/// <param name="Id">Its own for ever, in the whole database; 0 for one that is not kept yet.</param>
/// <param name="Note">What somebody said of it; may be empty.</param>
/// <param name="When">When it was made; null where an older version did not write that down.</param>
public sealed record Mark(
    long Id,
    MarkKind Kind,
    WordNumber First,
    WordNumber Last,
    SittingRange Range,
    string Owner,
    string Note,
    DateTimeOffset? When
)
{
    /// <summary>The longest note of a flag, in characters.</summary>
    public const int LongestNote = 200;

    /// <summary>Whether it stands before its word and does not lie over it.</summary>
    [JsonIgnore]
    public bool StandsBefore => Kind.Use == MarkUse.Flags;

    /// <summary>Whether it lies over a stretch of time and not over its words, which only say between which it is.</summary>
    [JsonIgnore]
    public bool IsOfTime => Kind.Use == MarkUse.SetsTimeAside || Kind == MarkKind.LeftPause || Kind == MarkKind.LeftSound;
}
