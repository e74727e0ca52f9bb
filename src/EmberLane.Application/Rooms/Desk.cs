using System.Globalization;
using EmberLane.Core.Bites;
using EmberLane.Core.Handoff;
using EmberLane.Core.Media;
using EmberLane.Core.Stories;
using EmberLane.Core.Transcripts;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>A stop of the lane: its room and its figure.</summary>
public sealed record Stop(string Room, string Name, string Figure, bool Reached);

/// <summary>Who speaks in a bite, and for how long.</summary>
public sealed record BiteVoice(string Name, SpeakerMark Mark, MediaTime Said);

/// <summary>
/// A bite as it is shown: what is said by the text that its sitting is read by now, without what is set aside; its parts that are in use;
/// the number of that text's first word of it; who speaks, the first to speak first.
/// </summary>
public sealed record ShownBite(
    Bite Bite,
    WordNumber FirstWord,
    string Said,
    IReadOnlyList<SittingRange> Pieces,
    IReadOnlyList<BiteVoice> Voices,
    Sitting Sitting
)
{
    /// <summary>All who speak, by name.</summary>
    public string Speaker => string.Join(", ", Voices.Select(v => v.Name));

    /// <summary>The mark of who says most.</summary>
    public SpeakerMark Mark => Voices.MaxBy(v => v.Said.Units)?.Mark ?? SpeakerMark.Unnamed("");

    /// <summary>How long what is in use of it lasts.</summary>
    public MediaTime Length => Pieces.Aggregate(MediaTime.Zero, (sum, p) => sum + p.Length);
}

