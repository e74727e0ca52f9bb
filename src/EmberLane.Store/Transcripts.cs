using System.Text.Json;
using EmberLane.Core;
using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>A mic as a channel of a file.</summary>
public readonly record struct MicOfFile(long SourceId, int Channel);

/// <summary>Who made a transcript and how often it was changed since.</summary>
public sealed record TranscriptHead(long Id, long SittingId, string Recogniser, string Language, long Version);

/// <summary>A transcript as it is after a change, and how often it has been changed with that.</summary>
public sealed record ChangedText(Transcript Transcript, long Version);

/// <summary>A change that somebody made to a transcript: the edit, and whether it is in force or was taken back.</summary>
public sealed record MadeChange(long Id, string Who, DateTimeOffset At, TranscriptEdit Edit, bool InForce);

/// <summary>Transcripts: the record, written once, and the layers over it.</summary>
public sealed partial class Transcripts(Database database, TimeProvider clock)
{
    /// <summary>Who is named for what the product does by itself.</summary>
    internal const string Product = "Ember Lane";

    private readonly KeptRecords records = new();

    /// <summary>The vocabulary by which what is said is found.</summary>
    internal TermBook Terms { get; } = new(database);

    /// <summary>Who made a text, and how often it was changed; null when there is none.</summary>
    public TranscriptHead? Head(long id) => database.Read(c => Head(c, id));

    /// <summary>A text with its layers. Its record is read once and then kept; cost grows with the layers.</summary>
    public Transcript Get(long id) => database.Read(c => Get(c, id));

    /// <summary>The names that were given in a transcript, each with its voice.</summary>
    public IReadOnlyDictionary<int, string> VoiceNames(long id) => database.Read(c => TranscriptRows.NamesOf(c, id));

    /// <summary>The voice of a text that was heard near a mic; null when none was, or the text was made of other words.</summary>
    public int? VoiceNear(long id, MicOfFile mic) =>
        database.Read(c =>
            c.Query(
                    "SELECT voice FROM voice_mic WHERE transcript_id = $t AND source_id = $s AND channel = $c",
                    r => (int?)r.GetInt32(0),
                    ("$t", id),
                    ("$s", mic.SourceId),
                    ("$c", mic.Channel)
                )
                .SingleOrDefault()
        );

    /// <summary>
    /// Whether there may be another number of voices in a text; null where that is sure, or a person has said that it is right.
    /// </summary>
    public DoubtedVoices? DoubtOf(long id) =>
        database.Read(c =>
            c.Query("SELECT doubt FROM voice_doubt WHERE transcript_id = $t", r => r.GetString(0), ("$t", id))
                .Select(d => JsonSerializer.Deserialize<DoubtedVoices>(d))
                .SingleOrDefault()
        );

    /// <summary>
    /// Where somebody speaks in a sitting by the sound, as the newest recognition found it; with the voices of <paramref name="text"/>
    /// where it was that one's. Empty where no recognition told.
    /// </summary>
    public IReadOnlyList<SaidStretch> SaidIn(long sittingId, long? text) =>
        database.Read(c =>
            c.Query(
                    "SELECT t.id, s.said FROM transcript t JOIN voice_said s ON s.transcript_id = t.id WHERE t.sitting_id = $s "
                        + "AND t.whole = 1 ORDER BY t.id = $t DESC, t.id DESC LIMIT 1",
                    r => (Own: r.GetInt64(0) == text, Said: JsonSerializer.Deserialize<IReadOnlyList<SaidStretch>>(r.GetString(1))!),
                    ("$s", sittingId),
                    ("$t", text)
                )
                .Select(f => f.Own ? f.Said : [.. f.Said.Select(s => s with { Voice = null })])
                .SingleOrDefault()
        ) ?? [];

    /// <summary>What stands on the flags of a text, without the text being read.</summary>
    public IReadOnlySet<string> FlagNotes(long id) =>
        database
            .Read(c =>
                c.Query(
                    "SELECT note FROM mark WHERE transcript_id = $t AND note <> '' AND kind IN (SELECT value FROM json_each($kinds))",
                    r => r.GetString(0),
                    ("$t", id),
                    ("$kinds", JsonSerializer.Serialize(MarkKind.With(MarkUse.Flags).Select(k => k.Key)))
                )
            )
            .ToHashSet();

