using System.Text.Json.Serialization;

namespace EmberLane.Core.Stories;

/// <summary>
/// How a piece of a story comes in over the one before: from its first moment on that one's picture goes on under it, fading, for so long;
/// its sound too where that is wanted.
/// </summary>
public sealed record Dissolve(MediaTime Lasting, bool IsHeard)
{
    /// <summary>The shortest and the longest (40 ms and 10 s).</summary>
    public static readonly MediaTime Shortest = MediaTime.FromMilliseconds(40),
        Longest = MediaTime.FromMilliseconds(10_000);

    /// <summary>Whether it is as long as one may be.</summary>
    [JsonIgnore]
    public bool IsPossible => Lasting >= Shortest && Lasting <= Longest;
}

/// <summary>Says how a piece comes in; null is by a cut.</summary>
public sealed record ComeIn(Guid Piece, Dissolve? How) : StoryEdit
{
    internal override IEnumerable<string> Touched() => [$"comes in {Piece}"];

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        var at = Find(story, Piece);
        return story.Pieces[at] is SectionHead
                ? throw new EditRefusedException("A heading is not seen: have the card behind it come in that way.")
            : How is { IsPossible: false } ? throw new EditRefusedException("A dissolve lasts from 0.04 to 10 seconds.")
            : (With(story, at, story.Pieces[at] with { ComesIn = How }), new ComeIn(Piece, story.Pieces[at].ComesIn));
    }
}
