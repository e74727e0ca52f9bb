namespace EmberLane.Bench;

/// <summary>
/// Made sentences of people who talk about a ferry, a bridge and a town, put together word by word, so that two seldom share more than a
/// word or two. One half of the words is for tuning, the other for the figure that is reported.
/// </summary>
internal sealed class MadeSentences(Random random, bool tuning)
{
    private static readonly string[] Nouns = (
        "rope|anchor|window|plank|bell|crate|timetable|map|barrel|chimney|dress|winch|key|lantern|wheel|pier|gate|clock|ticket|"
        + "basket|drum|blanket|gauge|flag|horse|engine|sack|step|mast|compass|ladder|kettle|stove|letter|boat|bridge|harbour|"
        + "river|mill|school|church|garden|orchard|cellar|roof|bench|table|radio|newspaper|photograph|coat|boot|glove|knife|"
        + "hammer|saw|nail|paint|brush|bucket|hose|pump|valve|pipe|wire|lamp|candle|mirror|piano|violin|song|story|book|page|"
        + "pencil|ledger|coin|wallet|bank|shop|bakery|market|fish|eel|goose|dog|cat|goat|sheep|cow|field|fence|path|road|tunnel|"
        + "train|wagon|truck|tractor|bicycle|balloon|kite|storm|flood|frost|fog|sunrise|winter|summer|festival|wedding|funeral|"
        + "birthday|parade|strike|election|speech|meeting|contract|promise|secret|joke|mistake|accident|rescue|journey|crossing|"
        + "visitor|stranger|neighbour|captain|teacher|doctor"
    ).Split('|');

    private static readonly string[] Verbs = (
        "carried|painted|forgot|sold|repaired|measured|watched|hid|photographed|buried|counted|borrowed|cleaned|wrote|kept|lost|"
        + "invented|described|opened|drew|ordered|tested|bought|feared|pulled|pushed|lifted|dropped|burned|washed|folded|hung|"
        + "tied|untied|broke|built|moved|shared|stole|returned|answered|followed|chased|fed|taught|praised|blamed|thanked|missed|"
        + "noticed|named|renamed|locked|emptied|filled|covered|guarded|polished|stacked|traded|wrapped"
    ).Split('|');

    private static readonly string[] Adjectives = (
        "green|brass|broken|second|wooden|rusty|missing|red|iron|stone|last|wet|old|new|tall|heavy|narrow|empty|golden|silver|"
        + "crooked|quiet|loud|cheap|expensive|secret|painted|frozen|warm|muddy|famous|forgotten|tiny|enormous|square|round|sharp|"
        + "blunt|lucky|cursed|borrowed"
    ).Split('|');

    private static readonly string[] People = (
        "father|mother|sister|brother|uncle|aunt|cousin|grandmother|boss|captain|engineer|teacher|doctor|mayor|postman|painter|"
        + "welder|surveyor|fisherman|baker|boatbuilder|inspector|journalist|apprentice|watchman|neighbour|daughter|son|priest|"
        + "farmer"
    ).Split('|');

    private static readonly string[] Near = ("behind|beside|under|above|near|inside|across|along|against|past").Split('|');

    private static readonly string[] Times = (
        "monday|tuesday|saturday|sunday|spring|autumn|november|april|easter|midnight|noon|dawn|dusk|christmas|midsummer"
    ).Split('|');

    private static readonly string[] Bare = (
        "carry|paint|forget|sell|repair|measure|watch|hide|bury|count|borrow|clean|write|keep|lose|invent|describe|open|draw|"
        + "order|test|buy|fear|pull|push|lift|drop|burn|wash|fold|hang|tie|break|build|move|share|steal|return"
    ).Split('|');

    private static readonly string[] Tails = (
        "and nobody asked|so we stayed|but it was too late|and everyone laughed|which surprised me|and I was furious|"
        + "so he resigned|and that was enough|but she refused|and we sang|which was a relief|so I ran|but who cares|and it rained|"
        + "which took weeks|so they cheered|and he wept|but I waited|which seems odd|and she left"
    ).Split('|');

