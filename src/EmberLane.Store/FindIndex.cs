using EmberLane.Core.Finding;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// The entries by which what is said in a sitting is found: stretches of the text that it is read by, cut at every so many words of its
/// record, so that a change of one word touches one stretch or two.
/// </summary>
internal static class FindIndex
{
    /// <summary>So many words of the record are a stretch; it holds so many terms of what comes behind it too.</summary>
    private const int Own = 256,
        Over = FindQuestion.Spread + 2;

    /// <summary>An entry's id is its sitting's times this, and its place.</summary>
    public const long Places = 1 << 12;

    private sealed record Word(string Term, int Number, int Voice);

    /// <summary>
    /// Brings a sitting's entries along, in the transaction of the change; <paramref name="changed"/> is a text that is at hand already.
    /// Looks at nothing where the text has not changed since, unless <paramref name="anew"/>. Returns whether anything was written.
    /// </summary>
    public static bool Refresh(
        SqliteConnection c,
        Transcripts transcripts,
        long sittingId,
        (long Id, Transcript Text)? changed = null,
        bool anew = false
    )
    {
        var known = c.Query(
                "SELECT transcript_id, version FROM find_state WHERE sitting_id = $s",
                r => ((long Text, long Version)?)(r.GetInt64(0), r.GetInt64(1)),
                ("$s", sittingId)
            )
            .SingleOrDefault();
        var current = c.Query(
                "SELECT t.id, t.version, t.language FROM sitting s JOIN transcript t ON t.id = s.transcript_id WHERE s.id = $s",
                r => (Id: r.GetInt64(0), Version: r.GetInt64(1), Language: r.GetString(2)),
                ("$s", sittingId)
            )
            .Select(t => ((long Id, long Version, string Language)?)t)
            .SingleOrDefault();
        if (!anew && known?.Text == current?.Id && known?.Version == current?.Version)
        {
            return false;
        }
        var passages = current is { } read ? Passages(changed is { } at && at.Id == read.Id ? at.Text : transcripts.Get(c, read.Id)) : [];
        var written = Write(c, transcripts.Terms, sittingId, LanguageOf(current?.Language), passages);
        if (current is { } of)
        {
            c.Execute("INSERT OR REPLACE INTO find_state VALUES ($s, $t, $v)", ("$s", sittingId), ("$t", of.Id), ("$v", of.Version));
        }
        else
        {
            c.Execute("DELETE FROM find_state WHERE sitting_id = $s", ("$s", sittingId));
        }
        return written;
    }

    /// <summary>A language as its terms are kept: of one that is not known as of English.</summary>
    public static string LanguageOf(string? language) => string.IsNullOrEmpty(language) ? "en" : language.Split('-')[0].ToLowerInvariant();

    /// <summary>A person's name in one piece, behind a sign that no folded word has.</summary>
    public static string NameKey(string name) => "ⅰ" + string.Concat(FoldedWords.Of(name));

    private sealed record Stretch(int Place, List<Word> Words, int Own, string Who);

    private static List<Stretch> Passages(Transcript text)
    {
        var own = new SortedDictionary<int, List<Word>>();
        var place = 0;
        foreach (var unit in text.Units())
        {
            var number = unit[0].Number.Value;
            // All that is behind a million words is one stretch: ids must not reach into the next sitting's.
            place = number < text.Record.Count ? (int)Math.Clamp(number / Own, place, Places - 1) : place;
            if (!own.TryGetValue(place, out var words))
            {
                own[place] = words = [];
            }
            var voice = text.VoiceOf(unit[0]);
            foreach (var term in FoldedWords.Of(text.Said(unit)))
            {
                words.Add(new Word(term, number, voice));
            }
        }
        var names = text.Voices().ToDictionary(v => v, v => NameKey(text.NameOf(v)));
        var places = own.Where(p => p.Value.Count > 0).ToList();
        return
        [
            .. places.Select(
                (p, i) =>
                    new Stretch(
                        p.Key,
                        [.. p.Value, .. places.Skip(i + 1).Take(Over).SelectMany(next => next.Value).Take(Over)],
                        p.Value.Count,
                        string.Join(' ', p.Value.Select(w => names[w.Voice]).Distinct())
                    )
            ),
        ];
    }

    private static bool Write(SqliteConnection c, TermBook terms, long sittingId, string language, List<Stretch> stretches)
    {
        long first = sittingId * Places;
        var kept = c.Query(
                "SELECT id, print FROM find_entry WHERE id >= $first AND id < $end",
                r => (Id: r.GetInt64(0), Print: r.GetInt64(1)),
                ("$first", first),
                ("$end", first + Places)
            )
            .ToDictionary(e => e.Id, e => e.Print);
        long? mark = null;
        foreach (var stretch in stretches)
        {
            var id = first + stretch.Place;
            var print = Print(language, stretch);
            if (kept.Remove(id, out var was))
            {
                if (was == print)
                {
                    continue;
                }
                c.Execute("DELETE FROM find_text WHERE rowid = $id", ("$id", id));
            }
            var passage = new SaidPassage(
                [.. stretch.Words.Select(w => terms.NumberOf(c, language, w.Term))],
                [.. stretch.Words.Select(w => w.Number)],
                [.. stretch.Words.Select(w => w.Voice)],
                stretch.Own
            ).ToBytes();
            c.Execute(
                "INSERT OR REPLACE INTO find_entry (id, print, passage, mark) VALUES ($id, $print, $passage, $mark)",
                ("$id", id),
                ("$print", print),
                ("$passage", passage),
                ("$mark", mark ??= NextMark(c))
            );
            c.Execute(
                "INSERT INTO find_text (rowid, words) VALUES ($id, $words)",
                ("$id", id),
                ("$words", string.Join(' ', stretch.Words.Select(w => w.Term).Append(stretch.Who)))
            );
        }
        foreach (var gone in kept.Keys)
        {
            c.Execute("DELETE FROM find_text WHERE rowid = $id", ("$id", gone));
            c.Execute("DELETE FROM find_entry WHERE id = $id", ("$id", gone));
            mark ??= NextMark(c);
        }
        return mark is not null;
    }

    private static long NextMark(SqliteConnection c) =>
        c.Query("UPDATE find_mark SET number = number + 1 RETURNING number", r => r.GetInt64(0)).Single();

    // FNV-1a (Fowler, Noll, Vo) of 64 bits over all that an entry is made of: tells what has changed, and guards against nobody.
    private static long Print(string language, Stretch stretch)
    {
        var print = 14695981039346656037UL;
        Add(language);
        Add(stretch.Who);
        Add(stretch.Own.ToString(System.Globalization.CultureInfo.InvariantCulture));
        foreach (var (term, number, voice) in stretch.Words)
        {
            Add(term);
            Mix((ulong)number);
            Mix((ulong)voice);
        }
        return (long)print;

        void Add(string text)
        {
            foreach (var letter in text)
            {
                Mix(letter);
            }
            Mix(0);
        }

        void Mix(ulong value) => print = (print ^ value) * 1099511628211UL;
    }
}
