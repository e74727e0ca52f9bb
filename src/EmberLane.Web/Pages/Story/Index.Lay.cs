using System.Text.Json;
using EmberLane.Core;
using EmberLane.Core.Import;
using EmberLane.Core.Stories;
using EmberLane.Store;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Story;

/// <content>Pieces laid, moved, changed and taken out, and the stories of the production.</content>
public sealed partial class IndexModel
{
    /// <summary>Lays a bite at a place counted from 0.</summary>
    public IActionResult OnPostLay(long version, long bite, int at) =>
        Kept(bite) is { } kept ? Edit(version, story => new LayCard(table.CardOf(kept, story.Start.Count.Rate), at)) : NotFound();

    /// <summary>Puts a bite beside a card, as another take of it.</summary>
    public IActionResult OnPostBeside(long version, Guid card, long bite) =>
        Kept(bite) is { } kept ? Edit(version, story => Beside(story, card, kept)) : NotFound();

    /// <summary>Lays a bite in place of a card, which becomes another take of it.</summary>
    public IActionResult OnPostInstead(long version, Guid card, long bite) =>
        Kept(bite) is { } kept
            ? Edit(
                version,
                story => new StoryTogether([Beside(story, card, kept), new ShowTake(card, kept.Id, kept.SittingId, kept.Range)])
            )
            : NotFound();

    private static PutBeside Beside(StoredStory story, Guid card, Core.Bites.Bite bite) =>
        PutBeside.Adding(StoryTable.CardIn(story, card), bite.Id)
        ?? throw new EditRefusedException("That bite lies beside the card already, or is the one that it shows.");

    /// <summary>Lays a bite's picture over a card.</summary>
    public IActionResult OnPostOver(long version, Guid card, long bite) =>
        Kept(bite) is { } kept
            ? Edit(
                version,
                _ => new LayOver(
                    card,
                    PictureOf(kept.SittingId, kept.Range)
                        ?? throw new EditRefusedException("No angle rolls all along that bite, so it has no picture to lay over a card.")
                )
            )
            : NotFound();

    /// <summary>Gives a card its own picture back.</summary>
    public IActionResult OnPostNoOver(long version, Guid card) => Edit(version, new LayOver(card, null));

    /// <summary>
    /// Moves a piece to the place that it shall have, counted from 0 without it; a section's heading brings its cards along.
    /// </summary>
    public IActionResult OnPostMove(long version, Guid card, int to) =>
        Edit(
            version,
            story =>
            {
                var others = story.Story.Pieces.RemoveAll(p => p.Id == card);
                return story.Story.Pieces.FirstOrDefault(p => p.Id == card) is not SectionHead || to < 0 || to > others.Count
                    ? new MoveCard(card, to)
                    : StorySections.Move(story.Story, [.. StorySections.Whole(story.Story, card)], to == 0 ? null : others[to - 1].Id);
            }
        );

    /// <summary>Moves a card one place, or a section as one before or behind the next.</summary>
    public IActionResult OnPostStep(long version, Guid card, bool down) =>
        Edit(
            version,
            story =>
                story.Story.IndexOf(card) is >= 0 and var at
                    ? story.Story.Pieces[at] is SectionHead
                        ? StorySections.Step(story.Story, card, down)
                        : at + (down ? 1 : -1) is >= 0 and var to && to < story.Story.Pieces.Count
                            ? new MoveCard(card, to)
                            : null
                    : throw new EditRefusedException("That card is no longer in the story.")
        );

    /// <summary>Shows another take of a card.</summary>
    public IActionResult OnPostOtherTake(long version, Guid card, long bite) =>
        Kept(bite) is { } kept ? Edit(version, new ShowTake(card, kept.Id, kept.SittingId, kept.Range)) : NotFound();

    /// <summary>The lines that were missing beside a card are there, or not wanted.</summary>
    public IActionResult OnPostNoSpace(long version, Guid card) => Edit(version, new FillSpace(card, "", ""));

