using System.Collections.Concurrent;
using EmberLane.Core.Handoff;
using EmberLane.Core.Seams;
using EmberLane.Core.Stories;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>
/// The seams of a story, judged by its sittings' sounds. What was judged once is remembered: only what changed is judged anew.
/// </summary>
public sealed class StorySeams(SeamSounds sounds)
{
    /// <summary>So many judged seams are remembered.</summary>
    private const int Most = 20_000;

    private sealed record Judged(
        (Guid, SittingRange, CardEdges, string)? One,
        (Guid, SittingRange, CardEdges, string)? Next,
        bool AreTogether,
        bool IsSameAngle,
        string? OneSound,
        string? NextSound
    );

    private readonly ConcurrentDictionary<Judged, StorySeam> known = new();

    /// <summary>
    /// The seams in order: before the first card, between each two, behind the last. None for a story without cards; cards of which nothing
    /// is left are passed over.
    /// </summary>
    public IReadOnlyList<StorySeam> Of(
        StoredStory story,
        IReadOnlyDictionary<Guid, ShownCard> shown,
        StoryCut cut,
        IReadOnlyDictionary<long, ListedSitting> sittings
    )
    {
        var heard = new Dictionary<long, SittingSeamSound?>();
        var seams = new List<StorySeam>();
        SeamSide? one = null;
        var areTogether = true;
        foreach (var piece in story.Story.Pieces)
        {
            if (piece is not Card card)
            {
                areTogether &= piece is SectionHead;
            }
            else if (cut.Of(card) is { Count: > 0 } parts)
            {
                var next = Side(card, new SittingRange(parts[0].In, parts[^1].Out));
                seams.Add(Judge(one, next, areTogether));
                (one, areTogether) = (next, true);
            }
        }
        if (one is not null)
        {
            seams.Add(Judge(one, null, areTogether));
        }
        return seams;

        SeamSide Side(Card card, SittingRange plays)
        {
            if (!heard.TryGetValue(card.SittingId, out var sound))
            {
                heard[card.SittingId] = sound = sounds.Of(card.SittingId);
            }
            var reading = shown[card.Id].Reading;
            return new SeamSide(card, plays, reading.Edges, reading.Said, PictureOf(card, plays, sittings[card.SittingId]), sound);
        }
    }

    private StorySeam Judge(SeamSide? one, SeamSide? next, bool areTogether)
    {
        var key = new Judged(
            one is null ? null : (one.Card.Id, one.Plays, one.Words, one.Said),
            next is null ? null : (next.Card.Id, next.Plays, next.Words, next.Said),
            areTogether,
            one?.Picture is { } angle && angle == next?.Picture,
            one?.Sound?.Name,
            next?.Sound?.Name
        );
        if (!known.TryGetValue(key, out var seam))
        {
            if (known.Count >= Most)
            {
                known.Clear();
            }
            known[key] = seam = StorySeam.Of(one, next, areTogether);
        }
        return seam;
    }

    /// <summary>The file that is seen of a card: its chosen angle where that rolls all along, else the first that does.</summary>
    public static long? PictureOf(Card card, SittingRange plays, ListedSitting sitting) =>
        card.Over is { } over && over.After == MediaTime.Zero
            ? over.SourceId
            : sitting
                .Angles.Where(a => a.Place is { } place && place.Fill(a.Facts.Duration).Covers(plays))
                .OrderBy(a => a.Id == card.Angle ? 0 : 1)
                .FirstOrDefault()
                ?.Id;
}
