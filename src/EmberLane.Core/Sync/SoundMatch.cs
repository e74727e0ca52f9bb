namespace EmberLane.Core.Sync;

/// <summary>
/// Where one sound lies on the clock of another. <see cref="Evidence"/> is the number of zeros before a chance agreement of this kind
/// becomes likely (see <see cref="SoundMatch"/>); it is matched from <see cref="SoundMatch.SureFrom"/> on. Start and drift mean something
/// only then.
/// </summary>
public sealed record SoundOffset(bool Matched, SittingTime Start, long DriftPerBillion, double Evidence, int Agreeing, int Compared)
{
    /// <summary>The evidence as a person reads it.</summary>
    public string Words =>
        Matched
            ? FormattableString.Invariant($"same sound at {Agreeing} of {Compared} places, sure: by chance 1 in 10{Raised((int)Evidence)}")
        : Compared == 0 ? "no match by sound: too little to compare"
        : FormattableString.Invariant($"no match by sound: alike at {Agreeing} of {Compared} places, as by chance");

    private static string Raised(int exponent) =>
        string.Concat(FormattableString.Invariant($"{exponent}").Select(d => "⁰¹²³⁴⁵⁶⁷⁸⁹"[d - '0']));

    /// <summary>0–1: half at the bar, near one a few zeros above it.</summary>
    public double Confidence => Math.Round(1 / (1 + Math.Exp((SoundMatch.SureFrom - Evidence) / 1.25)), 3);
}

/// <summary>
/// Finds by sound where a source lies on a reference, in four steps. 1: lags worth a look, by correlation of loudness changes
/// (<see cref="CoarseCorrelation"/>). 2: for each, stretches across the overlap are compared to the sample (<see cref="GccPhat"/>) and laid
/// over one another along every line (<see cref="Stack"/>), or over a long overlap have their say for a line (<see cref="LagLine"/>); the
/// line's slope is the drift. 3: how likely it is that unrelated sounds agree so well (<see cref="Chance"/>). 4: the line drawn again from
/// more stretches with the drift taken out, and moved to the sound that came straight (<see cref="DirectSound"/>).
/// </summary>
public static class SoundMatch
{
    /// <summary>Samples a second of the mono sound that is compared.</summary>
    public const int SampleRate = 8_000;

    /// <summary>Drifts beyond ±200 ppm are not looked for: clocks of cameras and recorders stay within 100.</summary>
    public const int GreatestDriftPerBillion = 200_000;

    /// <summary>
    /// Evidence from which a match is shown as one. Where it lies is measured: <c>./ember bench sync</c> prints the curve.
    /// </summary>
    public const double SureFrom = 22;

    private const int Looks = 12,
        MostPlaces = 28,
        HeardPlaces = 100,
        MostCandidates = 40;

    /// <summary>
    /// Up to this overlap (15 min) the lines are tried one by one; over more there would be too many, and each stretch has its say instead.
    /// </summary>
    private const long StackedUpTo = 900L * SampleRate;

    /// <summary>So many stretches that share no sound must agree.</summary>
    private const int LeastApart = 3;

    /// <summary>Stretches have their say for a line when their strongest lags lie within a millisecond of it.</summary>
    private const double Tolerance = SampleRate / 1000.0;

    private const double Steepest = GreatestDriftPerBillion / 1e9;

    /// <summary>
    /// Both sounds are read at 8 kHz; the reference's first sample is the zero of the result. Cost grows as n log n with the longer one,
    /// and with the number of <paramref name="lags"/> that are looked at before “no match” is said: fewer do where something tells already
    /// that the two probably belong together.
    /// </summary>
    public static SoundOffset Find(ISound reference, ISound source, int lags = MostCandidates)
    {
        SpectralFlux? ours = null,
            theirs = null;
        Parallel.Invoke(() => ours = SpectralFlux.Of(reference), () => theirs = SpectralFlux.Of(source));
        return Find(reference, ours!, source, theirs!, lags);
    }

