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

/// <summary>A bite as it is shown: what is said by the text that its sitting is read by now, and the number of that text's first word of it.</summary>
public sealed record ShownBite(Bite Bite, int FirstWord, string Said, string Speaker, SpeakerMark Mark, Sitting Sitting);

/// <summary>Puts together from the store what several rooms show.</summary>
public sealed class Desk(Footage footage, Store.Transcripts transcripts, Store.Bites bites, Store.Stories stories, Jobs jobs)
{
    private static readonly MediaTime Target = MediaTime.FromMilliseconds(240_000);

    /// <summary>The production's story; made when there is none yet. It starts at the rate of the first picture.</summary>
    public StoredStory StoryOf(Production production)
    {
        if (stories.Of(production.Id) is [var id, ..])
        {
            return stories.Get(id)!;
        }
        var rate = footage.Sources(production.Id).Select(s => s.Facts.Picture?.Rate).FirstOrDefault(r => r is { } known && FrameRate.Supported.Contains(known)) ?? FrameRate.R25;
        var start = new Timecode(new TimecodeCount(rate, TimecodeCount.CanDrop(rate)), 1, 0, 0, 0);
        return stories.Get(stories.Add(production.Id, $"{production.Name}, first order", start, Target))!;
    }

    public IReadOnlyList<Stop> Lane(Production production)
    {
        var sittings = footage.Sittings(production.Id);
        var sources = footage.Sources(production.Id);
        var inStep = sittings.Count(s => sources.Where(x => x.SittingId == s.Id).All(x => x.Place is not null));
        var read = sittings.Count(s => s.TranscriptId is not null);
        var kept = bites.Of(production.Id).Where(b => !b.IsAside).ToList();
        var length = kept.Aggregate(MediaTime.Zero, (sum, b) => sum + b.Range.Length);
        var story = StoryOf(production);
        var running = story.Story.RunningTime(story.Start.Count.Rate);
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
        var read = new Dictionary<long, Transcript>();
        return [.. bites.Of(productionId).Select(b =>
        {
            // By the text that the sitting is read by now; where that has no words at this place, by the one it was marked on.
            var current = sittings[b.SittingId].TranscriptId ?? b.TranscriptId;
            var (transcript, (first, last)) = BitePlace.Of(b, Text(current), current) is { } place ? (Text(current), place) : (Text(b.TranscriptId), BitePlace.Of(b, Text(b.TranscriptId), b.TranscriptId) ?? (0, -1));
            // The one who says most of it.
            var voice = transcript.Words.Skip(first).Take(last - first + 1).GroupBy(transcript.VoiceOf).MaxBy(g => g.Count())?.Key ?? 0;
            var name = transcript.NameOf(voice);
            return new ShownBite(b, transcript.Words.ElementAtOrDefault(first)?.Number ?? 0, transcript.Said(first, last), name, MarkOf(people, name), sittings[b.SittingId]);
        })];

        Transcript Text(long id) => read.TryGetValue(id, out var known) ? known : read[id] = transcripts.Get(id);
    }

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
        var cards = story.Story.Cards.Select(c => new ListedCard(c, string.Join(" / ", new[] { shown[c.BiteId].Speaker, shown[c.BiteId].Bite.Theme }.Where(t => t.Length > 0)))).ToList();
        return Conform.Lay(story.Title, story.Start, cards, Listed(story.ProductionId));
    }

    /// <summary>What could go wrong at the editor's, and what is known to be right.</summary>
    public IReadOnlyList<Check> Checks(Production production, StoredStory story)
    {
        var sources = footage.Sources(production.Id);
        var listed = Listed(production.Id);
        var used = story.Story.Cards.SelectMany(c => listed[c.SittingId].Angles.Append(listed[c.SittingId].Sound)).OfType<ListedSource>().DistinctBy(s => s.Id).ToList();
        return Preflight.Run(story.Start.Count, story.Story.Cards, used, sources.Where(s => used.Any(u => u.Id == s.Id) && (s.State == FileState.Replaced || !File.Exists(s.Path))).Select(s => s.Name).ToList());
    }

    private static string Say(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);

    private static string Many(int count, string what) => Say($"{count} {what}{(count == 1 ? "" : "s")}");
}