    /// <summary>A person has heard that the number of voices of a text is right.</summary>
    public void SettleVoices(long id) => database.Write(c => c.Execute("DELETE FROM voice_doubt WHERE transcript_id = $t", ("$t", id)));

    /// <summary>
    /// The people who are named in the texts that a production's sittings are read by, in the order in which they were first named; a name
    /// may come again.
    /// </summary>
    public IReadOnlyList<string> NamesOf(long productionId) =>
        database.Read(c =>
            c.Query(
                "SELECT v.name FROM sitting s JOIN voice_name v ON v.transcript_id = s.transcript_id WHERE s.production_id = $p AND "
                    + "s.gone = 0 ORDER BY s.id, v.voice",
                r => r.GetString(0),
                ("$p", productionId)
            )
        );

    /// <summary>The voices that say something in a transcript.</summary>
    public IReadOnlyList<int> Speaking(long id) =>
        database.Read(c =>
            c.Query(
                "SELECT DISTINCT COALESCE(g.voice, w.voice) FROM word w LEFT JOIN given g ON g.transcript_id = w.transcript_id AND "
                    + "g.number = w.number WHERE w.transcript_id = $t",
                r => r.GetInt32(0),
                ("$t", id)
            )
        );

    /// <summary>Applies a person's edit. Throws <see cref="EditRefusedException"/> when it does not fit.</summary>
    public ChangedText Apply(long id, TranscriptEdit edit, string who) => Apply(id, _ => edit, who);

    /// <summary>
    /// Applies the edit that a person's wish makes of the transcript as it is at this moment, whatever others changed meanwhile; null
    /// changes nothing.
    /// </summary>
    public ChangedText Apply(long id, Func<Transcript, TranscriptEdit?> wish, string who) => database.Write(c => Apply(c, id, wish, who));

    internal ChangedText Apply(SqliteConnection c, long id, Func<Transcript, TranscriptEdit?> wish, string who)
    {
        var before = Get(c, id);
        return wish(before) is { } edit
            ? Save(c, id, before, Logged(c, id, before, edit, who))
            : new ChangedText(before, Head(c, id)!.Version);
    }

    /// <summary>
    /// As <see cref="Apply(long, Func{Transcript, TranscriptEdit}, string)"/>, and with it the wishes for other texts, all or none; each
    /// text logs its own. Gives the first one as it is then.
    /// </summary>
    public ChangedText ApplyAll(IReadOnlyList<(long Id, Func<Transcript, TranscriptEdit?> Wish)> wishes, string who) =>
        database.Write(c => wishes.Select(w => Apply(c, w.Id, w.Wish, who)).ToList()[0]);

    /// <summary>
    /// Takes a person's newest change back, or brings the one that they last took back again; null when there is none. Throws
    /// <see cref="EditRefusedException"/> when somebody else has changed the same since.
    /// </summary>
    public ChangedText? Step(long id, bool redo, string who) =>
        database.Write(c =>
        {
            if (ChangeLog.Next<Transcript, TranscriptEdit>(c, About.Transcript(c, id), redo, who) is not { } step)
            {
                return null;
            }
            var before = Get(c, id);
            var layers = Alone(before, step.Edit, step.Opposite).Layers;
            ChangeLog.Made(c, step.Change.Id, redo);
            return Save(c, id, before, layers);
        });

    // An edit of the log out of its order, and its opposite: only where nothing else has touched the same, so that the opposite leads back
    // to the same.
    private static (Layers Layers, TranscriptEdit Inverse) Alone(Transcript before, TranscriptEdit edit, TranscriptEdit opposite)
    {
        var (layers, inverse) = edit.Apply(before);
        return opposite.Apply(before with { Layers = layers }).Layers.SameAs(before.Layers)
            ? (layers, inverse)
            : throw new EditRefusedException(
                "What this change touched was changed again later. Take that back first; “Changes” under Text lists who changed what."
            );
    }

