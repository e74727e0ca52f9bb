using System.Globalization;
using EmberLane.Core.Bites;
using EmberLane.Core.Handoff;
using EmberLane.Core.Media;
using EmberLane.Core.Stories;
using EmberLane.Core.Transcripts;
using EmberLane.Store;

namespace EmberLane.Web.Rooms;

/// <summary>A stop of the lane: its room and its figure.</summary>
public sealed record Stop(string Room, string Name, string Figure, bool Reached);

/// <summary>Who speaks in a bite, and for how long.</summary>
public sealed record BiteVoice(string Name, SpeakerMark Mark, MediaTime Said);

/// <summary>
/// A bite as it is shown: what is said by the text that its sitting is read by now, without what is set aside; its parts that are in use; the number of that text's first word of it; who speaks, the first to speak first.
/// </summary>
public sealed record ShownBite(Bite Bite, int FirstWord, string Said, IReadOnlyList<SittingRange> Pieces, IReadOnlyList<BiteVoice> Voices, Sitting Sitting)
{
    /// <summary>All who speak, by name.</summary>
    public string Speaker => string.Join(", ", Voices.Select(v => v.Name));

    /// <summary>The mark of who says most.</summary>
    public SpeakerMark Mark => Voices.MaxBy(v => v.Said.Units)?.Mark ?? SpeakerMark.Unnamed("");

    public MediaTime Length => Pieces.Aggregate(MediaTime.Zero, (sum, p) => sum + p.Length);
}

/// <summary>Puts together from the store what several rooms show.</summary>
public sealed class Desk(Footage footage, Store.Transcripts transcripts, Store.Bites bites, Store.Stories stories, Jobs jobs)
{
    private static readonly MediaTime Target = MediaTime.FromMilliseconds(240_000);

    /// <summary>
    /// The story in hand. Where nobody has made one yet it is as it would be made now, with the id <see cref="NoStory"/>: looking at it decides nothing.
    /// </summary>
    public StoredStory StoryOf(Production production) => stories.InHand(production.Id) is { } id ? stories.Get(id)!
        : new StoredStory(NoStory, production.Id, FirstTitle(production), StartOf(production.Id), Target, 0, Story.Empty, false, false);

    /// <summary>The story in hand for a change; made when there is none, at the rate of the footage that is there.</summary>
    public StoredStory StoryToChange(Production production) => StoryOf(production) is { Id: not NoStory } there ? there : NewStory(production, FirstTitle(production));

    /// <summary>Makes a story, which is in hand from then on.</summary>
    public StoredStory NewStory(Production production, string title)
    {
        var id = stories.Add(production.Id, title, StartOf(production.Id), Target);
        stories.TakeInHand(production.Id, id);
        return stories.Get(id)!;
    }

    /// <summary>The id of a story that nobody has made.</summary>
    public const long NoStory = 0;

    private static string FirstTitle(Production production) => $"{production.Name}, first order";

    // One hour, at the rate at which the most picture was shot.
    private Timecode StartOf(long productionId)
    {
        var rate = footage.Sources(productionId).Where(s => s.Facts.Picture is { } p && FrameRate.Supported.Contains(p.Rate)).GroupBy(s => s.Facts.Picture!.Rate)
            .OrderByDescending(g => g.Sum(s => s.SittingId is null ? 0 : s.Facts.Duration.Units)).ThenByDescending(g => g.Sum(s => s.Facts.Duration.Units)).FirstOrDefault()?.Key ?? FrameRate.R25;
        return new Timecode(new TimecodeCount(rate, TimecodeCount.CanDrop(rate)), 1, 0, 0, 0);
    }

