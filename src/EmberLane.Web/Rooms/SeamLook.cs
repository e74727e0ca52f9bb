using EmberLane.Core.Seams;
using EmberLane.Core.Stories;

namespace EmberLane.Web.Rooms;

/// <summary>How a seam is shown in a line: its state, a shape for it, and what there is to say.</summary>
public sealed record SeamLook(string State, string Shape, string Says)
{
    /// <summary>By how much ends are moved, what each is called, and its key.</summary>
    public static IReadOnlyList<(string Unit, string Says, string Key)> Units { get; } =
    [("word", "word", "1"), ("frame", "frame", "2"), ("millisecond", "ms", "3"), ("sample", "sample", "4")];

    /// <summary>How the ends at a seam are moved: the command, which ends, by how many, and what it is called.</summary>
    public static IReadOnlyList<(string Name, SeamEnds Which, int By, string Says)> Moves { get; } =
    [
        ("word-back", SeamEnds.End, -1, "End earlier"),
        ("word-on", SeamEnds.End, 1, "End later"),
        ("begin-earlier", SeamEnds.Begin, -1, "Begin earlier"),
        ("begin-later", SeamEnds.Begin, 1, "Begin later"),
        ("stop-earlier", SeamEnds.Both, -1, "Both earlier"),
        ("stop-later", SeamEnds.Both, 1, "Both later"),
    ];

    /// <summary>Of a seam of a story whose pieces are told by their ids.</summary>
    public static SeamLook Of(StorySeam seam, IReadOnlyDictionary<Guid, Piece> story)
    {
        var mended = Mended(seam, story);
        if (seam.Score >= StorySeam.Bad)
        {
            return new SeamLook("bad", "▲", Sentence(seam));
        }
        if (seam.Score > 0)
        {
            return new SeamLook("look", "◆", Sentence(seam) + (mended.Length > 0 ? $" · {mended}" : ""));
        }
        if (mended.Length > 0)
        {
            return new SeamLook("mended", "●", mended);
        }
        if (seam is { End: null, Begin: null })
        {
            return seam.Card != Guid.Empty && seam.Next != Guid.Empty && GoesOn(seam, story)
                ? new SeamLook("clean", "●", "goes on without a cut")
                : new SeamLook("unknown", "○", "not judged: its sound is not measured yet, or no word lies here");
        }
        var room = new[] { seam.End?.Room?.Length, seam.Begin?.Room?.Length }.OfType<MediaTime>().DefaultIfEmpty().Min();
        return new SeamLook("clean", "●", $"clean, {Seconds(room)} s of room");
    }

    /// <summary>A moment to the millisecond, as a person reads it.</summary>
    public static string Exact(SittingTime at)
    {
        var ms = at.FromZero.ToMillisecondsRounded();
        return FormattableString.Invariant($"{ms / 60_000}:{ms / 1000 % 60:00}.{ms % 1000:000}");
    }

    /// <summary>A jump in level, in whole decibels.</summary>
    public static string Jump(double decibels) => FormattableString.Invariant($"{decibels:0} dB apart");

    /// <summary>The crossfade that the room at both ends allows.</summary>
    public static string Fade(StorySeam seam) =>
        new[] { seam.End?.FadeMs, seam.Begin?.FadeMs }.OfType<int>().ToList() is { Count: > 0 } fades
            ? FormattableString.Invariant($"crossfade {fades.Min()} ms")
            : "";

    private static bool GoesOn(StorySeam seam, IReadOnlyDictionary<Guid, Piece> story) =>
        story.GetValueOrDefault(seam.Card) is Card one
        && story.GetValueOrDefault(seam.Next) is Card next
        && StorySeam.GoesOn(one.SittingId, one.Range, next.SittingId, next.Range);

    private static string Sentence(StorySeam seam) => string.Join(" · ", seam.Reasons);

    private static string Mended(StorySeam seam, IReadOnlyDictionary<Guid, Piece> story)
    {
        var told = new List<string>();
        if (story.GetValueOrDefault(seam.Card) is Card { Unmended: { } was } one && was.Out != one.Range.Out)
        {
            told.Add($"the end moved {Way(one.Range.Out - was.Out)}");
        }
        if (story.GetValueOrDefault(seam.Next) is Card { Unmended: { } before } next && before.In != next.Range.In)
        {
            told.Add($"the begin moved {Way(next.Range.In - before.In)}");
        }
        return told.Count == 0 ? "" : string.Join(", ", told);
    }

    private static string Way(MediaTime by) => by < MediaTime.Zero ? $"{Seconds(-by)} s earlier" : $"{Seconds(by)} s later";

    private static string Seconds(MediaTime length) => FormattableString.Invariant($"{length.ToMillisecondsRounded() / 1000m:0.00}");
}
