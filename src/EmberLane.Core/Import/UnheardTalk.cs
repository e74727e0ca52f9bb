using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Import;

/// <summary>
/// Talk that was heard without a word of it being understood (another language, a song): where typed words that no recogniser gave belong.
/// </summary>
internal static class UnheardTalk
{
    /// <summary>A letter takes at least this long to say, however fast somebody speaks.</summary>
    private static readonly MediaTime Letter = MediaTime.FromMilliseconds(25);

    /// <summary>
    /// What is said between the end of one word and the start of the next (null at the text's begin and end): in order and apart, where two
    /// talk at once the one who began first.
    /// </summary>
    public static IReadOnlyList<SaidStretch> Between(IReadOnlyList<SaidStretch> said, SittingTime? after, SittingTime? before)
    {
        var talk = new List<SaidStretch>();
        foreach (var (voice, range) in said.TakeWhile(s => before is null || s.Range.In < before))
        {
            var from = after is { } a && a > range.In ? a : range.In;
            from = talk is [.., var last] && last.Range.Out > from ? last.Range.Out : from;
            var to = before is { } b && b < range.Out ? b : range.Out;
            if (from < to)
            {
                talk.Add(new SaidStretch(voice, new SittingRange(from, to)));
            }
        }
        return talk;
    }

    /// <summary>
    /// Words of so many letters over some stretches, by their letters, in order. None lies in two stretches: it ends with the one that it
    /// begins in.
    /// </summary>
    public static IReadOnlyList<(SittingRange Range, int? Voice)> Share(IReadOnlyList<int> letters, IReadOnlyList<SaidStretch> over)
    {
        var all = letters.Sum(l => (long)Math.Max(1, l));
        var whole = over.Aggregate(MediaTime.Zero, (sum, o) => sum + o.Range.Length);
        var shared = new List<(SittingRange, int?)>();
        long before = 0;
        var at = 0;
        var passed = MediaTime.Zero;
        foreach (var own in letters.Select(l => Math.Max(1, l)))
        {
            var from = Part(before);
            while (at < over.Count - 1 && from >= passed + over[at].Range.Length)
            {
                passed += over[at].Range.Length;
                at++;
            }
            var stretch = over[at].Range;
            var end = MediaTime.Min(Part(before + own) - passed, stretch.Length);
            shared.Add((new SittingRange(stretch.In + (from - passed), stretch.In + end), over[at].Voice));
            before += own;
        }
        return shared;

        MediaTime Part(long share) => new(Exact.FloorDivide((Int128)whole.Units * share, all));
    }

    /// <summary>Whether so many letters can be said there at all.</summary>
    public static bool HasRoom(IReadOnlyList<int> letters, IReadOnlyList<SaidStretch> over) =>
        over.Aggregate(MediaTime.Zero, (sum, o) => sum + o.Range.Length) >= Letter * letters.Sum(l => (long)Math.Max(1, l));
}
