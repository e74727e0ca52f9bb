using EmberLane.Core.Bites;
using EmberLane.Core.Finding;
using EmberLane.Core.Tidy;
using EmberLane.Core.Transcripts;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>What of a sitting is spoken, turn by turn, and what of it is kept.</summary>
public sealed record SittingShare(Sitting Sitting, MediaTime Spoken, MediaTime Kept, IReadOnlyList<SpokenTurn> Turns);

/// <summary>The same with what of it was read.</summary>
public sealed record ReadSitting(SittingShare Of, ReadShare Read);

/// <summary>What is spoken and kept of a production, by theme and person and by sitting, and what is missing.</summary>
public sealed record MissingOf(
    IReadOnlyList<OnTheme> Themes,
    IReadOnlyList<SittingShare> Sittings,
    IReadOnlyList<ThinPlace> Thin,
    bool IsCutShort
)
{
    /// <summary>The sitting in which each person speaks most.</summary>
    public IReadOnlyDictionary<string, long> MostIn { get; init; } = new Dictionary<string, long>();
}

/// <summary>
/// Tells what is missing. Who speaks of a theme says a word of its name, in any form; what counts is the sentence, and what is kept on the
/// theme. All texts are read once for it, and again when something changes.
/// </summary>
public sealed class Missing(
    Footage footage,
    Store.Transcripts transcripts,
    Store.Bites bites,
    Readings readings,
    Changes changes,
    Finder finder,
    ReadTimes readTimes
)
{
    /// <summary>So many places of a theme are looked at, and so many themes.</summary>
    private const int MostHits = 2_000,
        MostThemes = 60;

    private readonly Lock gate = new();
    private (long Production, long Newest, MissingOf Of)? known;

    /// <summary>Of a production as it stands.</summary>
    public MissingOf Of(long productionId)
    {
        lock (gate)
        {
            var newest = changes.Newest(productionId);
            if (known is not { } there || there.Production != productionId || there.Newest != newest)
            {
                known = there = (productionId, newest, Tell(productionId));
            }
            return there.Of;
        }
    }

    /// <summary>What of each sitting is spoken, kept and read by anybody.</summary>
    public IReadOnlyList<ReadSitting> ReadOf(long productionId)
    {
        var read = readTimes.Of(productionId);
        return
        [
            .. Of(productionId).Sittings.Select(s => new ReadSitting(s, ReadShare.Of(s.Turns, read.GetValueOrDefault(s.Sitting.Id, [])))),
        ];
    }

    private MissingOf Tell(long productionId)
    {
        var themes = bites.Themes(productionId).Where(t => t.Length > 0).ToList();
        var isCut = themes.Count > MostThemes;
        var hits = themes
            .Take(MostThemes)
            .SelectMany(t =>
            {
                var found = Hits(productionId, t);
                isCut |= found.IsMore;
                return found.Hits.Where(h => h.Words is not null).Select(h => (Theme: t, Hit: h));
            })
            .ToLookup(h => h.Hit.Sitting!.Id);
        var onTheme = new Dictionary<(string Theme, string Name), MediaTime>();
        var byName = new Dictionary<string, MediaTime>();
        var mostIn = new Dictionary<string, (long Sitting, MediaTime Spoken)>();
        var shares = new List<SittingShare>();
        var said = readings.OfProduction(productionId);
        // One that was kept since is not told of yet.
        var kept = bites.Of(productionId).Where(b => !b.IsAside && said.ContainsKey(b.Id)).ToLookup(b => b.SittingId);
        foreach (var sitting in footage.Sittings(productionId).Where(s => s.TranscriptId is not null))
        {
            var text = new TextTalk(transcripts.Get(sitting.TranscriptId!.Value));
            var spoken = MediaTime.Zero;
            foreach (var voice in text.Talk.Words.GroupBy(w => text.Text.NameOf(w.Voice)))
            {
                var own = Sum(voice.Select(w => w.Out - w.In));
                Add(byName, voice.Key, own);
                spoken += own;
                if (!mostIn.TryGetValue(voice.Key, out var most) || own > most.Spoken)
                {
                    mostIn[voice.Key] = (sitting.Id, own);
                }
            }
            foreach (var theme in themes)
            {
                var places = Sentences(text, hits[sitting.Id].Where(h => h.Theme == theme).Select(h => h.Hit));
                foreach (var bite in kept[sitting.Id].Where(b => b.Themes.Contains(theme, StringComparer.OrdinalIgnoreCase)))
                {
                    places.UnionWith(WordsIn(text.Talk, bite.Range));
                }
                foreach (var word in places.Select(p => text.Talk.Words[p]))
                {
                    Add(onTheme, (theme, text.Text.NameOf(word.Voice)), word.Out - word.In);
                }
            }
            shares.Add(new SittingShare(sitting, spoken, Sum(kept[sitting.Id].Select(b => said[b.Id].Length)), Turns(text)));
        }
        var keptOn = bites.Shares(productionId).Where(s => s.Theme.Length > 0).ToDictionary(s => (s.Theme, s.Name), s => s.Said);
        var keptOf = kept.SelectMany(g => g)
            .SelectMany(b => said[b.Id].Voices)
            .GroupBy(v => v.Name)
            .ToDictionary(g => g.Key, g => Sum(g.Select(v => v.Said)));
        List<OnTheme> all =
        [
            .. themes.SelectMany(t =>
                byName.Keys.Select(n => new OnTheme(t, n, onTheme.GetValueOrDefault((t, n)), keptOn.GetValueOrDefault((t, n))))
            ),
        ];
        return new MissingOf(
            all,
            shares,
            ThinPlaces.Of(
                all,
                [.. byName.Select(n => new OfPerson(n.Key, n.Value, keptOf.GetValueOrDefault(n.Key)))],
                themes.ToDictionary(
                    t => t,
                    t =>
                        kept.SelectMany(g => g)
                            .Where(b => b.Themes.Contains(t, StringComparer.OrdinalIgnoreCase))
                            .Select(b => b.Grade)
                            .DefaultIfEmpty()
                            .Max()
                )
            ),
            isCut
        )
        {
            MostIn = mostIn.ToDictionary(m => m.Key, m => m.Value.Sitting),
        };
    }

    private static List<SpokenTurn> Turns(TextTalk text)
    {
        var turns = new List<SpokenTurn>();
        var voice = int.MinValue;
        for (var i = 0; i < text.Talk.Words.Count; i++)
        {
            var word = text.Talk.Words[i];
            SittingTime begin = new(word.In),
                end = new(word.Out);
            if (word.Voice != voice)
            {
                voice = word.Voice;
                turns.Add(new SpokenTurn(new SittingRange(begin, end), word.Out - word.In, text.Text.At(text.FirstOf(i)).Number));
                continue;
            }
            var last = turns[^1];
            turns[^1] = last with
            {
                Range = new SittingRange(last.Range.In, end > last.Range.Out ? end : last.Range.Out),
                Spoken = last.Spoken + (word.Out - word.In),
            };
        }
        return turns;
    }

    private FindResult Hits(long productionId, string theme)
    {
        try
        {
            return finder.Find(QuestionText.Read($"{ThinPlaces.WordsOf(theme)} kind:speech"), productionId, MostHits, MostHits);
        }
        catch (FormatException)
        {
            // A theme without letters is spoken of nowhere.
            return new FindResult([], 0, false);
        }
    }

    // The words of all sentences in which a hit lies, each once.
    private static SortedSet<int> Sentences(TextTalk text, IEnumerable<FoundHit> hits)
    {
        var places = new SortedSet<int>();
        foreach (var hit in hits)
        {
            var (from, to) = text.Text.PlacesOf(hit.Words!.Value.First, hit.Words.Value.Last);
            if (text.WordAt(from) is { } begins && text.WordAt(to) is { } ends)
            {
                var (first, last) = SentenceFit.Of(text.Talk, begins, ends);
                places.UnionWith(Enumerable.Range(first, last - first + 1));
            }
        }
        return places;
    }

    private static IEnumerable<int> WordsIn(Talk talk, SittingRange range)
    {
        for (var i = 0; i < talk.Words.Count; i++)
        {
            var middle = talk.Words[i].In + new MediaTime((talk.Words[i].Out - talk.Words[i].In).Units / 2);
            if (range.Holds(new SittingTime(middle)))
            {
                yield return i;
            }
        }
    }

    private static void Add<T>(Dictionary<T, MediaTime> to, T key, MediaTime time)
        where T : notnull => to[key] = to.GetValueOrDefault(key) + time;

    private static MediaTime Sum(IEnumerable<MediaTime> times) => times.Aggregate(MediaTime.Zero, (sum, t) => sum + t);
}
