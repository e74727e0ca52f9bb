using System.Globalization;
using EmberLane.Core.Bites;
using EmberLane.Core.Handoff;
using EmberLane.Core.Media;
using EmberLane.Core.Stories;
using EmberLane.Core.Timeline;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <content>What decision lists are made of, and what could go wrong with them.</content>
public sealed partial class Desk
{
    /// <summary>
    /// The sources of the sittings that a story uses, as a decision list needs them. Angles in their order; reels differ from each other.
    /// </summary>
    public IReadOnlyDictionary<long, ListedSitting> Listed(StoredStory story) => Listed(story, [], ReelName.StrictLength);

    // With sittings of the same productions that only lie beside it.
    private Dictionary<long, ListedSitting> Listed(StoredStory story, IReadOnlyList<long> beside, int reelLength) =>
        story.Story.HasNoCards
            ? []
            : Listed(
                SourcesOf(story.ProductionId, story.Story),
                story.Story.Cards.Select(c => c.SittingId).Concat(beside).ToHashSet(),
                reelLength
            );

    private static List<ListedSource> ListedFiles(IReadOnlyList<Source> sources, int reelLength = ReelName.StrictLength)
    {
        var reels = ReelName.Distinct(sources.Select(s => ((string?)s.Labels.ReelOf(s.Facts), s.Name)), reelLength);
        return
        [
            .. sources.Select(
                (s, i) => new ListedSource(s.Id, reels[i], s.Name, s.Facts with { ReelTag = s.Labels.ReelOf(s.Facts) }, s.Place)
            ),
        ];
    }

    // Reels have to differ over all files of the productions, so that a list does not change its reels with the cards that are in it.
    private Dictionary<long, ListedSitting> Listed(
        IReadOnlyList<Source> sources,
        HashSet<long> sittings,
        int reelLength = ReelName.StrictLength
    )
    {
        var bySitting = sources
            .Zip(ListedFiles(sources, reelLength))
            .Where(s => s.First.SittingId is { } id && sittings.Contains(id))
            .ToLookup(s => s.First.SittingId!.Value, s => s.Second);
        return sittings
            .Select(footage.Sitting)
            .OfType<Sitting>()
            .ToDictionary(
                s => s.Id,
                s => new ListedSitting(
                    s.Id,
                    [.. bySitting[s.Id].Where(l => l.Facts.Picture is not null)],
                    bySitting[s.Id].FirstOrDefault(l => l.Id == s.SoundSourceId)
                )
                {
                    Files = [.. bySitting[s.Id]],
                }
            );
    }

    // With the mics that are open, where that is wanted.
    private Dictionary<long, ListedSitting> Heard(IReadOnlyDictionary<long, ListedSitting> sittings) =>
        sittings.ToDictionary(
            s => s.Key,
            s => footage.Sitting(s.Key) is { } sitting ? s.Value with { Mics = cameras.MicsOf(sitting, s.Value.Files) } : s.Value
        );

    /// <summary>The shots of a story's cards, where a camera plan is followed.</summary>
    public IReadOnlyDictionary<Guid, IReadOnlyList<AngleShot>> ShotsOf(StoredStory story, StoryCut cut, bool isNarrow = false) =>
        cameras.OfStory(story, cut, isNarrow);

    /// <summary>The decision list of a story as it stands.</summary>
    public EventList EventsOf(StoredStory story) => EdlEvents.Of(TimelineOf(story, new WantedTracks()));

    /// <summary>
    /// The tracks of a story as it stands, with those beside the cut that are wanted.
    /// </summary>
    public EditedTimeline TimelineOf(
        StoredStory story,
        WantedTracks wanted,
        IReadOnlyDictionary<Guid, ShownCard>? shown = null,
        ListWay? way = null
    )
    {
        way ??= new ListWay();
        var alternates = wanted.Alternates ? AlternatesOf(story) : [];
        var heard = Heard(Listed(story, [.. alternates.Values.SelectMany(a => a).Select(a => a.Card.SittingId)], way.ReelLength));
        return Conform.Lay(
            story.Title,
            story.Start,
            ListedPieces(story, shown ?? Cards(story), way, alternates),
            way.Master is { } start ? Mastered(heard, way, start) : heard,
            wanted,
            story.Story.Pieces.Any(p => p.ComesIn is not null) ? held.Beyond() : null
        );
    }

