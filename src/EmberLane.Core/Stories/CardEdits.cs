using System.Globalization;

namespace EmberLane.Core.Stories;

/// <summary>Shows a card from another angle; null lets the story choose.</summary>
public sealed record ShowAngle(Guid Card, long? Angle) : StoryEdit
{
    internal override IEnumerable<string> Touched() => [$"angle {Card}"];

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        var (card, at) = FindCard(story, Card);
        return (With(story, at, card with { Angle = Angle }), new ShowAngle(Card, card.Angle));
    }
}

/// <summary>
/// Gives a card another stretch of its sitting: shorter, longer, or moved; and remembers the stretch before it was mended, if it was.
/// </summary>
public sealed record StretchCard(Guid Card, SittingRange Range, SittingRange? Unmended = null) : StoryEdit
{
    internal override IEnumerable<string> Touched() => [$"range {Card}"];

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        var (card, at) = FindCard(story, Card);
        return (
            With(story, at, (card with { Range = Range, Unmended = Unmended }).Checked()),
            new StretchCard(Card, card.Range, card.Unmended)
        );
    }
}

/// <summary>Puts another picture over a card's sound; null gives it its own back.</summary>
public sealed record LayOver(Guid Card, OverPicture? Over) : StoryEdit
{
    internal override IEnumerable<string> Touched() => [$"over {Card}"];

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        var (card, at) = FindCard(story, Card);
        return Over is { IsPossible: false }
            ? throw new EditRefusedException("A picture over a card needs an in and an out, the in first.")
            : (With(story, at, card with { Over = Over }), new LayOver(Card, card.Over));
    }
}

/// <summary>Says which bites are other takes of a card, by id with a blank between.</summary>
public sealed record PutBeside(Guid Card, string Takes) : StoryEdit
{
    internal override IEnumerable<string> Touched() => [$"take {Card}"];

    /// <summary>The edit that puts a bite beside a card, or null where it is there already or is the one that it shows.</summary>
    public static PutBeside? Adding(Card card, long bite)
    {
        var takes = card.OtherTakes.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        var id = bite.ToString(CultureInfo.InvariantCulture);
        return card.BiteId == bite || takes.Contains(id) ? null : new PutBeside(card.Id, string.Join(' ', takes.Append(id)));
    }

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        var (card, at) = FindCard(story, Card);
        var takes = Stories.Card.TakesOf(Takes).Distinct().ToList();
        return takes.Contains(card.BiteId)
            ? throw new EditRefusedException("A bite is no other take of itself.")
            : (With(story, at, card with { OtherTakes = string.Join(' ', takes) }), new PutBeside(Card, card.OtherTakes));
    }
}

/// <summary>Shows another take in a card's place: a bite of the same or another sitting. The one before is a take besides then.</summary>
public sealed record ShowTake(Guid Card, long Bite, long Sitting, SittingRange Range) : StoryEdit
{
    internal override IEnumerable<string> Touched() => [$"take {Card}", $"angle {Card}", $"range {Card}"];

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        var (card, at) = FindCard(story, Card);
        var others = card.OtherTakes.Split(' ', StringSplitOptions.RemoveEmptyEntries).ToList();
        var place = others.IndexOf(Bite.ToString(CultureInfo.InvariantCulture));
        if (place < 0)
        {
            throw new EditRefusedException("That is no other take of this card.");
        }
        others[place] = card.BiteId.ToString(CultureInfo.InvariantCulture);
        var shown = card with
        {
            BiteId = Bite,
            SittingId = Sitting,
            Range = Range,
            // An angle of another sitting has nothing of this one.
            Angle = Sitting == card.SittingId ? card.Angle : null,
            OtherTakes = string.Join(' ', others),
            Unmended = null,
        };
        StoryEdit back = new ShowTake(Card, card.BiteId, card.SittingId, card.Range);
        List<StoryEdit> all =
        [
            back,
            .. shown.Angle == card.Angle ? [] : (StoryEdit[])[new ShowAngle(Card, card.Angle)],
            .. card.Unmended is null ? [] : (StoryEdit[])[new StretchCard(Card, card.Range, card.Unmended)],
        ];
        return (With(story, at, shown.Checked()), all.Count == 1 ? back : new StoryTogether(all));
    }
}

/// <summary>Writes the lines that are missing before and behind a card; empty ones take the space away.</summary>
public sealed record FillSpace(Guid Card, string Before, string After) : StoryEdit
{
    internal override IEnumerable<string> Touched() => [$"space {Card}"];

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        var (card, at) = FindCard(story, Card);
        return (
            With(story, at, card with { SpaceBefore = Before, SpaceAfter = After }),
            new FillSpace(Card, card.SpaceBefore, card.SpaceAfter)
        );
    }
}
