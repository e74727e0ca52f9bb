using EmberLane.Core.Captions;
using EmberLane.Core.Speech;
using EmberLane.Core.Stories;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Handoff;

/// <summary>
/// A piece of a story as it leaves: its frames of the record, counted from the story's first; who, about what, what is said or what it is,
/// of which sitting, and what people noted; its words on the story's clock; and the reel and label at which a card's picture begins.
/// </summary>
public sealed record HandedPiece(
    Piece Piece,
    long First,
    long Frames,
    string Who,
    string Theme,
    string Said,
    string Sitting,
    string Note,
    string Reel,
    string SourceIn,
    IReadOnlyList<CaptionWord> Words
);

/// <summary>
/// A source that the story uses. <see cref="Sum"/> is SHA-256 of its first and last 4 MiB, empty for a file that is not there.
/// </summary>
public sealed record HandedSource(
    string Name,
    string Path,
    long Size,
    string Sum,
    MediaTime Duration,
    string Timecode,
    string Reel,
    string Rate,
    bool IsHere
);

/// <summary>
/// All of a story that is handed off: its lists, its pieces, the sources that it uses, and what was found before it left.
/// </summary>
public sealed record HandedStory(
    string Production,
    string Title,
    long Version,
    EditedTimeline Timeline,
    EventList Events,
    IReadOnlyList<HandedPiece> Pieces,
    IReadOnlyList<HandedSource> Sources,
    IReadOnlyList<Check> Checks
)
{
    /// <summary>The label of the story's first frame.</summary>
    public Timecode Start => Timeline.Start;

    /// <summary>How many frames it runs.</summary>
    public long Frames => Pieces.Sum(p => p.Frames);

    /// <summary>What is said in it, in order, on its own clock.</summary>
    public IReadOnlyList<RecognisedWord> Words => [.. Pieces.SelectMany(p => p.Words).Select(w => w.Word)];

    /// <summary>Where its picture is cut, rising.</summary>
    public IReadOnlyList<MediaTime> Cuts =>
        [.. Timeline.Of(TrackKind.Picture).Take(1).SelectMany(t => t.Placed()).Select(p => p.Range.In.FromZero).Distinct()];

    /// <summary>Lists of the picture tracks beside the cut, by the track's name; none where they are not wanted.</summary>
    public IReadOnlyList<(string Name, EventList List)> Further { get; init; } = [];

    /// <summary>What people made of its captions.</summary>
    public CaptionSetup Setup { get; init; } = CaptionSetup.Empty;

    private (IReadOnlyList<HandedPiece> Of, CaptionSetup Setup, CaptionRules Rules, IReadOnlyList<LaidCaption> Made)? captions;

    /// <summary>Its captions, from the story's first frame; made once for the same rules.</summary>
    public IReadOnlyList<Caption> Captions(CaptionRules rules) => [.. Track(rules).Select(c => c.Caption)];

    /// <summary>Those of a language that are translated.</summary>
    public IReadOnlyList<Caption> Captions(CaptionRules rules, string language) =>
        [.. Track(rules, language).Where(c => c.Name is not null).Select(c => c.Caption)];

    /// <summary>Its captions with what people made of them; made once for the same rules.</summary>
    public IReadOnlyList<LaidCaption> Track(CaptionRules rules)
    {
        if (captions is { } known && known.Of == Pieces && known.Setup == Setup && known.Rules == rules)
        {
            return known.Made;
        }
        var made = Track(rules, "");
        captions = (Pieces, Setup, rules, made);
        return made;
    }

    /// <summary>The same in a language.</summary>
    public IReadOnlyList<LaidCaption> Track(CaptionRules rules, string language) =>
        CaptionTrack.Lay([.. Pieces.SelectMany(p => p.Words)], Setup, language, rules, Cuts);

    /// <summary>A file name of its title, without an ending.</summary>
    public string Stem => StemOf(Title);

    /// <summary>A file name of a title, without an ending: what any system and program takes.</summary>
    public static string StemOf(string title) =>
        string.Concat(title.ToLowerInvariant().Select(c => char.IsAsciiLetterOrDigit(c) ? c : '_')).Trim('_') is { Length: > 0 } stem
            ? stem[..Math.Min(stem.Length, 60)]
            : "story";
}
