using EmberLane.Core.Marks;
using EmberLane.Core.Stories;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>A stretch that somebody asked to leave out: of which sitting, in which of its texts.</summary>
public sealed record HeldStretch(Sitting Sitting, long Text, HeldWords Words);

/// <summary>What is off the record in a production, and whether a story would let any of it out.</summary>
public sealed class OffTheRecord(Footage footage, Store.Transcripts transcripts, Texts texts)
{
    /// <summary>All of a production, by the texts that its sittings are read by. Cost grows with the texts that hold any.</summary>
    public IReadOnlyList<HeldStretch> Of(long production)
    {
        var held = transcripts.WithHeld(production);
        return
        [
            .. footage
                .Sittings(production)
                .Where(s => s.TranscriptId is { } text && held.Contains(text))
                .SelectMany(s =>
                    HeldWords.Of(transcripts.Get(s.TranscriptId!.Value)).Select(w => new HeldStretch(s, s.TranscriptId.Value, w))
                ),
        ];
    }

    /// <summary>
    /// The names of files and sittings of which a story plays or shows a stretch as it is while part of it is off the record. Cards are
    /// cut by what is set aside in the text that their sitting is read by; files are not, nor cards of a sitting that is read by none.
    /// </summary>
    public IReadOnlyList<string> LetOut(StoredStory story)
    {
        var names = new List<string>();
        foreach (var piece in story.Story.Pieces)
        {
            if (piece is Card card && footage.Sitting(card.SittingId) is { TranscriptId: null } unread)
            {
                Ask(unread, card.Range, unread.Title);
            }
            var (id, range) = piece switch
            {
                PlainMedia media => (media.SourceId, media.Range),
                Card { Over: { } over } => (over.SourceId, over.Range),
                _ => (0L, default),
            };
            if (id != 0 && footage.Source(id) is { SittingId: { } sitting, Place: { } place } source && footage.Sitting(sitting) is { } of)
            {
                Ask(of, new SittingRange(place.ToSitting(range.In), place.ToSitting(range.Out)), source.Name);
            }
        }
        return [.. names.Distinct()];

        void Ask(Sitting sitting, SittingRange range, string name)
        {
            if (RangesOf(sitting).Any(held => held.In < range.Out && held.Out > range.In))
            {
                names.Add(name);
            }
        }
    }

    // By the text that it is read by; by all that it has where it is read by none.
    private IEnumerable<SittingRange> RangesOf(Sitting sitting) =>
        transcripts
            .WithHeld(sitting.ProductionId)
            .Intersect(sitting.TranscriptId is { } text ? [text] : texts.Of(sitting.Id).Select(t => t.Id))
            .SelectMany(id => HeldWords.Of(transcripts.Get(id)))
            .Select(h => h.Range);
}
