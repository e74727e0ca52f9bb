using EmberLane.Core.Bites;
using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>A sitting whose read model was not what its texts and bites give.</summary>
public sealed record OddReading(long SittingId, string What);

/// <summary>
/// The read models of bites and of what is set aside: what a page lists is read from here at the cost of what it shows. Whoever changes a
/// text, the choice of one, or a bite brings them along in the same transaction; what they hold follows from the rest of the database and
/// can be made anew at any time.
/// </summary>
public sealed class Readings(Database database, Transcripts transcripts)
{
    /// <summary>What a bite says; null when there is no such bite.</summary>
    public BiteReading? Of(long biteId) => database.Read(c => Read(c, "bite_id = $id", ("$id", biteId)).GetValueOrDefault(biteId));

    /// <summary>What the bites of a production say, by bite, also those that were set aside.</summary>
    public IReadOnlyDictionary<long, BiteReading> OfProduction(long productionId) =>
        database.Read(c =>
            Read(
                c,
                "bite_id IN (SELECT b.id FROM bite b JOIN sitting s ON s.id = b.sitting_id WHERE s.production_id = $p)",
                ("$p", productionId)
            )
        );

    /// <summary>What these bites say. Cost grows with their number.</summary>
    public IReadOnlyDictionary<long, BiteReading> Of(IReadOnlyCollection<long> bites) =>
        database.Read(c => Read(c, $"bite_id IN ({string.Join(',', bites)})"));

    /// <summary>
    /// What is set aside in each sitting of a production, by the text that it is read by: stretches in order, apart. Sittings without are
    /// left out.
    /// </summary>
    public IReadOnlyDictionary<long, IReadOnlyList<SittingRange>> Aside(long productionId) =>
        database.Read(c =>
            c.Query(
                    "SELECT a.sitting_id, a.time_in, a.time_out FROM aside_stretch a JOIN sitting s ON s.id = a.sitting_id WHERE "
                        + "s.production_id = $p AND s.gone = 0 ORDER BY a.sitting_id, a.position",
                    r => (Sitting: r.GetInt64(0), Range: Columns.Range(r, 1)),
                    ("$p", productionId)
                )
                .GroupBy(a => a.Sitting)
                .ToDictionary(g => g.Key, g => (IReadOnlyList<SittingRange>)[.. g.Select(a => a.Range)])
        );

    /// <summary>What is set aside in one sitting.</summary>
    public IReadOnlyList<SittingRange> AsideOf(long sittingId) => database.Read(c => AsideOf(c, sittingId));

    internal static List<SittingRange> AsideOf(SqliteConnection c, long sittingId) =>
        c.Query(
            "SELECT time_in, time_out FROM aside_stretch WHERE sitting_id = $s ORDER BY position",
            r => Columns.Range(r, 0),
            ("$s", sittingId)
        );

    /// <summary>
    /// Called once at start: makes the read models of a database from before there were any, and puts its older changes into words. Reads
    /// every text that has bites, changes, cards or something set aside, once.
    /// </summary>
    public void MakeFirst()
    {
        if (database.Read(c => c.Query("SELECT is_made FROM reading_state", r => r.GetInt64(0)).Single()) == 0)
        {
            Rebuild();
            database.Write(c => OlderChanges.PutIntoWords(c, transcripts));
        }
        if (database.Read(c => c.Query("SELECT are_cards_made FROM reading_state", r => r.GetInt64(0)).Single()) == 0)
        {
            foreach (var sitting in database.Read(c => c.Query("SELECT DISTINCT sitting_id FROM card", r => r.GetInt64(0))))
            {
                database.Write(c => RefreshBites(c, transcripts, sitting));
            }
            database.Write(c => c.Execute("UPDATE reading_state SET are_cards_made = 1"));
        }
    }

    /// <summary>
    /// Makes all read models anew, each sitting in a transaction of its own, and returns where they were not what they should be; none when
    /// every change has brought them along.
    /// </summary>
    public IReadOnlyList<OddReading> Rebuild()
    {
        var odd = new List<OddReading>();
        foreach (var sitting in database.Read(c => c.Query("SELECT id FROM sitting ORDER BY id", r => r.GetInt64(0))))
        {
            var found = database.Write(c => FindIndex.Refresh(c, transcripts, sitting, anew: true)) ? "what is found of its text" : null;
            if (
                string.Join(", ", new[] { database.Write(c => RefreshBites(c, transcripts, sitting)), found }.OfType<string>()) is
                { Length: > 0 } what
            )
            {
                odd.Add(new OddReading(sitting, what));
            }
        }
        database.Write(c => c.Execute("UPDATE reading_state SET is_made = 1"));
        return odd;
    }

    /// <summary>
    /// Brings the read models of a sitting along, in the transaction of the change; <paramref name="changed"/> is a text that is at hand
    /// already. Returns what was written, or null when nothing was. Cost grows with the words of the text that the sitting is read by and
    /// with its bites.
    /// </summary>
    internal static string? Refresh(SqliteConnection c, Transcripts transcripts, long sittingId, (long Id, Transcript Text)? changed = null)
    {
        FindIndex.Refresh(c, transcripts, sittingId, changed);
        return RefreshBites(c, transcripts, sittingId, changed);
    }

