using System.Globalization;
using EmberLane.Core.Pictures;

namespace EmberLane.Core.Finding;

/// <summary>
/// Questions as people type them. <c>compass father</c>: both, in any of their forms, near each other. <c>"turn hollow"</c>: exactly so.
/// <c>~hollow</c>: spelled or sounding nearly so. <c>near(compass father, 5)</c>: within five words. <c>-ferry</c>: not where this is said.
/// Limits: <c>by:maren sitting:hut theme:school grade:2 camera:B day:2026-06-14 kind:bite kept:yes aside:no story:no length:30-60</c>; of
/// pictures <c>light:dark movement:still colour:blue faces:2 size:close like:17/2</c>, the last a file's number and a shot of it.
/// </summary>
public static class QuestionText
{
    /// <summary>Within so many words, where near says no number; and the most that it may say.</summary>
    private const int Near = 8,
        Furthest = FindQuestion.Spread;

    /// <summary>The names of the limits, in the order in which a person reads of them.</summary>
    public static IReadOnlyList<string> Limits { get; } =
    [
        "by",
        "sitting",
        "theme",
        "grade",
        "camera",
        "reel",
        "scene",
        "day",
        "kind",
        "kept",
        "aside",
        "story",
        "length",
        "light",
        "movement",
        "colour",
        "faces",
        "size",
        "like",
    ];

    /// <summary>
    /// Reads a question; with <paramref name="rough"/> plain words are looked for roughly. A quotation mark or bracket that is not closed
    /// goes to the end. Throws <see cref="FormatException"/> with a sentence where there is nothing to look for or a limit says nothing.
    /// </summary>
    public static FindQuestion Read(string text, bool rough = false)
    {
        if (text.Length > FindQuestion.LongestText)
        {
            throw new FormatException($"A question has at most {FindQuestion.LongestText} letters.");
        }
        var reader = new Reader(text, rough ? WordFit.Rough : WordFit.Inflected);
        reader.ReadAll();
        var asked = reader
            .Together.Concat(reader.Without.Select(p => new AskedTogether([p], 1)))
            .Sum(t => t.Phrases.Sum(p => p.Words.Count));
        if (asked > FindQuestion.MostWords)
        {
            throw new FormatException(
                $"A question has at most {FindQuestion.MostWords} words. Ask for fewer, or for a part in quotation marks."
            );
        }
        if (reader.Together.Count == 0 && reader.Limits == new FindLimits())
        {
            throw new FormatException(
                reader.Without.Count > 0
                    ? "What is left out needs something that is looked for: type a word beside it."
                    : "Type a word to look for."
            );
        }
        return new FindQuestion(reader.Together, reader.Without, reader.Limits);
    }

    private sealed class Reader(string text, WordFit plain)
    {
        private int at;

        public List<AskedTogether> Together { get; } = [];

        public List<AskedPhrase> Without { get; } = [];

        public FindLimits Limits { get; private set; } = new();

        public void ReadAll()
        {
            while (Skip())
            {
                var without = Take('-');
                if (!without && TryNear() is { } near)
                {
                    Together.Add(near);
                }
                else if (TryPhrase() is { } phrase)
                {
                    if (without)
                    {
                        Without.Add(phrase);
                    }
                    else
                    {
                        Together.Add(new AskedTogether([phrase], 1));
                    }
                }
            }
        }

        private bool Skip()
        {
            while (at < text.Length && char.IsWhiteSpace(text[at]))
            {
                at++;
            }
            return at < text.Length;
        }

        private bool Take(char c)
        {
            if (at < text.Length && text[at] == c)
            {
                at++;
                return true;
            }
            return false;
        }

        // A phrase, or null where a limit stood there or nothing that holds a letter.
        private AskedPhrase? TryPhrase()
        {
            var isRough = Take('~');
            if (at < text.Length && text[at] is '"' or '“' or '„' or '”')
            {
                return Phrase(Quoted(), isRough ? WordFit.Rough : WordFit.Exact);
            }
            var word = Until(c => char.IsWhiteSpace(c) || c is '"' or '“' or '”' || (c is ')' && depth > 0));
            if (!isRough)
            {
                var colon = word.IndexOf(':', StringComparison.Ordinal);
                if (colon > 0 && QuestionText.Limits.Contains(word[..colon].ToLowerInvariant()))
                {
                    var value = word[(colon + 1)..];
                    SetLimit(
                        word[..colon].ToLowerInvariant(),
                        value.Length == 0 && at < text.Length && text[at] is '"' or '“' ? Quoted() : value
                    );
                    return null;
                }
            }
            return Phrase(word, isRough ? WordFit.Rough : plain);
        }

        private int depth;

        private AskedTogether? TryNear()
        {
            const string word = "near(";
            if (!text.AsSpan(at).StartsWith(word, StringComparison.OrdinalIgnoreCase))
            {
                return null;
            }
            at += word.Length;
            depth++;
            var phrases = new List<AskedPhrase>();
            var within = Near;
            while (Skip() && !Take(')'))
            {
                var from = at;
                var typed = Until(c => char.IsWhiteSpace(c) || c == ')');
                if (phrases.Count > 1 && IsNumber(typed.TrimStart(','), out var number) && (!Skip() || text[at] == ')'))
                {
                    within = Math.Clamp(number, 1, Furthest);
                    continue;
                }
                at = from;
                if (TryPhrase() is { } phrase)
                {
                    phrases.Add(phrase);
                }
                else if (at == from)
                {
                    at++;
                }
            }
            depth--;
            return phrases.Count == 0 ? null : new AskedTogether(phrases, within);
        }