/// <summary>Puts together from the store what several rooms show.</summary>
public sealed class Desk(
    Footage footage,
    Store.Transcripts transcripts,
    Readings readings,
    Store.Bites bites,
    Store.Stories stories,
    Jobs jobs,
    RoomChanges changes
)
{
    /// <summary>How rooms change something.</summary>
    public RoomChanges Changes => changes;

    private static readonly MediaTime Target = MediaTime.FromMilliseconds(240_000);

    /// <summary>
    /// The story in hand, for this person. Where nobody has made one yet it is as it would be made now, with the id <see cref="NoStory"/>:
    /// looking at it decides nothing.
    /// </summary>
    public StoredStory StoryOf(Production production, string who) =>
        stories.InHand(production.Id) is { } id
            ? stories.Get(id, who)!
            : new StoredStory(
                NoStory,
                production.Id,
                0,
                Story.Empty with
                {
                    Title = FirstTitle(production),
                    Start = StartOf(production.Id),
                    Target = Target,
                },
                false,
                false
            );

    /// <summary>The story in hand for a change; made when there is none, at the rate of the footage that is there.</summary>
    public StoredStory StoryToChange(Production production, string who) =>
        StoryOf(production, who) is { Id: not NoStory } there ? there : NewStory(production, FirstTitle(production), who);

    /// <summary>Makes a story, which is in hand from then on.</summary>
    public StoredStory NewStory(Production production, string title, string who)
    {
        var id = stories.Add(production.Id, title, StartOf(production.Id), Target, who);
        stories.TakeInHand(production.Id, id);
        return stories.Get(id, who)!;
    }

    /// <summary>The id of a story that nobody has made.</summary>
    public const long NoStory = 0;

    private static string FirstTitle(Production production) => $"{production.Name}, first order";

    // One hour, at the rate at which the most picture was shot.
    private Timecode StartOf(long productionId)
    {
        var rate =
            footage
                .Sources(productionId)
                .Where(s => s.Facts.Picture is { } p && FrameRate.Supported.Contains(p.Rate))
                .GroupBy(s => s.Facts.Picture!.Rate)
                .OrderByDescending(g => g.Sum(s => s.SittingId is null ? 0 : s.Facts.Duration.Units))
                .ThenByDescending(g => g.Sum(s => s.Facts.Duration.Units))
                .FirstOrDefault()
                ?.Key
            ?? FrameRate.R25;
        return new Timecode(new TimecodeCount(rate, TimecodeCount.CanDrop(rate)), 1, 0, 0, 0);
    }

    /// <summary>How far each room is, for the lane at the top. A few queries, whatever is kept.</summary>
    public IReadOnlyList<Stop> Lane(Production production, string who)
    {
        var gathered = footage.Figures(production.Id);
        var (kept, length) = bites.Figures(production.Id);
        var story = StoryOf(production, who);
        var cut = CutOf(story);
        var warnings = Checks(production, story, cut).Count(c => !c.Fine);
        return
        [
            new(
                "Gather",
                "Gather",
                gathered.Sittings == 0
                    ? gathered.Sources == 0
                        ? "no footage yet"
                        : Say($"{Many.Of(gathered.Sources, "file")}, no sitting")
                    : Say($"{gathered.InStep} of {Many.Of(gathered.Sittings, "sitting")} in step"),
                gathered.Sources > 0
            ),
            new("Read", "Read", Say($"{gathered.Read} of {gathered.Sittings} transcribed"), gathered.Read > 0),
            new("Bites", "Bites", kept == 0 ? "none kept" : Say($"{kept} kept · {length}"), kept > 0),
            new("Story", "Story", Say($"{cut.RunningTime(story.Start.Count.Rate)} of {story.Target}"), story.Story.Cards.Count > 0),
            new("Handoff", "Hand-off", warnings == 0 ? "nothing to settle" : Say($"{warnings} to settle"), false),
        ];
    }

    /// <summary>Everything that is open or failed or ended lately.</summary>
    public IReadOnlyList<Job> WorkInHand(long productionId) => jobs.Of(productionId, 60);

    /// <summary>The people of a production, by name, in the order in which they were first named; a mark each.</summary>
    public IReadOnlyDictionary<string, SpeakerMark> People(long productionId)
    {
        var people = new Dictionary<string, SpeakerMark>(StringComparer.OrdinalIgnoreCase);
        foreach (var name in transcripts.NamesOf(productionId))
        {
            people.TryAdd(
                name,
                new SpeakerMark(people.Count, name[..(char.IsHighSurrogate(name[0]) && name.Length > 1 ? 2 : 1)].ToUpperInvariant())
            );
        }
        return people;
    }

    /// <summary>The mark of a person; one of its own for somebody who is not known.</summary>
    public static SpeakerMark MarkOf(IReadOnlyDictionary<string, SpeakerMark> people, string name) =>
        people.GetValueOrDefault(name) ?? SpeakerMark.Unnamed(name);

    /// <summary>Bites as they are read now, in the order given. Cost grows with their number.</summary>
    public IReadOnlyList<ShownBite> Shown(long productionId, IReadOnlyList<Bite> some) =>
        Shown(productionId, some, readings.Of([.. some.Select(b => b.Id)]));

    /// <summary>The bites of a story's cards, by id. Cost grows with their number.</summary>
    public IReadOnlyDictionary<long, ShownBite> Bites(StoredStory story)
    {
        var ids = story.Story.Cards.Select(c => c.BiteId).ToHashSet();
        return Shown(story.ProductionId, bites.Of(ids), readings.Of(ids)).ToDictionary(b => b.Bite.Id);
    }

    private List<ShownBite> Shown(long productionId, IReadOnlyList<Bite> some, IReadOnlyDictionary<long, BiteReading> said)
    {
        var people = People(productionId);
        var sittings = footage.Sittings(productionId).ToDictionary(s => s.Id);
        return
        [
            .. some.Select(b => new ShownBite(
                b,
                said[b.Id].FirstWord,
                said[b.Id].Said,
                said[b.Id].Pieces,
                [.. said[b.Id].Voices.Select(v => new BiteVoice(v.Name, MarkOf(people, v.Name), v.Said))],
                sittings[b.SittingId]
            )),
        ];
    }

    /// <summary>A story without what is set aside.</summary>
    public StoryCut CutOf(StoredStory story) => new(story.Story, readings.Aside(story.ProductionId));

    /// <summary>
    /// The sources of the sittings that a story uses, as a decision list needs them. Angles in their order; reels differ from each other.
    /// </summary>
    public IReadOnlyDictionary<long, ListedSitting> Listed(StoredStory story) =>
        story.Story.Cards.IsEmpty
            ? new Dictionary<long, ListedSitting>()
            : Listed(story.ProductionId, footage.Sources(story.ProductionId), story.Story.Cards.Select(c => c.SittingId).ToHashSet());

    // Reels have to differ over the whole production, so that a list does not change its reels with the cards that are in it.
    private Dictionary<long, ListedSitting> Listed(long productionId, IReadOnlyList<Source> sources, HashSet<long> sittings)
    {
        var reels = ReelName.Distinct(sources.Select(s => ((string?)s.Labels.ReelOf(s.Facts), s.Name)), ReelName.StrictLength);
        var bySitting = sources
            .Index()
            .Where(s => s.Item.SittingId is { } id && sittings.Contains(id))
            .ToLookup(
                s => s.Item.SittingId!.Value,
                s => new ListedSource(
                    s.Item.Id,
                    reels[s.Index],
                    s.Item.Name,
                    s.Item.Facts with
                    {
                        ReelTag = s.Item.Labels.ReelOf(s.Item.Facts),
                    },
                    s.Item.Place
                )
            );
        return footage
            .Sittings(productionId)
            .Where(s => sittings.Contains(s.Id))
            .ToDictionary(
                s => s.Id,
                s => new ListedSitting(
                    s.Id,
                    [.. bySitting[s.Id].Where(l => l.Facts.Picture is not null)],
                    bySitting[s.Id].FirstOrDefault(l => l.Id == s.SoundSourceId)
                )
            );
    }

    /// <summary>
    /// How long what stories show of a sitting runs without what is set aside there, by story; those put away are left out. Cost grows with
    /// these cards and with what is set aside in that sitting, whatever else is kept.
    /// </summary>
    public IReadOnlyDictionary<long, (string Title, MediaTime Length)> ShownOf(long sittingId)
    {
        var showing = stories.Showing(sittingId);
        var aside = showing.Count == 0 ? [] : readings.AsideOf(sittingId);
        return showing.ToDictionary(
            s => s.Id,
            s => (s.Title, s.Rate.TimeOf(s.Cards.Sum(k => CardFrames.Of(StoryCut.Pieces(k, aside), s.Rate).Sum(f => f.Count))))
        );
    }

    /// <summary>The decision list of a story as it stands.</summary>
    public EventList EventsOf(StoredStory story)
    {
        var shown = Bites(story);
        var cut = CutOf(story);
        var cards = story
            .Story.Cards.Select(c => new ListedCard(
                c,
                cut.Of(c),
                string.Join(" / ", new[] { shown[c.BiteId].Speaker, shown[c.BiteId].Bite.Theme }.Where(t => t.Length > 0))
            ))
            .ToList();
        return EdlEvents.Of(Conform.Lay(story.Title, story.Start, cards, Listed(story)));
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
        var listed = Listed(production.Id, footage.Sources(production.Id), some.Select(b => b.SittingId).ToHashSet());
        var aside = readings.Aside(production.Id);
        var cards = Shown(production.Id, some)
            .Select(s =>
            {
                var range = new SittingRange(s.Bite.Range.In - handle < zero ? zero : s.Bite.Range.In - handle, s.Bite.Range.Out + handle);
                var card = new Card(Guid.NewGuid(), s.Bite.Id, s.Bite.SittingId, range, null);
                return new ListedCard(
                    card,
                    StoryCut.Pieces(range, aside.GetValueOrDefault(s.Bite.SittingId) ?? []),
                    string.Join(" / ", new[] { s.Speaker, s.Bite.Theme }.Where(t => t.Length > 0))
                );
            })
            .ToList();
        return EdlEvents.Of(Conform.Lay($"{production.Name}, selects", start, cards, listed));
    }

    /// <summary>What could go wrong at the editor's, and what is known to be right.</summary>
    public IReadOnlyList<Check> Checks(Production production, StoredStory story) => Checks(production, story, CutOf(story));

    private IReadOnlyList<Check> Checks(Production production, StoredStory story, StoryCut cut)
    {
        if (story.Story.Cards.IsEmpty)
        {
            return Preflight.Run(story.Start.Count, [], [], [], []);
        }
        var sources = footage.Sources(production.Id);
        var listed = Listed(production.Id, sources, story.Story.Cards.Select(c => c.SittingId).ToHashSet());
        var used = story
            .Story.Cards.SelectMany(c => listed[c.SittingId].Angles.Append(listed[c.SittingId].Sound))
            .OfType<ListedSource>()
            .DistinctBy(s => s.Id)
            .ToList();
        var uses = used.Select(s => s.Id).ToHashSet();
        var away = bites.SetAsideOf(production.Id);
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

    private static string Say(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
