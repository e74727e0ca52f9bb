using EmberLane.Application.Gathering;
using EmberLane.Core.Copies;
using EmberLane.Core.Handoff;
using EmberLane.Core.Stories;
using EmberLane.Engines;
using EmberLane.Engines.Copies;
using EmberLane.Engines.Speech;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>A copy that was made: how loud it is in LUFS, null where that is not measured, and what of which sittings it holds.</summary>
public sealed record FinishedCopy(double? Loudness, IReadOnlyList<CopyPart> Parts);

/// <summary>Puts together what a copy of a story is made of, and makes it.</summary>
public sealed class CopyDesk(
    Footage footage,
    Desk desk,
    HandoffDesk handoff,
    SittingMics sittingMics,
    ScratchVoices voices,
    PictureCentres centres,
    MediaCache cache,
    SourceFiles files,
    Options options
)
{
    private const int Rate = 48_000;

    private string Folder => Path.Combine(options.Data, "copies");

    /// <summary>Where the file of a copy lies.</summary>
    public string FileOf(StoredCopy copy) => Path.Combine(Folder, FormattableString.Invariant($"{copy.Id}{copy.Wish.Ending}"));

    /// <summary>Whether a copy is made, and its file there whole.</summary>
    public bool IsThere(StoredCopy copy) =>
        copy.Bytes > 0 && new FileInfo(FileOf(copy)) is { Exists: true } file && file.Length == copy.Bytes;

    /// <summary>The name under which a copy is downloaded.</summary>
    public static string DownloadName(StoredCopy copy) =>
        FormattableString.Invariant($"{HandedStory.StemOf(copy.Name)}_v{copy.Version}{copy.Wish.Ending}");

    /// <summary>
    /// Makes a copy of a story as it stands, at <paramref name="output"/>, whole or not at all; no more of it than
    /// <paramref name="most"/>, if that is given. Throws <see cref="FormatException"/>,
    /// <see cref="Core.EditRefusedException"/>, <see cref="ToolException"/> or <see cref="FileNotFoundException"/> with a sentence.
    /// </summary>
    public async Task<FinishedCopy> MakeAsync(
        Production production,
        StoredStory story,
        CopyWish wish,
        string output,
        Action<string, MediaTime, MediaTime>? progress,
        CancellationToken cancel,
        MediaTime? most = null
    )
    {
        var handed = handoff.Of(production, story, new ListWay { Shape = wish.Shape == CopyShape.Wide.Name ? null : wish.Shape });
        var span = FrameSpan.Of(handed.Pieces, wish.Check().Only);
        var rate = story.Start.Count.Rate;
        span = span with { Count = Math.Min(span.Count, most is { } longest ? rate.FrameAtOrAfter(longest) : span.Count) };
        var end = most is null ? wish.EndFrames(rate) : 0;
        var whole = rate.TimeOf(span.Count + end);
        var cut = desk.CutOf(story);
        var heard = CopyLay.Heard(
            handed,
            span,
            card => CardFrames.Of(cut.Of(card), rate),
            voices.IsWanted(production.Id) && ScratchVoices.CanRead
        );
        var seen = wish.Form == CopyForm.Video ? CopyLay.Seen(handed, span) : [];
        var speakers = CopyLay.Speakers(handed, span);
        var parts = new CopyParts(
            await HeardAsync(heard, production, rate, (says, at) => progress?.Invoke(says, at, whole), cancel),
            speakers,
            [
                .. seen.SelectMany(s => SeenOf(s, wish, speakers, rate)),
                .. end > 0 ? [new FramePiece(end, null, FrameRate.R25, default)] : (FramePiece[])[],
            ],
            span.Count + end,
            rate,
            story.Start.Later(span.First),
            wish.Form == CopyForm.Video ? CopyText.Write(handed, span, wish) : ""
        );
        var work = Path.Combine(options.Data, "cache");
        Directory.CreateDirectory(work);
        Directory.CreateDirectory(Path.GetDirectoryName(Path.GetFullPath(output))!);
        var made = Path.Combine(work, FormattableString.Invariant($"copy-{Guid.NewGuid():N}.part"));
        try
        {
            var result = await StoryCopy.MakeAsync(parts, wish, work, made, (says, at) => progress?.Invoke(says, at, whole), cancel);
            await using (var file = new FileStream(made, FileMode.Open, FileAccess.ReadWrite))
            {
                file.Flush(flushToDisk: true);
            }
            File.Move(made, output, overwrite: true);
            return new FinishedCopy(result.Loudness, [.. PartsOf(heard, seen, rate).Distinct()]);
        }
        finally
        {
            File.Delete(made);
        }
    }

    private IEnumerable<CopyPart> PartsOf(IReadOnlyList<HeardStretch> heard, IReadOnlyList<SeenStretch> seen, FrameRate rate)
    {
        foreach (var stretch in heard)
        {
            var lasting = rate.TimeOf(stretch.Frames.Count);
            if (stretch.From is FromSitting of)
            {
                yield return new CopyPart(of.SittingId, new SittingRange(of.At, of.At + lasting));
            }
            else if (stretch.From is FromFile from && PartOf(from.SourceId, from.At, lasting) is { } part)
            {
                yield return part;
            }
        }
        foreach (var stretch in seen.Concat(seen.Select(s => s.Leaving?.Seen).OfType<SeenStretch>()))
        {
            if (stretch.SourceId is { } id && PartOf(id, stretch.At, rate.TimeOf(stretch.Frames.Count)) is { } part)
            {
                yield return part;
            }
        }
    }

    private CopyPart? PartOf(long id, SourceTime at, MediaTime lasting) =>
        footage.Source(id) is { SittingId: { } sitting, Place: { } place }
            ? new CopyPart(sitting, new SittingRange(place.ToSitting(at), place.ToSitting(at + lasting)))
            : null;

    private async Task<IReadOnlyList<SoundPiece>> HeardAsync(
        IReadOnlyList<HeardStretch> stretches,
        Production production,
        FrameRate rate,
        Action<string, MediaTime> progress,
        CancellationToken cancel
    )
    {
        var sittings = new Dictionary<long, (string Path, SittingTime From)?>();
        var pieces = new List<SoundPiece>();
        foreach (var stretch in stretches)
        {
            var found = stretch.From switch
            {
                FromSitting sitting => await SittingAsync(sitting),
                FromFile file => FileOf(file),
                FromNarration read => new SoundPiece(
                    await voices.FileAsync(read.Narration, desk.WordsAMinute(production.Id), cancel),
                    0,
                    1,
                    null,
                    read.At,
                    0,
                    0
                ),
                _ => null,
            };
            if (found is { } piece)
            {
                long first = Samples(stretch.Frames.First),
                    end = Samples(stretch.Frames.End);
                pieces.Add(
                    piece with
                    {
                        First = first,
                        Count = end - first,
                        Level = stretch.Level,
                        FadeIn = (int)stretch.FadeIn.ToSamplesFloor(Rate),
                        FadeOut = (int)stretch.FadeOut.ToSamplesFloor(Rate),
                    }
                );
            }
        }
        return pieces;

        long Samples(long frame) => rate.TimeOf(frame).ToSamplesFloor(Rate);

        async Task<SoundPiece?> SittingAsync(FromSitting of)
        {
            if (!sittings.TryGetValue(of.SittingId, out var sound))
            {
                sittings[of.SittingId] = sound = await SoundOfAsync(of.SittingId, progress, cancel);
            }
            return sound is var (path, from)
                ? new SoundPiece(path, 0, 1, null, of.At - from, 0, 0) { Room = FormattableString.Invariant($"sitting {of.SittingId}") }
                : null;
        }
    }

    // The mix of a sitting, made where it is not there yet, and where it begins; null for one without sound.
    private async Task<(string Path, SittingTime From)?> SoundOfAsync(long id, Action<string, MediaTime> progress, CancellationToken cancel)
    {
        if (footage.Sitting(id) is not { } sitting || sittingMics.Of(sitting) is not { Placed.Count: > 0 } mics)
        {
            return null;
        }
        var path = cache.SittingSound(mics.Key);
        if (!cache.IsWhole(path))
        {
            foreach (var source in mics.Sources)
            {
                files.Open(source);
            }
            await cache.MakeAsync(
                path,
                output =>
                    SittingSound.MakePlayableAsync(mics.Placed, output, at => progress("mixing the mics of " + sitting.Title, at), cancel)
            );
        }
        return (path, SittingSound.Extent(mics.Placed).In);
    }

    private SoundPiece? FileOf(FromFile from)
    {
        if (footage.Source(from.SourceId) is not { Facts.Channels: > 0 } source)
        {
            return null;
        }
        // Of channels that lie in several tracks, those of the first one's.
        var some = (from.Channels ?? [1]).Select(c => source.Facts.Locate(c - 1)).ToList();
        var track = some[0].Track;
        var channels = from.Channels is null ? null : some.Where(c => c.Track == track).Select(c => c.Channel).ToList();
        return new SoundPiece(files.Open(source), track.Index, track.Channels, channels, from.At.FromZero, 0, 0)
        {
            Room = from.Channels is null ? "" : FormattableString.Invariant($"file {source.Id} {string.Join('+', from.Channels)}"),
        };
    }

    private IEnumerable<FramePiece> SeenOf(SeenStretch seen, CopyWish wish, IReadOnlyList<SpeakerRun> speakers, FrameRate rate)
    {
        if (seen.Leaving is { } leaving)
        {
            // The middle of a narrower shape stays while one dissolves into the other.
            var comes = SeenOf(seen with { Leaving = null }, wish, speakers, rate).First() with
            {
                Frames = seen.Frames.Count,
            };
            var goes = SeenOf(leaving.Seen, wish, speakers, rate).First() with { Frames = seen.Frames.Count };
            return [comes with { Under = (goes, leaving) }];
        }
        if (seen.SourceId is not { } id || footage.Source(id) is not { Facts.Picture: { } picture } source)
        {
            return [new FramePiece(seen.Frames.Count, null, FrameRate.R25, default)];
        }
        var path = wish.IsFromSources || !cache.IsWhole(cache.Playing(source)) ? files.Open(source) : cache.Playing(source);
        var whole = new FramePiece(seen.Frames.Count, path, picture.Rate, seen.At);
        if (wish.Shape == CopyShape.Wide.Name)
        {
            return [whole with { Framed = seen.Framed }];
        }
        // Other shapes are cut tighter than any punch-in by what they are.
        return centres
            .Of(source)
            .Of(seen.Frames, speakers, rate, wish.Size)
            .Select(p => new FramePiece(p.Frames.Count, path, picture.Rate, seen.At + rate.TimeOf(p.Frames.First - seen.Frames.First))
            {
                Centre = p.Centre,
            });
    }
}
