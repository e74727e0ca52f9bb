using System.Text.Json;
using System.Text.Json.Serialization;

namespace EmberLane.Core.Marks;

/// <summary>What a mark does to what it lies over.</summary>
public enum MarkUse
{
    /// <summary>Its words are out of use and come back when it is taken away.</summary>
    SetsAside,

    /// <summary>
    /// Its time is out of use, and no word with it: it lies between its first and its last word, or around what nobody has written down.
    /// </summary>
    SetsTimeAside,

    /// <summary>It stands before a word, to be found again.</summary>
    Flags,

    /// <summary>Its words were listened to and are right as they stand.</summary>
    Settles,

    /// <summary>
    /// Its stretch is worth keeping: a bite. Bites are changed and taken back on their own page, all others with the text.
    /// </summary>
    Keeps,

    /// <summary>What was found there is no such thing, or shall stay: it is not proposed again.</summary>
    Spares,

    /// <summary>Its stretch is a part of the sitting, whose name is the mark's note.</summary>
    Parts,
}

/// <summary>
/// A kind of mark. A new one is a value here; the store keeps it by its key, and the page has a look for each (<c>MarkLooks</c>). Keys are
/// kept for ever.
/// </summary>
[JsonConverter(typeof(KeyJson))]
public sealed class MarkKind
{
    /// <summary>Set aside by a person.</summary>
    public static readonly MarkKind SetAsideByHand = new("aside.hand", MarkUse.SetsAside, "set aside", MarkLayer.ByHand);

    /// <summary>Said off the record, or asked to be left out.</summary>
    public static readonly MarkKind OffTheRecord = new("aside.off-record", MarkUse.SetsAside, "off the record", MarkLayer.OffTheRecord);

    /// <summary>Another try at what is said elsewhere.</summary>
    public static readonly MarkKind OtherTry = new("aside.retake", MarkUse.SetsAside, "another try", MarkLayer.Retakes);

    /// <summary>Said while looking for words.</summary>
    public static readonly MarkKind Hesitation = new("aside.hesitation", MarkUse.SetsAside, "a hesitation", MarkLayer.Hesitations);

    /// <summary>A pause, or what is too long of it.</summary>
    public static readonly MarkKind Pause = new("aside.pause", MarkUse.SetsTimeAside, "a pause", MarkLayer.Pauses);

    /// <summary>A sound that fills a pause, and that no word stands for.</summary>
    public static readonly MarkKind FilledSound = new("aside.sound", MarkUse.SetsTimeAside, "a hesitation", MarkLayer.Hesitations);

    /// <summary>A pause that stays as long as it is.</summary>
    public static readonly MarkKind LeftPause = new("left.pause", MarkUse.Spares, "a pause that stays");

    /// <summary>Words that are no hesitation.</summary>
    public static readonly MarkKind LeftHesitation = new("left.hesitation", MarkUse.Spares, "no hesitation");

    /// <summary>A sound that is no hesitation.</summary>
    public static readonly MarkKind LeftSound = new("left.sound", MarkUse.Spares, "a sound that stays");

    /// <summary>Words that are no other try at anything.</summary>
    public static readonly MarkKind LeftTry = new("left.retake", MarkUse.Spares, "no retake");

    /// <summary>A spoken cue that was followed, or is none.</summary>
    public static readonly MarkKind LeftCue = new("left.cue", MarkUse.Spares, "a cue that is settled");

    /// <summary>A part of the sitting.</summary>
    public static readonly MarkKind Part = new("part", MarkUse.Parts, "a part");

    /// <summary>A flag: look again.</summary>
    public static readonly MarkKind LookAgain = new("flag.look-again", MarkUse.Flags, "look again");

    /// <summary>A flag: use this.</summary>
    public static readonly MarkKind UseThis = new("flag.use-this", MarkUse.Flags, "use this");

    /// <summary>A flag: leave out.</summary>
    public static readonly MarkKind LeaveOut = new("flag.leave-out", MarkUse.Flags, "leave out");

    /// <summary>A flag: ask about it.</summary>
    public static readonly MarkKind AskAbout = new("flag.ask-about", MarkUse.Flags, "ask about it");

    /// <summary>Found right as it stands.</summary>
    public static readonly MarkKind Settled = new("settled", MarkUse.Settles, "is right");

    /// <summary>Kept as a bite.</summary>
    public static readonly MarkKind Bite = new("bite", MarkUse.Keeps, "kept");

    private MarkKind(string key, MarkUse use, string says, MarkLayer? layer = null) => (Key, Use, Says, Layer) = (key, use, says, layer);

    /// <summary>All kinds, in the order in which a person chooses among them.</summary>
    public static IReadOnlyList<MarkKind> All { get; } =
    [
        SetAsideByHand,
        OffTheRecord,
        OtherTry,
        Hesitation,
        Pause,
        FilledSound,
        LookAgain,
        UseThis,
        LeaveOut,
        AskAbout,
        Settled,
        Bite,
        LeftPause,
        LeftHesitation,
        LeftSound,
        LeftTry,
        LeftCue,
        Part,
    ];

    /// <summary>How it is kept and sent.</summary>
    public string Key { get; }

    /// <summary>What it does to what it lies over.</summary>
    public MarkUse Use { get; }

    /// <summary>As a person reads it.</summary>
    public string Says { get; }

    /// <summary>In which layer it sets aside; null for what sets nothing aside.</summary>
    public MarkLayer? Layer { get; }

    /// <summary>Whether somebody asked that it be left out, so that only a release brings it back.</summary>
    public bool IsHeld => Layer?.IsHeld == true;

    /// <summary>
    /// Whether it comes along to another text of the sitting: over words by their middles, before the word that is said at its moment, or
    /// by its time as it is.
    /// </summary>
    public bool IsCarried => Use is not (MarkUse.Settles or MarkUse.Keeps);

    /// <summary>The kinds that do this.</summary>
    public static IEnumerable<MarkKind> With(MarkUse use) => All.Where(k => k.Use == use);

    /// <summary>The kind with this key; null when there is none.</summary>
    public static MarkKind? Find(string? key) => All.FirstOrDefault(k => k.Key == key);

    /// <inheritdoc/>
    public override string ToString() => Key;

    private sealed class KeyJson : JsonConverter<MarkKind>
    {
        public override MarkKind Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            Find(reader.GetString()) ?? throw new JsonException("There is no such kind of mark.");

        public override void Write(Utf8JsonWriter writer, MarkKind value, JsonSerializerOptions options) =>
            writer.WriteStringValue(value.Key);
    }
}
