namespace EmberLane.Core.Cameras;

/// <summary>From a moment on an angle shows these people, until its next mark: of a camera that goes to and fro.</summary>
public sealed record CoverMark(MediaTime At, IReadOnlyList<string> People)
{
    /// <summary>Whom an angle shows for a while, by its marks in order; the last holds until <paramref name="end"/>.</summary>
    public static IReadOnlyList<CoveredAt> Changes(IReadOnlyList<CoverMark> marks, MediaTime end) =>
        [
            .. marks
                .Select((m, i) => new CoveredAt(new PlanRange(m.At, i + 1 < marks.Count ? marks[i + 1].At : end), m.People))
                .Where(c => c.Range.In < c.Range.Out),
        ];
}
