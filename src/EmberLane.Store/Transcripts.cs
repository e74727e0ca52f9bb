using EmberLane.Core;
using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>Who made a transcript and how often it was changed since.</summary>
public sealed record TranscriptHead(long Id, long SittingId, string Recogniser, string Language, long Version);

/// <summary>A transcript as it is after a change, and how often it has been changed with that.</summary>
public sealed record ChangedText(Transcript Transcript, long Version);

/// <summary>A change that somebody made to a transcript: the edit, and whether it is in force or was taken back.</summary>
public sealed record MadeChange(long Id, string Who, DateTimeOffset At, TranscriptEdit Edit, bool InForce);

/// <summary>Transcripts: the record, written once, and the layers over it.</summary>
public sealed class Transcripts(Database database, TimeProvider clock)
{
    /// <summary>Who is named for what the product does by itself.</summary>
    internal const string Product = "Ember Lane";

    private readonly KeptRecords records = new();

    /// <summary>
    /// So many words (a fraction of a second) are written at a time, so that a long text does not hold up what others do meanwhile.
    /// </summary>
    private const int WordsAtOnce = 4_000;

    /// <summary>Keeps a record and makes it the sitting's current one. Earlier records and what was decided about them stay.</summary>
    public long Add(
        long sittingId,
        string recogniser,
        string language,
        IReadOnlyList<RecordWord> words,
        IReadOnlyDictionary<int, string> voiceNames
    ) => InParts(sittingId, recogniser, language, words, (c, id) => MakeCurrent(c, sittingId, id, recogniser), voiceNames);

    /// <summary>
    /// Keeps a record beside the sitting's other texts, with marks on it if there are any; the sitting is read as before.
    /// </summary>
    public long AddBeside(
        long sittingId,
        string recogniser,
        string language,
        IReadOnlyList<RecordWord> words,
        IReadOnlyDictionary<int, string> voiceNames,
        Func<Transcript, Signed, TranscriptEdit?>? marks = null
    ) =>
        InParts(
            sittingId,
            recogniser,
            language,
            words,
            (c, id) =>
            {
                if (marks is not null && Get(c, id) is var text && marks(text, new Signed(Product, clock.GetUtcNow())) is { } edit)
                {
                    Save(c, id, text, Logged(c, id, text, edit, Product));
                }
            },
            voiceNames
        );

    /// <summary>
    /// Keeps a record that a job made and ends the job, both or neither. A sitting that is read by another text goes on being read by it,
    /// until a person has compared the two and chooses.
    /// </summary>
    public long AddFromJob(
        long jobId,
        string detail,
        long sittingId,
        string recogniser,
        string language,
        IReadOnlyList<RecordWord> words,
        IReadOnlyDictionary<int, string> voiceNames
    ) =>
        InParts(
            sittingId,
            recogniser,
            language,
            words,
            (c, id) =>
            {
                if (Texts.Current(c, sittingId) is null)
                {
                    MakeCurrent(c, sittingId, id, recogniser);
                }
                Jobs.End(c, jobId, "done", detail, "");
            },
            voiceNames
        );

    /// <summary>
    /// Called once at start: texts that a stopped server left half written are cleared; what they were made of is still there.
    /// </summary>
    public void ClearHalf()
    {
        foreach (var id in database.Read(c => c.Query("SELECT id FROM transcript WHERE whole = 0", r => r.GetInt64(0))))
        {
            database.Write(c => Discard(c, id));
        }
    }

    private static void Discard(SqliteConnection c, long id)
    {
        c.Execute("DELETE FROM word WHERE transcript_id = $t", ("$t", id));
        c.Execute("DELETE FROM transcript WHERE id = $t AND whole = 0", ("$t", id));
    }

    // A long text is written in parts, and is there only with the last of them: what ends it is one change.
    private long InParts(
        long sittingId,
        string recogniser,
        string language,
        IReadOnlyList<RecordWord> words,
        Action<SqliteConnection, long> end,
        IReadOnlyDictionary<int, string> voiceNames
    )
    {
        var id = database.Write(c =>
            c.Insert(
                "INSERT INTO transcript (sitting_id, recogniser, language, made_at, whole) VALUES ($s, $r, $l, $at, 0)",
                ("$s", sittingId),
                ("$r", recogniser),
                ("$l", language),
                ("$at", clock.GetUtcNow().ToString("O"))
            )
        );
        try
        {
            foreach (var part in words.Chunk(WordsAtOnce))
            {
                database.Write(c => TranscriptRows.Insert(c, id, part));
            }
            // Read now, so that the change that ends it need not.
            database.Read(c => Get(c, id));
            database.Write(c =>
            {
                foreach (var (voice, name) in voiceNames)
                {
                    c.Execute("INSERT INTO voice_name VALUES ($t, $v, $n)", ("$t", id), ("$v", voice), ("$n", name));
                }
                c.Execute("UPDATE transcript SET whole = 1 WHERE id = $t", ("$t", id));
                end(c, id);
            });
        }
        catch
        {
            records.Forget(id);
            TryDiscard(id);
            throw;
        }
        return id;
    }

    // Where even that fails (a full disk), the next start clears it.
    private void TryDiscard(long id)
    {
        try
        {
            database.Write(c => Discard(c, id));
        }
        catch (SqliteException)
        {
            return;
        }
    }

    private void MakeCurrent(SqliteConnection c, long sittingId, long id, string recogniser)
    {
        var before = Texts.Current(c, sittingId);
        CarryMarks(c, before ?? Texts.LastRead(c, sittingId), id);
        c.Execute("UPDATE sitting SET transcript_id = $t WHERE id = $s", ("$t", id), ("$s", sittingId));
        Texts.Append(c, sittingId, before, id, recogniser, clock.GetUtcNow());
        Readings.Refresh(c, this, sittingId);
    }

    /// <summary>
    /// Sets aside and flags in one text what is so in another of its sitting, as one change. It is nobody's own, so that nobody's undo
    /// takes it back by surprise.
    /// </summary>
    internal void CarryMarks(SqliteConnection c, long? from, long to)
    {
        if (from is null || from == to)
        {
            return;
        }
        var text = Get(c, to);
        if (CarriedMarks.Of(Get(c, from.Value), text) is { } edit)
        {
            Save(c, to, text, Logged(c, to, text, edit, Product));
        }
    }

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

    /// <summary>Who made a text, and how often it was changed; null when there is none.</summary>
    public TranscriptHead? Head(long id) => database.Read(c => Head(c, id));

    /// <summary>A text with its layers. Its record is read once and then kept; cost grows with the layers.</summary>
    public Transcript Get(long id) => database.Read(c => Get(c, id));

    /// <summary>The names that were given in a transcript, each with its voice.</summary>
    public IReadOnlyDictionary<int, string> VoiceNames(long id) => database.Read(c => TranscriptRows.NamesOf(c, id));

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

    private ChangedText Apply(SqliteConnection c, long id, Func<Transcript, TranscriptEdit?> wish, string who)
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
            var before = Get(c, id);
            var (layers, again) = Alone(before, step.Edit, step.Opposite);
            Append(c, id, before with { Layers = layers }, step.Edit, again, who, change);
            return Save(c, id, before, layers);
        });

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
