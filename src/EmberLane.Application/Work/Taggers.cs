using EmberLane.Engines.Pictures;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>A picture tagger that a person can choose: its key, its name and a word on it.</summary>
public sealed record TaggerChoice(string Key, string Name, string About, ITagger Tagger);

/// <summary>The picture taggers there are, and the one that is chosen.</summary>
public sealed class Taggers(Options options, Settings settings)
{
    private const string Setting = "tagger";

    private static readonly TimeSpan PerPicture = TimeSpan.FromSeconds(30);

    /// <summary>All that a person can choose, the usual one first.</summary>
    public IReadOnlyList<TaggerChoice> All { get; } =
    [
        new(
            "command",
            "A command of yours",
            "A program that gets the path of a JPEG file and answers with tags as JSON. It is set with --tagger-command when Ember Lane "
                + "starts.",
            new CommandTagger(options.TaggerCommand, options.TaggerLimit ?? PerPicture)
        ),
        new(
            "simulated",
            "Simulated tagger",
            "Simulated: it does not see what is shown, it answers with words for the main colours. For trying things out.",
            new SimulatedTagger()
        ),
    ];

    /// <summary>The one that is used.</summary>
    public TaggerChoice Chosen => Find(settings.Get(Setting)) ?? All[0];

    /// <summary>The name of a tagger by its key.</summary>
    public string NameOf(string key) => Find(key)?.Name ?? key;

    /// <summary>Chooses one; a key that there is none of changes nothing.</summary>
    public void Choose(string key)
    {
        if (Find(key) is { } choice)
        {
            settings.Set(Setting, choice.Key);
        }
    }

    private TaggerChoice? Find(string? key) => All.FirstOrDefault(t => t.Key == key);
}
