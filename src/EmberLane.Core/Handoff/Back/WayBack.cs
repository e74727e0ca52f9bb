using EmberLane.Core.Stories;

namespace EmberLane.Core.Handoff.Back;

/// <summary>
/// A story as it came back: its pieces in the order of the returned list, and the reels that are of no known source. Cards that are new
/// have no bite yet: their <see cref="Card.BiteId"/> is <see cref="WayBack.NoBite"/>.
/// </summary>
public sealed record ReturnedStory(IReadOnlyList<Piece> Pieces, IReadOnlyList<string> Unknown);

/// <summary>Makes a story of a list that an editor changed, with the pieces that it was laid of wherever they are still there.</summary>
public static class WayBack
{
    /// <summary>The bite of a card that is not of one yet.</summary>
    public const long NoBite = 0;

    /// <summary>
    /// The story as <paramref name="came"/> has it; <paramref name="was"/> are the runs of the list that left, read the same way, and
    /// <paramref name="newId"/> gives ids. What differs by no frame stays as it is, to the unit; an end that was moved moves by whole
    /// frames. Headings stay before the piece that they stood before. A dissolve that is as it was
    /// stays to the unit too; one that was made, changed or taken out is. Grows with runs times pieces.
    /// </summary>
    public static ReturnedStory Of(BackList came, BackList was, Story story, StoryCut cut, Func<Guid> newId) =>
        new Returning(story, cut, newId, was).Of(came);

    // A part of the story as it left: of which piece, and its run.
    private sealed record Part(Piece Piece, int Number, int Of, BackRun Run);

    private sealed class Returning(Story story, StoryCut cut, Func<Guid> newId, BackList left)
    {
        private readonly IReadOnlyList<BackRun> was = left.Runs;

        private readonly FrameRate rate = story.Start.Count.Rate;

        // Where rows of parts begin that stand for a nothing already.
        private readonly HashSet<int> told = [];

        public ReturnedStory Of(BackList list)
        {
            var parts = Parts();
            var came = list.Runs;
            var runs = came.SelectMany(r => r.IsEmpty ? PartedNothing(r, parts) : Parted(r, parts)).ToList();
            var matched = Matched(runs, parts);
            var pieces = new List<Piece>();
            var used = new HashSet<Guid>();
            for (var i = 0; i < runs.Count;)
            {
                var (run, part) = (runs[i], matched[i]);
                if (part is null)
                {
                    pieces.AddRange(Fresh(run).Select(f => f with { ComesIn = list.Dissolves.GetValueOrDefault(run.First) }));
                    i++;
                    continue;
                }
                // The parts of one card, one behind the other, are that card.
                var last = i;
                while (
                    last + 1 < runs.Count
                    && matched[last + 1] is { } next
                    && next.Piece == part.Piece
                    && next.Number == matched[last]!.Number + 1
                )
                {
                    last++;
                }
                var piece = ComingIn(Changed(part, run, matched[last]!, runs[last]), part, list.Dissolves.GetValueOrDefault(run.First));
                pieces.Add(used.Add(piece.Id) ? piece : Copied(piece));
                i = last + 1;
            }
            return new ReturnedStory(WithHeads(pieces), [.. came.Select(r => r.Unknown).Where(u => u.Length > 0).Distinct()]);
        }

        // Where each part of each piece lay in the record, and what was there.
        private List<Part> Parts()
        {
            var parts = new List<Part>();
            long first = 0;
            foreach (var piece in cut.Pieces)
            {
                if (piece is Card card)
                {
                    var frames = CardFrames.Of(cut.Of(card), rate);
                    foreach (var (i, f) in frames.Index())
                    {
                        parts.Add(new Part(piece, i, frames.Count, At(first, f.Count) ?? Own(card, f, first)));
                        first += f.Count;
                    }
                }
                else if (cut.Frames(piece, rate) is > 0 and var count)
                {
                    parts.Add(new Part(piece, 0, 1, At(first, count) ?? new BackRun(first, first + count, null, null, 0, "")));
                    first += count;
                }
            }
            return parts;
        }

