namespace EmberLane.Core.Speech;

/// <summary>
/// A part of a word as a speech model gives it: its letters (a space before the first part of a word), from when to when, and how sure.
/// </summary>
public sealed record SpokenToken(string Text, SourceRange Range, PerMille Sure);

/// <summary>Puts words together from the parts in which a speech model gives them.</summary>
public static class TokenWords
{
    /// <summary>What a model writes for a letter of which it gave only some bytes.</summary>
    private const char Broken = '\uFFFD';

    /// <summary>What encloses noises (“[music]”), which are no words.</summary>
    private static readonly IReadOnlyList<(char Begins, char Ends)> Noises = [('[', ']'), ('(', ')'), ('*', '*'), ('♪', '♪')];

    /// <summary>
    /// The words of a passage with all its letters whole, <paramref name="passage"/>. Where a language writes no spaces
    /// (<paramref name="spaced"/> false) each part is a word. A word is as sure as its least sure part.
    /// </summary>
    public static IReadOnlyList<RecognisedWord> Of(string passage, IReadOnlyList<SpokenToken> tokens, bool spaced)
    {
        var words = new List<RecognisedWord>();
        foreach (var part in WithoutNoises(Whole(passage, tokens)))
        {
            var text = part.Text.Trim();
            if (words.Count == 0 || part.Text.StartsWith(' ') || (!spaced && text.Any(char.IsLetterOrDigit)))
            {
                words.Add(new RecognisedWord(text, part.Range, part.Sure));
            }
            else
            {
                var before = words[^1];
                words[^1] = before with
                {
                    Text = before.Text + text,
                    Range = new SourceRange(before.Range.In, part.Range.Out > before.Range.Out ? part.Range.Out : before.Range.Out),
                    Confidence = Less(before.Confidence, part.Sure),
                };
            }
        }
        return [.. words.Where(w => w.Text.Any(char.IsLetterOrDigit))];
    }

    // Tokens with their letters as they stand in the passage: broken ones, up to the next that is whole, share what lies between.
    private static List<SpokenToken> Whole(string passage, IReadOnlyList<SpokenToken> tokens)
    {
        var whole = new List<SpokenToken>();
        var broken = new List<SpokenToken>();
        var at = 0;
        foreach (var token in tokens)
        {
            if (token.Text.Contains(Broken, StringComparison.Ordinal))
            {
                broken.Add(token);
                continue;
            }
            var next = Math.Max(at, passage.IndexOf(token.Text, at, StringComparison.Ordinal));
            Mend(next);
            whole.Add(token);
            at = Math.Min(passage.Length, next + token.Text.Length);
        }
        Mend(passage.Length);
        return whole;

        void Mend(int next)
        {
            if (broken.Count > 0)
            {
                var range = new SourceRange(broken[0].Range.In, broken.Max(b => b.Range.Out));
                whole.Add(new SpokenToken(passage[at..next], range, broken.Min(b => b.Sure)));
                broken.Clear();
            }
        }
    }

    private static IEnumerable<SpokenToken> WithoutNoises(List<SpokenToken> tokens)
    {
        char? ends = null;
        foreach (var token in tokens)
        {
            var text = token.Text.Trim();
            if (ends is null && Noises.FirstOrDefault(n => text.StartsWith(n.Begins)) is { Ends: not '\0' } noise)
            {
                ends = noise.Ends;
                text = text[1..];
            }
            else if (ends is null)
            {
                yield return token;
            }
            if (ends is { } end && text.Contains(end, StringComparison.Ordinal))
            {
                ends = null;
            }
        }
    }

    private static PerMille? Less(PerMille? a, PerMille b) => a is { } sure && sure < b ? sure : b;
}
