using System.Collections.Concurrent;
using EmberLane.Core.Handoff;
using EmberLane.Core.Seams;
using EmberLane.Core.Stories;
using EmberLane.Core.Transcripts;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>
/// The seams of a story, judged by its sittings' sounds. What was judged once is remembered: only what changed is judged anew.
/// </summary>
public sealed class StorySeams(SeamSounds sounds, Footage footage, Store.Transcripts transcripts)
{
    /// <summary>So many judged seams are remembered.</summary>
    private const int Most = 20_000;

    /// <summary>For what asks of many cards at once.</summary>
    public SeamSittings At() => new(sounds, footage, transcripts);

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
    /// The seams in order, cards seen by their <paramref name="shots"/> where a camera plan gives them: before the first card, between each
    /// two, behind the last. None for a story without cards; cards of which nothing is left are passed over.
    /// </summary>
    public IReadOnlyList<StorySeam> Of(
        StoredStory story,
        IReadOnlyDictionary<Guid, ShownCard> shown,
        StoryCut cut,
        IReadOnlyDictionary<long, ListedSitting> sittings,
        IReadOnlyDictionary<Guid, IReadOnlyList<AngleShot>> shots
    )
    {
        var at = At();
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
            var sound = at.SoundOf(card.SittingId);
            var reading = shown[card.Id].Reading;
            var picture = PictureOf(card, plays, sittings[card.SittingId]);
            var planned = card is { Angle: null, Over: null } ? shots.GetValueOrDefault(card.Id) : null;
            return new SeamSide(card, plays, reading.Edges, reading.Said, planned?[^1].View ?? picture, sound)
            {
                // What dissolves in does not jump.
                FirstPicture = card.ComesIn is null ? planned?[0].View ?? picture : null,
            };
        }
    }

    private StorySeam Judge(SeamSide? one, SeamSide? next, bool areTogether)
    {
        var key = new Judged(
            one is null ? null : (one.Card.Id, one.Plays, one.Words, one.Said),
            next is null ? null : (next.Card.Id, next.Plays, next.Words, next.Said),
            areTogether,
            one?.Picture is { } angle && angle == next?.FirstPicture,
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

    /// <summary>
    /// The joins inside a card, where something of it is set aside, by the moments at which the sound leaves off; those that have nothing
    /// to settle are left out. None where the sound is not measured. What it needs of the sitting it asks of <paramref name="sittings"/>,
    /// for the cards that follow too.
    /// </summary>
    public IReadOnlyList<(SittingTime At, StorySeam Seam)> Inside(Card card, CardReading reading, StoryCut cut, SeamSittings sittings)
    {
        var parts = cut.Of(card);
        if (parts.Count < 2 || sittings.SoundOf(card.SittingId) is not { } sound)
        {
            return [];
        }
        var key = (card.Id, reading.Said, sound.Name, string.Join(' ', parts));
        if (!inside.TryGetValue(key, out var seams))
        {
            if (inside.Count >= Most)
            {
                inside.Clear();
            }
            inside[key] = seams = JoinsOf(card, parts, sound, sittings.TextOf(card.SittingId));
        }
        return seams;
    }

    private readonly ConcurrentDictionary<
        (Guid Card, string Said, string Sound, string Parts),
        IReadOnlyList<(SittingTime, StorySeam)>
    > inside = new();

    private static List<(SittingTime, StorySeam)> JoinsOf(
        Card card,
        IReadOnlyList<SittingRange> parts,
        SittingSeamSound sound,
        Transcript? text
    )
    {
        if (text is null)
        {
            return [];
        }
        // The same angle on both sides is what setting aside does; it is no news.
        var sides = parts
            .Select(part => CardWords.PartOf(text, part) is var (said, edges) ? new SeamSide(card, part, edges, said, null, sound) : null)
            .OfType<SeamSide>()
            .ToList();
        return
        [
            .. sides
                .Zip(sides.Skip(1), (one, next) => (one.Plays.Out, Seam: StorySeam.Of(one, next, areTogether: true)))
                .Where(s => s.Seam.Score > 0),
        ];
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
