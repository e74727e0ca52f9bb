using System.Text.Json;
using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Stories;
using EmberLane.Core.Tidy;
using EmberLane.Store;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Story;

/// <content>The story as a text: words taken out, copied and put in, cards parted, joined and stretched.</content>
public sealed partial class IndexModel
{
    /// <summary>What is pasted at most, in characters of JSON: some thousands of cards.</summary>
    private const int MostPasted = 2_000_000;

    /// <summary>An end is moved by so many words at once at most.</summary>
    private const int MostWords = 1_000;

    /// <summary>Takes words out and closes up, or leaves a space of that length.</summary>
    public IActionResult OnPostTakeWords(long version, Guid from, int fromAt, Guid to, int toAt, bool space) =>
        Change(story =>
            table.ByWords(
                At(story, version),
                Who,
                (cut, own) =>
                {
                    var words = table.WordsAt(At(story, version), new SaidPlace(from, fromAt), new SaidPlace(to, toAt));
                    return space ? cut.LeaveSpace(own, words, s => Desk.CutOf(Production.Id, s)) : cut.TakeOut(own, words);
                }
            )
        );

    /// <summary>What these words would be laid as elsewhere, as JSON for <see cref="OnPostPaste"/>.</summary>
    public IActionResult OnPostWords(long version, Guid from, int fromAt, Guid to, int toAt) =>
        Looked(version, story => table.Copy(story, table.WordsAt(story, new SaidPlace(from, fromAt), new SaidPlace(to, toAt))));

    /// <summary>
    /// Where the word at a character of what a card says is taken from, as JSON: the sitting, and the number of the word in its text.
    /// </summary>
    public IActionResult OnGetSource(long version, Guid card, int at) =>
        Looked(
            version,
            story =>
                table.SourceOf(story, new SaidPlace(card, at)) is var (production, sitting, word)
                    ? new
                    {
                        production,
                        sitting,
                        word,
                    }
                    : null
        );

    /// <summary>
    /// The characters of what a card says at a moment of its sitting, in seconds, as JSON; nothing where no word is said there.
    /// </summary>
    public IActionResult OnGetWordAt(long version, Guid card, decimal at) =>
        Looked(
            version,
            story =>
                at is >= 0 and < 10_000_000
                && table.WordAt(story, card, new SittingTime(MediaTime.FromSecondsRounded(at))) is var (from, to)
                    ? new { from, to }
                    : null
        );

    // What is found in the story as the page showed it, as JSON.
    private IActionResult Looked(long version, Func<StoredStory, object?> look)
    {
        try
        {
            return look(At(Desk.StoryOf(Production, Who), version)) is { } found ? new JsonResult(found) : new NoContentResult();
        }
        catch (EditRefusedException refused)
        {
            return Refused(refused.Message);
        }
    }

    /// <summary>The pieces of these ids as they would be laid again elsewhere, as JSON.</summary>
    public IActionResult OnPostPieces(Guid[] piece) =>
        new JsonResult(
            Desk.StoryOf(Production, Who).Story.Pieces.Where(p => piece.Contains(p.Id)).Select(p => p with { Id = Guid.NewGuid() }).ToList()
        );

    /// <summary>
    /// Puts in what was cut or copied: before a character of what a card says, where that is named, else behind a piece, or at the end.
    /// Words that were copied or dragged from Read or Find are kept as a bite, whose card comes behind the piece.
    /// </summary>
    public IActionResult OnPostPaste(long version, string? clip, Guid? card, int? at, Guid? behind) =>
        Change(story =>
        {
            if (CopiedWords.Read(clip) is { } words)
            {
                table.KeepAndLay(story, [new LaidTakes(BiteOf(words), [], "", "")], Who, card ?? behind);
                return;
            }
            var pieces = Pasted(clip);
            var shown = At(story, version);
            if (card is { } into && at is { } place)
            {
                var word = table.WordAt(shown, new SaidPlace(into, place));
                table.ByWords(shown, Who, (cut, own) => cut.PutIn(own, into, word, pieces));
            }
            else
            {
                var first = shown.Story.PlaceBehind(behind);
                stories.Apply(story.Id, version, StoryTogether.Of([.. pieces.Select((p, i) => LayPiece.Of(p, first + i))]), Who);
            }
        });

    private Bite BiteOf(CopiedWords words) =>
        footage.Sitting(words.Sitting) is { TranscriptId: { } id } sitting
        && MayRead(sitting.ProductionId)
        && id == words.Text
        && transcripts.Get(id) is var text
        && text.PlaceOf(words.First) is { } from
        && text.PlaceOf(words.Last) is { } to
        && from <= to
        && (words.Sentence ? new TextTalk(text).SentencesOf(from, to) : (from, to)) is var (first, last)
            ? Bite.Of(words.Sitting, id, text.At(first).Number, text.At(last).Number, text.RangeOf(first, last), "", "", Who)
            : throw new EditRefusedException("The sitting is read by another text than the words were copied from. Copy them again.");

    private List<Piece> Pasted(string? clip)
    {
        List<Piece>? pieces = null;
        try
        {
            pieces = clip is { Length: > 0 and <= MostPasted }
                ? JsonSerializer.Deserialize<List<Piece>>(clip, JsonSerializerOptions.Web)
                : null;
        }
        catch (Exception bad) when (bad is JsonException or ArgumentException or NotSupportedException)
        {
            pieces = null;
        }
        if (pieces is not { Count: > 0 } || pieces.Any(p => p is null))
        {
            throw new EditRefusedException(
                "Nothing was cut or copied from a story yet. Text from elsewhere has no footage: lay it as narration."
            );
        }
        return [.. pieces.Select(p => Here(p) with { Id = Guid.NewGuid() })];
    }

    // A pasted piece, of this production or another, whose bite and files are there. Throws for another.
    private Piece Here(Piece piece) =>
        piece switch
        {
            Card card when Kept(card.BiteId)?.SittingId != card.SittingId => throw new EditRefusedException(
                "What was copied is of a bite that is not kept any more."
            ),
            Card { Over: { } over } when !IsHere(over.SourceId) => throw new EditRefusedException(
                "What was copied shows a file that is not here."
            ),
            PlainMedia media when !IsHere(media.SourceId) => throw new EditRefusedException(
                "What was copied is of a file that is not here."
            ),
            _ => piece,
        };

    private bool IsHere(long source) => footage.Source(source) is { } there && MayRead(there.ProductionId);

    /// <summary>Makes two cards of one, before the word at a character.</summary>
    public IActionResult OnPostPart(long version, Guid card, int at) =>
        Change(story =>
        {
            var shown = At(story, version);
            var word = table.WordAt(shown, new SaidPlace(card, at));
            table.ByWords(shown, Who, (cut, own) => cut.Part(own, card, word));
        });

    /// <summary>Makes one card of one and the next, which continues it.</summary>
    public IActionResult OnPostJoin(long version, Guid card) => Edit(version, story => WordCut.Join(story.Story, card));

    /// <summary>An end of a card moved by words, so that they come back or go.</summary>
    public IActionResult OnPostStretch(long version, Guid card, bool begin, int words) =>
        Change(story =>
            table.StretchByWords(
                At(story, version),
                [(card, begin ? BiteEnd.Begin : BiteEnd.Stop)],
                Math.Clamp(words, -MostWords, MostWords),
                Who
            )
        );
}
