using System.Text.Json;
using System.Text.Json.Serialization;
using EmberLane.Core.Edits;

namespace EmberLane.Core.Bites;

/// <summary>
/// A change of one bite or of many at once, which is taken back at once too. Written as the list of its edits; what was written before
/// there were changes of many is one edit alone.
/// </summary>
[JsonConverter(typeof(ListJson))]
public sealed record BitesEdit(IReadOnlyList<BiteEdit> Edits) : IEdit<IReadOnlyDictionary<long, BiteState>, BitesEdit>
{
    /// <inheritdoc/>
    public (IReadOnlyDictionary<long, BiteState> State, BitesEdit Inverse) Apply(IReadOnlyDictionary<long, BiteState> state)
    {
        var after = new Dictionary<long, BiteState>(state);
        var inverse = new List<BiteEdit>();
        foreach (var edit in Edits)
        {
            (after[edit.Id], var back) = edit.Apply(after[edit.Id]);
            inverse.Add(back);
        }
        return (after, new BitesEdit(inverse));
    }

    /// <summary>This edit on bites that others may have changed in other ways since <paramref name="opposite"/> held.</summary>
    public BitesEdit Against(BitesEdit opposite, IReadOnlyDictionary<long, BiteState> now) =>
        new([.. Edits.Zip(opposite.Edits, (e, o) => e.Against(o, now[e.Id]))]);

    /// <inheritdoc/>
    public static IEnumerable<string> Touches(BitesEdit edit, BitesEdit inverse) =>
        edit.Edits.Zip(inverse.Edits).SelectMany(e => BiteEdit.Touches(e.First, e.Second));

    /// <inheritdoc/>
    public bool Equals(BitesEdit? other) => other is not null && Edits.SequenceEqual(other.Edits);

    /// <inheritdoc/>
    public override int GetHashCode() => Edits.Aggregate(0, HashCode.Combine);

    private sealed class ListJson : JsonConverter<BitesEdit>
    {
        public override BitesEdit Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) =>
            reader.TokenType == JsonTokenType.StartArray
                ? new BitesEdit(JsonSerializer.Deserialize<List<BiteEdit>>(ref reader, options)!)
                : new BitesEdit([JsonSerializer.Deserialize<BiteEdit>(ref reader, options)!]);

        public override void Write(Utf8JsonWriter writer, BitesEdit value, JsonSerializerOptions options) =>
            JsonSerializer.Serialize(writer, value.Edits, options);
    }
}
