using System.Text.Json;
using EmberLane.Core;
using EmberLane.Core.Tidy;
using EmberLane.Store;

namespace EmberLane.Application.Tidying;

/// <summary>A set of settings for pauses under a name.</summary>
public sealed record NamedWish(string Name, PauseWish Wish);

/// <summary>What a production wants tidied, and how; kept with it, in its log, and taken back like its other choices.</summary>
public sealed class TidyWishes(Productions productions)
{
    /// <summary>A production keeps so many sets, cues and phrases, of so many letters, at most.</summary>
    public const int MostSets = 20,
        MostCues = 200,
        MostPhrases = 200,
        LongestName = 60;

    private const string PausesKey = "tidy.pauses",
        SetsKey = "tidy.pause-sets",
        CuesKey = "tidy.cues",
        PhrasesKey = "tidy.phrases";

    /// <summary>How pauses were set aside last.</summary>
    public PauseWish Pauses(long productionId) => Read<PauseWish>(productionId, PausesKey) ?? PauseWish.First;

    /// <summary>The named sets: those that come with the application, and the production's own.</summary>
    public IReadOnlyList<NamedWish> Sets(long productionId) =>
        [.. PauseWish.Sets.Select(s => new NamedWish(s.Name, s.Wish)), .. Read<List<NamedWish>>(productionId, SetsKey) ?? []];

    /// <summary>Remembers how pauses are set aside.</summary>
    public void Remember(long productionId, PauseWish wish, string who)
    {
        if (JsonSerializer.Serialize(Pauses(productionId)) is var before && before != JsonSerializer.Serialize(wish.Checked()))
        {
            Choose(productionId, who, "settings for pauses", PausesKey, wish);
        }
    }

    /// <summary>
    /// Keeps settings under a name, in place of the production's own set of that name. Throws <see cref="EditRefusedException"/> for a name
    /// that is empty, too long or taken by a set that comes with the application, and for one set too many.
    /// </summary>
    public void KeepSet(long productionId, string name, PauseWish wish, string who)
    {
        var called = TypedText.OneLine(name);
        if (called.Length is 0 or > LongestName || PauseWish.Sets.Any(s => Same(s.Name, called)))
        {
            throw new EditRefusedException($"A set needs a name of its own, of at most {LongestName} letters.");
        }
        List<NamedWish> own = [.. (Read<List<NamedWish>>(productionId, SetsKey) ?? []).Where(s => !Same(s.Name, called))];
        if (own.Count == MostSets)
        {
            throw new EditRefusedException($"A production keeps at most {MostSets} sets of its own. Use the name of one that you have.");
        }
        own.Add(new NamedWish(called, wish.Checked()));
        Choose(productionId, who, $"settings for pauses kept as “{called}”", SetsKey, own);
    }

    /// <summary>The cues that are looked for.</summary>
    public IReadOnlyList<SpokenCue> Cues(long productionId) => Read<List<SpokenCue>>(productionId, CuesKey) ?? SpokenCues.English;

    /// <summary>
    /// Looks for these cues from now on. Throws <see cref="EditRefusedException"/> for one without words or with too many, and for too many
    /// of them; the same phrase twice is once.
    /// </summary>
    public void SetCues(long productionId, IReadOnlyList<SpokenCue> cues, string who)
    {
        List<SpokenCue> kept =
        [
            .. cues.Select(c => c with { Phrase = TypedText.OneLine(c.Phrase) })
                .Where(c => c.Phrase.Length > 0)
                .DistinctBy(c => c.Phrase, StringComparer.OrdinalIgnoreCase),
        ];
        if (kept.Count > MostCues)
        {
            throw new EditRefusedException($"A production has at most {MostCues} cues.");
        }
        if (kept.FirstOrDefault(c => !SpokenCues.IsCue(c.Phrase)) is { } odd)
        {
            throw new EditRefusedException($"A cue is one to {SpokenCues.MostWords} words, not “{odd.Phrase}”.");
        }
        Choose(productionId, who, $"{kept.Count} spoken cues", CuesKey, kept);
    }

    /// <summary>Phrases that are hesitations in this production, besides those of its language.</summary>
    public IReadOnlyList<string> Phrases(long productionId) => Read<List<string>>(productionId, PhrasesKey) ?? [];

    /// <summary>
    /// Takes these phrases for hesitations too. Throws <see cref="EditRefusedException"/> for one that is none, and for too many.
    /// </summary>
    public void SetPhrases(long productionId, IReadOnlyList<string> phrases, string who)
    {
        List<string> kept = [.. phrases.Select(TypedText.OneLine).Where(p => p.Length > 0).Distinct(StringComparer.OrdinalIgnoreCase)];
        if (kept.Count > MostPhrases)
        {
            throw new EditRefusedException($"A production has at most {MostPhrases} phrases of its own.");
        }
        HesitationWords.Of("", kept);
        Choose(productionId, who, $"{kept.Count} phrases of its own that are hesitations", PhrasesKey, kept);
    }

    private static bool Same(string one, string other) => one.Equals(other, StringComparison.OrdinalIgnoreCase);

    private void Choose<T>(long productionId, string who, string said, string key, T value) =>
        productions.Choose(productionId, who, said, (key, JsonSerializer.Serialize(value)));

    private T? Read<T>(long productionId, string key)
        where T : class => productions.Setting(productionId, key) is { } text ? JsonSerializer.Deserialize<T>(text) : null;
}
