using EmberLane.Core.Speech;

namespace EmberLane.Core.Seams;

/// <summary>
/// A piece of a sound with its ends as they are cut best; how much its level jumps to the next one as it was and as it is; how bad it is,
/// from 0, and why.
/// </summary>
public sealed record MendedPiece(
    SeamEdge? In,
    SeamEdge? Out,
    SourceRange Range,
    double JumpBefore,
    double JumpAfter,
    int Score,
    IReadOnlyList<string> Reasons
)
{
    /// <summary>What is wrong at its ends as it was.</summary>
    public EdgeFaults Before => Of(e => e.Before);

    /// <summary>The same as it is cut best.</summary>
    public EdgeFaults After => Of(e => e.After);

    private EdgeFaults Of(Func<SeamEdge, EdgeFaults> faults)
    {
        EdgeFaults at = In is null ? default : faults(In),
            end = Out is null ? default : faults(Out);
        return new EdgeFaults(at.Clips || end.Clips, at.Leaks || end.Leaks);
    }
}

/// <summary>Judges and mends the joins of pieces of one sound that are played one behind the other.</summary>
public static class SeamMending
{
    /// <summary>Two pieces that meet within this (1 ms) are no seam: the sound goes on.</summary>
    private static readonly MediaTime Touch = MediaTime.FromMilliseconds(1);

    /// <summary>In steps of 5 ms: how much of a piece is listened to beside a join.</summary>
    private const int Beside = 200;

    /// <summary>In decibels: a jump in level, and in the quiet of the room, that is heard.</summary>
    private const double HeardLevel = 6,
        HeardTone = 6;

    /// <summary>
    /// The pieces in playing order with their ends mended; <paramref name="words"/> in order of time. Ends where nothing is cut, or which
    /// no word lies at, stay as they are. What has no room stays too, and is listed.
    /// </summary>
    public static IReadOnlyList<MendedPiece> Mend(SeamSound sound, IReadOnlyList<SourceRange> pieces, IReadOnlyList<RecognisedWord> words)
    {
        var mended = pieces.Select((p, i) => Ends(sound, pieces, i, words)).ToList();
        return
        [
            .. mended.Select(
                (m, i) =>
                {
                    var range = RangeOf(pieces[i], m.In, m.Out);
                    // Moved ends that would cross leave the piece as it was.
                    var (begin, end) = range == pieces[i] ? (Stay(m.In), Stay(m.Out)) : (m.In, m.Out);
                    if (i + 1 == pieces.Count)
                    {
                        return Judged(begin, end, range, 0, 0, 0, words);
                    }
                    var next = RangeOf(pieces[i + 1], mended[i + 1].In, mended[i + 1].Out);
                    var isJoin = IsCut(pieces[i].Out, pieces[i + 1].In);
                    return Judged(
                        begin,
                        end,
                        range,
                        isJoin ? Jump(sound, pieces[i], pieces[i + 1], 85) : 0,
                        isJoin ? Jump(sound, range, next, 85) : 0,
                        isJoin ? Jump(sound, range, next, 5) : 0,
                        words
                    );
                }
            ),
        ];
    }

    private static (SeamEdge? In, SeamEdge? Out) Ends(
        SeamSound sound,
        IReadOnlyList<SourceRange> pieces,
        int i,
        IReadOnlyList<RecognisedWord> words
    )
    {
        var piece = pieces[i];
        // Words are meant whose middle lies in the piece.
        int first = FirstFrom(words, piece.In),
            end = FirstFrom(words, piece.Out);
        if (first >= end)
        {
            return (null, null);
        }
        var begins = i == 0 || IsCut(pieces[i - 1].Out, piece.In);
        var ends = i + 1 == pieces.Count || IsCut(piece.Out, pieces[i + 1].In);
        return (
            begins ? SeamEdge.In(sound, piece.In.FromZero, words[first].Range, first > 0 ? words[first - 1].Range : null) : null,
            ends ? SeamEdge.Out(sound, piece.Out.FromZero, words[end - 1].Range, end < words.Count ? words[end].Range : null) : null
        );
    }

    private static bool IsCut(SourceTime end, SourceTime begin)
    {
        var apart = begin - end;
        return apart > Touch || apart < MediaTime.Zero - Touch;
    }

    // The first word whose middle lies at a moment or behind it.
    private static int FirstFrom(IReadOnlyList<RecognisedWord> words, SourceTime at)
    {
        int low = 0,
            high = words.Count;
        while (low < high)
        {
            var half = (low + high) / 2;
            var middle = words[half].Range.In + new MediaTime((words[half].Range.Out - words[half].Range.In).Units / 2);
            (low, high) = middle < at ? (half + 1, high) : (low, half);
        }
        return low;
    }

    private static SourceRange RangeOf(SourceRange piece, SeamEdge? begin, SeamEdge? end)
    {
        MediaTime from = begin?.At ?? piece.In.FromZero,
            to = end?.At ?? piece.Out.FromZero;
        return from < to ? new SourceRange(new SourceTime(from), new SourceTime(to)) : piece;
    }

    private static SeamEdge? Stay(SeamEdge? edge) => edge is null ? null : edge with { At = edge.Was, After = edge.Before };

    // By how much the sound is louder or softer behind a join than before it: of talk the loud, of the room the quiet part.
    private static double Jump(SeamSound sound, SourceRange one, SourceRange next, int percent)
    {
        int end = SeamSound.StepAt(one.Out.FromZero),
            begin = SeamSound.StepAt(next.In.FromZero);
        return Math.Abs(
            sound.Share(Math.Max(SeamSound.StepAt(one.In.FromZero), end - Beside), end, percent)
                - sound.Share(begin, Math.Min(SeamSound.StepAt(next.Out.FromZero), begin + Beside), percent)
        );
    }

    private static MendedPiece Judged(
        SeamEdge? begin,
        SeamEdge? end,
        SourceRange range,
        double jumpBefore,
        double jumpAfter,
        double tone,
        IReadOnlyList<RecognisedWord> words
    )
    {
        var reasons = new List<string>();
        var score = 0;
        Tell(begin, "begin", "the word before it is heard", "its first word loses its head");
        Tell(end, "end", "the next word is heard", "its last word loses its tail");
        if (jumpAfter >= HeardLevel)
        {
            Add((int)Math.Min(30, 2 * jumpAfter), FormattableString.Invariant($"the level jumps by {jumpAfter:0} dB to the next piece"));
        }
        if (tone >= HeardTone)
        {
            Add((int)Math.Min(20, tone), FormattableString.Invariant($"the quiet of the room jumps by {tone:0} dB to the next piece"));
        }
        var last = FirstFrom(words, range.Out) - 1;
        if (last >= 0 && words[last].Range.In >= range.In && words[last].Text.TrimEnd('"', '”', '’').EndsWith('?'))
        {
            Add(5, "it ends with a question");
        }
        return new MendedPiece(begin, end, range, jumpBefore, jumpAfter, score, reasons);

        void Tell(SeamEdge? edge, string where, string leak, string clip)
        {
            if (edge is null)
            {
                return;
            }
            if (edge.After.Clips)
            {
                Add(50, $"at its {where} {clip}");
            }
            if (edge.After.Leaks)
            {
                Add(40, $"at its {where} {leak}");
            }
            if (!edge.HasRoom)
            {
                Add(20, $"at its {where} the words run into each other: no room to mend it");
            }
            else if (edge.Before != edge.After)
            {
                reasons.Add($"mended at its {where}");
            }
        }

        void Add(int worth, string reason)
        {
            score += worth;
            reasons.Add(reason);
        }
    }
}
