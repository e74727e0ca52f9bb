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
            LayPiece lay => Say($"laid at place {lay.At + 1}: {Named(lay.Piece, said)}"),
            TakeOut take => $"taken out: {Card(before, take.Card, said)}",
            MoveCard move => Say($"moved to place {move.To + 1}: {Card(before, move.Card, said)}"),
            ChangePiece change => $"changed: {Named(change.Piece, said)}",
            StretchCard stretch => $"{Stretched(stretch, before)}: {Card(before, stretch.Card, said)}",
            PutBeside beside => $"other takes changed: {Card(before, beside.Card, said)}",
            LayOver over => $"{(over.Over is null ? "its own picture again" : "another picture over it")}: {Card(before, over.Card, said)}",
            ComeIn { How: null } cut => $"comes in by a cut: {Card(before, cut.Piece, said)}",
            ComeIn come => $"dissolves in over {come.How.Lasting}: {Card(before, come.Piece, said)}",
            ShowAngle angle => $"{(angle.Angle is null ? "shown from the first angle that has it" : "shown from another angle")}: "
                + $"{Card(before, angle.Card, said)}",
            DescribeStory describe => $"title “{TypedText.OneLine(describe.Title)}”, target {describe.Target}",
            CountStory count => $"counted from {count.Start} at "
                + $"{new FrameRate(count.RateNumerator, count.RateDenominator)}{(count.DropFrame ? " drop frame" : "")}",
            PutStoryAway away => away.Away ? "put away" : "brought back",
            BecomeVersion { IsReturned: true } back => Say($"taken over from a list that came back, with {back.Pieces.Count} pieces"),
            BecomeVersion become => Say($"became an earlier version, with {become.Pieces.Count} cards"),
            StoryTogether { Edits: [LayCard first, ..] } many when many.Edits.All(e => e is LayCard or LayPiece) => Say(
                $"{many.Edits.Count} cards laid from place {first.At + 1} on: “{BiteWords.Excerpt(said(first.Card))}”"
            ),
            StoryTogether many when many.Edits.All(e => e is TakeOut) => Say($"{many.Edits.Count} cards taken out"),
            StoryTogether many when many.Edits.All(e => e is StretchCard) => Say($"ends of {many.Edits.Count} cards moved"),
            StoryTogether many when many.Edits.All(e => e is MoveCard) => Say($"{many.Edits.Count} cards moved"),
            StoryTogether { Edits: [var first, ..] } => Of(first, before, said),
            ShowTake take => $"another take shown: {Card(before, take.Card, said)}",
            FillSpace { Before: "", After: "" } space => $"no line is missing any more beside {Card(before, space.Card, said)}",
            FillSpace space => $"missing lines beside {Card(before, space.Card, said)}",
            _ => "a change",
        };

    private static string Stretched(StretchCard edit, Story before) =>
        before.IndexOf(edit.Card) is >= 0 and var at && before.Pieces[at] is Card card
            ? (edit.Range.In.CompareTo(card.Range.In), edit.Range.Out.CompareTo(card.Range.Out)) switch
            {
                (0, < 0) => "ends earlier",
                (0, > 0) => "ends later",
                ( < 0, 0) => "begins earlier",
                ( > 0, 0) => "begins later",
                (0, 0) => "ends kept",
                _ => "both ends moved",
            }
            : "ends moved";

    private static string Card(Story story, Guid id, Func<Card, string> said) =>
        story.IndexOf(id) is >= 0 and var place
            ? story.Pieces[place] is Card card
                ? Say($"card {place + 1}, “{BiteWords.Excerpt(said(card))}”")
                : Named(story.Pieces[place], said)
            : "a card that is gone";

    /// <summary>A piece in a few words: what kind it is, and the beginning of what it says.</summary>
    public static string Named(Piece piece, Func<Card, string> said) =>
        piece switch
        {
            Card card => $"“{BiteWords.Excerpt(said(card))}”",
            SectionHead head => $"section “{BiteWords.Excerpt(head.Name)}”",
            Space { WaitsFor.Length: 0 } => "a space",
            Space space => $"a space for “{BiteWords.Excerpt(space.WaitsFor)}”",
            TitleCard title => $"title “{BiteWords.Excerpt(title.Words)}”",
            Narration narration => $"narration “{BiteWords.Excerpt(narration.Words)}”",
            _ => "plain media",
        };

    private static string Say(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
