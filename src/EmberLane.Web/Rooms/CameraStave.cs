using EmberLane.Application.Rooms;

namespace EmberLane.Web.Rooms;

/// <summary>A bar of the stave: from where, how wide, in pixels; what it says, and how it looks.</summary>
public sealed record StaveBar(long X, long Width, string Says, string CssClass);

/// <summary>A line of the stave: a name, its bars, and how high it is.</summary>
public sealed record StaveLine(string Name, int Y, int Height, IReadOnlyList<StaveBar> Bars);

/// <summary>A cut that can be dragged, at seconds on the sitting's clock.</summary>
public sealed record StaveCut(long X, string At);

/// <summary>
/// A camera plan drawn along the time: a line an angle, where it rolls and where it is shown, then a line a mic, and where people laugh.
/// </summary>
public sealed record CameraStave(
    int Height,
    long Width,
    IReadOnlyList<StaveLine> Angles,
    IReadOnlyList<StaveLine> Mics,
    IReadOnlyList<StaveBar> Crowd,
    IReadOnlyList<StaveCut> Cuts,
    IReadOnlyList<(long X, string Says)> Marks
)
{
    /// <summary>So many pixels are a second.</summary>
    public const int Scale = 8;

    private const int Top = 24,
        AngleHeight = 30,
        MicHeight = 16;

    /// <summary>Of a plan.</summary>
    public static CameraStave Of(SittingCameras cameras)
    {
        var angles = cameras
            .Angles.Select(
                (angle, i) =>
                    new StaveLine(
                        $"{i + 1} · {angle.Name}",
                        Top + (i * AngleHeight),
                        AngleHeight - 6,
                        [
                            .. angle.Rolls.Select(r => Bar(r, $"{angle.Name} rolls", "rolls")),
                            .. cameras
                                .Shots.Where(s => s.Angle == i)
                                .Select(s => Bar(s.Range, $"{angle.Name}: {s.Reason}", s.IsChosen ? "shown chosen" : "shown")),
                            .. angle.Marks.Select(m => new StaveBar(
                                X(new SittingTime(m.At)),
                                3,
                                $"from {Clock(m.At - cameras.Extent.In.FromZero)} on {angle.Name} shows {Who(m.People)}",
                                "turns"
                            )),
                        ]
                    )
            )
            .ToList();
        var below = Top + (angles.Count * AngleHeight) + 6;
        var mics = cameras
            .Mics.GroupBy(m => m.Who, StringComparer.Ordinal)
            .Select(
                (g, i) =>
                    new StaveLine(
                        g.Key,
                        below + (i * MicHeight),
                        MicHeight - 6,
                        [.. g.Select(m => Bar(m.Range, $"the mic of {g.Key} is open", "open"))]
                    )
            )
            .ToList();
        var width = Math.Max(600, Pixels(cameras.Extent.Length));
        return new CameraStave(
            below + (mics.Count * MicHeight) + 4,
            width,
            angles,
            mics,
            [.. cameras.Crowd.Select(c => Bar(c, "laughter or applause", "crowd"))],
            [
                .. cameras
                    .Shots.Zip(cameras.Shots.Skip(1))
                    .Where(p => p.First.Range.Out == p.Second.Range.In)
                    .Select(p => new StaveCut(X(p.First.Range.Out), p.First.Range.Out.FromZero.ToSecondsText())),
            ],
            [.. Enumerable.Range(0, (int)(width / (30 * Scale)) + 1).Select(i => ((long)i * 30 * Scale, Clock(i * 30)))]
        );

        StaveBar Bar(SittingRange range, string says, string css) =>
            new(X(range.In), Math.Max(1, Pixels(range.Length)), $"{says}, {range.In} to {range.Out}", css);

        long X(SittingTime at) => Pixels(at - cameras.Extent.In);
    }

    /// <summary>A time from the plan's begin, to the tenth of a second.</summary>
    public static string Clock(MediaTime since)
    {
        var tenths = since.ToMillisecondsRounded() / 100;
        return FormattableString.Invariant($"{Clock((int)(tenths / 10))}.{tenths % 10}");
    }

    private static string Who(IReadOnlyList<string> people) => people.Count == 0 ? "nobody" : string.Join(", ", people);

    private static long Pixels(MediaTime length) => length.ToMillisecondsRounded() * Scale / 1000;

    private static string Clock(int seconds) =>
        seconds >= 3_600
            ? FormattableString.Invariant($"{seconds / 3_600}:{seconds / 60 % 60:00}:{seconds % 60:00}")
            : FormattableString.Invariant($"{seconds / 60}:{seconds % 60:00}");
}
