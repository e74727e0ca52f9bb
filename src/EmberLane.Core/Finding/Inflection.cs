using System.Collections.Frozen;
using Lucene.Net.Tartarus.Snowball;
using Lucene.Net.Tartarus.Snowball.Ext;

namespace EmberLane.Core.Finding;

/// <summary>
/// What the forms of a word have in common, by language: its Snowball stem, and for English words that change within, their first form’s.
/// </summary>
public sealed class Inflection
{
    private static readonly FrozenDictionary<string, Func<SnowballProgram>> Programs = new Dictionary<string, Func<SnowballProgram>>
    {
        ["ca"] = () => new CatalanStemmer(),
        ["da"] = () => new DanishStemmer(),
        ["nl"] = () => new DutchStemmer(),
        ["en"] = () => new EnglishStemmer(),
        ["fi"] = () => new FinnishStemmer(),
        ["fr"] = () => new FrenchStemmer(),
        ["de"] = () => new German2Stemmer(),
        ["hu"] = () => new HungarianStemmer(),
        ["ga"] = () => new IrishStemmer(),
        ["it"] = () => new ItalianStemmer(),
        ["no"] = () => new NorwegianStemmer(),
        ["nb"] = () => new NorwegianStemmer(),
        ["nn"] = () => new NorwegianStemmer(),
        ["pt"] = () => new PortugueseStemmer(),
        ["ro"] = () => new RomanianStemmer(),
        ["ru"] = () => new RussianStemmer(),
        ["es"] = () => new SpanishStemmer(),
        ["sv"] = () => new SwedishStemmer(),
        ["tr"] = () => new TurkishStemmer(),
    }.ToFrozenDictionary();

    // The first form, and those that no rule makes of it.
    private static readonly FrozenDictionary<string, string> Irregular = (
        "be am is are was were been being; have has had having; do does did done doing; go goes went gone going; say said; "
        + "make made; take took taken; come came; see saw seen; know knew known; get got gotten; give gave given; find found; "
        + "think thought; tell told; become became; leave left; feel felt; bring brought; begin began begun; keep kept; hold "
        + "held; write wrote written; stand stood; hear heard; mean meant; meet met; run ran; pay paid; sit sat; speak spoke "
        + "spoken; lie lay lain; lead led; grow grew grown; lose lost; fall fell fallen; send sent; build built; understand "
        + "understood; draw drew drawn; break broke broken; spend spent; rise rose risen; drive drove driven; buy bought; wear "
        + "wore worn; choose chose chosen; seek sought; throw threw thrown; catch caught; deal dealt; win won; forget forgot "
        + "forgotten; sell sold; fight fought; teach taught; eat ate eaten; sing sang sung; strike struck; hang hung; shake "
        + "shook shaken; ride rode ridden; feed fed; shoot shot; drink drank drunk; swim swam swum; sink sank sunk; blow blew "
        + "blown; fly flew flown; hide hid hidden; wake woke woken; steal stole stolen; freeze froze frozen; swear swore sworn; "
        + "tear tore torn; bend bent; lend lent; sleep slept; sweep swept; weep wept; dig dug; stick stuck; swing swung; spin "
        + "spun; ring rang rung; bear bore borne; bind bound; wind wound; shine shone; slide slid; light lit; man men; woman "
        + "women; child children; foot feet; tooth teeth; goose geese; mouse mice; person people; ox oxen; wife wives; life "
        + "lives; knife knives; leaf leaves; half halves; shelf shelves; thief thieves; wolf wolves; loaf loaves; calf calves; "
        + "self selves; good better best; bad worse worst; far farther further"
    )
        .Split("; ")
        .Select(g => g.Split(' '))
        .SelectMany(g => g.Skip(1).Select(form => (form, g[0])))
        .DistinctBy(p => p.form)
        .ToFrozenDictionary(p => p.form, p => p.Item2);

    private readonly SnowballProgram? program;
    private readonly bool english;

    /// <summary>Of a language by its code (“en”, “en-GB”); of one that is not known, words have one form only.</summary>
    public Inflection(string language)
    {
        var code = language.Split('-')[0].ToLowerInvariant();
        program = Programs.GetValueOrDefault(code)?.Invoke();
        english = code == "en";
    }

    /// <summary>The same for all forms of a folded word. Not for several threads at once.</summary>
    public string StemOf(string word)
    {
        if (program is null)
        {
            return word;
        }
        program.SetCurrent(english ? Irregular.GetValueOrDefault(word, word) : word);
        program.Stem();
        return program.Current;
    }
}
