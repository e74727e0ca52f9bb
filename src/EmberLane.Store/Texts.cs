using System.Globalization;
using EmberLane.Core;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// One of the texts of a sitting: who made it (a recogniser's key, or <c>text:</c> and a file's name), when, how many words it has and how
/// often people changed it.
/// </summary>
public sealed record TextOfSitting(long Id, string Recogniser, string Language, DateTimeOffset MadeAt, int Words, long Changes);

/// <summary>
/// Which of its texts a sitting is read by. None is ever thrown away; a choice is logged by sitting and can be taken back. What is set
/// aside and flagged comes along from the text that was read before.
/// </summary>
public sealed class Texts(Database database, Transcripts transcripts, TimeProvider clock)
{
    /// <summary>All texts of a sitting, the newest first.</summary>
    public IReadOnlyList<TextOfSitting> Of(long sittingId) =>
        database.Read(c =>
            c.Query(
                "SELECT t.id, t.recogniser, t.language, t.made_at, (SELECT COUNT(*) FROM word w WHERE w.transcript_id = t.id), t.version "
                    + "FROM transcript t WHERE t.sitting_id = $s AND t.whole = 1 ORDER BY t.id DESC",
                r => new TextOfSitting(
                    r.GetInt64(0),
                    r.GetString(1),
                    r.GetString(2),
                    DateTimeOffset.Parse(r.GetString(3), CultureInfo.InvariantCulture),
                    r.GetInt32(4),
                    r.GetInt64(5)
                ),
                ("$s", sittingId)
            )
        );

    /// <summary>
    /// The newest text of a sitting when it was made after the one that the sitting is read by was chosen; null when there is none such.
    /// </summary>
    public TextOfSitting? Waiting(long sittingId) =>
        Of(sittingId) is [var newest, ..]
        && database.Read(c => Current(c, sittingId)) is { } current
        && newest.Id > current
        && (database.Read(c => ChangeLog.NewestAt(c, About.Choice, sittingId)) is not { } chosen || newest.MadeAt > chosen)
            ? newest
            : null;

    /// <summary>
    /// Reads the sitting by this text of its own from now on, or by none. Throws <see cref="EditRefusedException"/> when it is another
    /// sitting's, or chosen already.
    /// </summary>
    public void Choose(long sittingId, long? transcriptId, string who) =>
        database.Write(c =>
        {
            var before = Current(c, sittingId);
            if (before == transcriptId)
            {
                throw new EditRefusedException(
                    transcriptId is null ? "The sitting is read by no text already." : "The sitting is read by this text already."
                );
            }
            Set(c, sittingId, before, transcriptId);
            Append(c, sittingId, before, transcriptId, who, clock.GetUtcNow());
        });

    /// <summary>
    /// Takes one choice back alone. Throws <see cref="EditRefusedException"/> when it is not in force, or another was chosen since.
    /// </summary>
    public void TakeBack(long sittingId, long change, string who) =>
        database.Write(c =>
        {
            var step = ChangeLog.One<ChosenText, ChosenText>(c, About.Sitting(c, About.Choice, sittingId), change);
            Set(c, sittingId, Current(c, sittingId), step.Edit.Text);
            Append(c, sittingId, step.Opposite.Text, step.Edit.Text, who, clock.GetUtcNow(), change);
        });

    /// <summary>
    /// Takes a person's newest choice back, or brings the one that they last took back again; false when there is none. Throws
    /// <see cref="EditRefusedException"/> when another text was chosen since, with who did.
    /// </summary>
    public bool Step(long sittingId, bool redo, string who) =>
        database.Write(c =>
        {
            if (ChangeLog.Next<ChosenText, ChosenText>(c, About.Sitting(c, About.Choice, sittingId), redo, who) is not { } step)
            {
                return false;
            }
            Set(c, sittingId, Current(c, sittingId), step.Edit.Text);
            ChangeLog.Made(c, step.Change.Id, redo);
            return true;
        });

    /// <summary>Whether the sitting has a text, in use or not.</summary>
    internal static bool Any(SqliteConnection c, long sittingId) =>
        c.Query("SELECT 1 FROM transcript WHERE sitting_id = $s LIMIT 1", r => r.GetInt64(0), ("$s", sittingId)).Count > 0;

    internal static long? Current(SqliteConnection c, long sittingId) =>
        c.Query("SELECT transcript_id FROM sitting WHERE id = $s", r => r.Number(0), ("$s", sittingId)).SingleOrDefault();

    internal static void Append(
        SqliteConnection c,
        long sittingId,
        long? before,
        long? after,
        string who,
        DateTimeOffset at,
        long? takesBack = null
    ) =>
        ChangeLog.Append(
            c,
            About.Sitting(c, About.Choice, sittingId),
            who,
            at,
            new ChosenText(after),
            new ChosenText(before),
            after is null ? "read by no text" : $"read by {NameOf(c, after.Value)}",
            takesBack: takesBack
        );

    /// <summary>The text that was read before the newest change of choice; null when there is none.</summary>
    internal static long? LastRead(SqliteConnection c, long sittingId) =>
        ChangeLog
            .All<ChosenText>(c, About.Sitting(c, About.Choice, sittingId), int.MaxValue)
            .Where(e => e.InForce)
            .Select(e => e.Change.Inverse.Text)
            .FirstOrDefault();

    // A text is called by its file, or by the recogniser that heard it.
    internal static string NameOf(SqliteConnection c, long id) =>
        c.Query("SELECT recogniser FROM transcript WHERE id = $t", r => r.GetString(0), ("$t", id)).Single() switch
        {
            var file when file.StartsWith("text:", StringComparison.Ordinal) => file["text:".Length..],
            var recogniser => $"what “{recogniser}” heard",
        };

    private void Set(SqliteConnection c, long sittingId, long? before, long? transcriptId)
    {
        if (
            transcriptId is not null
            && c.Query(
                "SELECT 1 FROM transcript WHERE id = $t AND sitting_id = $s AND whole = 1",
                r => r.GetInt32(0),
                ("$t", transcriptId),
                ("$s", sittingId)
            ).Count == 0
        )
        {
            throw new EditRefusedException("That text is not one of this sitting.");
        }
        if (transcriptId is { } next)
        {
            transcripts.CarryMarks(c, before ?? LastRead(c, sittingId), next);
        }
        c.Execute("UPDATE sitting SET transcript_id = $t WHERE id = $s", ("$t", transcriptId), ("$s", sittingId));
        Readings.Refresh(c, transcripts, sittingId);
    }
}
