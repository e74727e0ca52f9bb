using EmberLane.Application.Rooms;
using EmberLane.Core;
using EmberLane.Core.Comments;
using EmberLane.Core.People;
using EmberLane.Core.Stories;
using EmberLane.Core.Transcripts;
using EmberLane.Store;

namespace EmberLane.Application.People;

/// <summary>What somebody wants to talk of, as a page asks for it: words of a sitting, a bite, or a piece of the story in hand.</summary>
public sealed record TalkedOf(CommentPlace Place, string Quote);

/// <summary>Talks of a production: what they are of, in words, and who can be mentioned in them.</summary>
public sealed class CommentDesk(
    Desk desk,
    Footage footage,
    Store.Transcripts transcripts,
    Store.Bites bites,
    Store.Stories stories,
    Store.Comments comments,
    Changes changes,
    Members members,
    Accounts accounts,
    Admissions admissions
)
{
    /// <summary>What a page names; null where it is not there, or is another production's.</summary>
    /// <param name="inHand">The story in hand, for pieces whose story is not named.</param>
    public TalkedOf? Of(long productionId, AskedTalk asked, Func<long> inHand, string who) =>
        asked switch
        {
            { Sitting: { } sitting, First: { } first, Last: { } last } => OfWords(
                productionId,
                sitting,
                new WordNumber(first),
                new WordNumber(last)
            ),
            { Bite: { } bite } => OfBite(productionId, bite),
            { Card: { } card } => OfCard(productionId, asked.Story ?? inHand(), card, who),
            _ => null,
        };

    /// <summary>Words of a sitting of the production, by the text that it is read by; null where there are none.</summary>
    public TalkedOf? OfWords(long productionId, long sittingId, WordNumber first, WordNumber last)
    {
        if (footage.Sitting(sittingId) is not { TranscriptId: { } text } sitting || sitting.ProductionId != productionId)
        {
            return null;
        }
        var transcript = transcripts.Get(text);
        return transcript.PlaceOf(first) is { } from && transcript.PlaceOf(last) is { } to && from <= to
            ? new TalkedOf(new WordsPlace(sittingId, text, first, last, transcript.RangeOf(from, to)), transcript.Said(from, to))
            : null;
    }

    /// <summary>A bite of the production; null where there is none.</summary>
    public TalkedOf? OfBite(long productionId, long bite) =>
        bites.Get(bite) is { } kept && footage.Sitting(kept.SittingId)?.ProductionId == productionId
            ? new TalkedOf(new BitePlace(bite), string.Concat(desk.Shown(productionId, [kept]).Select(b => b.Said)))
            : null;

    /// <summary>A piece of one of the production's stories; null where there is none.</summary>
    public TalkedOf? OfCard(long productionId, long story, Guid card, string who) =>
        stories.Get(story, who) is { } stored
        && stored.ProductionId == productionId
        && stored.Story.Pieces.FirstOrDefault(p => p.Id == card) is { } piece
            ? new TalkedOf(new CardPlace(story, card), QuoteOf(stored, piece))
            : null;

    /// <summary>Who can be mentioned: who is in the production, has it, comes by a link, or did something in it.</summary>
    public IReadOnlyCollection<string> Names(long productionId) =>
        members
            .Of(productionId)
            .Select(m => m.Name)
            .Concat(accounts.All().Where(a => a is { IsOwner: true, ClosedAt: null }).Select(a => a.Name))
            .Concat(
                admissions
                    .OpenOf(productionId)
                    .Where(a => a.Kind == AdmissionKind.Link && a.Rights.HasFlag(Rights.Comment))
                    .Select(a => SignInName.ByLink(a.Label))
            )
            .Concat(changes.People(productionId))
            .Concat(comments.People(productionId))
            .ToHashSet(StringComparer.OrdinalIgnoreCase);

    private string QuoteOf(StoredStory stored, Piece piece) =>
        piece switch
        {
            Card card => stories.ReadingsOf(stored.Id).GetValueOrDefault(card.Id)?.Said ?? "",
            SectionHead head => head.Name,
            Space space => space.WaitsFor,
            TitleCard title => title.Words,
            Narration narration => narration.Words,
            _ => "",
        };
}
