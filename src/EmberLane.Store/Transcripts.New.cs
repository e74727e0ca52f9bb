using System.Text.Json;
using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <content>Texts that come in: the record, written in parts, and what comes along to it from the text before.</content>
public sealed partial class Transcripts
{
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
    ) => InParts(sittingId, recogniser, language, words, (c, id) => MakeCurrent(c, sittingId, id), voiceNames);

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
    /// until a person has compared the two and chooses. <paramref name="mics"/> are those that voices were heard near,
    /// <paramref name="doubted"/> that there may be another number of voices, <paramref name="said"/> is where each speaks.
    /// </summary>
    public long AddFromJob(
        long jobId,
        string detail,
        long sittingId,
        string recogniser,
        string language,
        IReadOnlyList<RecordWord> words,
        IReadOnlyDictionary<int, string> voiceNames,
        IReadOnlyDictionary<int, MicOfFile>? mics = null,
        DoubtedVoices? doubted = null,
        IReadOnlyList<SaidStretch>? said = null
    ) =>
        InParts(
            sittingId,
            recogniser,
            language,
            words,
            (c, id) =>
            {
                foreach (var (voice, mic) in mics ?? new Dictionary<int, MicOfFile>())
                {
                    c.Execute(
                        "INSERT INTO voice_mic VALUES ($t, $v, $s, $c)",
                        ("$t", id),
                        ("$v", voice),
                        ("$s", mic.SourceId),
                        ("$c", mic.Channel)
                    );
                }
                if (said is { Count: > 0 })
                {
                    c.Execute("INSERT INTO voice_said VALUES ($t, $s)", ("$t", id), ("$s", JsonSerializer.Serialize(said)));
                }
                if (doubted is not null)
                {
                    c.Execute("INSERT INTO voice_doubt VALUES ($t, $d)", ("$t", id), ("$d", JsonSerializer.Serialize(doubted)));
                }
                if (Texts.Current(c, sittingId) is null)
                {
                    MakeCurrent(c, sittingId, id);
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

    private void MakeCurrent(SqliteConnection c, long sittingId, long id)
    {
        var before = Texts.Current(c, sittingId);
        CarryMarks(c, before ?? Texts.LastRead(c, sittingId), id);
        c.Execute("UPDATE sitting SET transcript_id = $t WHERE id = $s", ("$t", id), ("$s", sittingId));
        Texts.Append(c, sittingId, before, id, Product, clock.GetUtcNow());
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
}
