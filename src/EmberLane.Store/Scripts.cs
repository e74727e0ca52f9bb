using System.Globalization;
using System.Text.Json;
using EmberLane.Core;
using EmberLane.Core.Tidy;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>A written script as it was brought in; the sittings that are searched for it, all where null.</summary>
public sealed record KeptScript(
    long Id,
    long ProductionId,
    string Name,
    string Text,
    IReadOnlyList<long>? Sittings,
    string Who,
    DateTimeOffset MadeAt
);

/// <summary>A take that a person chose, by the numbers of its words in a text.</summary>
public readonly record struct ChosenTake(long TranscriptId, WordNumber First, WordNumber Last)
{
    /// <summary>Whether both are mostly the same words of one text.</summary>
    public bool IsMostly(ChosenTake other) =>
        TranscriptId == other.TranscriptId
        && Math.Min(Last.Value, other.Last.Value) - Math.Max(First.Value, other.First.Value) + 1 is var both
        && 2 * both > Last.Value - First.Value + 1
        && 2 * both > other.Last.Value - other.First.Value + 1;
}

/// <summary>Written scripts, and the takes that people chose. None is thrown away: a new one lies over those before.</summary>
public sealed class Scripts(Database database, TimeProvider clock)
{
    /// <summary>The longest name of a script, in characters.</summary>
    public const int LongestName = 120;

    private const string Selected = "id, production_id, name, text, sittings, who, made_at";

    /// <summary>The script that is matched: the newest; null when there is none.</summary>
    public KeptScript? Newest(long productionId) => All(productionId, 1).SingleOrDefault();

    /// <summary>The scripts of a production, the newest first.</summary>
    public IReadOnlyList<KeptScript> All(long productionId, int most) =>
        database.Read(c =>
            c.Query(
                $"SELECT {Selected} FROM script WHERE production_id = $p ORDER BY id DESC LIMIT $most",
                r => new KeptScript(
                    r.GetInt64(0),
                    r.GetInt64(1),
                    r.GetString(2),
                    r.GetString(3),
                    r.IsDBNull(4) ? null : JsonSerializer.Deserialize<List<long>>(r.GetString(4)),
                    r.GetString(5),
                    DateTimeOffset.Parse(r.GetString(6), CultureInfo.InvariantCulture)
                ),
                ("$p", productionId),
                ("$most", most)
            )
        );

    /// <summary>
    /// Brings a script in, which is matched from then on. Throws <see cref="FormatException"/> for one that can not be read, with the line,
    /// and <see cref="EditRefusedException"/> for a name that is too long.
    /// </summary>
    public long Add(long productionId, string name, string text, IReadOnlyList<long>? sittings, string who)
    {
        ScriptText.Read(text);
        var called = TypedText.OneLine(name);
        if (called.Length > LongestName)
        {
            throw new EditRefusedException($"A script’s name takes at most {LongestName} characters.");
        }
        return database.Write(c =>
            c.Insert(
                "INSERT INTO script (production_id, name, text, sittings, who, made_at) VALUES ($p, $name, $text, $sittings, $who, $at)",
                ("$p", productionId),
                ("$name", called.Length == 0 ? "Script" : called),
                ("$text", text),
                ("$sittings", sittings is null ? null : JsonSerializer.Serialize(sittings)),
                ("$who", who),
                ("$at", clock.GetUtcNow().ToString("O"))
            )
        );
    }

    /// <summary>Searches other sittings for the newest script; null searches all.</summary>
    public void SearchIn(long productionId, IReadOnlyList<long>? sittings) =>
        database.Write(c =>
            c.Execute(
                "UPDATE script SET sittings = $s WHERE id = (SELECT MAX(id) FROM script WHERE production_id = $p)",
                ("$s", sittings is null ? null : JsonSerializer.Serialize(sittings)),
                ("$p", productionId)
            )
        );

    /// <summary>The takes that people chose in a production.</summary>
    public IReadOnlyList<ChosenTake> Chosen(long productionId) => database.Read(c => Chosen(c, productionId));

    private static List<ChosenTake> Chosen(SqliteConnection c, long productionId) =>
        c.Query(
            "SELECT transcript_id, first_word, last_word FROM script_take WHERE production_id = $p",
            r => new ChosenTake(r.GetInt64(0), Columns.Word(r, 1), Columns.Word(r, 2)),
            ("$p", productionId)
        );

    /// <summary>Chooses one of the takes of a line; the others of them are chosen no more.</summary>
    public void Choose(long productionId, ChosenTake take, IEnumerable<ChosenTake> others) =>
        database.Write(c =>
        {
            var before = Chosen(c, productionId);
            foreach (var other in before.Where(b => others.Any(o => o.IsMostly(b))))
            {
                c.Execute(
                    "DELETE FROM script_take WHERE production_id = $p AND transcript_id = $t AND first_word = $first AND last_word = $last",
                    ("$p", productionId),
                    ("$t", other.TranscriptId),
                    ("$first", other.First),
                    ("$last", other.Last)
                );
            }
            c.Execute(
                "INSERT OR IGNORE INTO script_take VALUES ($p, $t, $first, $last)",
                ("$p", productionId),
                ("$t", take.TranscriptId),
                ("$first", take.First),
                ("$last", take.Last)
            );
        });
}