        private static bool IsNumber(string typed, out int number) =>
            int.TryParse(typed, NumberStyles.None, CultureInfo.InvariantCulture, out number);

        private string Until(Func<char, bool> ends)
        {
            var from = at;
            while (at < text.Length && !ends(text[at]))
            {
                at++;
            }
            // A mark that no one opened.
            if (at == from && at < text.Length)
            {
                at++;
                return "";
            }
            return text[from..at];
        }

        private string Quoted()
        {
            var from = ++at;
            while (at < text.Length && text[at] is not ('"' or '”' or '“'))
            {
                at++;
            }
            return text[from..(at < text.Length ? at++ : at)];
        }

        private static AskedPhrase? Phrase(string words, WordFit how) =>
            FoldedWords.Of(words) is { Count: > 0 } keys ? new AskedPhrase([.. keys.Select(k => new AskedWord(k, how))]) : null;

        private void SetLimit(string name, string value)
        {
            var folded = string.Join(' ', FoldedWords.Of(value));
            var picture = Limits.Picture ?? new PictureLimits();
            if (folded.Length == 0)
            {
                throw new FormatException($"“{name}:” needs something behind it, as {Example(name)}.");
            }
            Limits = name switch
            {
                "by" => Limits with { By = folded },
                "sitting" => Limits with { Sitting = folded },
                "theme" => Limits with { Theme = folded },
                "grade" => Limits with { LeastGrade = Grade(folded) },
                "camera" => Limits with { Camera = folded },
                "reel" => Limits with { Reel = folded },
                "scene" => Limits with { Scene = folded },
                "day" => Limits with { Day = value.Trim() },
                "kind" => Limits with { Kind = Kind(folded) },
                "kept" => Limits with { Kept = YesNo(name, folded) },
                "aside" => Limits with { Aside = YesNo(name, folded) },
                "story" => Limits with { InStory = YesNo(name, folded) },
                "light" => Limits with { Picture = picture with { Light = OneOf<ShotLight>(name, folded) } },
                "movement" => Limits with { Picture = picture with { Movement = OneOf<ShotMovement>(name, folded) } },
                "colour" => Limits with { Picture = picture with { Colour = OneOf<PictureColour>(name, folded) } },
                "faces" => Limits with { Picture = picture with { Faces = Count(name, value) } },
                "size" => Limits with { Picture = picture with { Size = OneOf<ShotSize>(name, folded) } },
                "like" => Limits with { Picture = picture with { Like = Shot(value) } },
                _ => Limits with { Length = Span(name, "seconds", value) },
            };
        }

        private static string Example(string name) =>
            name switch
            {
                "kind" => "kind:bite",
                "day" => "day:2026-06-14",
                "length" => "length:30-60",
                "grade" => "grade:2",
                "light" or "movement" or "colour" or "size" => $"{name}:{Pictured(name)}",
                "faces" => "faces:2",
                "like" => "like:17/2",
                "kept" or "aside" or "story" => $"{name}:yes or {name}:no",
                _ => $"{name}:\"two words\"",
            };

        private static string Pictured(string name) =>
            name switch
            {
                "light" => "dark",
                "movement" => "still",
                "colour" => "blue",
                _ => "close",
            };

        private static FoundKind Kind(string value) => OneOf<FoundKind>("kind", value);

        private static T OneOf<T>(string name, string value)
            where T : struct, Enum =>
            Enum.GetValues<T>().Cast<T?>().FirstOrDefault(k => k.ToString()!.Equals(value, StringComparison.OrdinalIgnoreCase))
            ?? throw new FormatException(
                $"“{name}:” takes {string.Join(", ", Enum.GetNames<T>().Select(n => n.ToLowerInvariant()))}, not “{value}”."
            );

        // A file's number and the number of a shot in it.
        private static ShotName Shot(string value) =>
            value.Trim().Split('/') is [var file, var shot]
            && long.TryParse(file, NumberStyles.None, CultureInfo.InvariantCulture, out var source)
            && IsNumber(shot, out var number)
                ? new ShotName(source, number)
                : throw new FormatException($"“like:” takes a file's number and a shot of it, as like:17/2, not “{value}”.");

        private static int Grade(string value) =>
            value is "1" or "2" or "3" ? value[0] - '0' : throw new FormatException($"“grade:” takes 1, 2 or 3, not “{value}”.");

        private static bool YesNo(string name, string value) =>
            value switch
            {
                "yes" => true,
                "no" => false,
                _ => throw new FormatException($"“{name}:” takes yes or no, not “{value}”."),
            };

        // More than two faces are three: where things are counted, the end itself is not meant.
        private static (int, int) Count(string name, string value) =>
            Span(name, "faces", value) is var (least, most) && value.TrimStart().StartsWith('<') ? (least, most - 1)
            : value.TrimStart().StartsWith('>') ? (least + 1, most)
            : (least, most);

        // “30-60”, “<30”, “>60”, “45”.
        private static (int, int) Span(string name, string what, string value)
        {
            var parts = value.Trim().Split('-');
            return parts switch
            {
                [var one] when one.StartsWith('<') && IsNumber(one[1..], out var most) => (0, most),
                [var one] when one.StartsWith('>') && IsNumber(one[1..], out var least) => (least, int.MaxValue),
                [var one] when IsNumber(one, out var exact) => (exact, exact),
                [var from, var to] when IsNumber(from, out var least) && IsNumber(to, out var most) && least <= most => (least, most),
                _ => throw new FormatException(
                    $"“{name}:” takes {what}, as {(name == "faces" ? "2, 1-3 or >2" : "<30, 30-60 or >60")}, not “{value}”."
                ),
            };
        }
    }
}
