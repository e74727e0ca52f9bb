using EmberLane.Core.Import;
using EmberLane.Core.Speech;

namespace EmberLane.Core.Tidy;

/// <summary>What a cue does once a person accepts it.</summary>
public enum CueUse
{
    /// <summary>What was said before it is a bite.</summary>
    KeepsBefore,

    /// <summary>What is said after it is a bite.</summary>
    KeepsAfter,

    /// <summary>What was said before it is set aside.</summary>
    SetsAsideBefore,

    /// <summary>A part of the sitting begins.</summary>
    BeginsPart,
}

/// <summary>A phrase that people say to find a place later, and what it does.</summary>
public sealed record SpokenCue(string Phrase, CueUse Use);

/// <summary>A cue that was said: the places of its first and last word, and how alike it is, 0–1.</summary>
public sealed record SaidCue(SpokenCue Cue, int First, int Last, double Score);

/// <summary>
/// Finds cues where somebody says them: as they are written, or nearly so, by words that look or sound alike. A cue of a few words must
/// begin what is said, so that “we use that rope” is none.
/// </summary>
public static class SpokenCues
{
    /// <summary>A cue has at most so many words.</summary>
    public const int MostWords = 8;

    /// <summary>
    /// So alike must what is said be, a cue of two words more so; and two words so alike count for anything, to the eye or the ear.
    /// </summary>
    private const double Alike = 0.78,
        AlikeShort = 0.9,
        WordAlike = 0.65;

    /// <summary>A cue with fewer words must begin a phrase, or stand behind a word or two that lead to it.</summary>
    private const int Few = 4,
        ThreeWords = 3,
        Leading = 2;

    /// <summary>Those that a new production begins with, in English.</summary>
    public static IReadOnlyList<SpokenCue> English { get; } =
    [
        new("use that", CueUse.KeepsBefore),
        new("use this", CueUse.KeepsAfter),
        new("that is the opening", CueUse.KeepsBefore),
        new("that is the ending", CueUse.KeepsBefore),
        new("keep that", CueUse.KeepsBefore),
        new("cut that out", CueUse.SetsAsideBefore),
        new("leave that out", CueUse.SetsAsideBefore),
        new("take that out", CueUse.SetsAsideBefore),
        new("can we leave out", CueUse.SetsAsideBefore),
        new("do not use that", CueUse.SetsAsideBefore),
        new("off the record", CueUse.SetsAsideBefore),
        new("scene one take one", CueUse.BeginsPart),
        new("take one", CueUse.BeginsPart),
    ];

    private static readonly HashSet<string> Leaders = [.. "and so please ok okay you can could we should just yes oh let".Split(' ')];

    private static readonly HashSet<string> Numbers =
    [
        .. "one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen".Split(' '),
        .. "eighteen nineteen twenty".Split(' '),
    ];

    /// <summary>Whether a phrase can be a cue: it has words, and not too many.</summary>
    public static bool IsCue(string phrase) => Expanded(phrase).Length is > 0 and <= MostWords;

    /// <summary>Whether a phrase is a single word that people say all the time: it would be found everywhere.</summary>
    public static bool IsCommon(string phrase) => Expanded(phrase) is [var one] && (CommonWords.Has(one) || one.Length < 4);