    /// <summary>Takes a piece out; of a section the heading alone, so that its cards stay.</summary>
    public IActionResult OnPostTakeOut(long version, Guid card) => Edit(version, new TakeOut(card));

    /// <summary>Takes pieces out and closes up, or leaves a space of their length where the first of them was.</summary>
    public IActionResult OnPostTakeAllOut(long version, Guid[] piece, bool space) =>
        Edit(
            version,
            story =>
                space
                    ? StorySections.LeaveSpace(
                        story.Story,
                        piece,
                        story.Start.Count.Rate,
                        s => Desk.CutOf(Production.Id, s),
                        Guid.NewGuid()
                    )
                    : StorySections.TakeOut(story.Story, piece)
        );

    /// <summary>Takes a section out with its cards.</summary>
    public IActionResult OnPostTakeSectionOut(long version, Guid card) =>
        Edit(version, story => StorySections.TakeOut(story.Story, StorySections.Whole(story.Story, card)));

    /// <summary>Folds a section, or opens it.</summary>
    public IActionResult OnPostFold(long version, Guid card) =>
        Edit(
            version,
            story =>
                story.Story.Pieces.FirstOrDefault(p => p.Id == card) is SectionHead head
                    ? new ChangePiece(head with { IsFolded = !head.IsFolded })
                    : throw new EditRefusedException("That section is no longer in the story.")
        );

    /// <summary>
    /// Lays a section, a space, a title or a narration behind a piece, or at the end, or changes the one with this id.
    /// </summary>
    public IActionResult OnPostPiece(long version, string? kind, Guid? card, Guid? behind, string? text, string? length) =>
        Edit(
            version,
            story =>
            {
                var lasting = Typed(length);
                var id = card ?? Guid.NewGuid();
                Piece piece = kind switch
                {
                    "section" => new SectionHead(id, text ?? "", lasting ?? MediaTime.Zero, false),
                    "space" => new Space(id, lasting ?? MediaTime.Zero, text ?? ""),
                    "title" => new TitleCard(id, text ?? "", lasting ?? MediaTime.Zero),
                    "narration" => new Narration(id, text ?? "", lasting ?? MediaTime.Zero),
                    _ => throw new EditRefusedException("Choose what to lay: a section, a space, a title or a narration."),
                };
                return card is null
                    ? LayPiece.Of(piece, story.Story.PlaceBehind(behind))
                    : new ChangePiece(
                        piece is SectionHead head && story.Story.Pieces.FirstOrDefault(p => p.Id == id) is SectionHead { IsFolded: true }
                            ? head with
                            {
                                IsFolded = true,
                            }
                            : piece
                    );
            }
        );

    /// <summary>
    /// Lays a stretch of a file behind a piece, or changes the piece with this id: from one second to another, its level in decibels, its
    /// fades.
    /// </summary>
    public IActionResult OnPostMedia(
        long version,
        Guid? card,
        Guid? behind,
        long source,
        string? from,
        string? to,
        string? level,
        string? fadeIn,
        string? fadeOut
    ) =>
        footage.Source(source) is { } file && MayRead(file.ProductionId)
            ? Edit(
                version,
                story =>
                {
                    var begin = Typed(from) ?? MediaTime.Zero;
                    var end = Typed(to) ?? file.Facts.Duration;
                    if (begin < MediaTime.Zero || end > file.Facts.Duration || begin >= end)
                    {
                        throw new EditRefusedException(
                            $"{file.Name} lasts {file.Facts.Duration}: choose an in and an out within it, the in first."
                        );
                    }
                    if (!decimal.TryParse(level is { Length: > 0 } ? level.Replace('−', '-') : "0", Numbers, Invariant, out var decibels))
                    {
                        throw new EditRefusedException("Type the level in decibels, as −6 or 0.");
                    }
                    var media = new PlainMedia(
                        card ?? Guid.NewGuid(),
                        source,
                        new SourceRange(new SourceTime(begin), new SourceTime(end)),
                        (int)decimal.Round(Math.Clamp(decibels, -1000, 1000) * 10),
                        Typed(fadeIn) ?? MediaTime.Zero,
                        Typed(fadeOut) ?? MediaTime.Zero
                    );
                    return card is null ? new LayPiece(media, story.Story.PlaceBehind(behind)) : new ChangePiece(media);
                }
            )
            : NotFound();

