using EmberLane.Core.Captions;
using EmberLane.Core.Handoff;
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
    /// The stretches of a sitting that are not sent to who comes by a link, in order and apart; by the text that it is read by, by all that
    /// it has where it is read by none.
    /// </summary>
    public IReadOnlyList<SittingRange> Withheld(Sitting sitting) =>
        AsideStretches.Union([.. HeldTexts(sitting).SelectMany(id => Core.Marks.Withheld.Of(transcripts.Get(id)))]);

    /// <summary>
    /// The names of files and sittings of which a story plays or shows a stretch as it is while part of it is off the record. Cards are
    /// cut by what is set aside in the text that their sitting is read by; files are not, nor cards of a sitting that is read by none.
    /// </summary>
    public IReadOnlyList<string> LetOut(StoredStory story)
    {
        var names = new List<string>();
        var known = new Dictionary<long, IReadOnlyList<SittingRange>>();
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
            if (HeldIn(sitting.Id, known).Any(held => held.In < range.Out && held.Out > range.In))
            {
                names.Add(name);
            }
        }
    }

    /// <summary>
    /// Of copies of a production's stories, those that hold words which were put off the record since they were made, in the sittings of
    /// any production that they play. One of which nobody knows what it holds is among them while anything of its own production is off
    /// the record.
    /// </summary>
    public IReadOnlySet<long> Withdrawn(long production, IReadOnlyList<StoredCopy> copies)
    {
        var known = new Dictionary<long, IReadOnlyList<SittingRange>>();
        return copies
            .Where(copy => copy.Parts?.Any(p => HeldIn(p.Sitting, known).Any(p.Holds)) ?? transcripts.WithHeld(production).Count > 0)
            .Select(copy => copy.Id)
            .ToHashSet();
    }

    /// <summary>
    /// What people made of a story's captions, without those that hold words which are off the record: their text may be somebody's own.
    /// </summary>
    public CaptionSetup Leaving(CaptionSetup setup)
    {
        var known = new Dictionary<long, IReadOnlyList<SittingRange>>();
        return setup.WithoutPlaces(place =>
            HeldIn(place.Sitting, known).Any(held => held.In < place.Range.Out && place.Range.In < held.Out)
        );
    }

    /// <summary>
    /// How far files of sittings may be seen and heard beyond a moment, before words come that are off the record. Reads each sitting's
    /// text once.
    /// </summary>
    public FreeBeyond Beyond()
    {
        var known = new Dictionary<long, IReadOnlyList<SittingRange>>();
        var places = new Dictionary<long, (long Sitting, ClockMap Place)?>();
        return (id, from) =>
        {
            if (!places.TryGetValue(id, out var of))
            {
                places[id] = of = PlaceOf(id);
            }
            if (of is not var (sitting, place))
            {
                return null;
            }
            var at = place.ToSitting(from);
            var next = HeldIn(sitting, known).Where(h => h.Out > at).Select(h => h.In).Order().Cast<SittingTime?>().FirstOrDefault();
            return next is { } begins ? MediaTime.Max(MediaTime.Zero, begins - at) : null;
        };
    }

    // A master has the number of its sitting, below nothing, and begins where the first of its files does.
    private (long Sitting, ClockMap Place)? PlaceOf(long id) =>
        id < 0
            ? footage.SourcesOf(-id).Where(s => s.Place is not null).Select(s => s.Place!.Value.Fill(s.Facts.Duration).In) is var begins
            && begins.Any()
                ? (-id, new ClockMap(begins.Min(), 0))
                : null
            : footage.Source(id) is { SittingId: { } sitting, Place: { } place }
                ? (sitting, place)
                : null;

    private IReadOnlyList<SittingRange> HeldIn(long sitting, Dictionary<long, IReadOnlyList<SittingRange>> known) =>
        known.TryGetValue(sitting, out var ranges) ? ranges
        : footage.Sitting(sitting) is { } of ? known[sitting] = [.. RangesOf(of)]
        : [];

    private IEnumerable<SittingRange> RangesOf(Sitting sitting) =>
        HeldTexts(sitting).SelectMany(id => HeldWords.Of(transcripts.Get(id))).Select(h => h.Range);

    // The text that it is read by; all that it has where it is read by none.
    private IEnumerable<long> HeldTexts(Sitting sitting) =>
        transcripts
            .WithHeld(sitting.ProductionId)
            .Intersect(sitting.TranscriptId is { } text ? [text] : texts.Of(sitting.Id).Select(t => t.Id));
}
