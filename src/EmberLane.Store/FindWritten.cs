using EmberLane.Core.Finding;
using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// What people wrote and named, looked through for a question: themes and notes of bites, flags, titles of sittings, and names, labels and
/// first words of sources. Linear in all of it.
/// </summary>
internal sealed class FindWritten(SqliteConnection c, FindQuestion question, FindSittings sittings)
{
    private readonly QuestionFit fit = new(question, "en");

    public IReadOnlyList<FoundHit> All() =>
        [
            .. Bites(),
            .. Wants(FoundKind.Flag) ? Flags() : [],
            .. Wants(FoundKind.Sitting) ? Titles() : [],
            .. Wants(FoundKind.Name) ? Names() : [],
            .. Wants(FoundKind.Source) ? Sources() : [],
            .. new FindPictures(c, question, sittings, fit).All(),
        ];

    // Who says it, and how long a bite is, is asked of bites alone.
    private bool Wants(FoundKind kind) =>
        question.Limits
            is { By: null, Theme: null, LeastGrade: null, Length: null, Kept: null, Aside: null, InStory: null, Picture: null } limits
        && (limits.Kind is null || limits.Kind == kind)
        && question.Together.Count > 0;

    private IEnumerable<FoundHit> Bites()
    {
        var limits = question.Limits;
        if (limits is not { Kind: null or FoundKind.Bite, Kept: not false, Picture: null })
        {
            return [];
        }
        var rows = c.Query(
            """
            SELECT b.id, b.sitting_id, b.theme, m.note, m.first_word, m.last_word, m.time_in, m.time_out, COALESCE(r.said, ''),
                COALESCE(r.length, 0), COALESCE((SELECT name FROM bite_voice v WHERE v.bite_id = b.id AND v.position = 0), ''),
                m.transcript_id, b.grade
            FROM bite b JOIN mark m ON m.id = b.id LEFT JOIN bite_reading r ON r.bite_id = b.id
            WHERE b.gone = 0 AND b.aside = 0 AND ($any OR b.theme <> '' OR m.note <> '') ORDER BY b.sitting_id, m.time_in
            """,
            r =>
                (
                    Id: r.GetInt64(0),
                    Sitting: r.GetInt64(1),
                    Theme: r.GetString(2),
                    Note: r.GetString(3),
                    First: Columns.Word(r, 4),
                    Last: Columns.Word(r, 5),
                    Range: Columns.Range(r, 6),
                    Said: r.GetString(8),
                    Length: new MediaTime(r.GetInt64(9)),
                    Who: r.GetString(10),
                    Text: r.GetInt64(11),
                    Grade: r.GetInt32(12)
                ),
            ("$any", question.Together.Count == 0 ? 1 : 0)
        );
        return from b in rows
               where sittings.Of(b.Sitting) is not null
               let sitting = sittings.Of(b.Sitting)!
               where limits.By is null || FindSittings.Holds(b.Who, limits.By)
               where FindSitting.IsAsked(limits, b.Theme, b.Grade)
               where limits.IsLong(b.Length)
               where limits.InStory is not { } shown || shown == sitting.IsInStory(b.Range)
               where limits.Aside is not { } aside || aside == sitting.IsAside(b.Range)
               let apart = fit.Apart($"{b.Theme} · {b.Note}")
               where apart is not null
               select new FoundHit(
                   FoundKind.Bite,
                   sitting.Sitting.ProductionId,
                   sitting.Sitting,
                   (b.First, b.Last),
                   null,
                   b.Range,
                   b.Who,
                   ("", Joined(b.Theme, b.Note), b.Said),
                   b.Id,
                   apart.Value
               )
               {
                   TextId = b.Text,
               };
    }

    private static string Joined(string theme, string note) => theme.Length > 0 && note.Length > 0 ? $"{theme}: {note}" : theme + note;