        private static BackRun Own(Card card, CardFrames frames, long first) =>
            new(first, first + frames.Count, card.SittingId, null, frames.First, "");

        // What the list that left has in these frames, where it is one thing.
        private BackRun? At(long first, long count)
        {
            int low = 0,
                high = was.Count - 1;
            while (low < high)
            {
                var middle = (low + high) / 2;
                (low, high) = was[middle].End <= first ? (middle + 1, high) : (low, middle);
            }
            return was.Count > 0 && was[low] is var run && run.First <= first && first + count <= run.End
                ? run with
                {
                    First = first,
                    End = first + count,
                    In = run.In + (first - run.First),
                }
                : null;
        }

        // Nothing that is as long as a space, or as those that lay side by side, is these, one behind the other; rows in their order.
        private IEnumerable<BackRun> PartedNothing(BackRun run, List<Part> parts)
        {
            for (var i = 0; i < parts.Count; i++)
            {
                var (last, sum) = (i, 0L);
                while (last < parts.Count && parts[last].Run.IsEmpty && sum < run.Count)
                {
                    sum += parts[last++].Run.Count;
                }
                if (sum == run.Count && !told.Contains(i) && (i == 0 || !parts[i - 1].Run.IsEmpty))
                {
                    told.Add(i);
                    var at = run.First;
                    return
                    [
                        .. parts[i..last].Select(p => run with { First = at, In = run.In + (at - run.First), End = at += p.Run.Count }),
                    ];
                }
            }
            return [run];
        }

        // A run that goes on over parts which lay one behind the other in their sitting is parted where they met.
        private static IEnumerable<BackRun> Parted(BackRun run, List<Part> parts)
        {
            var begins = parts
                .Where(p => p.Run.IsOfSame(run) && run.In < p.Run.In && p.Run.In < run.Out)
                .Where(p => parts.Any(o => o.Run.IsOfSame(p.Run) && o.Run.Out == p.Run.In && o.Run.Shared(run) > 0))
                .Select(p => p.Run.In)
                .Distinct()
                .Order();
            foreach (var at in begins)
            {
                var length = at - run.In;
                yield return run with
                {
                    End = run.First + length,
                };
                run = run with { First = run.First + length, In = at };
            }
            yield return run;
        }

        // First what is the same, in order; then what shares most, parts that are free before those that are taken.
        private static Part?[] Matched(List<BackRun> runs, List<Part> parts)
        {
            var matched = new Part?[runs.Count];
            var taken = new HashSet<Part>();
            var from = 0;
            for (var i = 0; i < runs.Count; i++)
            {
                var same = parts.FindIndex(from, p => p.Run.IsSame(runs[i]) && !taken.Contains(p));
                same = same >= 0 ? same : parts.FindIndex(p => p.Run.IsSame(runs[i]) && !taken.Contains(p));
                if (same >= 0 && (!runs[i].IsEmpty || same >= from))
                {
                    matched[i] = parts[same];
                    taken.Add(parts[same]);
                    from = same + 1;
                }
            }
            for (var i = 0; i < runs.Count; i++)
            {
                if (matched[i] is null && !runs[i].IsEmpty)
                {
                    matched[i] = parts
                        .Where(p => p.Run.Shared(runs[i]) > 0)
                        .OrderBy(p => taken.Contains(p))
                        .ThenByDescending(p => p.Run.Shared(runs[i]))
                        .FirstOrDefault();
                    if (matched[i] is { } part)
                    {
                        taken.Add(part);
                    }
                }
            }
            // Nothing of another length, beside the piece that it stood beside before: that space was made longer or shorter.
            for (var i = 0; i < runs.Count; i++)
            {
                if (matched[i] is null && runs[i].IsEmpty)
                {
                    var behind = i > 0 && matched[i - 1] is { } before ? parts.IndexOf(before) + 1 : -1;
                    var ahead = i + 1 < runs.Count && matched[i + 1] is { } next ? parts.IndexOf(next) - 1 : -1;
                    var place = new[] { behind, ahead }.Where(p => p >= 0 && p < parts.Count && parts[p].Run.IsEmpty);
                    matched[i] = place.Select(p => parts[p]).FirstOrDefault(taken.Add);
                }
            }
            return matched;
        }

