using System.Globalization;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace EmberLane.Core;

/// <summary>
/// A share in thousandths: how sure something is, or how far it got, 0–1000; a rate of errors may pass that. Written and sent as the plain
/// number.
/// </summary>
[JsonConverter(typeof(PlainJson))]
public readonly record struct PerMille(int Value) : IComparable<PerMille>
{
    /// <summary>Nothing.</summary>
    public static readonly PerMille None = new(0);

    /// <summary>The whole.</summary>
    public static readonly PerMille All = new(1000);

    /// <summary>So many of so many, rounded down; all of none is nothing.</summary>
    public static PerMille Of(long part, long whole) => whole <= 0 ? None : new((int)Int128.Clamp(1000 * (Int128)part / whole, 0, 1000));

    /// <summary>Of a share from 0 to 1, rounded; what lies beyond is cut off.</summary>
    public static PerMille OfShare(double share) => new((int)Math.Round(1000 * Math.Clamp(share, 0, 1)));

    /// <summary>As a share from 0 to 1.</summary>
    public decimal Share => Value / 1000m;

    /// <summary>In hundredths, rounded down.</summary>
    public int Percent => Value / 10;

    /// <inheritdoc/>
    public int CompareTo(PerMille other) => Value.CompareTo(other.Value);

    /// <summary>Whether it is less.</summary>
    public static bool operator <(PerMille one, PerMille other) => one.Value < other.Value;

    /// <summary>Whether it is more.</summary>
    public static bool operator >(PerMille one, PerMille other) => one.Value > other.Value;

    /// <summary>Whether it is less or the same.</summary>
    public static bool operator <=(PerMille one, PerMille other) => one.Value <= other.Value;

    /// <summary>Whether it is more or the same.</summary>
    public static bool operator >=(PerMille one, PerMille other) => one.Value >= other.Value;

    /// <summary>The plain number of thousandths.</summary>
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);

    private sealed class PlainJson : JsonConverter<PerMille>
    {
        public override PerMille Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            new(reader.GetInt32());

        public override void Write(Utf8JsonWriter writer, PerMille value, JsonSerializerOptions options) =>
            writer.WriteNumberValue(value.Value);
    }
}