    private static string? RefreshBites(
        SqliteConnection c,
        Transcripts transcripts,
        long sittingId,
        (long Id, Transcript Text)? changed = null
    )
    {
        var bites = Bites.OfSitting(c, sittingId);
        var currentId = Texts.Current(c, sittingId);
        var isBeside = changed is { } beside && beside.Id != currentId && bites.All(b => b.TranscriptId != beside.Id);
        if (isBeside || (bites.Count == 0 && !HasAside(c, sittingId, currentId)))
        {
            return null;
        }
        var current = currentId is { } id ? Text(id) : null;
        IReadOnlyList<SittingRange> aside = current is null ? [] : AsideStretches.Of(current);
        var written = new List<string>();
        if (SaveAside(c, sittingId, aside))
        {
            written.Add("what is set aside");
        }
        var known = bites.Count == 0 ? [] : Read(c, "bite_id IN (SELECT id FROM bite WHERE sitting_id = $s)", ("$s", sittingId));
        foreach (var bite in bites)
        {
            var reading = BiteReading.Of(
                bite,
                current ?? Text(bite.TranscriptId),
                currentId ?? bite.TranscriptId,
                () => Text(bite.TranscriptId),
                aside
            );
            if (!reading.Equals(known.GetValueOrDefault(bite.Id)))
            {
                Save(c, bite.Id, reading);
                written.Add(FormattableString.Invariant($"bite {bite.Id}"));
            }
        }
        written.AddRange(CardReadings.Refresh(c, sittingId, bites, current, currentId, Text));
        return written.Count == 0 ? null : string.Join(", ", written);

        Transcript Text(long text) => changed is { } at && at.Id == text ? at.Text : transcripts.Get(c, text);
    }

    private static bool HasAside(SqliteConnection c, long sittingId, long? current) =>
        c.Query("SELECT 1 FROM aside_stretch WHERE sitting_id = $s LIMIT 1", r => r.GetInt64(0), ("$s", sittingId)).Count > 0
        || (current is { } text && Marks.SetsAside(c, text));

    private static bool SaveAside(SqliteConnection c, long sittingId, IReadOnlyList<SittingRange> aside)
    {
        if (AsideOf(c, sittingId).SequenceEqual(aside))
        {
            return false;
        }
        c.Execute("DELETE FROM aside_stretch WHERE sitting_id = $s", ("$s", sittingId));
        for (var i = 0; i < aside.Count; i++)
        {
            c.Execute(
                "INSERT INTO aside_stretch VALUES ($s, $n, $in, $out)",
                ("$s", sittingId),
                ("$n", i),
                ("$in", aside[i].In.FromZero.Units),
                ("$out", aside[i].Out.FromZero.Units)
            );
        }
        return true;
    }

    private static void Save(SqliteConnection c, long bite, BiteReading reading)
    {
        c.Execute("DELETE FROM bite_voice WHERE bite_id = $b", ("$b", bite));
        c.Execute("DELETE FROM bite_piece WHERE bite_id = $b", ("$b", bite));
        c.Execute(
            "INSERT OR REPLACE INTO bite_reading VALUES ($b, $first, $said, $length)",
            ("$b", bite),
            ("$first", reading.FirstWord),
            ("$said", reading.Said),
            ("$length", reading.Length.Units)
        );
        for (var i = 0; i < reading.Voices.Count; i++)
        {
            c.Execute(
                "INSERT INTO bite_voice VALUES ($b, $n, $name, $said)",
                ("$b", bite),
                ("$n", i),
                ("$name", reading.Voices[i].Name),
                ("$said", reading.Voices[i].Said.Units)
            );
        }
        for (var i = 0; i < reading.Pieces.Count; i++)
        {
            c.Execute(
                "INSERT INTO bite_piece VALUES ($b, $n, $in, $out)",
                ("$b", bite),
                ("$n", i),
                ("$in", reading.Pieces[i].In.FromZero.Units),
                ("$out", reading.Pieces[i].Out.FromZero.Units)
            );
        }
    }

    // The condition is this file's own words.
    private static Dictionary<long, BiteReading> Read(
        SqliteConnection c,
        string which,
        params ReadOnlySpan<(string Name, object? Value)> values
    )
    {
        var voices = c.Query(
                $"SELECT bite_id, name, said FROM bite_voice WHERE {which} ORDER BY bite_id, position",
                r => (Bite: r.GetInt64(0), Voice: new VoiceInBite(r.GetString(1), new MediaTime(r.GetInt64(2)))),
                values
            )
            .ToLookup(v => v.Bite, v => v.Voice);
        var pieces = c.Query(
                $"SELECT bite_id, time_in, time_out FROM bite_piece WHERE {which} ORDER BY bite_id, position",
                r => (Bite: r.GetInt64(0), Range: Columns.Range(r, 1)),
                values
            )
            .ToLookup(p => p.Bite, p => p.Range);
        return c.Query(
                $"SELECT bite_id, first_word, said FROM bite_reading WHERE {which}",
                r => (Bite: r.GetInt64(0), First: Columns.Word(r, 1), Said: r.GetString(2)),
                values
            )
            .ToDictionary(r => r.Bite, r => new BiteReading(r.First, r.Said, [.. voices[r.Bite]], [.. pieces[r.Bite]]));
    }
}
