namespace EmberLane.Core.Finding;

/// <summary>
/// A stretch of a text as it is searched: for each of its words the number of its term in the vocabulary, the number of the word in the
/// text, and its voice. The first <see cref="Own"/> of them are its own; the others are the next stretch's, so that what is said across the
/// border is found.
/// </summary>
public sealed record SaidPassage(int[] Terms, int[] Words, int[] Voices, int Own)
{
    /// <summary>As bytes: terms as they are, words and voices where they do not go on as they would.</summary>
    public byte[] ToBytes()
    {
        using var bytes = new MemoryStream();
        using var writer = new BinaryWriter(bytes);
        writer.Write7BitEncodedInt(Terms.Length);
        writer.Write7BitEncodedInt(Own);
        foreach (var term in Terms)
        {
            writer.Write7BitEncodedInt(term);
        }
        Runs(writer, Words, 1);
        Runs(writer, Voices, 0);
        return bytes.ToArray();
    }

    /// <summary>Of what <see cref="ToBytes"/> gave.</summary>
    public static SaidPassage Of(ReadOnlySpan<byte> bytes)
    {
        var terms = new int[Number(ref bytes)];
        var own = Number(ref bytes);
        for (var i = 0; i < terms.Length; i++)
        {
            terms[i] = Number(ref bytes);
        }
        return new SaidPassage(terms, Runs(ref bytes, terms.Length, 1), Runs(ref bytes, terms.Length, 0), own);
    }

    /// <summary>
    /// Whether terms stand behind each other in what <see cref="ToBytes"/> gave, told from the bytes alone; it may say so of what is no
    /// term, and never fails to.
    /// </summary>
    public static bool MayHold(ReadOnlySpan<byte> bytes, ReadOnlySpan<byte> run) => bytes.IndexOf(run) >= 0;

    /// <summary>Terms behind each other as <see cref="MayHold"/> looks for them.</summary>
    public static byte[] RunOf(IEnumerable<int> terms)
    {
        using var bytes = new MemoryStream();
        using var writer = new BinaryWriter(bytes);
        foreach (var term in terms)
        {
            writer.Write7BitEncodedInt(term);
        }
        return bytes.ToArray();
    }

    // Seven bits a byte, the lowest first, as BinaryWriter writes them.
    private static int Number(ref ReadOnlySpan<byte> bytes)
    {
        int number = bytes[0] & 0x7F,
            shift = 7,
            read = 1;
        while (bytes[read - 1] >= 0x80)
        {
            number |= (bytes[read++] & 0x7F) << shift;
            shift += 7;
        }
        bytes = bytes[read..];
        return number;
    }

    // Runs of values that each grow by a step: how many, and the first.
    private static void Runs(BinaryWriter writer, int[] values, int step)
    {
        for (var i = 0; i < values.Length;)
        {
            var first = i++;
            while (i < values.Length && values[i] == values[i - 1] + step)
            {
                i++;
            }
            writer.Write7BitEncodedInt(i - first);
            writer.Write7BitEncodedInt(values[first]);
        }
    }

    private static int[] Runs(ref ReadOnlySpan<byte> bytes, int count, int step)
    {
        var values = new int[count];
        for (var i = 0; i < count;)
        {
            int length = Number(ref bytes),
                value = Number(ref bytes);
            for (var k = 0; k < length; k++)
            {
                values[i++] = value + (k * step);
            }
        }
        return values;
    }
}