    /// <summary>
    /// In order of their places; where two cues fit the same words the longer one. A number word in a cue stands for any number. Cost grows
    /// with the words times the cues.
    /// </summary>
    public static IReadOnlyList<SaidCue> Of(Talk talk, IReadOnlyList<SpokenCue> cues)
    {
        var forms = new Dictionary<string, SoundForm>();
        var likeness = new Dictionary<(string, string), double>();
        var found = new List<SaidCue>();
        var phrases = talk
            .Phrases.Select(p => p.Places.ToArray().Where(w => IsCompared(talk.Words[w].Key)).ToArray())
            .Select(p => (Places: p, Said: p.Select(w => Plain(talk.Words[w].Key)).ToArray()))
            .ToList();
        foreach (var cue in cues)
        {
            var wanted = Expanded(cue.Phrase);
            if (wanted.Length is 0 or > MostWords)
            {
                continue;
            }
            foreach (var (places, said) in phrases)
            {
                var last = wanted.Length < Few ? Math.Min(Leading, said.Length - 1) : said.Length - 1;
                for (var i = 0; i <= last; i++)
                {
                    if (Match(said.AsSpan(i), wanted) is { } match && (i == 0 || wanted.Length >= Few || Leads(said.AsSpan(0, i))))
                    {
                        found.Add(new SaidCue(cue, places[i], places[i + match.Words - 1], match.Score));
                        i += match.Words - 1;
                    }
                }
            }
        }
        return Apart(found);

        (int Words, double Score)? Match(ReadOnlySpan<string> said, string[] wanted)
        {
            (int Words, double Score)? best = null;
            for (var length = wanted.Length - 1; length <= wanted.Length + 1; length++)
            {
                // A word more or less only where there are enough others.
                if (length < 1 || length > said.Length || (length != wanted.Length && wanted.Length < Few))
                {
                    continue;
                }
                var score = Score(said[..length], wanted);
                best =
                    score >= (wanted.Length < ThreeWords ? AlikeShort : Alike) && (best is null || score > best.Value.Score)
                        ? (length, score)
                        : best;
            }
            return best;
        }

        // The likeness of words in order, over the longer one's length.
        double Score(ReadOnlySpan<string> said, string[] wanted)
        {
            var row = new double[wanted.Length + 1];
            foreach (var word in said)
            {
                var diagonal = 0.0;
                for (var j = 1; j <= wanted.Length; j++)
                {
                    var paired = diagonal + Like(word, wanted[j - 1]);
                    diagonal = row[j];
                    row[j] = Math.Max(paired, Math.Max(row[j], row[j - 1]));
                }
            }
            return row[^1] / Math.Max(said.Length, wanted.Length);
        }

        double Like(string said, string wanted)
        {
            if (said == wanted || (Numbers.Contains(wanted) && (Numbers.Contains(said) || said.All(char.IsDigit))))
            {
                return 1;
            }
            if (!likeness.TryGetValue((said, wanted), out var like))
            {
                var alike = SoundsLike.Of(Form(said), Form(wanted));
                likeness[(said, wanted)] = like = alike >= WordAlike ? alike : 0;
            }
            return like;
        }

        SoundForm Form(string key) => forms.TryGetValue(key, out var form) ? form : forms[key] = SoundForm.Of(key);
    }

    // “that’s the opening” is “that is the opening”: neither the “is” nor what is short for it is compared.
    private static string[] Expanded(string phrase) =>
        [.. phrase.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Select(WordErrorRate.Plain).Where(IsCompared).Select(Plain)];

    private static string Plain(string key) => key.EndsWith("'s", StringComparison.Ordinal) ? key[..^2] : key;

    private static bool IsCompared(string key) => key.Length > 0 && key != "is" && !FilledPause.Is(key);

    // “and”, “please”, “can we”: who begins with “we” alone says what is done, and asks for nothing.
    private static bool Leads(ReadOnlySpan<string> words)
    {
        foreach (var word in words)
        {
            if (!Leaders.Contains(word))
            {
                return false;
            }
        }
        return words[^1] is not ("we" or "you") || (words.Length > 1 && words[^2] is "can" or "could" or "should");
    }

    private static List<SaidCue> Apart(List<SaidCue> found)
    {
        var apart = new List<SaidCue>();
        foreach (var one in found.OrderBy(f => f.First).ThenByDescending(f => f.Last))
        {
            if (apart.Count == 0 || apart[^1].Last < one.First)
            {
                apart.Add(one);
            }
        }
        return apart;
    }
}
