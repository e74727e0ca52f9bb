using System.Text.Json.Serialization;

namespace EmberLane.Core.Stories;

/// <summary>A change to a story, as a value. Applying it gives the new story and the edit that takes it back.</summary>
[JsonDerivedType(typeof(LayCard), "lay")]
[JsonDerivedType(typeof(TakeOut), "take-out")]
[JsonDerivedType(typeof(MoveCard), "move")]
[JsonDerivedType(typeof(ShowAngle), "angle")]
public abstract record StoryEdit
{
    /// <summary>Throws <see cref="EditRefusedException"/> when the edit names a card or a place that the story does not have.</summary>
    public abstract (Story Story, StoryEdit Inverse) Apply(Story story);

    protected static int Find(Story story, Guid card)
    {
        var index = story.IndexOf(card);
        return index >= 0 ? index : throw new EditRefusedException("That card is no longer in the story.");
    }

    protected static int Place(int at, int count) =>
        at >= 0 && at <= count ? at : throw new EditRefusedException("There is no such place in the story.");
}

/// <summary>Lays a card at a place counted from 0.</summary>
public sealed record LayCard(Card Card, int At) : StoryEdit
{
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        if (story.IndexOf(Card.Id) >= 0)
        {
            throw new EditRefusedException("That card is in the story already.");
        }
        return (new Story(story.Cards.Insert(Place(At, story.Cards.Count), Card)), new TakeOut(Card.Id));
    }
}

/// <summary>Takes a card out and closes up. The bite stays.</summary>
public sealed record TakeOut(Guid Card) : StoryEdit
{
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        var at = Find(story, Card);
        return (new Story(story.Cards.RemoveAt(at)), new LayCard(story.Cards[at], at));
    }
}

/// <summary>Moves a card to the place that it shall have afterwards, counted from 0.</summary>
public sealed record MoveCard(Guid Card, int To) : StoryEdit
{
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        var from = Find(story, Card);
        var without = story.Cards.RemoveAt(from);
        return (new Story(without.Insert(Place(To, without.Count), story.Cards[from])), new MoveCard(Card, from));
    }
}

/// <summary>Shows a card from another angle; null lets the story choose.</summary>
public sealed record ShowAngle(Guid Card, long? Angle) : StoryEdit
{
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        var at = Find(story, Card);
        var card = story.Cards[at];
        return (new Story(story.Cards.SetItem(at, card with { Angle = Angle })), new ShowAngle(Card, card.Angle));
    }
}
