using EmberLane.Core.Finding;
using EmberLane.Core.Finding.Sounds;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// A place that a question found. Of what is said: the words by number and by place in the text (from 0), their time, who says the first of
/// them, and what is said before and behind. Of anything else the range is null where it has no time, and <see cref="Of"/> the id of the
/// bite, the flag or the source; a picture has a range where its file has a place on a sitting's clock.
/// </summary>
public sealed record FoundHit(
    FoundKind Kind,
    long ProductionId,
    Sitting? Sitting,
    (WordNumber First, WordNumber Last)? Words,
    (int First, int Last)? Places,
    SittingRange? Range,
    string Who,
    (string Before, string Said, string After) Text,
    long? Of,
    int Apart
)
{
    /// <summary>Whether some of it is kept in a bite.</summary>
    public bool IsKept { get; init; }

    /// <summary>The text that its words are of; null where it has none.</summary>
    public long? TextId { get; init; }

    /// <summary>When it was recorded, where that was asked for.</summary>
    public RecordedWhen When { get; init; }

    /// <summary>Of a picture: which shot, and where it lies in the file's own time.</summary>
    public (int Number, SourceRange Range)? Shot { get; init; }
}

/// <summary>What a question found: some hits, how many there are, and whether there are more than were counted.</summary>
public sealed record FindResult(IReadOnlyList<FoundHit> Hits, int Count, bool IsMore);

/// <summary>
/// Finds what was said, written and named in all productions. What is said is found by an index that every change brings along; all else is
/// looked through.
/// </summary>
public sealed class Finder(Database database, Func<Pronouncing>? pronouncing = null)
{
    /// <summary>So many words before and behind a hit are told.</summary>
    private const int Told = 12;

    /// <summary>So many rough hits are looked at, whatever is counted: the nearest of them come first.</summary>
    private const int MostRough = 20_000;

    private readonly Vocabulary vocabulary = new();
    private readonly Lazy<TalkSounds> sounds = new(() => new TalkSounds(pronouncing?.Invoke() ?? Pronouncing.BySpelling));

    /// <summary>
    /// The first <paramref name="most"/> hits, in the order of sittings and times, rough ones by how near they are. Hits are counted up to
    /// <paramref name="counted"/>, or all. With <paramref name="inTime"/> those that are counted come in the order in which they were
    /// recorded, by day and time of day as their files say. Productions that <paramref name="mayRead"/> denies are not looked in.
    /// </summary>
    public FindResult Find(
        FindQuestion question,
        long? production,
        int most,
        int counted = int.MaxValue,
        bool inTime = false,
        Func<long, bool>? mayRead = null
    ) =>
        database.Read(c =>
        {
            var sittings = new FindSittings(c, question.Limits, production, mayRead);
            var isRough = question.Together.Any(t => t.Phrases.Any(p => p.Words.Any(w => w.How == WordFit.Rough)));
            var spoken =
                question.Limits is { Kind: null or FoundKind.Speech, Length: null, Picture: null } && question.Together.Count > 0
                    ? Speech(c, question, sittings, Math.Max(Math.Max(most, counted), isRough ? MostRough : 0))
                    : [];
            var written = new FindWritten(c, question, sittings).All().Where(w => mayRead?.Invoke(w.ProductionId) ?? true);
            // What is said comes in the order of sittings and times; what is written of a sitting comes behind it.
            var all = spoken
                .Select(s => (s.Sitting, s.Apart, Spoken: (Spoken?)s, Written: (FoundHit?)null))
                .Concat(written.Select(w => (w.Sitting?.Id ?? long.MaxValue, w.Apart, Spoken: (Spoken?)null, Written: (FoundHit?)w)))
                .OrderBy(h => isRough || question.Limits.Picture is { Like: not null } ? h.Item2 : 0)
                .ThenBy(h => h.Item1)
                .ToList();
            var times = new FindTimes(c, production);
            var listed = inTime
                ? all.Take(counted)
                    .Select(h =>
                        (Hit: h, When: h.Written is { } written ? WhenOf(times, written) : WhenOf(times, sittings.Of(h.Item1)!, h.Spoken!))
                    )
                    .OrderBy(h => h.When.Day, StringComparer.Ordinal)
                    .ThenBy(h => h.When.OfDay)
                    .ToList()
                : all.Take(most).Select(h => (Hit: h, When: new RecordedWhen("", default))).ToList();
            return new FindResult(
                [
                    .. listed
                        .Take(most)
                        .Select(h =>
                            (
                                h.Hit.Written is { } written ? Placed(sittings, written) : HitOf(sittings.Of(h.Hit.Item1)!, h.Hit.Spoken!)
                            ) with
                            {
                                When = h.When,
                            }
                        ),
                ],
                Math.Min(all.Count, counted),
                all.Count > counted
            );
        });