    /// <summary>
    /// How the pieces of a story that dissolve in do so, by piece: as far as there is what they dissolve from. Grows with those only.
    /// </summary>
    public IReadOnlyDictionary<Guid, LaidDissolve> DissolvesOf(StoredStory story)
    {
        if (story.Story.Pieces.All(p => p.ComesIn is null))
        {
            return new Dictionary<Guid, LaidDissolve>();
        }
        var (cut, rate) = (CutOf(story), story.Start.Count.Rate);
        // What has no frames, as a heading or a card of which all is set aside, is not what another dissolves from.
        var pieces = story.Story.Pieces.Where(p => cut.Frames(p, rate) > 0).ToList();
        var wanted = pieces.Index().Where(p => p.Index > 0 && p.Item.ComesIn is not null).Select(p => p.Index).ToHashSet();
        if (wanted.Count == 0)
        {
            return new Dictionary<Guid, LaidDissolve>();
        }
        // Each with the piece before it.
        var some = pieces
            .Select(
                (p, i) =>
                    wanted.Contains(i) ? p
                    : wanted.Contains(i + 1) ? p with { ComesIn = null }
                    : null
            )
            .OfType<Piece>()
            .ToList();
        var part = story with { Story = story.Story with { Pieces = [.. some] } };
        var laid = LaidDissolve.Of(TimelineOf(part, new WantedTracks()));
        var found = new Dictionary<Guid, LaidDissolve>();
        long at = 0;
        foreach (var piece in some)
        {
            if (piece.ComesIn is not null && laid.TryGetValue(at, out var one))
            {
                found[piece.Id] = one;
            }
            at += cut.Frames(piece, rate);
        }
        return found;
    }

    private Dictionary<long, ListedSitting> Mastered(Dictionary<long, ListedSitting> sittings, ListWay way, Timecode start)
    {
        var titles = sittings.Keys.Order().Select(id => (Id: id, Title: footage.Sitting(id)?.Title ?? "")).ToList();
        var reels = ReelName.Distinct(titles.Select(t => ((string?)null, t.Title)), way.ReelLength);
        return titles.Zip(reels).ToDictionary(t => t.First.Id, t => ListWay.Mastered(sittings[t.First.Id], t.First.Title, t.Second, start));
    }

    /// <summary>The tracks of a story as it was, of whose cards nothing is known but where they lie: without comments.</summary>
    public EditedTimeline TimelineOfVersion(StoredStory story) =>
        Conform.Lay(
            story.Title,
            story.Start,
            ListedPieces(story, new Dictionary<Guid, ShownCard>(), new ListWay(), []),
            Heard(Listed(story)),
            beyond: held.Beyond()
        );

    // The bites beside each card, as cards without what is set aside.
    private Dictionary<Guid, List<ListedCard>> AlternatesOf(StoredStory story)
    {
        var beside = story
            .Story.Cards.Where(c => c.OtherTakes.Length > 0)
            .Select(c => (c.Id, Takes: c.OtherTakes.Split(' ').Select(t => long.Parse(t, CultureInfo.InvariantCulture)).ToList()))
            .ToList();
        if (beside.Count == 0)
        {
            return [];
        }
        var kept = bites.Of(beside.SelectMany(b => b.Takes).ToHashSet()).ToDictionary(b => b.Id);
        var said = readings.Of([.. kept.Keys]);
        var aside = kept.Values.Select(b => b.SittingId).Distinct().ToDictionary(id => id, readings.AsideOf);
        return beside.ToDictionary(
            b => b.Id,
            b => b.Takes.Where(kept.ContainsKey).Select(t => Alternate(kept[t], said[t], aside[kept[t].SittingId])).ToList()
        );
    }

    private static ListedCard Alternate(Bite bite, BiteReading said, IReadOnlyList<SittingRange> aside) =>
        new(
            new Card(Guid.NewGuid(), bite.Id, bite.SittingId, bite.Range, null),
            StoryCut.Apart(bite.Range, aside),
            "alternate: "
                + string.Join(" / ", new[] { string.Join(", ", said.Voices.Select(v => v.Name)), bite.Theme }.Where(t => t.Length > 0))
        );

    private List<ListedPiece> ListedPieces(
        StoredStory story,
        IReadOnlyDictionary<Guid, ShownCard> shown,
        ListWay way,
        Dictionary<Guid, List<ListedCard>> alternates
    )
    {
        var cut = CutOf(story);
        var rate = story.Start.Count.Rate;
        var files = FilesOf(story, way.ReelLength);
        var shots = way.Master is null ? ShotsOf(story, cut, way.Shape is not null) : new Dictionary<Guid, IReadOnlyList<AngleShot>>();
        var pieces = new List<ListedPiece>();
        foreach (var piece in story.Story.Pieces)
        {
            var frames = cut.Frames(piece, rate);
            var dissolve = piece.ComesIn;
            switch (piece)
            {
                case Card card:
                    pieces.Add(
                        new ListedCard(card, cut.Of(card), shown.TryGetValue(card.Id, out var own) ? CommentOf(own) : "")
                        {
                            Over = card.Over is { } over ? files.GetValueOrDefault(over.SourceId) : null,
                            Shots = shots.GetValueOrDefault(card.Id) ?? [],
                            Alternates = alternates.GetValueOrDefault(card.Id) ?? [],
                            ComesIn = dissolve,
                        }
                    );
                    break;
                case PlainMedia media when files.TryGetValue(media.SourceId, out var file):
                    pieces.Add(new ListedMedia(file, media.Range.In, frames, LevelsOf(media)) { ComesIn = dissolve });
                    break;
                case not SectionHead:
                    pieces.Add(new ListedGap(frames, StoryWords.Named(piece, _ => "")) { ComesIn = dissolve });
                    break;
            }
        }
        return pieces;
    }