    public IReadOnlyList<Stop> Lane(Production production)
    {
        var sittings = footage.Sittings(production.Id);
        var sources = footage.Sources(production.Id);
        var inStep = sittings.Count(s => sources.Where(x => x.SittingId == s.Id).All(x => x.Place is not null));
        var read = sittings.Count(s => s.TranscriptId is not null);
        var kept = bites.Of(production.Id).Where(b => !b.IsAside).ToList();
        var aside = Aside(production.Id);
        var length = kept.SelectMany(b => StoryCut.Pieces(b.Range, aside.GetValueOrDefault(b.SittingId, []))).Aggregate(MediaTime.Zero, (sum, p) => sum + p.Length);
        var story = StoryOf(production);
        var running = new StoryCut(story.Story, aside).RunningTime(story.Start.Count.Rate);
        var warnings = Checks(production, story).Count(c => !c.Fine);
        return
        [
            new("Gather", "Gather", sittings.Count == 0 ? sources.Count == 0 ? "no footage yet" : Say($"{Many(sources.Count, "file")}, no sitting") : Say($"{inStep} of {Many(sittings.Count, "sitting")} in step"), sources.Count > 0),
            new("Read", "Read", Say($"{read} of {sittings.Count} transcribed"), read > 0),
            new("Bites", "Bites", kept.Count == 0 ? "none kept" : Say($"{kept.Count} kept · {length}"), kept.Count > 0),
            new("Story", "Story", Say($"{running} of {story.Target}"), story.Story.Cards.Count > 0),
            new("Handoff", "Hand-off", warnings == 0 ? "nothing to settle" : Say($"{warnings} to settle"), false),
        ];
    }

    /// <summary>Everything that is open or failed or ended lately.</summary>
    public IReadOnlyList<Job> WorkInHand(long productionId) => jobs.Of(productionId, 60);

    /// <summary>The people of a production, by name, in the order in which they were first named; a mark each.</summary>
    public IReadOnlyDictionary<string, SpeakerMark> People(long productionId)
    {
        var people = new Dictionary<string, SpeakerMark>(StringComparer.OrdinalIgnoreCase);
        foreach (var sitting in footage.Sittings(productionId).Where(s => s.TranscriptId is not null))
        {
            foreach (var name in transcripts.Names(sitting.TranscriptId!.Value))
            {
                people.TryAdd(name, new SpeakerMark(people.Count, name[..(char.IsHighSurrogate(name[0]) && name.Length > 1 ? 2 : 1)].ToUpperInvariant()));
            }
        }
        return people;
    }

    public static SpeakerMark MarkOf(IReadOnlyDictionary<string, SpeakerMark> people, string name) => people.GetValueOrDefault(name) ?? SpeakerMark.Unnamed(name);

    public IReadOnlyList<ShownBite> Bites(long productionId)
    {
        var people = People(productionId);
        var sittings = footage.Sittings(productionId).ToDictionary(s => s.Id);
        var aside = Aside(productionId);
        var read = new Dictionary<long, Transcript>();
        return [.. bites.Of(productionId).Select(b =>
        {
            // By the text that the sitting is read by now; where that has no words at this place, by the one it was marked on.
            var current = sittings[b.SittingId].TranscriptId ?? b.TranscriptId;
            var (transcript, (first, last)) = BitePlace.Of(b, Text(current), current) is { } place ? (Text(current), place) : (Text(b.TranscriptId), BitePlace.Of(b, Text(b.TranscriptId), b.TranscriptId) ?? (0, -1));
            var words = transcript.Words.Skip(first).Take(last - first + 1).Where(w => !transcript.IsHidden(w) && !transcript.IsAside(w)).ToList();
            return new ShownBite(b, transcript.Words.ElementAtOrDefault(first)?.Number ?? 0, transcript.Said(words), StoryCut.Pieces(b.Range, aside.GetValueOrDefault(b.SittingId, [])), VoicesOf(transcript, words, people), sittings[b.SittingId]);
        })];

        Transcript Text(long id) => read.TryGetValue(id, out var known) ? known : read[id] = transcripts.Get(id);
    }