    private static RecordedWhen WhenOf(FindTimes times, FindSitting sitting, Spoken spoken) =>
        times.OfSitting(sitting.Sitting.Id, sitting.RangeOf(spoken.First.Value, spoken.Last.Value).In);

    private static RecordedWhen WhenOf(FindTimes times, FoundHit hit) =>
        hit is { Shot: { } shot, Of: { } source } ? times.OfSource(source, shot.Range.In)
        : hit is { Kind: FoundKind.Source, Of: { } file } ? times.OfSource(file, default)
        : hit.Sitting is { } sitting ? times.OfSitting(sitting.Id, hit.Range?.In)
        : new RecordedWhen("", default);

    private sealed record Spoken(long Sitting, WordNumber First, WordNumber Last, int Apart);

    private List<Spoken> Speech(SqliteConnection c, FindQuestion question, FindSittings sittings, int enough)
    {
        var terms = new AskedTerms(c, vocabulary);
        var wanted = question.Together.Select(t => new WantedTogether([.. t.Phrases.Select(p => Wanted(p, terms))], t.Within)).ToList();
        Join(question, wanted, terms);
        var search = new PassageSearch(
            wanted,
            [.. question.Without.Select(p => Wanted(p, terms)).Where(p => p.Words.All(w => w.Count > 0))]
        );
        var written = wanted.Any(t => t.Phrases.Any(p => p.Words.Any(w => w.Count == 0)))
            ? []
            : Written(c, question, sittings, terms, search, enough);
        return question.Together.All(IsRoughWord) ? [.. written, .. Sounding(c, question, sittings, search, written)] : written;
    }

    private static bool IsRoughWord(AskedTogether asked) => asked is { Phrases: [{ Words: [{ How: WordFit.Rough }] }] };

    // Where words sound like all that is asked for, one behind the other, wherever the borders of words are heard.
    private List<Spoken> Sounding(
        SqliteConnection c,
        FindQuestion question,
        FindSittings sittings,
        PassageSearch search,
        List<Spoken> written
    )
    {
        var there = written.ToLookup(w => w.Sitting);
        var found = new List<Spoken>();
        int? nearest =
            written.Count == 0 ? null
            : written.Min(w => w.Apart) <= 1 ? 0
            : null;
        foreach (
            var hit in sounds.Value.Find(
                c,
                [.. question.Together.Select(t => t.Phrases[0].Words[0].Key)],
                id => sittings.Of(id) is not null
            )
        )
        {
            if (!SoundQuestion.IsNear(hit.Share, nearest ?? hit.Share))
            {
                break;
            }
            if (Read(c, hit) is not { } passage || hit.First >= passage.Own || hit.Last >= passage.Terms.Length)
            {
                continue;
            }
            nearest ??= hit.Share;
            var (searched, begin) = question.Without.Count > 0 ? WithBefore(c, hit.Entry, passage) : (passage, 0);
            var at = new PassageHit(hit.First + begin, hit.Last + begin, hit.Apart + 1);
            if (
                search.Allows(searched, at.First, at.Last)
                && Fits(question.Limits, sittings.Of(hit.Entry / FindIndex.Places)!, searched, at) is { } spoken
                && !there[spoken.Sitting].Any(w => w.First <= spoken.Last && spoken.First <= w.Last)
            )
            {
                found.Add(spoken);
            }
        }
        return found;
    }

    private static SaidPassage? Read(SqliteConnection c, SoundHit hit) =>
        c.Query("SELECT passage FROM find_entry WHERE id = $id", r => SaidPassage.Of(r.GetFieldValue<byte[]>(0)), ("$id", hit.Entry))
            .SingleOrDefault();

