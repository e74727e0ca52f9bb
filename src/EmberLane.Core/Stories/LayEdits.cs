namespace EmberLane.Core.Stories;

/// <summary>Lays a card at a place counted from 0.</summary>
public sealed record LayCard(Card Card, int At) : StoryEdit
{
    internal override IEnumerable<string> Touched() => Places.All(Card.Id);

    /// <inheritdoc/>
    public override StoryEdit Within(Story story) => this with { At = Math.Min(At, story.Pieces.Count) };

    /// <inheritdoc/>
    public override StoryEdit Onto(Story then, Story now) => this with { At = Places.Same(then.Pieces, now, At) };

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story) => LayPiece.Into(story, Card, Place(At, story.Pieces.Count));
}

/// <summary>Lays a space, a title, a narration, plain media or a section's heading at a place counted from 0.</summary>
public sealed record LayPiece(Piece Piece, int At) : StoryEdit
{
    internal override IEnumerable<string> Touched() => Places.All(Piece.Id);

    /// <inheritdoc/>
    public override StoryEdit Within(Story story) => this with { At = Math.Min(At, story.Pieces.Count) };

    /// <inheritdoc/>
    public override StoryEdit Onto(Story then, Story now) => this with { At = Places.Same(then.Pieces, now, At) };

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story) => Into(story, Piece, Place(At, story.Pieces.Count));

    /// <summary>The edit that lays a piece, whichever kind it is.</summary>
    public static StoryEdit Of(Piece piece, int at) => piece is Card card ? new LayCard(card, at) : new LayPiece(piece, at);

    internal static (Story Story, StoryEdit Inverse) Into(Story story, Piece piece, int at) =>
        story.IndexOf(piece.Id) >= 0
            ? throw new EditRefusedException("That card is in the story already.")
            : (story with { Pieces = story.Pieces.Insert(at, piece.Checked()) }, new TakeOut(piece.Id));
}

/// <summary>Takes a piece out and closes up. A card's bite stays; a section's cards do.</summary>
public sealed record TakeOut(Guid Card) : StoryEdit
{
    internal override IEnumerable<string> Touched() => Places.All(Card);

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        var at = Find(story, Card);
        return (story with { Pieces = story.Pieces.RemoveAt(at) }, LayPiece.Of(story.Pieces[at], at));
    }
}

/// <summary>Moves a piece to the place that it shall have afterwards, counted from 0.</summary>
public sealed record MoveCard(Guid Card, int To) : StoryEdit
{
    internal override IEnumerable<string> Touched() => [Places.PlaceOf(Card)];

    /// <inheritdoc/>
    public override StoryEdit Within(Story story) => this with { To = Math.Min(To, Math.Max(0, story.Pieces.Count - 1)) };

    /// <inheritdoc/>
    public override StoryEdit Onto(Story then, Story now) =>
        then.IndexOf(Card) >= 0 && now.IndexOf(Card) >= 0
            ? this with
            {
                To = Places.Same(
                    then.Pieces.RemoveAt(then.IndexOf(Card)),
                    now with
                    {
                        Pieces = now.Pieces.RemoveAt(now.IndexOf(Card)),
                    },
                    To
                ),
            }
            : this;

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        var from = Find(story, Card);
        var without = story.Pieces.RemoveAt(from);
        return (story with { Pieces = without.Insert(Place(To, without.Count), story.Pieces[from]) }, new MoveCard(Card, from));
    }
}
