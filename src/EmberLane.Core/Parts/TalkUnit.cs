using EmberLane.Core.Finding;
using EmberLane.Core.Tidy;

namespace EmberLane.Core.Parts;

/// <summary>
/// What one voice says in one go, as parts are looked for in it: the places of its first and last word in the talk, its voice, the terms
/// that tell what it is about (by number, from 0, each as often as it is said), whether it asks, and how long nobody speaks before it.
/// </summary>
public sealed record TalkUnit(int First, int Last, int Voice, IReadOnlyList<int> Terms, bool Asks, MediaTime PauseBefore);

/// <summary>
/// A talk in units, with its terms: words in whatever form, without those that are said everywhere. How each is written is the form in
/// which it is said most often.
/// </summary>
public sealed class TalkUnits
{
    /// <summary>A term in more than one of so many units tells nothing; counted in talk of at least so many units.</summary>
    private const int Everywhere = 5,
        Least = 20;

    /// <summary>A word with fewer letters tells nothing.</summary>
    private const int Letters = 3;

    private TalkUnits(IReadOnlyList<TalkUnit> units, IReadOnlyList<string> terms) => (Units, Terms) = (units, terms);

    /// <summary>The units, in order.</summary>
    public IReadOnlyList<TalkUnit> Units { get; }

    /// <summary>How each term is written.</summary>
    public IReadOnlyList<string> Terms { get; }

    /// <summary>Of a talk in a language. Linear in its words.</summary>
    public static TalkUnits Of(Talk talk, string language)
    {
        var inflection = new Inflection(language);
        var numbers = new Dictionary<string, int>();
        var written = new List<Dictionary<string, int>>();
        var said = talk
            .Phrases.Select(p =>
                p.Places.ToArray().SelectMany(place => FoldedWords.Of(talk.Words[place].Text)).Where(Tells).Select(NumberOf).ToList()
            )
            .ToList();
        var within = new int[written.Count];
        foreach (var term in said.SelectMany(s => s.Distinct()))
        {
            within[term]++;
        }
        var end = MediaTime.Zero;
        var units = new List<TalkUnit>();
        foreach (var (phrase, terms) in talk.Phrases.Zip(said))
        {
            var first = talk.Words[phrase.First];
            units.Add(
                new TalkUnit(
                    phrase.First,
                    phrase.Last,
                    first.Voice,
                    [.. terms.Where(t => said.Count < Least || within[t] * Everywhere < said.Count)],
                    talk.Words[phrase.Last].Asks,
                    units.Count == 0 ? MediaTime.Zero : MediaTime.Max(MediaTime.Zero, first.In - end)
                )
            );
            end = MediaTime.Max(end, talk.Words[phrase.Last].Out);
        }
        return new TalkUnits(units, [.. written.Select(forms => forms.MaxBy(f => (f.Value, f.Key)).Key)]);

        static bool Tells(string word) => word.Length >= Letters && !CommonWords.Has(word) && !word.All(char.IsDigit);

        int NumberOf(string word)
        {
            var stem = inflection.StemOf(word);
            if (!numbers.TryGetValue(stem, out var number))
            {
                numbers[stem] = number = written.Count;
                written.Add([]);
            }
            written[number][word] = written[number].GetValueOrDefault(word) + 1;
            return number;
        }
    }
}
