namespace EmberLane.Core.Time;

/// <summary>Names a clock. Moments of different clocks do not mix: the compiler refuses it.</summary>
public interface IClock;

/// <summary>The clock of one source: zero is its first sample or frame.</summary>
public sealed class SourceClock : IClock
{
    private SourceClock() { }
}

/// <summary>The clock of a sitting, which all its sources are placed on.</summary>
public sealed class SittingClock : IClock
{
    private SittingClock() { }
}

/// <summary>The running time of a story: zero is the first frame of its first card.</summary>
public sealed class RecordClock : IClock
{
    private RecordClock() { }
}

/// <summary>A moment on the clock <typeparamref name="TClock"/>. Known in code as SourceTime, SittingTime and RecordTime.</summary>
public readonly record struct Moment<TClock>(MediaTime FromZero) : IComparable<Moment<TClock>>
    where TClock : IClock
{
    /// <inheritdoc/>
    public int CompareTo(Moment<TClock> other) => FromZero.CompareTo(other.FromZero);

    /// <summary>So much later on the same clock.</summary>
    public static Moment<TClock> operator +(Moment<TClock> at, MediaTime amount) => new(at.FromZero + amount);

    /// <summary>So much earlier on the same clock.</summary>
    public static Moment<TClock> operator -(Moment<TClock> at, MediaTime amount) => new(at.FromZero - amount);

    /// <summary>How long after the other it is.</summary>
    public static MediaTime operator -(Moment<TClock> a, Moment<TClock> b) => a.FromZero - b.FromZero;

    /// <summary>Whether it is earlier.</summary>
    public static bool operator <(Moment<TClock> a, Moment<TClock> b) => a.FromZero < b.FromZero;

    /// <summary>Whether it is later.</summary>
    public static bool operator >(Moment<TClock> a, Moment<TClock> b) => a.FromZero > b.FromZero;

    /// <summary>Whether it is not later.</summary>
    public static bool operator <=(Moment<TClock> a, Moment<TClock> b) => a.FromZero <= b.FromZero;

    /// <summary>Whether it is not earlier.</summary>
    public static bool operator >=(Moment<TClock> a, Moment<TClock> b) => a.FromZero >= b.FromZero;

    /// <inheritdoc/>
    public override string ToString() => FromZero.ToString();
}

/// <summary>
/// A half-open range on one clock: Out is the first moment not in it. Out before In throws <see cref="ArgumentException"/>.
/// </summary>
public readonly record struct Stretch<TClock>
    where TClock : IClock
{
    // Named for the JSON reader: without it a range read back would be empty.
    /// <summary>From one moment to another. Throws <see cref="ArgumentException"/> when the second is earlier.</summary>
    [System.Text.Json.Serialization.JsonConstructor]
    public Stretch(Moment<TClock> @in, Moment<TClock> @out)
    {
        if (@out < @in)
        {
            throw new ArgumentException($"A range can not end at {@out}, before it begins at {@in}.", nameof(@out));
        }
        In = @in;
        Out = @out;
    }

    /// <summary>Its first moment.</summary>
    public Moment<TClock> In { get; }

    /// <summary>The moment behind its last, which it does not hold.</summary>
    public Moment<TClock> Out { get; }

    /// <summary>How long it lasts.</summary>
    public MediaTime Length => Out - In;

    /// <summary>Whether a moment lies in it; its out does not.</summary>
    public bool Holds(Moment<TClock> at) => In <= at && at < Out;

    /// <summary>Whether all of another stretch lies in it.</summary>
    public bool Covers(Stretch<TClock> other) => In <= other.In && other.Out <= Out;

    /// <summary>The part that both have, or null when they only touch or lie apart.</summary>
    public Stretch<TClock>? Overlap(Stretch<TClock> other)
    {
        var from = In > other.In ? In : other.In;
        var to = Out < other.Out ? Out : other.Out;
        return from < to ? new Stretch<TClock>(from, to) : null;
    }
}
