using System.Collections.Immutable;

namespace EmberLane.Core.Stories;

/// <summary>
/// One piece of a story: a bite's stretch of its sitting, and the angle that shows it (a source's id), or null when the story chooses.
/// </summary>
public sealed record Card(Guid Id, long BiteId, long SittingId, SittingRange Range, long? Angle)
{
    /// <summary>The bites that are other takes of the same, by id with a blank between; may be empty.</summary>
    public string OtherTakes { get; init; } = "";

    /// <summary>Lines of a script that nobody says, a line each, which belong before this card; may be empty.</summary>
    public string SpaceBefore { get; init; } = "";

    /// <summary>The same behind it: those of the script's end.</summary>
    public string SpaceAfter { get; init; } = "";
}

/// <summary>
/// A story: its cards in order, its title, how it is counted and where its record starts, the length that it shall have, and whether it was
/// put away.
/// </summary>
public sealed record Story(ImmutableList<Card> Cards)
{
    /// <summary>Its title.</summary>
    public string Title { get; init; } = "";

    /// <summary>The label of its first frame, which tells the rate and how frames are counted.</summary>
    public Timecode Start { get; init; } = new(new TimecodeCount(FrameRate.R25, false), 1, 0, 0, 0);

    /// <summary>How long it shall be; zero when nobody said.</summary>
    public MediaTime Target { get; init; }

    /// <summary>Put away, to be brought back.</summary>
    public bool IsAway { get; init; }

    /// <summary>Without cards.</summary>
    public static Story Empty { get; } = new(ImmutableList<Card>.Empty);

    /// <summary>The place of a card from 0; −1 when it is not in the story.</summary>
    public int IndexOf(Guid card) => Cards.FindIndex(c => c.Id == card);
}

/// <summary>A card on a grid of frames that begins at the sitting's zero.</summary>
public readonly record struct CardFrames(long First, long Count)
{
    /// <summary>Rounded outwards, so that no part of a word is lost; at least one frame.</summary>
    public static CardFrames Of(SittingRange range, FrameRate rate)
    {
        var first = rate.FrameAt(range.In.FromZero);
        return new CardFrames(first, Math.Max(1, rate.FrameAtOrAfter(range.Out.FromZero) - first));
    }

    /// <summary>
    /// Parts of one card, in order and apart, each rounded outwards; where that leaves no whole frame out between two of them, they are
    /// one: no frame is shown twice.
    /// </summary>
    public static IReadOnlyList<CardFrames> Of(IReadOnlyList<SittingRange> pieces, FrameRate rate)
    {
        var frames = new List<CardFrames>();
        foreach (var next in pieces.Select(p => Of(p, rate)))
        {
            if (frames.Count > 0 && frames[^1] is var last && next.First <= last.First + last.Count)
            {
                frames[^1] = last with { Count = Math.Max(last.Count, next.First + next.Count - last.First) };
            }
            else
            {
                frames.Add(next);
            }
        }
        return frames;
    }

    /// <summary>The stretch of the sitting that these frames show.</summary>
    public SittingRange Shown(FrameRate rate) => new(new SittingTime(rate.TimeOf(First)), new SittingTime(rate.TimeOf(First + Count)));
}