    // A single word among others' is mostly a word that was given to the wrong voice.
    private static List<BiteVoice> VoicesOf(Transcript transcript, List<RecordWord> words, IReadOnlyDictionary<string, SpeakerMark> people) =>
        [.. words.GroupBy(w => transcript.NameOf(transcript.VoiceOf(w))).Where(g => g.Count() > 1 || words.Count < LeastForOne)
            .Select(g => new BiteVoice(g.Key, MarkOf(people, g.Key), g.Aggregate(MediaTime.Zero, (sum, w) => sum + w.Range.Length)))];

    /// <summary>From so many words on a voice needs more than one of them.</summary>
    private const int LeastForOne = 8;

    /// <summary>What is set aside in each sitting, by the text that it is read by: stretches in order, apart. Sittings without are left out.</summary>
    public IReadOnlyDictionary<long, IReadOnlyList<SittingRange>> Aside(long productionId) =>
        transcripts.WithAside(productionId).ToDictionary(t => t.SittingId, t => CarriedMarks.Stretches(transcripts.Get(t.TranscriptId)));

    /// <summary>A story without what is set aside.</summary>
    public StoryCut CutOf(StoredStory story) => new(story.Story, Aside(story.ProductionId));

    /// <summary>The sources of each sitting as a decision list needs them. Angles in their order; reels differ from each other.</summary>
    public IReadOnlyDictionary<long, ListedSitting> Listed(long productionId)
    {
        var sources = footage.Sources(productionId);
        var reels = ReelName.Distinct(sources.Select(s => ((string?)s.Labels.ReelOf(s.Facts), s.Name)), ReelName.StrictLength);
        var listed = sources.Select((s, i) => (Source: s, Listed: new ListedSource(s.Id, reels[i], s.Name, s.Facts with { ReelTag = s.Labels.ReelOf(s.Facts) }, s.Place))).ToList();
        return footage.Sittings(productionId).ToDictionary(s => s.Id, s => new ListedSitting(
            s.Id,
            [.. listed.Where(l => l.Source.SittingId == s.Id && l.Source.Facts.Picture is not null).Select(l => l.Listed)],
            listed.FirstOrDefault(l => l.Source.Id == s.SoundSourceId).Listed));
    }

    /// <summary>The decision list of a story as it stands.</summary>
    public EventList EventsOf(StoredStory story)
    {
        var shown = Bites(story.ProductionId).ToDictionary(b => b.Bite.Id);
        var cut = CutOf(story);
        var cards = story.Story.Cards.Select(c => new ListedCard(c, cut.Of(c), string.Join(" / ", new[] { shown[c.BiteId].Speaker, shown[c.BiteId].Bite.Theme }.Where(t => t.Length > 0)))).ToList();
        return Conform.Lay(story.Title, story.Start, cards, Listed(story.ProductionId));
    }

    /// <summary>What could go wrong at the editor's, and what is known to be right.</summary>
    public IReadOnlyList<Check> Checks(Production production, StoredStory story)
    {
        var sources = footage.Sources(production.Id);
        var listed = Listed(production.Id);
        var used = story.Story.Cards.SelectMany(c => listed[c.SittingId].Angles.Append(listed[c.SittingId].Sound)).OfType<ListedSource>().DistinctBy(s => s.Id).ToList();
        var cut = CutOf(story);
        var away = bites.Of(production.Id).Where(b => b.IsAside).Select(b => b.Id).ToHashSet();
        var odd = story.Story.Cards.Select((c, i) => new OddCard(i + 1, Conform.ShownInstead(c, cut.Of(c), listed[c.SittingId], story.Start.Count), away.Contains(c.BiteId), cut.Of(c).Count == 0)).ToList();
        return Preflight.Run(story.Start.Count, story.Story.Cards, used, sources.Where(s => used.Any(u => u.Id == s.Id) && s.State != FileState.Here).Select(s => s.Name).ToList(), odd);
    }

    private static string Say(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);

    private static string Many(int count, string what) => Say($"{count} {what}{(count == 1 ? "" : "s")}");
}
