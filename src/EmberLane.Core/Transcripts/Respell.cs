using System.Globalization;
using EmberLane.Core.Import;

namespace EmberLane.Core.Transcripts;

/// <summary>
/// Writes what is truly said over words that were heard. Each typed word takes the time of the word that it is written over; one typed over
/// several words joins them; several typed over one split its time, unless one of them is that word and there is a gap beside it that the
/// others were missed in.
/// </summary>
public sealed class Respell
{
    private const int MostWords = 200;

    /// <summary>
    /// So alike, of 100, is a typed word to the heard one at least when it is that word and others were missed beside it.
    /// </summary>
    private const int Itself = 50;

    /// <summary>A missed word lasts at least and at most so long, where the gap allows it.</summary>
    private static readonly MediaTime Shortest = MediaTime.FromMilliseconds(80),
        Longest = MediaTime.FromMilliseconds(450);

    private readonly Transcript transcript;
    private readonly RecordWord opens;
    private readonly List<TranscriptEdit> edits = [];

    /// <summary>Places behind which the gap holds missed words already, so that no others are put into the same time.</summary>
    private readonly HashSet<TextPlace> filled = [];

    private WordNumber fresh;

    private Respell(Transcript transcript, RecordWord opens) =>
        (this.transcript, this.opens, fresh) = (transcript, opens, transcript.FreshNumber());

    /// <summary>
    /// The words at these places, both included, are to read so; null when they do already. Throws <see cref="EditRefusedException"/> when
    /// the text is empty or too long, or the places do not exist. Cost grows with the heard times the typed words, of which there are at
    /// most some hundred.
    /// </summary>
    public static TranscriptEdit? Over(Transcript transcript, TextPlace first, TextPlace last, string text)
    {
        var typed = Retype.Fit(text).Split(' ');
        if (!transcript.Has(first) || !transcript.Has(last) || last < first)
        {
            throw new EditRefusedException("Select the words first.");
        }
        var units = transcript.Units(first, last);
        if (units.Count == 0)
        {
            units = Single(transcript.Between(first, last));
        }
        if (units.Count > MostWords)
        {
            throw new EditRefusedException($"That are {units.Count} words; correct at most {MostWords} at once.");
        }
        var respell = new Respell(transcript, units[0][0]);
        respell.Lay(units, typed);
        respell.edits.RemoveAll(e =>
            e is Retype retype && transcript.TextOf(transcript.At(transcript.PlaceOf(retype.Word)!.Value)) == retype.Text
        );
        return respell.edits.Count == 0 ? null : new Together(respell.edits);
    }

    /// <summary>Several texts over several places, none overlapping another, as one edit; null when all read so already.</summary>
    public static TranscriptEdit? All(Transcript transcript, IEnumerable<(TextPlace First, TextPlace Last, string Text)> texts)
    {
        var edits = new List<TranscriptEdit>();
        // From behind, so that places stay true while words are added.
        foreach (var (first, last, text) in texts.OrderByDescending(t => t.First))
        {
            if (Over(transcript, first, last, text) is Together edit)
            {
                transcript = transcript with { Layers = edit.Apply(transcript).Layers };
                edits.AddRange(edit.Edits);
            }
        }
        return edits.Count == 0 ? null : new Together(edits);
    }

    /// <summary>
    /// Words that were missed behind the word at a place, or before the first one, by the voice of the word that they stand beside.
    /// Without a gap there, that word gives some of its time.
    /// </summary>
    public static TranscriptEdit Insert(Transcript transcript, TextPlace after, string text)
    {
        var typed = Retype.Fit(text).Split(' ');
        if (after < TextPlace.BeforeFirst || after > transcript.Last || transcript.Words.Count == 0)
        {
            throw new EditRefusedException("Go to the word first that the missed one stands behind.");
        }
        var beside = transcript.At(after < TextPlace.First ? TextPlace.First : after);
        var respell = new Respell(transcript, beside);
        var ranges =
            respell.Gap(after, typed.Length, fromEnd: false) is { } gap ? Shared(gap, typed)
            : after < TextPlace.First ? [.. typed.Select(_ => new SittingRange(beside.Range.In, beside.Range.In))]
            : Shared(beside.Range, [transcript.TextOf(beside), .. typed])[1..];
        respell.Add(after, transcript.VoiceOf(beside), ranges, typed);
        return new Together(respell.edits);
    }

