namespace EmberLane.Core.Captions;

/// <summary>How well a text parts behind a word: where sense ends, and not behind a word that belongs to the next.</summary>
public static class CaptionBreaks
{
    private static readonly MediaTime Breath = MediaTime.FromMilliseconds(300);

    // English words that lean on what follows them; other languages part by their marks and pauses alone.
    private static readonly HashSet<string> Leaning = Words(
        "a an the my your his her its our their this that these those some any no every each of to in on at by for from "
            + "with about into over under through between and or but nor so if because when while as than which who whose "
            + "where i you he she we they it is are was were be been am have has had do does did will would can could should "
            + "must may might not very too mr mrs dr st"
    );

    private static readonly HashSet<string> Opening = Words(
        "and or but so because when while if which who where that of to in on at by for from with about into over under "
            + "through between than as"
    );

    /// <summary>What parting between two words costs, from 0 (a sentence ends) to 100 (in the middle of what belongs together).</summary>
    public static int Between(string before, string behind, MediaTime pause)
    {
        var last = before.TrimEnd('"', '”', '’', '\'', ')', ']', '»');
        if (last.Length > 0 && last[^1] is '.' or '!' or '?' or '…' or '。' or '！' or '？' or '؟')
        {
            return 0;
        }
        var cost =
            last.Length > 0 && last[^1] is ',' or ';' or ':' or '–' or '—' or '、' or '،' ? 20
            : Opening.Contains(Bare(behind)) ? 45
            : 70;
        cost += Leaning.Contains(Bare(last)) ? 30 : 0;
        return pause >= Breath ? cost / 2 : cost;
    }

    private static string Bare(string word) => word.Trim('"', '“', '”', '‘', '’', '\'', '(', ')', '.', ',', ';', ':', '!', '?', '…');

    private static HashSet<string> Words(string list) => new(list.Split(' '), StringComparer.OrdinalIgnoreCase);
}