    private static List<Spoken> Written(
        SqliteConnection c,
        FindQuestion question,
        FindSittings sittings,
        AskedTerms terms,
        PassageSearch search,
        int enough
    )
    {
        var found = new List<Spoken>();
        using var command = c.CreateCommand();
        command.CommandText =
            "SELECT e.id, e.passage FROM find_text f JOIN find_entry e ON e.id = f.rowid WHERE find_text MATCH $match AND f.rowid "
            + ">= $first AND f.rowid < $end ORDER BY f.rowid";
        var (first, end) = sittings.Span();
        command.Parameters.AddWithValue("$match", MatchOf(question, terms, sittings));
        command.Parameters.AddWithValue("$first", first * FindIndex.Places);
        command.Parameters.AddWithValue("$end", end * FindIndex.Places);
        using var reader = command.ExecuteReader();
        while (found.Count <= enough && reader.Read())
        {
            var id = reader.GetInt64(0);
            if (sittings.Of(id / FindIndex.Places) is not { } sitting)
            {
                continue;
            }
            var bytes = reader.GetFieldValue<byte[]>(1);
            if (!search.MayBeIn(bytes))
            {
                continue;
            }
            var passage = SaidPassage.Of(bytes);
            var (searched, begin) = question.Without.Count > 0 ? WithBefore(c, id, passage) : (passage, 0);
            foreach (var hit in search.In(searched, begin))
            {
                if (Fits(question.Limits, sitting, searched, hit) is { } spoken && !(found is [.., var last] && Overlap(last, spoken)))
                {
                    found.Add(spoken);
                }
            }
        }
        return found;

        static bool Overlap(Spoken last, Spoken next) =>
            last.Sitting == next.Sitting && next.First <= last.Last && next.First >= last.First;
    }

    // What is said before a stretch may hold what is left out.
    private static (SaidPassage Passage, int Begin) WithBefore(SqliteConnection c, long id, SaidPassage passage)
    {
        var before = c.Query("SELECT passage FROM find_entry WHERE id = $id", r => r.GetFieldValue<byte[]>(0), ("$id", id - 1));
        if (before is not [var bytes])
        {
            return (passage, 0);
        }
        var last = SaidPassage.Of(bytes);
        var from = Math.Max(0, last.Own - FindQuestion.Around);
        var taken = last.Own - from;
        return (
            new SaidPassage(
                [.. last.Terms[from..last.Own], .. passage.Terms],
                [.. last.Words[from..last.Own], .. passage.Words],
                [.. last.Voices[from..last.Own], .. passage.Voices],
                taken + passage.Own
            ),
            taken
        );
    }

    private static Spoken? Fits(FindLimits limits, FindSitting sitting, SaidPassage passage, PassageHit hit)
    {
        if (limits.By is not null && !Enumerable.Range(hit.First, hit.Last - hit.First + 1).All(i => sitting.Says(passage.Voices[i])))
        {
            return null;
        }
        int first = passage.Words[hit.First],
            last = passage.Words[hit.Last];
        return sitting.Fits(limits, () => sitting.RangeOf(first, last))
            ? new Spoken(sitting.Sitting.Id, new(first), new(last), hit.Apart + (hit.Last - hit.First))
            : null;
    }

    private static FoundHit HitOf(FindSitting sitting, Spoken spoken)
    {
        // Words that people added stand behind one of the record.
        int from = sitting.Slices.AnchorOf(spoken.First.Value),
            to = sitting.Slices.AnchorOf(spoken.Last.Value);
        var slice = sitting.Slices.Of(from - Told, to + Told);
        var first = slice.PlaceOf(spoken.First) ?? TextPlace.First;
        var last = slice.PlaceOf(spoken.Last) ?? first;
        // One that is joined to others is told with them.
        while (last < slice.Text.Last && slice.Text.IsJoined(slice.Text.At(last + 1)))
        {
            last += 1;
        }
        var place = sitting.Slices.PlaceOf(spoken.First.Value);
        return new FoundHit(
            FoundKind.Speech,
            sitting.Sitting.ProductionId,
            sitting.Sitting,
            (spoken.First, spoken.Last),
            (place, place + (last.Value - first.Value)),
            slice.Text.RangeOf(first, last),
            slice.Text.NameOf(slice.Text.VoiceOf(slice.Text.At(first))),
            slice.Text.SaidAround(first, last, Told),
            null,
            spoken.Apart
        )
        {
            IsKept = sitting.IsKept(slice.Text.RangeOf(first, last)),
            TextId = sitting.TextId,
        };
    }

