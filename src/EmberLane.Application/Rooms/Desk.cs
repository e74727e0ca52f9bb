using System.Globalization;
using EmberLane.Core.Bites;
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

/// <summary>
/// A card of a story as it is shown: its bite, what it says in its own stretch, who speaks, the first to speak first, and its sitting.
/// </summary>
public sealed record ShownCard(Bite Bite, CardReading Reading, IReadOnlyList<BiteVoice> Voices, Sitting Sitting)
{
    /// <summary>What it says.</summary>
    public string Said => Reading.Said;

    /// <summary>All who speak, by name.</summary>
    public string Speaker => string.Join(", ", Voices.Select(v => v.Name));

    /// <summary>The mark of who says most.</summary>
    public SpeakerMark Mark => Voices.MaxBy(v => v.Said.Units)?.Mark ?? SpeakerMark.Unnamed("");
}

/// <summary>Puts together from the store what several rooms show.</summary>
public sealed partial class Desk(
    Footage footage,
    Store.Transcripts transcripts,
    Readings readings,
    Store.Bites bites,
    Store.Stories stories,
    Jobs jobs,
    Store.Productions productions,
    CameraDesk cameras,
    OffTheRecord held,
    RoomChanges changes
)
{
    /// <summary>How rooms change something.</summary>
    public RoomChanges Changes => changes;

    /// <summary>
    /// The name under which a production's choice of the narrator's pace is kept, and how far it goes, in words a minute.
    /// </summary>
    public const string NarrationPace = "narration.words-a-minute";

    /// <summary>The slowest and the fastest narrator.</summary>
    public const int SlowestPace = 60,
        FastestPace = 300;

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
            new("Story", "Story", Say($"{cut.RunningTime(story.Start.Count.Rate)} of {story.Target}"), !story.Story.Pieces.IsEmpty),
            new("Handoff", "Hand-off", warnings == 0 ? "nothing to settle" : Say($"{warnings} to settle"), false),
        ];
    }

    /// <summary>Everything that is open or failed or ended lately.</summary>
    public IReadOnlyList<Job> WorkInHand(long productionId) => jobs.Of(productionId, 60);

    /// <summary>The people of a production, by name, in the order in which they were first named; a mark each.</summary>
    public IReadOnlyDictionary<string, SpeakerMark> People(long productionId) => People([productionId]);

    /// <summary>The people of a story's productions: those of its own first, so that they keep their marks.</summary>
    public IReadOnlyDictionary<string, SpeakerMark> People(StoredStory story) => People(ProductionsOf(story.ProductionId, story.Story));

    private Dictionary<string, SpeakerMark> People(IReadOnlyList<long> productions)
    {
        var people = new Dictionary<string, SpeakerMark>(StringComparer.OrdinalIgnoreCase);
        foreach (var name in productions.SelectMany(transcripts.NamesOf))
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

    /// <summary>The cards of a story as they are read now, by id. Cost grows with their number.</summary>
    public IReadOnlyDictionary<Guid, ShownCard> Cards(StoredStory story) =>
        Cards(story.ProductionId, story.Story, stories.ReadingsOf(story));

    private Dictionary<Guid, ShownCard> Cards(long productionId, Story story, IReadOnlyDictionary<Guid, CardReading> said)
    {
        var kept = bites.Of(story.Cards.Select(c => c.BiteId).ToHashSet()).ToDictionary(b => b.Id);
        var productions = ProductionsOf(productionId, story);
        var people = People(productions);
        var sittings = productions.SelectMany(footage.Sittings).ToDictionary(s => s.Id);
        return story.Cards.ToDictionary(
            c => c.Id,
            c => new ShownCard(
                kept[c.BiteId],
                said[c.Id],
                [.. said[c.Id].Voices.Select(v => new BiteVoice(v.Name, MarkOf(people, v.Name), v.Said))],
                sittings[c.SittingId]
            )
        );
    }

    // The productions that a story takes from, its own first.
    private List<long> ProductionsOf(long own, Story story) =>
        [own, .. footage.ProductionsOf(story.Cards.Select(c => c.SittingId).ToHashSet(), FilesIn(story)).Where(p => p != own)];

    // All files of these productions; whoever names their reels names them together, those of the first before the others.
    private List<Source> SourcesOf(long own, Story story) => [.. ProductionsOf(own, story).SelectMany(footage.Sources)];

    private static HashSet<long> FilesIn(Story story) =>
        story.Pieces.Select(p => p is PlainMedia media ? media.SourceId : (p as Card)?.Over?.SourceId).OfType<long>().ToHashSet();

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

    /// <summary>Who carries a story, and how long it would be with its other takes.</summary>
    public StoryShares Shares(StoredStory story, IReadOnlyDictionary<Guid, ShownCard> shown, StoryCut cut)
    {
        var takes = story
            .Story.Cards.SelectMany(c => c.OtherTakes.Split(' ', StringSplitOptions.RemoveEmptyEntries))
            .Select(t => long.Parse(t, CultureInfo.InvariantCulture))
            .ToHashSet();
        var lengths =
            takes.Count == 0 ? [] : bites.Of(takes).ToDictionary(b => b.Id.ToString(CultureInfo.InvariantCulture), b => b.Range.Length);
        return StoryShares.Of(
            cut,
            story.Start.Count.Rate,
            c => shown[c.Id].Reading.Voices,
            c => shown[c.Id].Said,
            take => lengths.TryGetValue(take, out var length) ? length : null
        );
    }

    /// <summary>A story without what is set aside.</summary>
    public StoryCut CutOf(StoredStory story) => CutOf(story.ProductionId, story.Story);

    /// <summary>The same of a story that is not kept, in a production.</summary>
    public StoryCut CutOf(long productionId, Story story) =>
        new(
            story,
            ProductionsOf(productionId, story).SelectMany(readings.Aside).ToDictionary(a => a.Key, a => a.Value),
            WordsAMinute(productionId)
        );

    /// <summary>How many words a narrator of the production reads in a minute.</summary>
    public int WordsAMinute(long productionId) =>
        int.TryParse(productions.Setting(productionId, NarrationPace), NumberStyles.None, CultureInfo.InvariantCulture, out var pace)
        && pace is >= SlowestPace and <= FastestPace
            ? pace
            : Narration.WordsAMinute;

    /// <summary>
    /// How long what stories show of a sitting runs without what is set aside there, by story; those put away are left out. Cost grows with
    /// these cards and with what is set aside in that sitting, whatever else is kept.
    /// </summary>
    public IReadOnlyDictionary<long, (string Title, MediaTime Length)> ShownOf(long sittingId)
    {
        var uses = stories.UsesIn(sittingId);
        var aside = uses.Count == 0 ? [] : readings.AsideOf(sittingId);
        return uses.GroupBy(u => (u.Story, u.Title, u.Rate))
            .ToDictionary(
                g => g.Key.Story,
                g => (g.Key.Title, g.Key.Rate.TimeOf(g.Sum(u => CardFrames.Of(StoryCut.Apart(u.Range, aside), u.Rate).Sum(f => f.Count))))
            );
    }

    private static string Say(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