    private static string CommentOf(ShownCard card) => string.Join(" / ", new[] { card.Speaker, card.Bite.Theme }.Where(t => t.Length > 0));

    private static string LevelsOf(PlainMedia media) =>
        string.Join(
            ", ",
            new[]
            {
                media.Level == 0 ? "" : Say($"level {media.Level / 10m:0.#} dB"),
                media.FadeIn == MediaTime.Zero ? "" : Say($"fades in over {media.FadeIn}"),
                media.FadeOut == MediaTime.Zero ? "" : Say($"fades out over {media.FadeOut}"),
            }.Where(t => t.Length > 0)
        );

    /// <summary>The files that a story shows beside its sittings: plain media, and pictures over cards; by source.</summary>
    public IReadOnlyDictionary<long, ListedSource> FilesOf(StoredStory story, int reelLength = ReelName.StrictLength)
    {
        var used = FilesIn(story.Story);
        return used.Count == 0
            ? new Dictionary<long, ListedSource>()
            : ListedFiles(SourcesOf(story.ProductionId, story.Story), reelLength).Where(f => used.Contains(f.Id)).ToDictionary(f => f.Id);
    }

    /// <summary>All files of a story's productions, as lists name them.</summary>
    public IReadOnlyList<Core.Handoff.Back.BackSource> FilesOfProductions(StoredStory story)
    {
        var sources = SourcesOf(story.ProductionId, story.Story);
        return [.. sources.Zip(ListedFiles(sources), (s, listed) => new Core.Handoff.Back.BackSource(listed, s.SittingId))];
    }

    /// <summary>
    /// The decision list of a reel of selects: bites one behind the other, each with so many frames before and behind it, as far as the
    /// sitting goes.
    /// </summary>
    public EventList SelectsOf(Production production, IReadOnlyList<Bite> some, int handles)
    {
        var start = StartOf(production.Id);
        var handle = start.Count.Rate.TimeOf(handles);
        var zero = new SittingTime(MediaTime.Zero);
        var listed = Listed(footage.Sources(production.Id), some.Select(b => b.SittingId).ToHashSet());
        var aside = readings.Aside(production.Id);
        var cards = Shown(production.Id, some)
            .Select(s =>
            {
                var range = new SittingRange(s.Bite.Range.In - handle < zero ? zero : s.Bite.Range.In - handle, s.Bite.Range.Out + handle);
                var card = new Card(Guid.NewGuid(), s.Bite.Id, s.Bite.SittingId, range, null);
                return new ListedCard(
                    card,
                    StoryCut.Apart(range, aside.GetValueOrDefault(s.Bite.SittingId) ?? []),
                    string.Join(" / ", new[] { s.Speaker, s.Bite.Theme }.Where(t => t.Length > 0))
                );
            })
            .ToList();
        return EdlEvents.Of(Conform.Lay($"{production.Name}, selects", start, cards, Heard(listed)));
    }

    /// <summary>What could go wrong at the editor's, and what is known to be right.</summary>
    public IReadOnlyList<Check> Checks(Production production, StoredStory story) => Checks(production, story, CutOf(story));

    /// <summary>The cards of a story that a cure takes out of it.</summary>
    public IReadOnlyList<Guid> CardsToTakeOut(Production production, StoredStory story, Cure cure)
    {
        var cut = CutOf(story);
        var away = ProductionsOf(production.Id, story.Story).SelectMany(bites.SetAsideOf).ToHashSet();
        return
        [
            .. story.Story.Cards.Where(c => cure == Cure.TakeOutEmpty ? cut.Of(c).Count == 0 : away.Contains(c.BiteId)).Select(c => c.Id),
        ];
    }

    private IReadOnlyList<Check> Checks(Production production, StoredStory story, StoryCut cut)
    {
        if (story.Story.HasNoCards)
        {
            return Preflight.Run(story.Start.Count, [], [], [], []);
        }
        var sources = SourcesOf(production.Id, story.Story);
        var listed = Listed(sources, story.Story.Cards.Select(c => c.SittingId).ToHashSet());
        var used = story
            .Story.Cards.SelectMany(c => listed[c.SittingId].Angles.Append(listed[c.SittingId].Sound))
            .OfType<ListedSource>()
            .Concat(FilesOf(story).Values.Select(f => f with { Place = f.Place ?? new ClockMap(default, 0) }))
            .DistinctBy(s => s.Id)
            .ToList();
        var uses = used.Select(s => s.Id).ToHashSet();
        var away = ProductionsOf(production.Id, story.Story).SelectMany(bites.SetAsideOf).ToHashSet();
        var odd = story
            .Story.Cards.Select(
                (c, i) =>
                    new OddCard(
                        i + 1,
                        Conform.ShownInstead(c, cut.Of(c), listed[c.SittingId], story.Start.Count),
                        away.Contains(c.BiteId),
                        cut.Of(c).Count == 0
                    )
            )
            .ToList();
        return Preflight.Run(
            story.Start.Count,
            story.Story.Cards,
            used,
            sources.Where(s => s.State != FileState.Here && uses.Contains(s.Id)).Select(s => s.Name).ToList(),
            odd
        );
    }
}
