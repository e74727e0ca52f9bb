using EmberLane.Core.Speech;
using EmberLane.Engines;
using EmberLane.Engines.Speech;
using EmberLane.Engines.Speech.Models;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>A recogniser that a person can choose: its key, its name and a word on it.</summary>
public sealed record RecogniserChoice(string Key, string Name, string About, IRecogniser Recogniser)
{
    /// <summary>The languages that it may be asked for; that it finds out by itself comes first where it does.</summary>
    public IReadOnlyList<SpokenLanguage> Languages { get; } =
    [
        .. Recogniser.Languages?.Contains(SpokenLanguage.Found) == true
            ? [new SpokenLanguage(SpokenLanguage.Found, SpokenLanguage.NameOf(SpokenLanguage.Found))]
            : Array.Empty<SpokenLanguage>(),
        .. SpokenLanguage.All.Where(l => Recogniser.Languages?.Contains(l.Code) ?? true),
    ];
}

/// <summary>The recognisers there are, and the one that is chosen. Speech models come and go with their files.</summary>
public sealed class Recognisers(Options options, Settings settings, SpeechModelFolder models)
{
    private const string Setting = "recogniser",
        Model = "model:";

    /// <summary>Keys of those that are always there.</summary>
    public const string Local = "local",
        OwnCommand = "command",
        Simulated = "simulated";

    /// <summary>How long the simulated service takes for a sound.</summary>
    public static readonly TimeSpan SimulatedTakes = TimeSpan.FromSeconds(2);

    private readonly IReadOnlyList<RecogniserChoice> always =
    [
        new(
            Local,
            "On this machine",
            "pocketsphinx, English. Nothing leaves the machine; it is fast and mishears more than a speech model or a studio's service "
                + "would.",
            new PocketSphinx()
        ),
        new(
            OwnCommand,
            "A command of yours",
            "A program that gets the path of a WAV file and answers with words JSON or WebVTT. It is set with --recogniser-command when "
                + "Ember Lane starts.",
            new CommandRecogniser(options.RecogniserCommand)
        ),
        new(
            Simulated,
            "Simulated service",
            "Simulated: it does not listen, it answers from the demonstration script with made-up mishearings. For trying things out "
                + "without waiting.",
            new SimulatedService(options.ScriptFolder, SimulatedTakes)
        ),
    ];

    /// <summary>All that a person can choose, the usual one first: the largest speech model where there are any.</summary>
    public IReadOnlyList<RecogniserChoice> All =>
        [
            .. models
                .All.Select(f => f.Model)
                .OfType<SpeechModel>()
                .OrderByDescending(m => m.Bytes)
                .Select(m => new RecogniserChoice(Model + m.Path, $"Speech model {m.Name}", AboutOf(m), new ModelRecogniser(m))),
            .. always,
        ];

    /// <summary>A model's size and languages, in words.</summary>
    public static string WordsOf(SpeechModel model) =>
        $"{model.Size}, {Math.Max(1, model.Bytes / 1_000_000)} MB, {(model.KnowsManyLanguages ? "many languages" : "English only")}";

    private static string AboutOf(SpeechModel model) =>
        $"{WordsOf(model)}. Nothing leaves the machine. How many words it mishears was not measured by us.";

    /// <summary>The one that is used where nobody asks for another.</summary>
    public RecogniserChoice Chosen => Find(settings.Get(Setting)) ?? All[0];

    /// <summary>A text was made of another one's words, with the voices found anew.</summary>
    public const string SameWords = "same-words";

    /// <summary>Before the name of a file that a text was brought in from.</summary>
    public const string Brought = "text:";

    /// <summary>How a text was made, for a person; <paramref name="madeBy"/> is as the text keeps it.</summary>
    public string NameOf(string madeBy) =>
        madeBy.StartsWith(Brought, StringComparison.Ordinal) ? $"brought in: {madeBy[Brought.Length..]}"
        : madeBy == SameWords ? "the same words, voices found anew"
        : madeBy.StartsWith(Model, StringComparison.Ordinal) ? $"recognised: Speech model {Path.GetFileName(madeBy)}"
        : $"recognised: {Find(madeBy)?.Name ?? madeBy}";

    /// <summary>The code of the language that is spoken in a sitting; English until somebody chooses.</summary>
    public string LanguageOf(long sittingId) => settings.Get(Language(sittingId)) ?? TranscribeOrder.English;

    /// <summary>Keeps in which language a sitting is recognised next.</summary>
    public void ChooseLanguage(long sittingId, string language) => settings.Set(Language(sittingId), language);

    private static string Language(long sittingId) => FormattableString.Invariant($"language {sittingId}");

    /// <summary>The name of a speech model's file, of a key; null for another key.</summary>
    public static string? FileOfModel(string key) =>
        key.StartsWith(Model, StringComparison.Ordinal) ? Path.GetFileName(key[Model.Length..]) : null;

    /// <summary>How many bytes a speech model has, of its key; 0 for another key, or when its file is gone.</summary>
    public static long BytesOfModel(string key) =>
        key.StartsWith(Model, StringComparison.Ordinal) && new FileInfo(key[Model.Length..]) is { Exists: true } file ? file.Length : 0;

    /// <summary>The one with this key; null when there is none.</summary>
    public RecogniserChoice? Find(string? key) => All.FirstOrDefault(r => r.Key == key);

    /// <summary>
    /// The one that work was asked to be done by; the chosen one where none was named. Throws <see cref="ToolException"/> for a speech
    /// model whose file is gone since: nobody is to be recognised by another one unasked.
    /// </summary>
    public RecogniserChoice For(string key) =>
        Find(key)
        ?? (
            key.StartsWith(Model, StringComparison.Ordinal)
                ? throw new ToolException(
                    $"The speech model {key[Model.Length..]} is not there any more. Put it back and try again, or recognise by another one."
                )
                : Chosen
        );

    /// <summary>Chooses the one that is used from now on; the usual one for a key that is not known.</summary>
    public void Choose(string key) => settings.Set(Setting, (Find(key) ?? All[0]).Key);
}
