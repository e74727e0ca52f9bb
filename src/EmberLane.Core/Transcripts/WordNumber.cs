using System.Diagnostics.CodeAnalysis;
using System.Globalization;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace EmberLane.Core.Transcripts;

/// <summary>
/// A word's number: its name for ever within one transcript, from 0. It is no place: words that people add stand among the others under
/// numbers behind all of them. Written and sent as the plain number.
/// </summary>
[JsonConverter(typeof(PlainJson))]
public readonly record struct WordNumber(int Value) : IComparable<WordNumber>, IParsable<WordNumber>
{
    /// <summary>Where a word is named that another one stands behind: none, for one at the very beginning.</summary>
    public static readonly WordNumber BeforeFirst = new(-1);

    /// <summary>The number that comes next.</summary>
    public WordNumber Next => new(Value + 1);

    /// <inheritdoc/>
    public int CompareTo(WordNumber other) => Value.CompareTo(other.Value);

    /// <summary>Whether one comes before the other in the record.</summary>
    public static bool operator <(WordNumber one, WordNumber other) => one.Value < other.Value;

    /// <summary>Whether one comes behind the other in the record.</summary>
    public static bool operator >(WordNumber one, WordNumber other) => one.Value > other.Value;

    /// <summary>Whether one comes before the other in the record, or is the same.</summary>
    public static bool operator <=(WordNumber one, WordNumber other) => one.Value <= other.Value;

    /// <summary>Whether one comes behind the other in the record, or is the same.</summary>
    public static bool operator >=(WordNumber one, WordNumber other) => one.Value >= other.Value;

    /// <summary>Reads a whole number. Throws <see cref="FormatException"/> for anything else.</summary>
    public static WordNumber Parse(string s, IFormatProvider? provider) =>
        TryParse(s, provider, out var number) ? number : throw new FormatException("A word's number is a whole number.");

    /// <inheritdoc/>
    public static bool TryParse([NotNullWhen(true)] string? s, IFormatProvider? provider, out WordNumber result)
    {
        var read = int.TryParse(s, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var value);
        result = new WordNumber(value);
        return read;
    }

    /// <summary>The plain number.</summary>
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);

    private sealed class PlainJson : JsonConverter<WordNumber>
    {
        public override WordNumber Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            new(reader.GetInt32());

        public override void Write(Utf8JsonWriter writer, WordNumber value, JsonSerializerOptions options) =>
            writer.WriteNumberValue(value.Value);
    }
}