        // The piece with its ends moved by as many frames as they were.
        private Piece Changed(Part first, BackRun begins, Part last, BackRun ends)
        {
            long before = begins.In - first.Run.In,
                behind = ends.Out - last.Run.Out;
            if (begins.IsEmpty)
            {
                return begins.Count == first.Run.Count ? first.Piece : Lasting(first.Piece, rate.TimeOf(begins.Count));
            }
            // A frame this way or that with the same length is how times are rounded, no change.
            if (first == last && begins.IsSame(first.Run))
            {
                (before, behind) = (0, 0);
            }
            switch (first.Piece)
            {
                case Card card:
                    // What it had before its first part that came back, and behind its last, is gone.
                    var from = first.Number == 0 ? card.Range.In + rate.TimeOf(before) : Sitting(begins.In);
                    var to = last.Number == last.Of - 1 ? card.Range.Out + rate.TimeOf(behind) : Sitting(ends.Out);
                    return from == card.Range.In && to == card.Range.Out || from >= to
                        ? card
                        : card with
                        {
                            Range = new SittingRange(from, to),
                            Unmended = null,
                        };
                case PlainMedia media:
                    return before == 0 && behind == 0
                        ? media
                        : media with
                        {
                            Range = new SourceRange(media.Range.In + rate.TimeOf(before), media.Range.Out + rate.TimeOf(behind)),
                            FadeIn = MediaTime.Zero,
                            FadeOut = MediaTime.Zero,
                        };
                default:
                    return first.Piece;
            }
        }

        private Piece ComingIn(Piece piece, Part part, Dissolve? comes) =>
            part.Number == 0 && Equals(comes, left.Dissolves.GetValueOrDefault(part.Run.First)) ? piece : piece with { ComesIn = comes };

        private SittingTime Sitting(long frame) => new(rate.TimeOf(frame));

        private static Piece Lasting(Piece piece, MediaTime length) =>
            piece switch
            {
                Space space => space with { Length = length },
                TitleCard title => title with { Length = length },
                Narration narration => narration with { Length = length },
                _ => piece,
            };

        private Piece Copied(Piece piece) =>
            piece switch
            {
                Card card => card with { Id = newId(), OtherTakes = "", SpaceBefore = "", SpaceAfter = "", Over = null },
                PlainMedia media => media with { Id = newId() },
                Space space => space with { Id = newId() },
                TitleCard title => title with { Id = newId() },
                Narration narration => narration with { Id = newId() },
                _ => piece,
            };

        // What was not there: a stretch of a sitting, of a file, a reel that is not known, or nothing.
        private IEnumerable<Piece> Fresh(BackRun run) =>
            run.SittingId is { } sitting ? [new Card(newId(), NoBite, sitting, new SittingRange(Sitting(run.In), Sitting(run.Out)), null)]
            : run.SourceId is { } source
                ?
                [
                    new PlainMedia(
                        newId(),
                        source,
                        new SourceRange(new SourceTime(rate.TimeOf(run.In)), new SourceTime(rate.TimeOf(run.Out))),
                        0,
                        MediaTime.Zero,
                        MediaTime.Zero
                    ),
                ]
            : [new Space(newId(), rate.TimeOf(run.Count), run.Unknown.Length > 0 ? $"{run.Unknown}, which is not known here" : "")];

        // Each heading before the first of the pieces that stood behind it which is still there.
        private List<Piece> WithHeads(List<Piece> pieces)
        {
            for (var i = story.Pieces.Count - 1; i >= 0; i--)
            {
                if (story.Pieces[i] is SectionHead head)
                {
                    var place = story.Pieces.Skip(i + 1).Select(p => pieces.FindIndex(o => o.Id == p.Id)).FirstOrDefault(at => at >= 0, -1);
                    pieces.Insert(place >= 0 ? place : pieces.Count, head);
                }
            }
            return pieces;
        }
    }
}