    private static List<IReadOnlyList<RecordWord>> Single(IEnumerable<RecordWord> words) =>
        [.. words.Select(w => (IReadOnlyList<RecordWord>)[w])];

    private void Lay(IReadOnlyList<IReadOnlyList<RecordWord>> units, string[] typed)
    {
        int unit = 0,
            word = 0;
        foreach (var (toUnit, toWord) in Parts(units, typed))
        {
            var words = units.Skip(unit).Take(toUnit - unit).SelectMany(u => u).ToList();
            var texts = typed[word..toWord];
            if (texts.Length == 1)
            {
                OneOver(words, texts[0]);
            }
            else if (words.Count == 1)
            {
                SeveralOver(words[0], texts);
            }
            else
            {
                // A joined word that is several after all.
                Lay(Single(words), texts);
            }
            (unit, word) = (toUnit, toWord);
        }
    }

    // Divides both into parts of which one side is a single one, so that what stands over one another is as alike as can be. Each part ends
    // before the returned places.
    private List<(int Unit, int Typed)> Parts(IReadOnlyList<IReadOnlyList<RecordWord>> units, string[] typed)
    {
        int n = units.Count,
            k = typed.Length;
        if (n == k)
        {
            return [.. Enumerable.Range(1, n).Select(i => (i, i))];
        }
        var heard = units.Select(u => string.Concat(u.Select(transcript.TextOf))).ToArray();
        var widest = 4 + (Math.Max(n, k) / Math.Min(n, k));
        var best = new double[n + 1, k + 1];
        var from = new (int Unit, int Typed)[n + 1, k + 1];
        for (var i = 0; i <= n; i++)
        {
            for (var j = 0; j <= k; j++)
            {
                best[i, j] = i + j == 0 ? 0 : double.NegativeInfinity;
                for (var wide = 1; wide <= widest; wide++)
                {
                    Try(i, j, i - 1, j - wide);
                    Try(i, j, i - wide, j - 1);
                }
            }
        }
        var parts = new List<(int, int)>();
        for (var at = (Unit: n, Typed: k); at != (0, 0); at = from[at.Unit, at.Typed])
        {
            parts.Insert(0, at);
        }
        return parts;

        void Try(int i, int j, int p, int q)
        {
            if (p < 0 || q < 0 || double.IsNegativeInfinity(best[p, q]))
            {
                return;
            }
            var alike = best[p, q] + ((i - p + j - q) * SoundsLike.Of(string.Concat(heard[p..i]), string.Concat(typed[q..j])));
            if (alike > best[i, j])
            {
                (best[i, j], from[i, j]) = (alike, (p, q));
            }
        }
    }

    // The letters are shared out by those of the words that were heard, which are then one word.
    private void OneOver(List<RecordWord> words, string text)
    {
        var letters = StringInfo.ParseCombiningCharacters(text);
        var oneVoice = words.TrueForAll(w => transcript.VoiceOf(w) == transcript.VoiceOf(words[0]));
        var all = words.Sum(w => transcript.TextOf(w).Length);
        int begin = 0,
            heard = 0;
        Part(words[0]);
        for (var i = 0; i < words.Count; i++)
        {
            if (begin >= letters.Length)
            {
                edits.Add(new HideWord(words[i].Number, true));
                continue;
            }
            heard += transcript.TextOf(words[i]).Length;
            var end = i == words.Count - 1 || !oneVoice ? letters.Length : Math.Max(begin + 1, letters.Length * heard / all);
            if (i > 0 && !transcript.Layers.Joined.Contains(words[i].Number))
            {
                edits.Add(new JoinWord(words[i].Number, true));
            }
            edits.Add(new Retype(words[i].Number, text[letters[begin]..(end < letters.Length ? letters[end] : text.Length)]));
            begin = end;
        }
    }

