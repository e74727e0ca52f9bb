using EmberLane.Core.Edits;

namespace EmberLane.Core.Captions;

/// <summary>What a person does to a caption, each as the captions that stand in its place.</summary>
public static class CaptionFixes
{
    /// <summary>A caption has so many characters at most, and so many lines.</summary>
    public const int LongestText = 500,
        MostLines = 4;

    private static readonly MediaTime Least = MediaTime.FromMilliseconds(100),
        Most = MediaTime.FromMilliseconds(60_000);

    /// <summary>Its text is another. Throws <see cref="EditRefusedException"/> for one that is empty or too long.</summary>
    public static FixedCaption Retype(LaidCaption caption, string? text)
    {
        var lines = (text ?? "").ReplaceLineEndings("\n").Split('\n').Select(TypedText.OneLine).Where(l => l.Length > 0).ToList();
        return lines.Count == 0
                ? throw new EditRefusedException("The caption is empty. Type what shall be read, or give it back its words.")
            : lines.Count > MostLines || lines.Sum(l => l.Length) > LongestText
                ? throw new EditRefusedException(
                    FormattableString.Invariant($"A caption has at most {MostLines} lines and {LongestText} characters. Split it first.")
                )
            : Own(caption) with { Words = caption.Said, Text = string.Join('\n', lines) };
    }

    /// <summary>
    /// It stands from one moment to another, from the begin of what it belongs to. Throws <see cref="EditRefusedException"/> where that is
    /// too short or too long, or leaves a neighbour no time.
    /// </summary>
    public static FixedCaption Move(LaidCaption caption, MediaTime from, MediaTime to, LaidCaption? before, LaidCaption? after)
    {
        if (to - from < Least || to - from > Most)
        {
            throw new EditRefusedException(
                "A caption stands for a tenth of a second to a minute. Type an end that is later than its begin."
            );
        }
        if (from < MediaTime.Zero || (before is not null && from < before.Caption.In + Least))
        {
            throw new EditRefusedException("The caption before it would be gone. Let it begin later, or join the two.");
        }
        if (after is not null && to > after.Caption.Out - Least)
        {
            throw new EditRefusedException("The caption behind it would be gone. Let it end earlier, or join the two.");
        }
        var own = Own(caption);
        return own with
        {
            In = from == caption.Caption.In ? own.In : from - caption.Words[0].Word.Range.In.FromZero,
            Out = to == caption.Caption.Out ? own.Out : to - caption.Words[^1].Word.Range.Out.FromZero,
        };
    }

    /// <summary>
    /// Parts it before a word of its text, from 1 on. Throws <see cref="EditRefusedException"/> where only one word is said in it, or its
    /// text has no such word.
    /// </summary>
    public static IReadOnlyList<FixedCaption> Split(LaidCaption caption, int word, bool isSpoken)
    {
        var own = Own(caption);
        string[] shown = own.Text is null ? [.. caption.Words.Select(w => w.Word.Text)] : WordMerge.WordsOf(caption.Text);
        if (caption.Words.Count < 2 || word < 1 || word >= shown.Length)
        {
            throw new EditRefusedException("There is nothing to split there: each part needs a word that is said in it.");
        }
        var at = own.Text is null ? word : SaidBefore(caption, shown, word, isSpoken);
        return
        [
            Part(0, at) with
            {
                In = own.In,
                Text = own.Text is null ? null : Cut(caption.Text, 0, word),
            },
            Part(at, caption.Words.Count) with
            {
                Out = own.Out,
                Text = own.Text is null ? null : Cut(caption.Text, word, shown.Length),
            },
        ];

        FixedCaption Part(int first, int end)
        {
            var words = caption.Words.Skip(first).Take(end - first).ToList();
            return new FixedCaption(CaptionPlace.Of(words), string.Join(' ', words.Select(w => w.Word.Text)), null, null, null);
        }
    }

    /// <summary>It and the next one are one.</summary>
    public static FixedCaption Join(LaidCaption caption, LaidCaption next)
    {
        var (one, other) = (Own(caption), Own(next));
        List<CaptionWord> words = [.. caption.Words, .. next.Words];
        return new FixedCaption(
            CaptionPlace.Of(words),
            string.Join(' ', words.Select(w => w.Word.Text)),
            one.Text is null && other.Text is null ? null : Joined(caption, next),
            one.In,
            other.Out
        );
    }

    private static FixedCaption Own(LaidCaption caption) =>
        (caption.Fixed ?? new FixedCaption([], "", null, null, null)) with
        {
            Places = CaptionPlace.Of(caption.Words),
            Words = caption.Said,
            // What came through from the words is its text from now on.
            Text = caption.Fixed?.Text is null ? null : caption.Text,
        };

    // Each on lines of their own where two people speak; else as one text, which is broken anew.
    private static string Joined(LaidCaption caption, LaidCaption next) =>
        caption.Words[^1].Word.Voice == next.Words[0].Word.Voice
            ? $"{caption.Text} {next.Text}".ReplaceLineEndings(" ")
            : $"{Dashed(caption.Text)}\n{Dashed(next.Text)}";

    private static string Dashed(string text) =>
        text.StartsWith(CaptionMaker.Dash, StringComparison.Ordinal) ? text : CaptionMaker.Dash + text.ReplaceLineEndings(" ");

    // How many of the words that are said come before a word of the text: by the first that both have from there on, else in proportion.
    private static int SaidBefore(LaidCaption caption, string[] shown, int word, bool isSpoken)
    {
        var at = (int)Math.Round((double)word * caption.Words.Count / shown.Length);
        if (isSpoken)
        {
            var beside = WordMerge.Beside([.. caption.Words.Select(w => w.Word.Text)], shown);
            at = Array.FindIndex(beside, b => b >= word) is >= 0 and var found ? found : at;
        }
        return Math.Clamp(at, 1, caption.Words.Count - 1);
    }

    // Words of a text with the line ends between them.
    private static string Cut(string text, int first, int end)
    {
        var number = 0;
        var lines = new List<string>();
        foreach (var line in text.Split('\n'))
        {
            var words = WordMerge.WordsOf(line);
            var held = words.Where((_, i) => number + i >= first && number + i < end).ToList();
            number += words.Length;
            if (held.Count > 0)
            {
                lines.Add(string.Join(' ', held));
            }
        }
        return string.Join('\n', lines);
    }
}
