using System.Text;
using EmberLane.Application.Gathering;
using EmberLane.Core;
using EmberLane.Core.Captions;
using EmberLane.Core.Copies;
using EmberLane.Core.Handoff;
using EmberLane.Core.Speech;
using EmberLane.Core.Stories;
using EmberLane.Core.Timeline;
using EmberLane.Core.Transcripts;
using EmberLane.Engines;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>Puts a story together as it leaves, and makes the files of its package.</summary>
public sealed class HandoffDesk(
    Footage footage,
    Store.Transcripts transcripts,
    Store.Bites bites,
    Desk desk,
    OffTheRecord held,
    Store.Captions captions,
    StorySeams seams,
    PictureCentres centres
)
{
    /// <summary>Who is named where a narration is read.</summary>
    public const string Narrator = "Narrator";

    private static readonly UTF8Encoding Utf8 = new(false);

    /// <summary>
    /// A story with the sums of the files that are there, which takes a moment for each.
    /// </summary>
    public static async Task<HandedStory> WithSumsAsync(HandedStory story, CancellationToken cancel)
    {
        var sources = new List<HandedSource>();
        foreach (var source in story.Sources)
        {
            sources.Add(source.IsHere ? source with { Sum = await Fingerprint.OfEndsAsync(source.Path, cancel) } : source);
        }
        return story with { Sources = sources };
    }

    /// <summary>
    /// A story as it leaves, all angles of its cards with it. Throws <see cref="EditRefusedException"/> for a story without pieces, one
    /// that runs past midnight of its timecode, and one in which a file is laid over words that are off the record.
    /// </summary>
    public HandedStory Of(Production production, StoredStory story, ListWay? way = null)
    {
        way ??= new ListWay();
        if (story.Story.Pieces.All(p => p is SectionHead))
        {
            throw new EditRefusedException("The story is empty. Put bites into it first.");
        }
        if (held.LetOut(story) is { Count: > 0 } files)
        {
            throw new EditRefusedException(
                $"{string.Join(", ", files)} is laid as it is over words that are off the record. Shorten or take out that piece in Story, "
                    + "or have somebody release the words under Off the record."
            );
        }
        if (way.AreGapsLeft)
        {
            story = story with { Story = AsSpoken.Of(story.Story, desk.CutOf(story), story.Start.Count.Rate, Guid.NewGuid) };
        }
        var (shown, cut) = (desk.Cards(story), desk.CutOf(story));
        var timeline = desk.TimelineOf(story, new WantedTracks(way.Master is null, true, way.AreTracksApart), shown, way);
        var events = EdlEvents.Of(timeline with { Tracks = [.. timeline.Tracks.Where(t => t.Use == TrackUse.Cut)] }, way.Clock);
        var pieces = PiecesOf(story, events, shown, cut);
        var handed = new HandedStory(
            production.Name,
            story.Title,
            story.Version,
            timeline with
            {
                Markers = MarkersOf(pieces, story.Start.Count.Rate),
            },
            events,
            pieces,
            SourcesOf(timeline, story.Start.Count),
            [.. desk.Checks(production, story), .. HeldBack(production.Id)]
        )
        {
            Setup = held.Leaving(captions.Of(story.Id)),
            Further = way.AreTracksApart ? [.. EdlEvents.Further(timeline, way.Clock).Select(f => (f.Track.Name, f.List))] : [],
        };
        return way.Shape is { } shape ? Narrowed(handed, CopyShape.Named(shape), way.Clock) : handed;
    }

    // Each clip of the cut tells what of its picture is seen in the shape.
    private HandedStory Narrowed(HandedStory story, CopyShape shape, LabelClock clock)
    {
        var rate = story.Start.Count.Rate;
        var speakers = CopyLay.Speakers(story, FrameSpan.Of(story.Pieces, null));
        var sources = new Dictionary<long, CentresOfSource?>();
        var tracks = story
            .Timeline.Tracks.Select(t =>
                t.Kind == TrackKind.Picture && t.Use == TrackUse.Cut
                    ? t with
                    {
                        Items = [.. t.Placed().Select(p => p.Item is Clip clip ? View(clip, p.Range) : p.Item)],
                    }
                    : t
            )
            .ToList();
        var timeline = story.Timeline with { Tracks = tracks };
        return story with
        {
            Timeline = timeline,
            Events = EdlEvents.Of(timeline with { Tracks = [.. tracks.Where(t => t.Use == TrackUse.Cut)] }, clock),
        };

        Clip View(Clip clip, RecordRange range)
        {
            if (clip.Media.SourceId is not { } id || Known(id) is not { } known)
            {
                return clip;
            }
            var first = rate.NearestFrame(range.In.FromZero);
            var seen = new FrameSpan(first, rate.NearestFrame(range.Out.FromZero) - first);
            return clip with
            {
                Narrow = new NarrowView(
                    shape.Name,
                    [.. known.Of(seen, speakers, rate, shape).Select(c => (c.Frames.First - first, c.Centre))]
                ),
            };
        }

        CentresOfSource? Known(long id)
        {
            if (!sources.TryGetValue(id, out var known))
            {
                sources[id] = known = footage.Source(id) is { Facts.Picture: not null } source ? centres.Of(source) : null;
            }
            return known;
        }
    }

    /// <summary>Whether cuts of a story clip words, as far as its sound is measured.</summary>
    public Check ClippedWords(StoredStory story)
    {
        var cut = desk.CutOf(story);
        return HandoffChecks.Words(
            seams.Of(story, desk.Cards(story), cut, desk.Listed(story), desk.ShotsOf(story, cut)),
            story.Story.Cards
        );
    }

    /// <summary>The files of these parts, the page last; captions keep to the rules.</summary>
    public static IReadOnlyList<PackageFile> Files(HandedStory story, IReadOnlyList<PackagePart> parts, CaptionRules rules)
    {
        var wanted = parts.Select(p => p.Name).ToHashSet();
        var files = new List<PackageFile>();
        if (wanted.Contains("edl"))
        {
            files.AddRange(Lists(story.Stem, story.Events));
            files.AddRange(story.Further.SelectMany(f => Lists($"{story.Stem}_{f.Name.Replace(' ', '_')}", f.List)));
        }
        if (wanted.Contains("otio"))
        {
            files.Add(new PackageFile(story.Stem + ".otio", OtioWriter.Bytes(story.Timeline, UrlsOf(story))));
        }
        Add("cuts", "_cuts.csv", () => StoryTables.Cuts(story));
        Add("markers", "_markers.csv", () => StoryTables.Markers(story));
        Add("srt", ".srt", () => CaptionFiles.SubRip(story.Captions(rules)));
        Add("vtt", ".vtt", () => CaptionFiles.WebVtt(story.Captions(rules)));
        foreach (var (language, stem) in LanguageStems(story.Setup.Languages))
        {
            Add("srt", stem + ".srt", () => CaptionFiles.SubRip(story.Captions(rules, language)));
            Add("vtt", stem + ".vtt", () => CaptionFiles.WebVtt(story.Captions(rules, language)));
            Add("translation", $"_translation{stem}.csv", () => StoryTables.Translation(story, rules, language));
        }
        Add("chapters", "_chapters.vtt", () => StoryTables.ChapterCues(story));
        Add("chapters", "_chapters.txt", () => StoryTables.ChapterLines(story));
        if (wanted.Contains("docx"))
        {
            files.Add(new PackageFile(story.Stem + ".docx", StoryDocument.Write(story)));
        }
        Add("txt", ".txt", () => StoryTables.Paper(story));
        Add("translation", "_translation.csv", () => StoryTables.Translation(story, rules, null));
        Add("page", "_read_me.html", () => PackagePage.Write(story, files, rules));
        return files;

        void Add(string part, string ending, Func<string> text)
        {
            if (wanted.Contains(part))
            {
                files.Add(new PackageFile(story.Stem + ending, Utf8.GetBytes(text())));
            }
        }
    }

    private static IEnumerable<PackageFile> Lists(string stem, EventList list)
    {
        var texts = EdlWriter.Write(list);
        return texts.Select(
            (text, i) =>
                new PackageFile(FormattableString.Invariant($"{stem}{(texts.Count > 1 ? $"_{i + 1}" : "")}.edl"), EdlWriter.Bytes(text))
        );
    }

    /// <summary>How the files of each language are called behind the story's name: by its letters, else by number.</summary>
    public static IReadOnlyList<(string Language, string Stem)> LanguageStems(IReadOnlyList<string> languages) =>
        [
            .. languages.Select(
                (language, i) =>
                    string.Concat(language.ToLowerInvariant().Where(char.IsAsciiLetterOrDigit)) is { Length: > 0 } letters
                    && languages.Take(i).All(l => string.Concat(l.ToLowerInvariant().Where(char.IsAsciiLetterOrDigit)) != letters)
                        ? (language, "_" + letters)
                        : (language, FormattableString.Invariant($"_language_{i + 1}"))
            ),
        ];

    /// <summary>The manifest of a package of these files, as a file.</summary>
    public static PackageFile ManifestOf(HandedStory story, IEnumerable<WrittenFile> files) =>
        new(Manifest.FileName, Utf8.GetBytes(Manifest.Write(story, [.. files])));

    private IEnumerable<Check> HeldBack(long production) =>
        held.Of(production).Count is > 0 and var count
            ?
            [
                new Check(
                    true,
                    $"{Many.Of(count, "stretch", "stretches")} off the record {(count == 1 ? "is" : "are")} in nothing that leaves",
                    "Cards leave them out. They are listed under Off the record, which Read leads to."
                )
                {
                    Cure = Cure.OffTheRecord,
                },
            ]
            : [];

    private static Func<TimelineMedia, string> UrlsOf(HandedStory story)
    {
        var urls = story.Sources.ToDictionary(
            s => s.Reel,
            s => "file://" + string.Join('/', s.Path.Split('/').Select(Uri.EscapeDataString))
        );
        return media => urls.GetValueOrDefault(media.Reel) ?? Uri.EscapeDataString(media.FileName);
    }

    private List<HandedPiece> PiecesOf(StoredStory story, EventList events, IReadOnlyDictionary<Guid, ShownCard> shown, StoryCut cut)
    {
        var rate = story.Start.Count.Rate;
        var texts = new Dictionary<long, (long Id, Transcript Text)?>();
        var begins = events.Events.Where(e => e.Track.HasPicture()).DistinctBy(e => e.RecordIn.Frame).ToDictionary(e => e.RecordIn.Frame);
        var pieces = new List<HandedPiece>();
        long first = 0;
        foreach (var piece in story.Story.Pieces)
        {
            var frames = cut.Frames(piece, rate);
            var begin = begins.GetValueOrDefault(story.Start.Frame + first) is { } e && e.Reel != EdlEvents.Black ? e : null;
            var (reel, sourceIn) = frames == 0 || begin is null ? ("", "") : (begin.Reel, begin.SourceIn.ToString());
            pieces.Add(
                piece is Card card && shown[card.Id] is var own
                    ? new HandedPiece(
                        piece,
                        first,
                        frames,
                        own.Speaker,
                        own.Bite.Theme,
                        own.Said,
                        own.Sitting.Title,
                        own.Bite.Note,
                        reel,
                        sourceIn,
                        WordsOf(card, own.Bite, cut, first)
                    )
                    : new HandedPiece(
                        piece,
                        first,
                        frames,
                        piece is Narration ? Narrator : "",
                        "",
                        StoryWords.Named(piece, _ => ""),
                        "",
                        "",
                        reel,
                        sourceIn,
                        piece is Narration read ? CardTalk.Read(read, rate.TimeOf(first), rate.TimeOf(frames), Narrator) : []
                    )
            );
            first += frames;
        }
        return pieces;

        IReadOnlyList<CaptionWord> WordsOf(Card card, Core.Bites.Bite bite, StoryCut cut, long from)
        {
            if (!texts.TryGetValue(card.SittingId, out var text))
            {
                var id = footage.Sitting(card.SittingId)?.TranscriptId ?? bites.Get(card.BiteId)?.TranscriptId;
                texts[card.SittingId] = text = id is { } found ? (found, transcripts.Get(found)) : null;
            }
            return text is not { } known
                ? []
                : CardTalk.Of(card, bite, known.Text, bite.TranscriptId == known.Id, CardFrames.Of(cut.Of(card), rate), rate, from);
        }
    }

    private static List<Marker> MarkersOf(List<HandedPiece> pieces, FrameRate rate)
    {
        var heads = pieces.Where(p => p.Piece is SectionHead).ToList();
        var end = pieces.Sum(p => p.Frames);
        return
        [
            .. heads.Select(
                (h, i) =>
                    new Marker(
                        new RecordRange(
                            new RecordTime(rate.TimeOf(h.First)),
                            new RecordTime(rate.TimeOf(i + 1 < heads.Count ? heads[i + 1].First : end))
                        ),
                        ((SectionHead)h.Piece).Name,
                        ""
                    )
            ),
        ];
    }

    private List<HandedSource> SourcesOf(EditedTimeline timeline, TimecodeCount count)
    {
        var used = timeline.Tracks.SelectMany(t => t.Items).OfType<Clip>().Select(c => c.Media).DistinctBy(m => m.SourceId);
        var sources = new List<HandedSource>();
        foreach (var media in used.OrderBy(m => m.Reel, StringComparer.Ordinal))
        {
            if (media.SourceId is { } id && footage.Source(id) is { } source)
            {
                var isHere = source.State == FileState.Here && File.Exists(source.Path);
                sources.Add(
                    new HandedSource(
                        source.Name,
                        source.Path,
                        source.Size,
                        "",
                        source.Facts.Duration,
                        source.Facts.Start.Label?.ToString() ?? SourceTimecode.For(source.Facts, count).Label(0).ToString(),
                        media.Reel,
                        source.Facts.Picture?.Rate.ToString() ?? "",
                        isHere
                    )
                );
            }
        }
        return sources;
    }
}
