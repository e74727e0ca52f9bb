namespace EmberLane.Core.Finding;

/// <summary>Whether short texts fit a question: notes, themes, titles, labels. Each is looked at word by word.</summary>
public sealed class QuestionFit
{
    private readonly FindQuestion question;
    private readonly Inflection inflection;
    private readonly Dictionary<string, string> stems = [];
    private readonly Dictionary<string, string> said = [];

    /// <summary>For texts of a language.</summary>
    public QuestionFit(FindQuestion question, string language) => (this.question, inflection) = (question, new Inflection(language));

    /// <summary>
    /// How far a text is from what was asked, in hundredths of a sound; null where it does not fit. All phrases must stand in it, none of
    /// those that are left out.
    /// </summary>
    public int? Apart(string text)
    {
        var words = FoldedWords.Of(text);
        var apart = 0;
        foreach (var phrase in question.Together.SelectMany(t => t.Phrases))
        {
            if (Nearest(words, phrase) is not { } nearest)
            {
                return null;
            }
            apart += nearest;
        }
        return question.Without.Any(p => Nearest(words, p) is not null) ? null : apart;
    }

    private int? Nearest(IReadOnlyList<string> words, AskedPhrase phrase)
    {
        int? nearest = null;
        for (var i = 0; i + phrase.Words.Count <= words.Count; i++)
        {
            int? apart = 0;
            for (var k = 0; k < phrase.Words.Count && apart is not null; k++)
            {
                apart += Apart(words[i + k], phrase.Words[k]);
            }
            nearest = apart is { } here && !(here >= nearest) ? here : nearest;
        }
        return nearest;
    }

    private int? Apart(string word, AskedWord asked) =>
        word == asked.Key ? 0
        : asked.How == WordFit.Inflected
            ? StemOf(word) == StemOf(asked.Key) ? 0
                : null
        : asked.How == WordFit.Rough ? SoundsLike.Apart(SaidOf(word), SaidOf(asked.Key))
        : null;

    private string StemOf(string word) => stems.TryGetValue(word, out var stem) ? stem : stems[word] = inflection.StemOf(word);

    private string SaidOf(string word) => said.TryGetValue(word, out var known) ? known : said[word] = SoundsLike.Said(word);
}