    public IActionResult OnPostAngle(long version, Guid card, long? angle)
    {
        var sitting = Desk.StoryOf(Production, Who).Story.Cards.FirstOrDefault(c => c.Id == card)?.SittingId;
        return angle is null || (sitting is { } id && footage.SourcesOf(id).Any(s => s.Id == angle && s.Facts.Picture is not null))
            ? Edit(version, new ShowAngle(card, angle))
            : NotFound();
    }

    /// <summary>Says over how many seconds a piece dissolves in; none is by a cut.</summary>
    public IActionResult OnPostComesIn(long version, Guid card, string? seconds, bool heard) =>
        Edit(
            version,
            _ =>
                Typed(seconds) is { } lasting && lasting > MediaTime.Zero
                    ? new ComeIn(card, new Dissolve(lasting, heard))
                    : new ComeIn(card, null)
        );

    public IActionResult OnPostUndo(bool redo) => Change(story => stories.Step(story.Id, redo, Who));

    /// <summary>Gives the story in hand another title and target length.</summary>
    public IActionResult OnPostDescribe(string? title, string? target) =>
        Change(story => stories.Apply(story.Id, new DescribeStory(title ?? "", ClockText.Read(target ?? "") ?? MediaTime.Zero), Who));

    /// <summary>How many words a narrator of this production reads in a minute.</summary>
    public IActionResult OnPostPace(int pace) =>
        Change(_ =>
            productions.Choose(
                Production.Id,
                Who,
                FormattableString.Invariant($"narration is read at {pace} words a minute"),
                (
                    Desk.NarrationPace,
                    pace is >= Desk.SlowestPace and <= Desk.FastestPace
                        ? pace.ToString(Invariant)
                        : throw new EditRefusedException(
                            FormattableString.Invariant($"A narrator reads {Desk.SlowestPace} to {Desk.FastestPace} words a minute.")
                        )
                )
            )
        );

    /// <summary>Whether a machine reads the narration of this production's stories.</summary>
    public IActionResult OnPostScratch(bool read) =>
        Change(_ =>
            productions.Choose(
                Production.Id,
                Who,
                read ? "a machine reads the narration" : "the narration is not read",
                (
                    ScratchVoices.Wanted,
                    !read || ScratchVoices.CanRead
                        ? read
                            ? "yes"
                            : "no"
                        : throw new EditRefusedException("No scratch voice is installed: ./ember demo installs Debian’s flite.")
                )
            )
        );

    /// <summary>Begins another story, which is in hand from then on.</summary>
    public IActionResult OnPostNew(string? title) => Change(_ => Desk.NewStory(Production, title ?? "", Who));

    /// <summary>Begins a copy of the story in hand, which stays; the copy is in hand from then on.</summary>
    public IActionResult OnPostCopy(string? title) =>
        Change(story => stories.TakeInHand(Production.Id, stories.Copy(story, title ?? "", Who)));

    public IActionResult OnPostTake(long story) =>
        OnStory(
            story,
            () =>
            {
                stories.PutAway(story, false, Who);
                stories.TakeInHand(Production.Id, story);
            }
        );

    public IActionResult OnPostAway(long story) => OnStory(story, () => stories.PutAway(story, true, Who));

    private IActionResult OnStory(long story, Action change) =>
        stories.Get(story, Who)?.ProductionId == Production.Id ? Change(_ => change()) : NotFound();

    private const System.Globalization.NumberStyles Numbers =
        System.Globalization.NumberStyles.AllowLeadingSign | System.Globalization.NumberStyles.AllowDecimalPoint;

    private static readonly System.Globalization.CultureInfo Invariant = System.Globalization.CultureInfo.InvariantCulture;

