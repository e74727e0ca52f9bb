using System.Text.Json.Serialization;
using EmberLane.Core.Edits;

namespace EmberLane.Core.Stories;

/// <summary>A change to a story, as a value. Applying it gives the new story and the edit that takes it back.</summary>
[JsonDerivedType(typeof(LayCard), "lay")]
[JsonDerivedType(typeof(LayPiece), "lay-piece")]
[JsonDerivedType(typeof(TakeOut), "take-out")]
[JsonDerivedType(typeof(MoveCard), "move")]
[JsonDerivedType(typeof(ChangePiece), "change")]
[JsonDerivedType(typeof(StretchCard), "stretch")]
[JsonDerivedType(typeof(PutBeside), "beside")]
[JsonDerivedType(typeof(LayOver), "over")]
[JsonDerivedType(typeof(ShowAngle), "angle")]
[JsonDerivedType(typeof(DescribeStory), "describe")]
[JsonDerivedType(typeof(CountStory), "count")]
[JsonDerivedType(typeof(PutStoryAway), "away")]
[JsonDerivedType(typeof(StoryTogether), "together")]
[JsonDerivedType(typeof(BecomeVersion), "become")]
[JsonDerivedType(typeof(ShowTake), "take")]
[JsonDerivedType(typeof(FillSpace), "space")]
[JsonDerivedType(typeof(ComeIn), "come-in")]
public abstract record StoryEdit : IEdit<Story, StoryEdit>
{
    /// <summary>Throws <see cref="EditRefusedException"/> when the edit names a piece or a place that the story does not have.</summary>
    public abstract (Story Story, StoryEdit Inverse) Apply(Story story);

    (Story State, StoryEdit Inverse) IEdit<Story, StoryEdit>.Apply(Story state) => Apply(state);

    /// <summary>The pieces or other parts of the story that it touches.</summary>
    internal abstract IEnumerable<string> Touched();

    /// <inheritdoc/>
    public static IEnumerable<string> Touches(StoryEdit edit, StoryEdit inverse) => edit.Touched().Concat(inverse.Touched());

    /// <summary>Whether two edits name nothing in common, so that either stands beside the other.</summary>
    public bool IsBeside(StoryEdit other) => !Touched().Intersect(other.Touched()).Any();

    /// <summary>The edit for a story that others may have made shorter since: a place behind the last piece is the last place.</summary>
    public virtual StoryEdit Within(Story story) => this;

    /// <summary>
    /// The edit that does to <paramref name="now"/> what this one does to <paramref name="then"/>, which others have changed into it: a
    /// place is kept by the pieces that lie beside it, not by its number.
    /// </summary>
    public virtual StoryEdit Onto(Story then, Story now) => this;

    /// <summary>The place of a piece. Throws <see cref="EditRefusedException"/> when it is not in the story.</summary>
    protected static int Find(Story story, Guid piece)
    {
        var index = story.IndexOf(piece);
        return index >= 0 ? index : throw new EditRefusedException("That card is no longer in the story.");
    }

    /// <summary>The card of a bite and its place. Throws <see cref="EditRefusedException"/> when it is not in the story, or none.</summary>
    protected static (Card Card, int At) FindCard(Story story, Guid piece) =>
        Find(story, piece) is var at && story.Pieces[at] is Card card
            ? (card, at)
            : throw new EditRefusedException("Only a card of a bite can be changed that way.");

    /// <summary>A place from 0 to so many. Throws <see cref="EditRefusedException"/> for another.</summary>
    protected static int Place(int at, int count) =>
        at >= 0 && at <= count ? at : throw new EditRefusedException("There is no such place in the story.");

    /// <summary>The story with another piece at a place.</summary>
    protected static Story With(Story story, int at, Piece piece) => story with { Pieces = story.Pieces.SetItem(at, piece) };
}
