using EmberLane.Core.Bites;
using EmberLane.Core.Stories;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// What a card says by the text that its sitting is read by, who speaks, the first to speak first, and the words at its ends.
/// </summary>
public sealed record CardReading(WordNumber FirstWord, string Said, IReadOnlyList<VoiceInBite> Voices, CardEdges Edges)
{
    /// <inheritdoc/>
    public bool Equals(CardReading? other) =>
        other is not null
        && FirstWord == other.FirstWord
        && Said == other.Said
        && Voices.SequenceEqual(other.Voices)
        && Edges == other.Edges;

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(FirstWord, Said);
}

/// <summary>
/// The read model of cards: what each says in its own stretch. Brought along in the transaction that changes a story, a bite or a text.
/// </summary>
internal static class CardReadings
{
    private const string Edges = "before_in, before_out, first_in, first_out, last_in, last_out, behind_in, behind_out";

    /// <summary>What the cards of a story say, by card.</summary>
    public static IReadOnlyDictionary<Guid, CardReading> Of(SqliteConnection c, long story) =>
        Read(c, "story_id = $of", story).ToDictionary(r => Guid.Parse(r.Key.Card), r => r.Value);

    // The condition is this file's own words.
    private static Dictionary<(long Story, string Card), CardReading> Read(SqliteConnection c, string which, long of)
    {
        var voices = c.Query(
                $"SELECT story_id, card_id, name, said FROM card_voice WHERE {which} ORDER BY story_id, card_id, position",
                r => (Of: (r.GetInt64(0), r.GetString(1)), Voice: new VoiceInBite(r.GetString(2), new MediaTime(r.GetInt64(3)))),
                ("$of", of)
            )
            .ToLookup(v => v.Of, v => v.Voice);
        return c.Query(
                $"SELECT story_id, card_id, first_word, said, {Edges} FROM card_reading WHERE {which}",
                r =>
                    (
                        Of: (r.GetInt64(0), r.GetString(1)),
                        First: Columns.Word(r, 2),
                        Said: r.GetString(3),
                        Edges: new CardEdges(Range(r, 4), Range(r, 6), Range(r, 8), Range(r, 10))
                    ),
                ("$of", of)
            )
            .ToDictionary(r => r.Of, r => new CardReading(r.First, r.Said, [.. voices[r.Of]], r.Edges));
    }

    /// <summary>
    /// Brings the cards of a sitting along, in whatever stories; returns what was written. <paramref name="textOf"/> gives a text by id.
    /// </summary>
    public static IReadOnlyList<string> Refresh(
        SqliteConnection c,
        long sitting,
        IReadOnlyList<Bite> bites,
        Transcript? current,
        long? currentId,
        Func<long, Transcript> textOf
    )
    {
        var cards = c.Query(
            "SELECT story_id, id, bite_id, time_in, time_out FROM card WHERE sitting_id = $s",
            r => (Story: r.GetInt64(0), Id: r.GetString(1), Bite: r.GetInt64(2), Range: Columns.Range(r, 3)),
            ("$s", sitting)
        );
        if (cards.Count == 0)
        {
            return [];
        }
        var byId = bites.ToDictionary(b => b.Id);
        var known = Read(c, "(story_id, card_id) IN (SELECT k.story_id, k.id FROM card k WHERE k.sitting_id = $of)", sitting);
        var written = new List<string>();
        foreach (var card in cards.Where(k => byId.ContainsKey(k.Bite)))
        {
            var reading = Made(byId[card.Bite], card.Range, current, currentId, textOf);
            if (!reading.Equals(known.GetValueOrDefault((card.Story, card.Id))))
            {
                Save(c, card.Story, card.Id, reading);
                written.Add($"card {card.Id}");
            }
        }
        return written;
    }

    /// <summary>Makes what some cards of a story say, which are new in it or have another stretch.</summary>
    public static void Make(SqliteConnection c, Transcripts transcripts, long story, IReadOnlyCollection<Card> cards)
    {
        foreach (var (card, reading) in Made(c, transcripts, cards))
        {
            Save(c, story, card.Id.ToString(), reading);
        }
    }

    /// <summary>What cards say that need not be in any story, by the texts that their sittings are read by. Reads each text once.</summary>
    public static IEnumerable<(Card Card, CardReading Reading)> Made(
        SqliteConnection c,
        Transcripts transcripts,
        IReadOnlyCollection<Card> cards
    )
    {
        foreach (var group in cards.GroupBy(k => k.SittingId))
        {
            var bites = Bites.Of(c, [.. group.Select(k => k.BiteId).Distinct()], gone: true).ToDictionary(b => b.Id);
            var texts = new Dictionary<long, Transcript>();
            var currentId = Texts.Current(c, group.Key);
            var current = currentId is { } id ? Text(id) : null;
            foreach (var card in group)
            {
                yield return (card, Made(bites[card.BiteId], card.Range, current, currentId, Text));
            }

            Transcript Text(long text) => texts.TryGetValue(text, out var known) ? known : texts[text] = transcripts.Get(c, text);
        }
    }

    /// <summary>Forgets what a card says that is not in a story any more.</summary>
    public static void Forget(SqliteConnection c, long story, Guid card)
    {
        foreach (var table in new[] { "card_voice", "card_reading" })
        {
            c.Execute($"DELETE FROM {table} WHERE story_id = $s AND card_id = $k", ("$s", story), ("$k", card.ToString()));
        }
    }

    private static CardReading Made(Bite bite, SittingRange stretch, Transcript? current, long? currentId, Func<long, Transcript> textOf)
    {
        var reading = BiteReading.Of(
            bite,
            current ?? textOf(bite.TranscriptId),
            currentId ?? bite.TranscriptId,
            () => textOf(bite.TranscriptId),
            [],
            stretch
        );
        return new CardReading(reading.FirstWord, reading.Said, reading.Voices, reading.Edges);
    }

    private static void Save(SqliteConnection c, long story, string card, CardReading reading)
    {
        c.Execute("DELETE FROM card_voice WHERE story_id = $s AND card_id = $k", ("$s", story), ("$k", card));
        c.Execute(
            $"INSERT OR REPLACE INTO card_reading (story_id, card_id, first_word, said, {Edges}) VALUES ($s, $k, $first, $said, $beforeIn, "
                + "$beforeOut, $firstIn, $firstOut, $lastIn, $lastOut, $behindIn, $behindOut)",
            ("$s", story),
            ("$k", card),
            ("$first", reading.FirstWord),
            ("$said", reading.Said),
            ("$beforeIn", reading.Edges.Before?.In.FromZero.Units),
            ("$beforeOut", reading.Edges.Before?.Out.FromZero.Units),
            ("$firstIn", reading.Edges.First?.In.FromZero.Units),
            ("$firstOut", reading.Edges.First?.Out.FromZero.Units),
            ("$lastIn", reading.Edges.Last?.In.FromZero.Units),
            ("$lastOut", reading.Edges.Last?.Out.FromZero.Units),
            ("$behindIn", reading.Edges.Behind?.In.FromZero.Units),
            ("$behindOut", reading.Edges.Behind?.Out.FromZero.Units)
        );
        for (var i = 0; i < reading.Voices.Count; i++)
        {
            c.Execute(
                "INSERT INTO card_voice VALUES ($s, $k, $n, $name, $said)",
                ("$s", story),
                ("$k", card),
                ("$n", i),
                ("$name", reading.Voices[i].Name),
                ("$said", reading.Voices[i].Said.Units)
            );
        }
    }

    private static SittingRange? Range(SqliteDataReader r, int column) => r.IsDBNull(column) ? null : Columns.Range(r, column);
}