    private Core.Bites.Bite? Kept(long bite) =>
        bites.Get(bite) is { } kept && footage.Sitting(kept.SittingId) is { } sitting && MayRead(sitting.ProductionId) ? kept : null;

    // A length as it is typed: a time, or seconds; null for nothing. Throws for what is neither.
    private static MediaTime? Typed(string? text) =>
        string.IsNullOrWhiteSpace(text) ? null
        : ClockText.Read(text) is { } time ? time
        : decimal.TryParse(text, Numbers, Invariant, out var seconds) && seconds is >= 0 and < 1_000_000
            ? MediaTime.FromSecondsRounded(seconds)
        : throw new EditRefusedException($"“{text}” is no time. Type minutes and seconds, as 1:30, or seconds, as 6.");

    // The picture of a stretch of a sitting: of the first angle that rolls all along.
    private OverPicture? PictureOf(long sitting, SittingRange range) =>
        footage
            .SourcesOf(sitting)
            .FirstOrDefault(s => s.Facts.Picture is not null && s.Place is { } place && place.Fill(s.Facts.Duration).Covers(range))
            is { Place: { } at } source
            ? new OverPicture(source.Id, new SourceRange(at.ToSource(range.In), at.ToSource(range.Out)), MediaTime.Zero)
            : null;

    /// <summary>
    /// What the player needs of a piece: for each of its parts sound and picture with seconds in, length and words, as JSON.
    /// </summary>
    public string PlayOf(Piece piece)
    {
        var parts = PlayedOf(piece).ToList();
        if (parts.Count > 0 && Dissolves.TryGetValue(piece.Id, out var laid))
        {
            parts[0] = parts[0] with { Dissolve = Seconds(laid.Seen), Crossfade = Seconds(laid.Heard) };
        }
        return JsonSerializer.Serialize(parts);
    }

    private IEnumerable<PlayedPart> PlayedOf(Piece piece) =>
        piece switch
        {
            Card card => PartsOf(card),
            PlainMedia media =>
            [
                new PlayedPart(
                    Rate.TimeOf(Cut.Frames(piece, Rate)).ToSecondsText(),
                    Part(media.SourceId, media.Range.In, file => file.Facts.Channels > 0),
                    Part(media.SourceId, media.Range.In, file => file.Facts.Picture is not null)
                )
                {
                    Level = Loudness(media.Level),
                    FadeIn = Seconds(media.FadeIn),
                    FadeOut = Seconds(media.FadeOut),
                },
            ],
            SectionHead => [],
            Narration narration when IsRead =>
            [
                new PlayedPart(
                    Rate.TimeOf(Cut.Frames(piece, Rate)).ToSecondsText(),
                    new PlayedFrom($"/media/narration/{Stored.Id}/{piece.Id}?of={ScratchVoices.KeyOf(narration, WordsAMinute)}", "0"),
                    null
                ),
            ],
            _ => [new PlayedPart(Rate.TimeOf(Cut.Frames(piece, Rate)).ToSecondsText(), null, null)],
        };

    /// <summary>How a piece dissolves in, in words; empty where it is cut.</summary>
    public string ComingIn(Piece piece)
    {
        if (piece.ComesIn is not { } wished)
        {
            return "";
        }
        var laid = Dissolves.GetValueOrDefault(piece.Id)?.Seen ?? MediaTime.Zero;
        var isShort = Rate.NearestFrame(laid) < Math.Max(1, Rate.NearestFrame(wished.Lasting));
        var says = $"dissolves in over {Said(wished.Lasting)} s{(wished.IsHeard ? ", the sound too" : "")}";
        return !isShort ? says
            : laid == MediaTime.Zero ? $"{says}: there is nothing to dissolve from, so it is cut"
            : $"{says}: there is only enough for {Said(laid)} s";

        static string Said(MediaTime lasting) => FormattableString.Invariant($"{lasting.ToMillisecondsRounded() / 1000m:0.##}");
    }