    private static SoundOffset Find(ISound reference, SpectralFlux ours, ISound source, SpectralFlux theirs, int lags)
    {
        var best = new SoundOffset(false, default, 0, 0, 0, 0);
        var fine = new GccPhat(reference, source);
        foreach (var rough in CoarseCorrelation.Find(ours, theirs).Take(lags))
        {
            var lag = (long)rough.Steps * SpectralFlux.Step;
            long first = Math.Max(0, -lag),
                last = Math.Min(source.Length, reference.Length - lag);
            var expected = new LagLine(lag, 0);
            var isShort = last - first <= StackedUpTo;
            var stretches = Compare(
                fine,
                Places.Choose(ours, theirs, rough, isShort ? Looks : MostPlaces),
                expected,
                (rough.Uncertainty * SpectralFlux.Step) + (int)(Steepest * Math.Min(last - first, StackedUpTo) / 2)
            );
            if (stretches.Count < 3)
            {
                continue;
            }
            var drawn = isShort ? Stacked(stretches, expected) : Voted(stretches, expected);
            if (drawn.Evidence >= SureFrom)
            {
                return Refined(
                    fine,
                    Places.Choose(ours, theirs, rough, MostPlaces),
                    Places.Choose(ours, theirs, rough, HeardPlaces),
                    drawn,
                    stretches.Count
                );
            }
            best =
                drawn.Evidence > best.Evidence ? new SoundOffset(false, default, 0, drawn.Evidence, drawn.Agreeing, stretches.Count) : best;
        }
        return best;
    }

    private readonly record struct Drawn(LagLine Line, double Evidence, int Agreeing);

    private static Drawn Stacked(List<StretchLags> stretches, LagLine expected)
    {
        var (line, height, tries, agreeing, apart) = Stack.Highest(stretches, Steepest);
        return new Drawn(Add(expected, line), Guarded(Chance.ZerosOfHeight(height, tries), apart), agreeing);
    }

    private static Drawn Voted(List<StretchLags> stretches, LagLine expected)
    {
        var points = stretches
            .Select(s => (s.At, Peak: s.Peak()))
            .Select(p => (p.At, (double)p.Peak.Lag, p.Peak.Height * p.Peak.Height))
            .ToList();
        var (line, agreeing) = LagLine.Fit(points, Steepest, Tolerance);
        var zeros = Chance.ZerosAgainst(agreeing.Count, points.Count, ((2 * Tolerance) + 1) / ((2 * stretches[0].Reach) + 1));
        return new Drawn(Add(expected, line), Guarded(zeros, Stack.Apart([.. agreeing.Select(i => points[i].At).Order()])), agreeing.Count);
    }

    // The same words said twice at nearly one pace agree for a moment, which every stretch that holds it shows again.
    private static double Guarded(double zeros, int apart) => apart < LeastApart ? Math.Min(zeros, SureFrom / 2) : zeros;

    // Twice: the first line leaves some drift in the stretches, and with it some blur; the second time it is also known which frequencies
    // tell. Close around the line: an echo must not take over.
    private static SoundOffset Refined(GccPhat fine, List<long> places, List<long> heard, Drawn rough, int compared)
    {
        var line = rough.Line;
        foreach (
            var (steepest, within, weighed) in new[] { (Steepest / 10, SampleRate / 200, false), (Steepest / 40, SampleRate / 500, true) }
        )
        {
            var stretches = Compare(
                fine,
                places,
                line,
                within + StretchLags.Margin + (int)(steepest * (places[^1] - places[0]) / 2),
                weighed ? fine.Shared(places, line) : null
            );
            line = stretches.Count >= 3 ? Add(line, Stack.Highest(stretches, steepest).Line) : line;
        }
        line = DirectSound.Moved(fine, heard, line);
        var start = new MediaTime((long)Math.Round(line.Offset / SampleRate * MediaTime.UnitsPerSecond));
        return new SoundOffset(true, new SittingTime(start), (long)Math.Round(line.Slope * 1e9), rough.Evidence, rough.Agreeing, compared);
    }

    private static LagLine Add(LagLine one, LagLine other) => new(one.Offset + other.Offset, one.Slope + other.Slope);

    private static List<StretchLags> Compare(GccPhat fine, List<long> places, LagLine expected, int reach, float[]? weights = null)
    {
        var lags = new StretchLags?[places.Count];
        Parallel.For(0, places.Count, i => lags[i] = fine.Compare(places[i], expected, reach, weights));
        return [.. lags.OfType<StretchLags>()];
    }
}