    private static readonly string[] Openings = (
        "and|so|well|but|then|I remember|you see|they say|I think|the truth is|of course|one day|in those days|back then|"
        + "that year|later on|||||||"
    ).Split('|');

    private static readonly string[] Sayings = (
        "it was a different time|we had no choice|I was very young|nobody knew what to do|it smelled of tar|the water was black|"
        + "I could not believe it|there was a lot of noise|he never came back|they were good people|we were always tired|"
        + "I liked that a lot|it took all day|the coffee was terrible|she laughed at me|nothing is left of it|I dream about it|"
        + "it does not matter now|that was hard|you get used to it|my hands were cold|what can you do|he was a kind man|"
        + "everybody was there|we did not sleep"
    ).Split('|');

    private readonly Queue<string> lately = new();

    /// <summary>A sentence of 3 to 25 words, without marks.</summary>
    public string[] Next() => random.Next(5) == 0 ? Words(Short()) : Long();

    /// <summary>A question of four words or more, without marks.</summary>
    public string[] Question() =>
        Words(
            random.Next(4) switch
            {
                0 => $"why did the {Of(People)} {Of(Bare)} the {Of(Nouns)}",
                1 => $"what did your {Of(People)} say about {Thing()}",
                2 => $"how did you {Of(Bare)} {Thing()} {Place}",
                _ => $"tell me about the {Of(Nouns)} and the {Of(Nouns)}",
            }
        );

    /// <summary>A sentence of at least eight words.</summary>
    public string[] Long() =>
        Words(
            random.Next(5) switch
            {
                0 => $"{Opening} my {Of(People)} {Of(Verbs)} {Thing()} and the {Of(People)} {Of(Verbs)} it {Place} {Tail}",
                1 => $"{Opening} on {Of(Times)} the {Of(People)} {Of(Verbs)} {Thing()} {Place} {Tail}",
                2 => $"{Opening} when the {Of(People)} {Of(Verbs)} {Thing()} we {Of(Verbs)} the {Of(Nouns)} {Tail}",
                3 => $"{Opening} there was {Thing()} {Place} that the {Of(People)} {Of(Verbs)} every {Of(Times)} {Tail}",
                _ => $"{Opening} I {Of(Verbs)} {Thing()} because my {Of(People)} {Of(Verbs)} the {Of(Nouns)} {Place}",
            }
        );

    /// <summary>A thing with its article.</summary>
    public string Thing() => $"{(random.Next(3) == 0 ? "a" : "the")} {(random.Next(2) == 0 ? Of(Adjectives) + " " : "")}{Of(Nouns)}";

    /// <summary>The same again in a person's own way: some words others, some left out, some put in.</summary>
    public string[] Changed(string[] words, double share)
    {
        string[] fillers = ["really", "just", "actually", "simply", "then", "also"];
        var changed = new List<string>();
        foreach (var word in words)
        {
            var dice = random.NextDouble();
            if (dice < share * 0.5)
            {
                changed.Add(Of(random.Next(2) == 0 ? Nouns : Verbs));
            }
            else if (dice < share * 0.75)
            {
                changed.AddRange([fillers[random.Next(fillers.Length)], word]);
            }
            else if (dice >= share)
            {
                changed.Add(word);
            }
        }
        return changed.Count == 0 ? words : [.. changed];
    }

    // The same little sentence does not come again at once.
    private string Short()
    {
        string next;
        do
        {
            next = Of(Sayings);
        } while (lately.Contains(next));
        lately.Enqueue(next);
        if (lately.Count > 8)
        {
            lately.Dequeue();
        }
        return next;
    }

    private string Opening => Of(Openings);

    private string Tail => random.Next(2) == 0 ? Of(Tails) : "";

    private string Place => random.Next(2) == 0 ? $"{Of(Near)} the {Of(Nouns)}" : "";

    private string Of(string[] parts)
    {
        var half = parts.Where((_, i) => i % 2 == (tuning ? 0 : 1)).ToArray();
        return half[random.Next(half.Length)];
    }

    private static string[] Words(string text) => text.Split(' ', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
}