    /// <summary>What is played, from so many seconds on.</summary>
    private sealed record PlayedFrom(
        [property: System.Text.Json.Serialization.JsonPropertyName("address")] string Address,
        [property: System.Text.Json.Serialization.JsonPropertyName("at")] string At
    );

    /// <summary>A part as the player takes it.</summary>
    private sealed record PlayedPart(
        [property: System.Text.Json.Serialization.JsonPropertyName("length")] string Length,
        [property: System.Text.Json.Serialization.JsonPropertyName("sound")] PlayedFrom? Sound,
        [property: System.Text.Json.Serialization.JsonPropertyName("picture")] PlayedFrom? Picture
    )
    {
        [System.Text.Json.Serialization.JsonPropertyName("framed")]
        [System.Text.Json.Serialization.JsonIgnore(Condition = System.Text.Json.Serialization.JsonIgnoreCondition.WhenWritingNull)]
        public IReadOnlyList<double>? Framed { get; init; }

        [System.Text.Json.Serialization.JsonPropertyName("level")]
        public double Level { get; init; } = 1;

        [System.Text.Json.Serialization.JsonPropertyName("fadeIn")]
        public double FadeIn { get; init; }

        [System.Text.Json.Serialization.JsonPropertyName("fadeOut")]
        public double FadeOut { get; init; }

        // Seconds in which the picture and the sound of the part before go on under it.
        [System.Text.Json.Serialization.JsonPropertyName("dissolve")]
        public double Dissolve { get; init; }

        [System.Text.Json.Serialization.JsonPropertyName("crossfade")]
        public double Crossfade { get; init; }
    }

    // Tenths of a decibel as a share of the sound as it is; a browser makes nothing louder than that.
    private static double Loudness(int level) => Math.Round(Math.Min(1, Math.Pow(10, level / 200.0)), 4);

    private static double Seconds(MediaTime length) => (double)length.Units / MediaTime.UnitsPerSecond;

    // A part ends where the picture changes, by the camera plan or over the card: each has one picture.
    private IEnumerable<PlayedPart> PartsOf(Card card)
    {
        var sitting = Sittings[card.SittingId];
        var shots = card.Angle is null ? Shots.GetValueOrDefault(card.Id) ?? [] : [];
        var into = MediaTime.Zero;
        foreach (var (frames, shot) in CardFrames.Of(Cut.Of(card), Rate).SelectMany(f => Core.Handoff.AngleShot.Part(f, shots, Rate)))
        {
            foreach (
                var (shown, over) in card.Over is { } picture ? picture.Within(frames.Shown(Rate), into) : [(frames.Shown(Rate), null)]
            )
            {
                var angle = sitting
                    .Angles.Where(a => a.Place is { } p && p.Fill(a.Facts.Duration).Covers(shown))
                    .OrderBy(a => a.Id == card.Angle || shot?.Clips.Contains(a.Id) == true ? 0 : 1)
                    .FirstOrDefault();
                yield return new PlayedPart(
                    shown.Length.ToSecondsText(),
                    Part(sitting.Sound, shown),
                    over is { } from ? Part(card.Over!.SourceId, from, _ => true) : Part(angle, shown)
                )
                {
                    Framed =
                        over is null && angle is not null && shot?.Clips.Contains(angle.Id) == true
                            ? FramedShares.Of(shot.Closer?.Over(shot.Range, shown))
                            : null,
                };
            }
            into += frames.Shown(Rate).Length;
        }
    }

    private PlayedFrom? Part(Core.Handoff.ListedSource? source, SittingRange shown) =>
        source is not null && heard.Of(source.Id) is { } place ? Addressed(source.Id, place.ToSource(shown.In)) : null;

    private PlayedFrom? Part(long source, SourceTime at, Func<Source, bool> has) =>
        footage.Source(source) is { } file && has(file) && cache.IsPlayable(file) ? Addressed(source, at) : null;

    private static PlayedFrom Addressed(long source, SourceTime at) =>
        new(FormattableString.Invariant($"/media/{source}/play"), at.FromZero.ToSecondsText());
}