    private IEnumerable<FoundHit> Flags() =>
        from f in c.Query(
            $"SELECT {Marks.MarkColumns}, s.id FROM sitting s JOIN mark m ON m.transcript_id = s.transcript_id WHERE s.gone = 0 AND "
                + "m.note <> '' AND m.kind IN (SELECT value FROM json_each($kinds)) ORDER BY s.id, m.time_in",
            r => (Mark: Marks.Read(r), Sitting: r.GetInt64(Marks.Count)),
            (
                "$kinds",
                System.Text.Json.JsonSerializer.Serialize(
                    MarkKind.With(MarkUse.Flags).Concat(MarkKind.With(MarkUse.Parts)).Select(k => k.Key)
                )
            )
        )
        where sittings.Of(f.Sitting) is not null
        let apart = fit.Apart(f.Mark.Note)
        where apart is not null
        select new FoundHit(
            FoundKind.Flag,
            sittings.Of(f.Sitting)!.Sitting.ProductionId,
            sittings.Of(f.Sitting)!.Sitting,
            (f.Mark.First, f.Mark.Last),
            null,
            f.Mark.Range,
            f.Mark.Owner,
            ("", f.Mark.Note, ""),
            f.Mark.Id,
            apart.Value
        )
        {
            TextId = sittings.Of(f.Sitting)!.Sitting.TranscriptId,
        };

    private IEnumerable<FoundHit> Titles() =>
        from s in sittings.All
        let apart = fit.Apart(s.Sitting.Title)
        where apart is not null
        select new FoundHit(
            FoundKind.Sitting,
            s.Sitting.ProductionId,
            s.Sitting,
            null,
            null,
            null,
            "",
            ("", s.Sitting.Title, ""),
            s.Sitting.Id,
            apart.Value
        );

    private IEnumerable<FoundHit> Names() =>
        from n in c.Query(
            "SELECT DISTINCT s.id, v.name FROM sitting s JOIN voice_name v ON v.transcript_id = s.transcript_id WHERE s.gone = 0 ORDER "
                + "BY s.id, v.voice",
            r => (Sitting: r.GetInt64(0), Name: r.GetString(1))
        )
        where sittings.Of(n.Sitting) is not null
        let apart = fit.Apart(n.Name)
        where apart is not null
        select new FoundHit(
            FoundKind.Name,
            sittings.Of(n.Sitting)!.Sitting.ProductionId,
            sittings.Of(n.Sitting)!.Sitting,
            null,
            null,
            null,
            n.Name,
            ("", n.Name, "speaks here"),
            null,
            apart.Value
        );

    // Without what was measured of them, which takes long to read: that is asked for by limits alone.
    private sealed record Named(long Id, long Production, long? Sitting, string Name, Core.Media.Labels Labels, string Said);

    private IEnumerable<FoundHit> Sources()
    {
        var isFilmed = question.Limits.AreOfFiles ? sittings.Sources.Where(sittings.IsFilmed).Select(s => s.Id).ToHashSet() : null;
        return from s in c.Query(
                "SELECT id, production_id, sitting_id, name, labels, COALESCE(said, '') FROM source WHERE $p IS NULL OR production_id = $p "
                    + "ORDER BY id",
                r => new Named(r.GetInt64(0), r.GetInt64(1), r.Number(2), r.GetString(3), LabelsText.Read(r.GetString(4)), r.GetString(5)),
                ("$p", sittings.Production)
            )
               where isFilmed?.Contains(s.Id) != false
               where s.Sitting is { } id ? sittings.Of(id) is not null : question.Limits.Sitting is null
               let written = WrittenOn.Of(s.Labels, s.Said)
               let apart = fit.Apart($"{s.Name} {written}")
               where apart is not null
               select new FoundHit(
                   FoundKind.Source,
                   s.Production,
                   s.Sitting is { } of ? sittings.Of(of)!.Sitting : null,
                   null,
                   null,
                   null,
                   "",
                   (s.Name, written, ""),
                   s.Id,
                   apart.Value
               );
    }
}