    // Where the words of a bite or a flag stand in the text that the sitting is read by; not where they are of another one.
    private static FoundHit Placed(FindSittings sittings, FoundHit hit) =>
        hit is { Words: { } words, Sitting: { TranscriptId: { } text } sitting } && hit.TextId == text
            ? hit with
            {
                Places = (
                    sittings.Of(sitting.Id)!.Slices.PlaceOf(words.First.Value),
                    sittings.Of(sitting.Id)!.Slices.PlaceOf(words.Last.Value)
                ),
            }
            : hit;

    private static WantedPhrase Wanted(AskedPhrase phrase, AskedTerms terms) =>
        new([
            .. phrase.Words.Select(w =>
                (IReadOnlyList<(int[], int)>)[.. terms.Of(w).Select(t => (t.Ids, t.Apart)).DistinctBy(t => string.Join(' ', t.Ids))]
            ),
        ]);

    // Two rough words that stand beside each other in the question may have been written down as one.
    private static void Join(FindQuestion question, List<WantedTogether> wanted, AskedTerms terms)
    {
        for (var i = 0; i + 1 < wanted.Count; i++)
        {
            if (IsRoughWord(question.Together[i]) && IsRoughWord(question.Together[i + 1]))
            {
                string one = question.Together[i].Phrases[0].Words[0].Key,
                    other = question.Together[i + 1].Phrases[0].Words[0].Key;
                var joined = terms.Joined(one, other).Select(t => (t.Ids, t.Apart / 2)).ToList();
                (wanted[i], wanted[i + 1]) = (With(wanted[i], joined), With(wanted[i + 1], joined));
            }
        }

        static WantedTogether With(WantedTogether wanted, List<(int[], int)> joined) =>
            wanted with
            {
                Phrases =
                [
                    new WantedPhrase([
                        [.. wanted.Phrases[0].Words[0], .. joined],
                    ]),
                ],
            };
    }

    /// <summary>The same question as the engine is asked.</summary>
    internal string MatchOf(SqliteConnection c, FindQuestion question) =>
        MatchOf(question, new AskedTerms(c, vocabulary), new FindSittings(c, question.Limits, null, null));

    // What an entry must hold to be looked at: all of the words. Whether they stand as they are asked for its passage tells.
    private static string MatchOf(FindQuestion question, AskedTerms terms, FindSittings sittings)
    {
        var parts = new List<string>();
        var asked = question.Together.SelectMany(t => t.Phrases).ToList();
        for (var i = 0; i < asked.Count; i++)
        {
            var phrase = asked[i];
            foreach (var word in phrase.Words)
            {
                var any = terms.Of(word).Select(t => Quoted(t.Terms)).ToHashSet();
                foreach (var beside in new[] { i - 1, i + 1 }.Where(b => word.How == WordFit.Rough && b >= 0 && b < asked.Count))
                {
                    if (asked[beside] is { Words: [{ How: WordFit.Rough } other] } && phrase.Words.Count == 1)
                    {
                        var (one, two) = beside < i ? (other.Key, word.Key) : (word.Key, other.Key);
                        any.UnionWith(terms.Joined(one, two).Select(t => Quoted(t.Terms)));
                    }
                }
                parts.Add($"({string.Join(" OR ", any.DefaultIfEmpty("\"\""))})");
            }
        }
        if (question.Limits.By is not null)
        {
            var names = sittings.NameKeys();
            parts.Add($"({string.Join(" OR ", names.DefaultIfEmpty("0").Select(n => $"\"{n}\""))})");
        }
        return string.Join(" AND ", parts);

        static string Quoted(string[] terms) =>
            terms.Length == 1 ? $"\"{terms[0]}\"" : $"({string.Join(" AND ", terms.Select(t => $"\"{t}\""))})";
    }
}