    /// <summary>Those of a production's texts in which something is off the record.</summary>
    public IReadOnlySet<long> WithHeld(long productionId) =>
        database
            .Read(c =>
                c.Query(
                    "SELECT DISTINCT m.transcript_id FROM mark m JOIN transcript t ON t.id = m.transcript_id JOIN sitting s ON s.id = "
                        + "t.sitting_id WHERE s.production_id = $p AND m.kind = $k",
                    r => r.GetInt64(0),
                    ("$p", productionId),
                    ("$k", Core.Marks.MarkKind.OffTheRecord.Key)
                )
            )
            .ToHashSet();

    /// <summary>What people changed, the newest first, at most so many.</summary>
    public IReadOnlyList<MadeChange> Changes(long id, int most) =>
        database.Read(c =>
            ChangeLog
                .All<TranscriptEdit>(c, About.Transcript(c, id), most)
                .Select(e => new MadeChange(e.Change.Id, e.Change.Who, e.Change.At, e.Change.Edit, e.InForce))
                .ToList()
        );

    /// <summary>
    /// Takes back one change alone, as a change of its own, whatever was done elsewhere since. Throws <see cref="EditRefusedException"/>
    /// when it is not in force, or what it changed was changed again.
    /// </summary>
    public ChangedText TakeBack(long id, long change, string who) =>
        database.Write(c =>
        {
            var step = ChangeLog.One<Transcript, TranscriptEdit>(c, About.Transcript(c, id), change);
            if (step.Change.Who != who && Core.Marks.ReleaseMark.IsIn(step.Edit))
            {
                throw new EditRefusedException(Core.Marks.ReleaseMark.Needed);
            }
            var before = Get(c, id);
            var (layers, again) = Alone(before, step.Edit, step.Opposite);
            Append(c, id, before with { Layers = layers }, step.Edit, again, who, change);
            return Save(c, id, before, layers);
        });

    private Layers Logged(SqliteConnection c, long id, Transcript before, TranscriptEdit edit, string who)
    {
        var (layers, inverse) = edit.Apply(before);
        Append(c, id, before with { Layers = layers }, edit, inverse, who);
        return layers;
    }

    private void Append(
        SqliteConnection c,
        long id,
        Transcript after,
        TranscriptEdit edit,
        TranscriptEdit inverse,
        string who,
        long? takesBack = null
    ) =>
        ChangeLog.Append(
            c,
            About.Transcript(c, id),
            who,
            clock.GetUtcNow(),
            edit,
            inverse,
            EditWords.Of(edit, after).Said,
            c.Query("SELECT version FROM transcript WHERE id = $t", r => r.GetInt64(0), ("$t", id)).Single(),
            takesBack
        );

    private ChangedText Save(SqliteConnection c, long id, Transcript before, Layers layers)
    {
        TranscriptRows.Save(c, id, before.Layers, layers);
        var (version, sitting) = c.Query(
                "UPDATE transcript SET version = version + 1 WHERE id = $t RETURNING version, sitting_id",
                r => (r.GetInt64(0), r.GetInt64(1)),
                ("$t", id)
            )
            .Single();
        var after = before with { Layers = layers };
        Readings.Refresh(c, this, sitting, (id, after));
        return new ChangedText(after, version);
    }

    private static TranscriptHead? Head(SqliteConnection c, long id) =>
        c.Query(
                "SELECT id, sitting_id, recogniser, language, version FROM transcript WHERE id = $t",
                r => new TranscriptHead(r.GetInt64(0), r.GetInt64(1), r.GetString(2), r.GetString(3), r.GetInt64(4)),
                ("$t", id)
            )
            .SingleOrDefault();

    internal Transcript Get(SqliteConnection c, long id)
    {
        var words = records.Find(id) ?? ReadRecord(c, id);
        return new Transcript(words, TranscriptRows.LayersOf(c, id));
    }

    private List<RecordWord> ReadRecord(SqliteConnection c, long id)
    {
        var words = TranscriptRows.RecordOf(c, id);
        database.WhenKept(c, () => records.Keep(id, words));
        return words;
    }
}
