namespace EmberLane.Core.Finding.Sounds;

/// <summary>A stretch of talk as the sounds of its words: a byte each, that of a word's first sound marked.</summary>
public static class SaidSounds
{
    /// <summary>The mark of a word's first sound.</summary>
    public const byte Begins = 0x80;

    /// <summary>The code of a sound, without its mark.</summary>
    public const byte Code = 0x3F;

    /// <summary>Of words, each with at least one sound.</summary>
    public static byte[] Of(IEnumerable<byte[]> words)
    {
        var sounds = new List<byte>();
        foreach (var word in words)
        {
            sounds.Add((byte)(word[0] | Begins));
            sounds.AddRange(word.AsSpan(1));
        }
        return [.. sounds];
    }

    /// <summary>The number of the word, from 0, to which a sound belongs.</summary>
    public static int WordAt(ReadOnlySpan<byte> sounds, int at)
    {
        var word = -1;
        for (var i = 0; i <= at; i++)
        {
            word += (sounds[i] & Begins) != 0 ? 1 : 0;
        }
        return word;
    }
}
