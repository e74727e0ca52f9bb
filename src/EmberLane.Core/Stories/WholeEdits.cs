namespace EmberLane.Core.Stories;

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

/// <summary>Gives a piece that is no card of a bite other words, another length, another name: all of what it is, by its id.</summary>
public sealed record ChangePiece(Piece Piece) : StoryEdit
{
    internal override IEnumerable<string> Touched() => [Places.WhatOf(Piece.Id)];

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story)
    {
        var at = Find(story, Piece.Id);
        return Piece is Card || story.Pieces[at].GetType() != Piece.GetType()
            ? throw new EditRefusedException("A card can not become something else. Take it out, and lay the other in its place.")
            : (With(story, at, (Piece with { ComesIn = story.Pieces[at].ComesIn }).Checked()), new ChangePiece(story.Pieces[at]));
    }
}

/// <summary>Makes the pieces of a story those of another version of it; title, target and count stay.</summary>
public sealed record BecomeVersion(IReadOnlyList<Piece> Pieces) : StoryEdit
{
    /// <summary>Whether they are those of a list that came back from an editor.</summary>
    public bool IsReturned { get; init; }

    internal override IEnumerable<string> Touched() => Pieces.SelectMany(p => Places.All(p.Id));

    /// <inheritdoc/>
    public override (Story Story, StoryEdit Inverse) Apply(Story story) =>
        Pieces.DistinctBy(p => p.Id).Count() != Pieces.Count
            ? throw new EditRefusedException("A story holds each card once.")
            : (story with { Pieces = [.. Pieces.Select(p => p.Checked())] }, new BecomeVersion(story.Pieces));
}