    private void SeveralOver(RecordWord word, string[] texts)
    {
        var place = transcript.PlaceOf(word.Number)!.Value;
        var voice = transcript.VoiceOf(word);
        var (before, after) = Missed(word, texts);
        if (before > 0 && !filled.Contains(place - 1) && Gap(place - 1, before, fromEnd: true) is { } gapBefore)
        {
            Add(place - 1, voice, Shared(gapBefore, texts[..before]), texts[..before]);
            texts = texts[before..];
        }
        var behind = texts[^after..];
        var gapAfter = after > 0 ? Gap(place, after, fromEnd: false) : null;
        texts = gapAfter is null ? texts : texts[..^after];
        Part(word);
        edits.Add(new Retype(word.Number, texts[0]));
        Add(place, voice, Shared(word.Range, texts)[1..], texts[1..]);
        if (gapAfter is { } gap)
        {
            filled.Add(place);
            Add(place, voice, Shared(gap, behind), behind);
        }
    }

    // How many of the typed words stand before and behind the one that is the word itself; none when they are its parts.
    private (int Before, int After) Missed(RecordWord word, string[] texts)
    {
        var heard = transcript.TextOf(word);
        var alike = texts.Select(t => SoundsLike.Of(t, heard)).ToList();
        var itself = alike.IndexOf(alike.Max());
        return 100 * alike[itself] >= Itself && alike[itself] > SoundsLike.Of(string.Concat(texts), heard)
            ? (itself, texts.Length - 1 - itself)
            : (0, 0);
    }

    // The time between the word at a place and the next one, as far as so many words need it; null when they have no room there.
    private SittingRange? Gap(TextPlace place, int words, bool fromEnd)
    {
        var most = Longest * words;
        var next = place < transcript.Last ? transcript.At(place + 1).Range.In : transcript.At(place).Range.Out + most;
        var from =
            transcript.Has(place) ? transcript.At(place).Range.Out
            : next.FromZero > most ? next - most
            : new SittingTime(next.FromZero < MediaTime.Zero ? next.FromZero : MediaTime.Zero);
        if (next - from < Shortest * words)
        {
            return null;
        }
        return next - from <= most ? new SittingRange(from, next)
            : fromEnd || place < TextPlace.First ? new SittingRange(next - most, next)
            : new SittingRange(from, from + most);
    }

    // A stretch shared out by letters.
    private static SittingRange[] Shared(SittingRange stretch, string[] texts)
    {
        long all = texts.Sum(t => (long)t.Length),
            before = 0;
        SittingTime At(long letters) => stretch.In + new MediaTime(Exact.FloorDivide((Int128)stretch.Length.Units * letters, all));
        return [.. texts.Select(t => new SittingRange(At(before), At(before += t.Length)))];
    }

    private void Add(TextPlace place, int voice, SittingRange[] ranges, string[] texts)
    {
        // Behind a word that was added itself, the record's word before both is the one to name.
        while (transcript.Has(place) && transcript.At(place).Number.Value >= transcript.Record.Count)
        {
            place--;
        }
        var after = transcript.Has(place) ? transcript.At(place).Number : WordNumber.BeforeFirst;
        foreach (var (range, text) in ranges.Zip(texts))
        {
            edits.Add(new AddWord(fresh, after, text, range, voice));
            fresh = fresh.Next;
        }
    }

    // A word that was one with the one before stands alone where it is typed alone.
    private void Part(RecordWord word)
    {
        if (word != opens && transcript.IsJoined(word))
        {
            edits.Add(new JoinWord(word.Number, false));
        }
    }
}
