using System.Runtime.Intrinsics;

namespace EmberLane.Core.Finding.Sounds;

/// <summary>Where sounds like those that were looked for end, in which lane of a block, and at which cost.</summary>
public readonly record struct SoundEnd(int Lane, int At, byte Cost);

/// <summary>
/// Sixteen stretches of talk beside each other, so that all of them are compared with a question at once: the first sound of each, then the
/// second of each, and so on; where one is shorter stands nothing.
/// </summary>
public sealed class SoundBlock
{
    /// <summary>So many stretches are in a block.</summary>
    public const int Lanes = 16;

    private readonly byte[] sounds;

    /// <summary>Of at most <see cref="Lanes"/> stretches.</summary>
    public SoundBlock(IReadOnlyList<byte[]> stretches)
    {
        Length = stretches.Max(s => s.Length);
        sounds = new byte[Length * Lanes];
        for (var lane = 0; lane < stretches.Count; lane++)
        {
            for (var i = 0; i < stretches[lane].Length; i++)
            {
                sounds[(i * Lanes) + lane] = stretches[lane][i];
            }
        }
    }

    /// <summary>The sounds of the longest.</summary>
    public int Length { get; }

    /// <summary>The sounds of a stretch.</summary>
    public byte[] Lane(int lane)
    {
        var own = new byte[Length];
        var length = 0;
        for (var i = lane; i < sounds.Length && sounds[i] != 0; i += Lanes)
        {
            own[length++] = sounds[i];
        }
        return own[..length];
    }

    /// <summary>
    /// All ends at which the sounds of a question are said at a cost of at most <paramref name="most"/>: the least cost of turning any
    /// stretch that ends there into the question (Sellers, 1980), in all lanes at once. Linear in the block times the question.
    /// </summary>
    public void EndsOf(SoundQuestion question, byte most, List<SoundEnd> ends)
    {
        Span<Vector128<byte>> row = stackalloc Vector128<byte>[question.Length];
        Span<Vector128<byte>> missing = stackalloc Vector128<byte>[question.Length];
        Span<(Vector128<byte> First, Vector128<byte> Second, Vector128<byte> Third)> instead =
            stackalloc (Vector128<byte>, Vector128<byte>, Vector128<byte>)[question.Length];
        var above = Vector128<byte>.Zero;
        for (var j = 0; j < row.Length; j++)
        {
            missing[j] = Vector128.Create(question.Missing(j));
            instead[j] = question.Instead(j);
            above = row[j] = Vector128.AddSaturate(above, missing[j]);
        }
        var all = question.More;
        var limit = Vector128.Create(most);
        var lows = Vector128.Create((byte)0x0F);
        var codes = Vector128.Create(SaidSounds.Code);
        for (var i = 0; i < Length; i++)
        {
            var code = Vector128.Create(sounds, i * Lanes) & codes;
            var low = code & lows;
            var high = code & Vector128.Create((byte)0x30);
            var isSecond = Vector128.Equals(high, Vector128.Create((byte)0x10));
            var isThird = Vector128.Equals(high, Vector128.Create((byte)0x20));
            var more = Look(all, low, isSecond, isThird);
            var diagonal = Vector128<byte>.Zero;
            var here = Vector128<byte>.Zero;
            for (var j = 0; j < row.Length; j++)
            {
                var other = Vector128.AddSaturate(diagonal, Look(instead[j], low, isSecond, isThird));
                diagonal = row[j];
                here = Vector128.Min(Vector128.Min(other, Vector128.AddSaturate(diagonal, more)), Vector128.AddSaturate(here, missing[j]));
                row[j] = here;
            }
            var hits = Vector128.LessThanOrEqual(here, limit).ExtractMostSignificantBits();
            while (hits != 0)
            {
                var lane = System.Numerics.BitOperations.TrailingZeroCount(hits);
                hits &= hits - 1;
                if (code[lane] != 0)
                {
                    ends.Add(new SoundEnd(lane, i, here[lane]));
                }
            }
        }
    }

    // Of a table of 48 costs those of 16 codes.
    private static Vector128<byte> Look(
        (Vector128<byte> First, Vector128<byte> Second, Vector128<byte> Third) table,
        Vector128<byte> low,
        Vector128<byte> isSecond,
        Vector128<byte> isThird
    ) =>
        Vector128.ConditionalSelect(
            isThird,
            Vector128.ShuffleNative(table.Third, low),
            Vector128.ConditionalSelect(isSecond, Vector128.ShuffleNative(table.Second, low), Vector128.ShuffleNative(table.First, low))
        );
}
