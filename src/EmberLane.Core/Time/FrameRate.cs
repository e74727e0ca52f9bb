using System.Diagnostics.CodeAnalysis;

namespace EmberLane.Core.Time;

/// <summary>Frames in a second as a ratio, so that 24000/1001 is exact.</summary>
public readonly record struct FrameRate
{
    /// <summary>
    /// A rate of <paramref name="numerator"/>/<paramref name="denominator"/> frames in a second, reduced. Both are at least 1.
    /// </summary>
    public FrameRate(int numerator, int denominator)
    {
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(numerator);
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(denominator);
        var common = (int)System.Numerics.BigInteger.GreatestCommonDivisor(numerator, denominator);
        Numerator = numerator / common;
        Denominator = denominator / common;
    }

    /// <summary>Frames in <see cref="Denominator"/> seconds.</summary>
    public int Numerator { get; }

    /// <summary>Seconds in which there are <see cref="Numerator"/> frames.</summary>
    public int Denominator { get; }

    /// <summary>24 000/1001 frames a second.</summary>
    public static FrameRate R23976 { get; } = new(24000, 1001);

    /// <summary>24 frames a second.</summary>
    public static FrameRate R24 { get; } = new(24, 1);

    /// <summary>25 frames a second.</summary>
    public static FrameRate R25 { get; } = new(25, 1);

    /// <summary>30 000/1001 frames a second.</summary>
    public static FrameRate R2997 { get; } = new(30000, 1001);

    /// <summary>30 frames a second.</summary>
    public static FrameRate R30 { get; } = new(30, 1);

    /// <summary>48 frames a second.</summary>
    public static FrameRate R48 { get; } = new(48, 1);

    /// <summary>50 frames a second.</summary>
    public static FrameRate R50 { get; } = new(50, 1);

    /// <summary>60 000/1001 frames a second.</summary>
    public static FrameRate R5994 { get; } = new(60000, 1001);

    /// <summary>60 frames a second.</summary>
    public static FrameRate R60 { get; } = new(60, 1);

    /// <summary>The rates a story can have, slowest first.</summary>
    public static IReadOnlyList<FrameRate> Supported { get; } = [R23976, R24, R25, R2997, R30, R48, R50, R5994, R60];

    /// <summary>The whole number that timecode counts to in a second: 30 for 30000/1001.</summary>
    public int Nominal => (Numerator + Denominator - 1) / Denominator;

    /// <summary>The start of frame <paramref name="frame"/>; exact for every supported rate.</summary>
    public MediaTime TimeOf(long frame) => new(Exact.RoundDivide((Int128)frame * Denominator * MediaTime.UnitsPerSecond, Numerator));

    /// <summary>The frame that is shown at <paramref name="time"/>.</summary>
    public long FrameAt(MediaTime time) =>
        Exact.FloorDivide((Int128)time.Units * Numerator, (Int128)MediaTime.UnitsPerSecond * Denominator);

    /// <summary>The first frame that begins at <paramref name="time"/> or later.</summary>
    public long FrameAtOrAfter(MediaTime time) =>
        Exact.CeilingDivide((Int128)time.Units * Numerator, (Int128)MediaTime.UnitsPerSecond * Denominator);

    /// <summary>The frame whose start is nearest; a half goes away from zero.</summary>
    public long NearestFrame(MediaTime time) =>
        Exact.RoundDivide((Int128)time.Units * Numerator, (Int128)MediaTime.UnitsPerSecond * Denominator);

    /// <summary>Reads <c>25</c>, <c>25/1</c>, <c>30000/1001</c>, or a rounded decimal of a supported rate such as <c>29.97</c>.</summary>
    public static bool TryParse(string? text, [NotNullWhen(true)] out FrameRate? rate)
    {
        rate = null;
        var parts = (text ?? "").Trim().Split('/');
        if (parts.Length == 2 && int.TryParse(parts[0], out var top) && int.TryParse(parts[1], out var bottom) && top > 0 && bottom > 0)
        {
            rate = new FrameRate(top, bottom);
        }
        else if (
            parts.Length == 1
            && decimal.TryParse(
                parts[0],
                System.Globalization.NumberStyles.AllowDecimalPoint,
                System.Globalization.CultureInfo.InvariantCulture,
                out var value
            )
        )
        {
            foreach (var known in Supported)
            {
                if (Math.Abs(((decimal)known.Numerator / known.Denominator) - value) < 0.006m)
                {
                    rate = known;
                    break;
                }
            }
        }
        return rate is not null;
    }

    /// <summary>As people say it: <c>25</c>, <c>29.97</c>, <c>23.976</c>.</summary>
    public override string ToString() =>
        Denominator == 1
            ? Numerator.ToString(System.Globalization.CultureInfo.InvariantCulture)
            : ((decimal)Numerator / Denominator).ToString(
                Nominal == 24 ? "0.###" : "0.##",
                System.Globalization.CultureInfo.InvariantCulture
            );
}
