using System.Text.Json.Serialization;
using EmberLane.Core.Edits;

namespace EmberLane.Core.Stories;

/// <summary>A change to a story, as a value. Applying it gives the new story and the edit that takes it back.</summary>
[JsonDerivedType(typeof(LayCard), "lay")]
[JsonDerivedType(typeof(TakeOut), "take-out")]
[JsonDerivedType(typeof(MoveCard), "move")]
[JsonDerivedType(typeof(ShowAngle), "angle")]
[JsonDerivedType(typeof(DescribeStory), "describe")]
[JsonDerivedType(typeof(CountStory), "count")]
[JsonDerivedType(typeof(PutStoryAway), "away")]
[JsonDerivedType(typeof(StoryTogether), "together")]
[JsonDerivedType(typeof(ShowTake), "take")]
[JsonDerivedType(typeof(FillSpace), "space")]
public abstract record StoryEdit : IEdit<Story, StoryEdit>
{
    /// <summary>Throws <see cref="EditRefusedException"/> when the edit names a card or a place that the story does not have.</summary>
    public abstract (Story Story, StoryEdit Inverse) Apply(Story story);

    (Story State, StoryEdit Inverse) IEdit<Story, StoryEdit>.Apply(Story state) => Apply(state);

    /// <summary>The cards or other parts of the story that it touches.</summary>
    internal abstract IEnumerable<string> Touched();

    /// <inheritdoc/>
    public static IEnumerable<string> Touches(StoryEdit edit, StoryEdit inverse) => edit.Touched().Concat(inverse.Touched());

    /// <summary>The edit for a story that others may have made shorter since: a place behind the last card is the last place.</summary>
    public virtual StoryEdit Within(Story story) => this;

    /// <summary>The place of a card. Throws <see cref="EditRefusedException"/> when it is not in the story.</summary>
    protected static int Find(Story story, Guid card)
    {
        var index = story.IndexOf(card);
        return index >= 0 ? index : throw new EditRefusedException("That card is no longer in the story.");
    }

    /// <summary>A place from 0 to so many. Throws <see cref="EditRefusedException"/> for another.</summary>
    protected static int Place(int at, int count) =>
        at >= 0 && at <= count ? at : throw new EditRefusedException("There is no such place in the story.");
}

/// <summary>Lays a card at a place counted from 0.</summary>
public sealed record LayCard(Card Card, int At) : StoryEdit
{
    internal override IEnumerable<string> Touched() => [$"place {Card.Id}", $"angle {Card.Id}", $"take {Card.Id}", $"space {Card.Id}"];

    /// <inheritdoc/>
    public override StoryEdit Within(Story story) => this with { At = Math.Min(At, story.Cards.Count) };

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        if (story.IndexOf(Card.Id) >= 0)
        {
            throw new EditRefusedException("That card is in the story already.");
        }
        return (story with { Cards = story.Cards.Insert(Place(At, story.Cards.Count), Card) }, new TakeOut(Card.Id));
    }
}

/// <summary>Takes a card out and closes up. The bite stays.</summary>
public sealed record TakeOut(Guid Card) : StoryEdit
{
    internal override IEnumerable<string> Touched() => [$"place {Card}", $"angle {Card}", $"take {Card}", $"space {Card}"];

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        var at = Find(story, Card);
        return (story with { Cards = story.Cards.RemoveAt(at) }, new LayCard(story.Cards[at], at));
    }
}

/// <summary>Moves a card to the place that it shall have afterwards, counted from 0.</summary>
public sealed record MoveCard(Guid Card, int To) : StoryEdit
{
    internal override IEnumerable<string> Touched() => [$"place {Card}"];

    /// <inheritdoc/>
    public override StoryEdit Within(Story story) => this with { To = Math.Min(To, Math.Max(0, story.Cards.Count - 1)) };

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        var from = Find(story, Card);
        var without = story.Cards.RemoveAt(from);
        return (story with { Cards = without.Insert(Place(To, without.Count), story.Cards[from]) }, new MoveCard(Card, from));
    }
}

/// <summary>Shows a card from another angle; null lets the story choose.</summary>
public sealed record ShowAngle(Guid Card, long? Angle) : StoryEdit
{
    internal override IEnumerable<string> Touched() => [$"angle {Card}"];

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        var at = Find(story, Card);
        var card = story.Cards[at];
        return (story with { Cards = story.Cards.SetItem(at, card with { Angle = Angle }) }, new ShowAngle(Card, card.Angle));
    }
}

