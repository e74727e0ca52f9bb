using System.Globalization;

namespace EmberLane.Core.Time;

/// <summary>
/// An exact amount of time: a whole number of 1/705 600 000 s, so that every frame of the supported rates and every sample of
/// 16, 44.1, 48 and 96 kHz is a whole number of units. Range ± 414 years. Arithmetic is checked: it throws <see cref="OverflowException"/>.
/// </summary>
public readonly record struct MediaTime(long Units) : IComparable<MediaTime>
{
    /// <summary>Units in one second.</summary>
    public const long UnitsPerSecond = 705_600_000;

    /// <summary>No time at all.</summary>
    public static MediaTime Zero => default;

    /// <summary>So many milliseconds, exactly.</summary>
    public static MediaTime FromMilliseconds(long milliseconds) => new(checked(milliseconds * (UnitsPerSecond / 1000)));

    /// <summary>
    /// The time of <paramref name="samples"/> samples. Exact where the rate divides the unit; else rounded to the nearest unit.
    /// </summary>
    public static MediaTime FromSamples(long samples, int sampleRate)
    {
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(sampleRate);
        return new(Exact.RoundDivide((Int128)samples * UnitsPerSecond, sampleRate));
    }

    /// <summary>Nearest unit to a decimal number of seconds; for text from files, where the value is not exact anyway.</summary>
    public static MediaTime FromSecondsRounded(decimal seconds) => new(checked((long)decimal.Round(seconds * UnitsPerSecond)));

    /// <summary>The number of whole samples that fit; what is less than a sample is dropped (towards minus infinity).</summary>
    public long ToSamplesFloor(int sampleRate) => Exact.FloorDivide((Int128)Units * sampleRate, UnitsPerSecond);

    /// <summary>Milliseconds, rounded to the nearest; for the screen.</summary>
    public long ToMillisecondsRounded() => Exact.RoundDivide(Units, UnitsPerSecond / 1000);

    /// <summary>Seconds as a binary fraction, which is not exact: for charts, logs and the arguments of programs outside.</summary>
    public double ToSecondsInexact() => (double)Units / UnitsPerSecond;

    /// <summary>Seconds with six decimals in the invariant culture, for the arguments of programs outside.</summary>
    public string ToSecondsText() => ((decimal)Units / UnitsPerSecond).ToString("0.000000", CultureInfo.InvariantCulture);

    /// <inheritdoc/>
    public int CompareTo(MediaTime other) => Units.CompareTo(other.Units);

    /// <summary>The shorter one.</summary>
    public static MediaTime Min(MediaTime a, MediaTime b) => a < b ? a : b;

    /// <summary>The longer one.</summary>
    public static MediaTime Max(MediaTime a, MediaTime b) => a > b ? a : b;

    /// <summary>The sum, exactly.</summary>
    public static MediaTime operator +(MediaTime a, MediaTime b) => new(checked(a.Units + b.Units));

    /// <summary>The difference, exactly; may be negative.</summary>
    public static MediaTime operator -(MediaTime a, MediaTime b) => new(checked(a.Units - b.Units));

    /// <summary>As long in the other direction.</summary>
    public static MediaTime operator -(MediaTime a) => new(checked(-a.Units));

    /// <summary>So many times as long.</summary>
    public static MediaTime operator *(MediaTime a, long times) => new(checked(a.Units * times));

    /// <summary>Whether it is shorter.</summary>
    public static bool operator <(MediaTime a, MediaTime b) => a.Units < b.Units;

    /// <summary>Whether it is longer.</summary>
    public static bool operator >(MediaTime a, MediaTime b) => a.Units > b.Units;

    /// <summary>Whether it is not longer.</summary>
    public static bool operator <=(MediaTime a, MediaTime b) => a.Units <= b.Units;

    /// <summary>Whether it is not shorter.</summary>
    public static bool operator >=(MediaTime a, MediaTime b) => a.Units >= b.Units;

    /// <summary>For people: <c>1:04.2</c>, <c>1:02:03.4</c>; rounded to the tenth.</summary>
    public override string ToString()
    {
        var tenths = Exact.RoundDivide(Int128.Abs(Units), UnitsPerSecond / 10);
        var (hours, rest) = Math.DivRem(tenths, 36_000);
        var (minutes, small) = Math.DivRem(rest, 600);
        var sign = Units < 0 && tenths > 0 ? "−" : "";
        return hours > 0
            ? string.Create(CultureInfo.InvariantCulture, $"{sign}{hours}:{minutes:00}:{small / 10:00}.{small % 10}")
            : string.Create(CultureInfo.InvariantCulture, $"{sign}{minutes}:{small / 10:00}.{small % 10}");
    }
}
