namespace EmberLane.Core.Sync;

/// <summary>
/// How much later than its own sample number a sample of the source lies on the reference, in samples: <c>Offset + Slope × sample</c>.
/// </summary>
internal readonly record struct LagLine(double Offset, double Slope)
{
    public double At(double sample) => Offset + (Slope * sample);

    /// <summary>
    /// The line that most points agree with, and which those are. Through every pair of points whose slope is no steeper than
    /// <paramref name="steepest"/>, the one with the most points within <paramref name="tolerance"/>; then least squares with each point's
    /// weight through those.
    /// </summary>
    public static (LagLine Line, IReadOnlyList<int> Agreeing) Fit(
        IReadOnlyList<(double At, double Lag, double Weight)> points,
        double steepest,
        double tolerance
    )
    {
        if (points.Count == 0)
        {
            return (default, []);
        }
        LagLine best = new(points[0].Lag, 0);
        List<int> agreeing = [0];
        for (var i = 0; i < points.Count; i++)
        {
            for (var j = i + 1; j < points.Count; j++)
            {
                if (points[j].At == points[i].At)
                {
                    continue;
                }
                var slope = (points[j].Lag - points[i].Lag) / (points[j].At - points[i].At);
                if (Math.Abs(slope) > steepest)
                {
                    continue;
                }
                var line = new LagLine(points[i].Lag - (slope * points[i].At), slope);
                var with = Near(points, line, tolerance);
                if (
                    with.Count > agreeing.Count
                    || (with.Count == agreeing.Count && Misfit(points, line, with) < Misfit(points, best, agreeing))
                )
                {
                    (best, agreeing) = (line, with);
                }
            }
        }
        return (agreeing.Count < 3 ? best : Through([.. agreeing.Select(i => points[i])]), agreeing);
    }

    private static List<int> Near(IReadOnlyList<(double At, double Lag, double Weight)> points, LagLine line, double tolerance) =>
        [.. Enumerable.Range(0, points.Count).Where(k => Math.Abs(points[k].Lag - line.At(points[k].At)) <= tolerance)];

    private static double Misfit(IReadOnlyList<(double At, double Lag, double Weight)> points, LagLine line, List<int> with) =>
        with.Sum(k => Math.Abs(points[k].Lag - line.At(points[k].At)));

    private static LagLine Through(IReadOnlyList<(double At, double Lag, double Weight)> points)
    {
        double total = points.Sum(p => p.Weight),
            at = points.Sum(p => p.Weight * p.At) / total,
            lag = points.Sum(p => p.Weight * p.Lag) / total;
        double spread = points.Sum(p => p.Weight * (p.At - at) * (p.At - at)),
            slope = spread > 0 ? points.Sum(p => p.Weight * (p.At - at) * (p.Lag - lag)) / spread : 0;
        return new LagLine(lag - (slope * at), slope);
    }
}
