namespace EmberLane.Core.Time;

/// <summary>
/// Where a source lies on its sitting's clock. A source that recorded slowly has a positive drift: a second of its samples spans more than
/// a second of the sitting. Drift is in parts per billion, so 30 ppm is 30 000.
/// </summary>
public readonly record struct ClockMap(SittingTime Start, long DriftPerBillion)
{
    private const long Billion = 1_000_000_000;

    /// <summary>When on the sitting's clock a moment of the source was; rounded to the nearest unit.</summary>
    public SittingTime ToSitting(SourceTime at) =>
        Start + new MediaTime(Exact.RoundDivide((Int128)at.FromZero.Units * (Billion + DriftPerBillion), Billion));

    /// <summary>
    /// Which moment of the source was at a moment of the sitting; rounded to the nearest unit. It may lie outside the source.
    /// </summary>
    public SourceTime ToSource(SittingTime at) =>
        new(new MediaTime(Exact.RoundDivide((Int128)(at - Start).Units * Billion, Billion + DriftPerBillion)));

    /// <summary>
    /// This place on the clock of another source of the same sitting, whose first moment becomes the zero. Rounded to the unit and to a
    /// billionth.
    /// </summary>
    public ClockMap On(ClockMap reference) =>
        new(
            new SittingTime(reference.ToSource(Start).FromZero),
            Exact.RoundDivide((Int128)(Billion + DriftPerBillion) * Billion, Billion + reference.DriftPerBillion) - Billion
        );

    /// <summary>
    /// This place, known on the clock of another source, on the clock that <paramref name="other"/> lies on. Rounded to the unit and to a
    /// billionth.
    /// </summary>
    public ClockMap By(ClockMap other) =>
        new(
            other.ToSitting(new SourceTime(Start.FromZero)),
            Exact.RoundDivide((Int128)(Billion + DriftPerBillion) * (Billion + other.DriftPerBillion), Billion) - Billion
        );

    /// <summary>The stretch of the sitting that a source of this duration fills.</summary>
    public SittingRange Fill(MediaTime duration) => new(Start, ToSitting(new SourceTime(duration)));
}
