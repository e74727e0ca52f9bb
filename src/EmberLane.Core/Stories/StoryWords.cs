using System.Globalization;
using EmberLane.Core.Bites;

namespace EmberLane.Core.Stories;

/// <summary>A change of a story in words.</summary>
public static class StoryWords
{
    /// <summary>What is done to the story as it is before; <paramref name="said"/> gives what a card's bite says.</summary>
    public static string Of(StoryEdit edit, Story before, Func<Card, string> said) =>
        edit switch
        {
            LayCard lay => Say($"laid as card {lay.At + 1}: “{BiteWords.Excerpt(said(lay.Card))}”"),
            TakeOut take => $"taken out: {Card(before, take.Card, said)}",
            MoveCard move => Say($"moved to place {move.To + 1}: {Card(before, move.Card, said)}"),
            ShowAngle angle => $"{(angle.Angle is null ? "shown from the first angle that has it" : "shown from another angle")}: "
                + $"{Card(before, angle.Card, said)}",
            DescribeStory describe => $"title “{TypedText.OneLine(describe.Title)}”, target {describe.Target}",
            CountStory count => $"counted from {count.Start} at "
                + $"{new FrameRate(count.RateNumerator, count.RateDenominator)}{(count.DropFrame ? " drop frame" : "")}",
            PutStoryAway away => away.Away ? "put away" : "brought back",
            StoryTogether { Edits: [LayCard first, ..] } many => Say(
                $"{many.Edits.Count} cards laid from place {first.At + 1} on: “{BiteWords.Excerpt(said(first.Card))}”"
            ),
            StoryTogether { Edits: [TakeOut, ..] } many => Say($"{many.Edits.Count} cards taken out"),
            ShowTake take => $"another take shown: {Card(before, take.Card, said)}",
            FillSpace { Before: "", After: "" } space => $"no line is missing any more beside {Card(before, space.Card, said)}",
            FillSpace space => $"missing lines beside {Card(before, space.Card, said)}",
            _ => "a change",
        };

    private static string Card(Story story, Guid id, Func<Card, string> said) =>
        story.IndexOf(id) is >= 0 and var place
            ? Say($"card {place + 1}, “{BiteWords.Excerpt(said(story.Cards[place]))}”")
            : "a card that is gone";

    private static string Say(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
