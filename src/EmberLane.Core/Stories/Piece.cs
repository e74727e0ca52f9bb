using System.Text.Json.Serialization;
using EmberLane.Core.Media;

namespace EmberLane.Core.Stories;

/// <summary>
/// What a story is laid of, from top to bottom: cards of bites, spaces, titles, narration, plain media, and the headings of sections. It
/// keeps its id wherever it is moved, also in a copy of the story.
/// </summary>
[JsonDerivedType(typeof(Card), "card")]
[JsonDerivedType(typeof(SectionHead), "section")]
[JsonDerivedType(typeof(Space), "space")]
[JsonDerivedType(typeof(TitleCard), "title")]
[JsonDerivedType(typeof(Narration), "narration")]
[JsonDerivedType(typeof(PlainMedia), "media")]
public abstract record Piece(Guid Id)
{
    /// <summary>The longest name of a section, in characters.</summary>
    public const int LongestName = 120;

    /// <summary>The longest text of a title, a narration or what a space waits for, in characters.</summary>
    public const int LongestText = 4_000;

    /// <summary>No piece lasts longer than a day.</summary>
    public static readonly MediaTime Longest = MediaTime.FromMilliseconds(86_400_000);

    /// <summary>How it comes in; null is by a cut.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public Dissolve? ComesIn { get; init; }

    /// <summary>The piece as it is kept. Throws <see cref="EditRefusedException"/> with a sentence where it is none.</summary>
    internal Piece Checked() =>
        ComesIn is not null && (this is SectionHead || !ComesIn.IsPossible)
            ? throw new EditRefusedException("Only what is seen or heard comes in by a dissolve, of 0.04 to 10 seconds.")
            : Whole();

    /// <summary>The same, of all that only this kind of piece has.</summary>
    private protected virtual Piece Whole() => this;

    /// <summary>Text within a length. Throws <see cref="EditRefusedException"/> that says what is too long.</summary>
    protected static string Text(string text, int longest, string what) =>
        text.Length <= longest
            ? text
            : throw new EditRefusedException(FormattableString.Invariant($"{what} may have {longest} characters; this has {text.Length}."));

    /// <summary>A length above nothing. Throws <see cref="EditRefusedException"/> that says how it is typed.</summary>
    protected static MediaTime Lasting(MediaTime length, string what) =>
        length > MediaTime.Zero && length <= Longest
            ? length
            : throw new EditRefusedException($"{what} needs a length: type it as minutes and seconds, as 0:06, or as seconds, as 6.");
}

/// <summary>
/// The heading of a section, which reaches to the next heading: its name, how long it shall be (zero when nobody said), and whether it is
/// folded.
/// </summary>
public sealed record SectionHead(Guid Id, string Name, MediaTime Target, bool IsFolded) : Piece(Id)
{
    private protected override SectionHead Whole() =>
        TypedText.OneLine(Name) is not { Length: > 0 } name ? throw new EditRefusedException("A section needs a name.")
        : Target < MediaTime.Zero || Target > Longest
            ? throw new EditRefusedException("Type the section's target as minutes and seconds, as 1:30, or leave it empty.")
        : this with { Name = Text(name, LongestName, "The name of a section") };
}

/// <summary>A stretch of the story kept free for pictures: how long, and what it waits for, which may be empty.</summary>
public sealed record Space(Guid Id, MediaTime Length, string WaitsFor) : Piece(Id)
{
    private protected override Space Whole() =>
        this with
        {
            Length = Lasting(Length, "A space"),
            WaitsFor = Text(TypedText.OneLine(WaitsFor), LongestText, "What a space waits for"),
        };
}

/// <summary>Words that are read on the screen.</summary>
public sealed record TitleCard(Guid Id, string Words, MediaTime Length) : Piece(Id)
{
    private protected override TitleCard Whole() =>
        TypedText.OneLine(Words) is { Length: > 0 } words
            ? this with
            {
                Words = Text(words, LongestText, "A title"),
                Length = Lasting(Length, "A title"),
            }
            : throw new EditRefusedException("A title needs words.");
}

/// <summary>
/// Words for a narrator, not recorded yet. Its length is estimated from the number of words, unless somebody gave one (zero when nobody
/// did).
/// </summary>
public sealed record Narration(Guid Id, string Words, MediaTime Length) : Piece(Id)
{
    /// <summary>What narrators read in a minute where the production does not say.</summary>
    public const int WordsAMinute = 150;

    /// <summary>How long it is: the length that was given, or the words at so many a minute, in whole tenths of a second.</summary>
    public MediaTime Lasts(int wordsAMinute) =>
        Length > MediaTime.Zero ? Length : MediaTime.FromMilliseconds(((Count * 600L) + wordsAMinute - 1) / wordsAMinute * 100);

    /// <summary>How many words it has.</summary>
    public int Count => Words.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Length;

    private protected override Narration Whole() =>
        TypedText.OneLine(Words) is { Length: > 0 } words
            ? this with
            {
                Words = Text(words, LongestText, "A narration"),
                Length = Length == MediaTime.Zero ? Length : Lasting(Length, "A narration"),
            }
            : throw new EditRefusedException("A narration needs words.");
}

/// <summary>
/// A stretch of one file as it is: music, a break, a cutaway with its own sound. Its level in tenths of a decibel, and how long it comes in
/// and goes out.
/// </summary>
public sealed record PlainMedia(Guid Id, long SourceId, SourceRange Range, int Level, MediaTime FadeIn, MediaTime FadeOut) : Piece(Id)
{
    /// <summary>The level goes from −60 to +12 dB.</summary>
    public const int Softest = -600,
        Loudest = 120;

    private protected override PlainMedia Whole() =>
        Range.In.FromZero < MediaTime.Zero || Range.Length <= MediaTime.Zero
            ? throw new EditRefusedException("Plain media needs an in and an out within its file, the in first.")
        : Level is < Softest or > Loudest ? throw new EditRefusedException("The level goes from −60 to +12 dB.")
        : FadeIn < MediaTime.Zero || FadeOut < MediaTime.Zero || FadeIn + FadeOut > Range.Length
            ? throw new EditRefusedException("The fades are longer than the piece.")
        : this;
}