/// <summary>Shows another take in a card's place: a bite of the same or another sitting. The one before is a take besides then.</summary>
public sealed record ShowTake(Guid Card, long Bite, long Sitting, SittingRange Range) : StoryEdit
{
    internal override IEnumerable<string> Touched() => [$"take {Card}", $"angle {Card}"];

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        var at = Find(story, Card);
        var card = story.Cards[at];
        var others = card.OtherTakes.Split(' ', StringSplitOptions.RemoveEmptyEntries).ToList();
        var place = others.IndexOf(Bite.ToString(System.Globalization.CultureInfo.InvariantCulture));
        if (place < 0)
        {
            throw new EditRefusedException("That is no other take of this card.");
        }
        others[place] = card.BiteId.ToString(System.Globalization.CultureInfo.InvariantCulture);
        var shown = card with
        {
            BiteId = Bite,
            SittingId = Sitting,
            Range = Range,
            // An angle of another sitting has nothing of this one.
            Angle = Sitting == card.SittingId ? card.Angle : null,
            OtherTakes = string.Join(' ', others),
        };
        var back = new ShowTake(Card, card.BiteId, card.SittingId, card.Range);
        return (
            story with
            {
                Cards = story.Cards.SetItem(at, shown),
            },
            shown.Angle == card.Angle ? back : new StoryTogether([back, new ShowAngle(Card, card.Angle)])
        );
    }
}

/// <summary>Writes the lines that are missing before and behind a card; empty ones take the space away.</summary>
public sealed record FillSpace(Guid Card, string Before, string After) : StoryEdit
{
    internal override IEnumerable<string> Touched() => [$"space {Card}"];

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        var at = Find(story, Card);
        var card = story.Cards[at];
        return (
            story with
            {
                Cards = story.Cards.SetItem(at, card with { SpaceBefore = Before, SpaceAfter = After }),
            },
            new FillSpace(Card, card.SpaceBefore, card.SpaceAfter)
        );
    }
}

/// <summary>Gives a story another title and target length.</summary>
public sealed record DescribeStory(string Title, MediaTime Target) : StoryEdit
{
    /// <summary>The longest title, in characters.</summary>
    public const int LongestTitle = 120;

    private static readonly MediaTime Longest = MediaTime.FromMilliseconds(86_400_000);

    internal override IEnumerable<string> Touched() => ["title"];

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        var title = TypedText.OneLine(Title);
        return title.Length is 0 or > LongestTitle
                ? throw new EditRefusedException(
                    FormattableString.Invariant($"A story needs a title of at most {LongestTitle} characters.")
                )
            : Target <= MediaTime.Zero || Target > Longest
                ? throw new EditRefusedException("Type the target as minutes and seconds, as 4:00, or 1:30:00 for an hour and a half.")
            : (story with { Title = title, Target = Target }, new DescribeStory(story.Title, story.Target));
    }
}

/// <summary>Counts a story another way: at a rate of <see cref="TimecodeCount.Supported"/>, with drop frame or not, from a label.</summary>
public sealed record CountStory(int RateNumerator, int RateDenominator, bool DropFrame, string Start) : StoryEdit
{
    /// <summary>The edit that makes a story count from this label on.</summary>
    public static CountStory Of(Timecode start) =>
        new(start.Count.Rate.Numerator, start.Count.Rate.Denominator, start.Count.DropFrame, start.ToString());

    internal override IEnumerable<string> Touched() => ["count"];

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        var rate = new FrameRate(RateNumerator, RateDenominator);
        var count = TimecodeCount.Supported.FirstOrDefault(c => c.Rate == rate && c.DropFrame == DropFrame);
        return count == default || !count.TryParse(Start, out var start, out _)
            ? throw new EditRefusedException("A story can not be counted that way.")
            : (story with { Start = start.Value }, Of(story.Start));
    }
}

/// <summary>Puts a story away, or brings it back; nothing of it is lost.</summary>
public sealed record PutStoryAway(bool Away) : StoryEdit
{
    internal override IEnumerable<string> Touched() => ["away"];

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story) => (story with { IsAway = Away }, new PutStoryAway(story.IsAway));
}

/// <summary>Several edits as one: all or none, taken back as one.</summary>
public sealed record StoryTogether(IReadOnlyList<StoryEdit> Edits) : StoryEdit
{
    internal override IEnumerable<string> Touched() => Edits.SelectMany(e => e.Touched());

    /// <inheritdoc/>
    public override StoryEdit Within(Story story)
    {
        var fit = new List<StoryEdit>();
        foreach (var edit in Edits)
        {
            fit.Add(edit.Within(story));
            story = fit[^1].Apply(story).Story;
        }
        return new StoryTogether(fit);
    }

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        if (Edits.Count == 0)
        {
            throw new EditRefusedException("There is nothing to change.");
        }
        var back = new List<StoryEdit>();
        foreach (var edit in Edits)
        {
            var (after, inverse) = edit.Apply(story);
            story = after;
            back.Add(inverse);
        }
        back.Reverse();
        return (story, new StoryTogether(back));
    }
}
