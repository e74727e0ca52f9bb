namespace EmberLane.Core.Time;

/// <summary>Whole-number division that says which way it rounds. The divisor is positive.</summary>
public static class Exact
{
    /// <summary>Towards minus infinity.</summary>
    public static long FloorDivide(Int128 value, Int128 by)
    {
        var (quotient, rest) = Int128.DivRem(value, by);
        return checked((long)(rest < 0 ? quotient - 1 : quotient));
    }

    /// <summary>Towards plus infinity.</summary>
    public static long CeilingDivide(Int128 value, Int128 by) => checked(-FloorDivide(-value, by));

    /// <summary>To the nearest; a half goes away from zero.</summary>
    public static long RoundDivide(Int128 value, Int128 by) =>
        value < 0 ? checked(-FloorDivide((-value * 2) + by, by * 2)) : FloorDivide((value * 2) + by, by * 2);
}
