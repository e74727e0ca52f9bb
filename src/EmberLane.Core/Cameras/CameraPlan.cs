namespace EmberLane.Core.Cameras;

/// <summary>A shot of a plan: which angle, by its place in the problem, from when to when, and why it begins.</summary>
public sealed record PlannedShot(int Angle, PlanRange Range, string Reason);

/// <summary>
/// Which angle shows when. Shots follow each other; where nothing rolls there is none. <paramref name="Hundredths"/> is what it costs, in
/// hundredths of a point times hundred thousandths of a second, which <see cref="Points"/> tells in points.
/// </summary>
public sealed record CameraPlan(IReadOnlyList<PlannedShot> Shots, Int128 Hundredths)
{
    /// <summary>What it costs, in points, with three decimals.</summary>
    public decimal Points => decimal.Round((decimal)Hundredths / (100m * CameraGround.TicksPerSecond), 3);
}
