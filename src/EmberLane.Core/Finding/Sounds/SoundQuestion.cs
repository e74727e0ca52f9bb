using System.Runtime.Intrinsics;

namespace EmberLane.Core.Finding.Sounds;

/// <summary>Sounds that are looked for, with the costs of what may be heard for each.</summary>
public sealed class SoundQuestion
{
    /// <summary>
    /// In hundredths of what it would cost to hear nothing right: up to the first a stretch is taken for what was asked; up to the second
    /// where none is nearer by more than the third. Chosen on the first half of `./ember bench names`.
    /// </summary>
    private const int Sure = 22,
        Most = 33,
        Gap = 6;

    /// <summary>Fewer sounds are like too much, more are no name.</summary>
    private const int Fewest = 4,
        Longest = 40;

    /// <summary>With fewer sounds than this only what is sure is taken.</summary>
    private const int Short = 6;

    private readonly byte[] sounds;
    private readonly (Vector128<byte>, Vector128<byte>, Vector128<byte>)[] instead;

    private SoundQuestion(byte[] sounds)
    {
        this.sounds = sounds;
        Full = Phonemes.Full(sounds);
        More = TableOf(Phonemes.More);
        instead = [.. sounds.Select(wanted => TableOf(heard => Phonemes.Instead(wanted, heard)))];
    }

    /// <summary>Of sounds; null where they are too few or too many to be looked for.</summary>
    public static SoundQuestion? Of(byte[] sounds) =>
        sounds.Length is >= Fewest and <= Longest && !sounds.Contains(Phonemes.Unknown) ? new SoundQuestion(sounds) : null;

    /// <summary>So many sounds.</summary>
    public int Length => sounds.Length;

    /// <summary>What it would cost to hear nothing right.</summary>
    public int Full { get; }

    /// <summary>The most that a hit costs.</summary>
    public byte MostCost => (byte)Math.Min(Phonemes.Never - 1, Full * (Length < Short ? Sure : Most) / 100);

    /// <summary>Whether a hit is one, where the nearest of all costs so many hundredths of the full cost.</summary>
    public static bool IsNear(int share, int nearest) => share <= Sure || (share <= Most && share <= nearest + Gap);

    /// <summary>A cost in hundredths of the full one.</summary>
    public int ShareOf(int cost) => 100 * cost / Full;

    internal (Vector128<byte> First, Vector128<byte> Second, Vector128<byte> Third) More { get; }

    internal (Vector128<byte> First, Vector128<byte> Second, Vector128<byte> Third) Instead(int j) => instead[j];

    internal byte Missing(int j) => Phonemes.More(sounds[j]);

    /// <summary>
    /// Where the stretch begins that ends with a sound and costs least: its first sound, the latest where several cost the same. Cost is
    /// the product of the question's length and some times of it.
    /// </summary>
    public int BeginOf(ReadOnlySpan<byte> said, int end)
    {
        var from = Math.Max(0, end + 1 - (3 * Length));
        Span<(int Cost, int Begin)> row = stackalloc (int, int)[Length + 1];
        row[0] = (0, from);
        for (var j = 1; j <= Length; j++)
        {
            row[j] = (row[j - 1].Cost + Missing(j - 1), from);
        }
        for (var i = from; i <= end; i++)
        {
            var code = (byte)(said[i] & SaidSounds.Code);
            var diagonal = row[0];
            row[0] = (0, i + 1);
            for (var j = 1; j <= Length; j++)
            {
                var best = Lesser(
                    Lesser(
                        (diagonal.Cost + Phonemes.Instead(sounds[j - 1], code), diagonal.Begin),
                        (row[j].Cost + Phonemes.More(code), row[j].Begin)
                    ),
                    (row[j - 1].Cost + Missing(j - 1), row[j - 1].Begin)
                );
                diagonal = row[j];
                row[j] = best;
            }
        }
        return Math.Min(row[Length].Begin, end);

        static (int Cost, int Begin) Lesser((int Cost, int Begin) one, (int Cost, int Begin) other) =>
            one.Cost < other.Cost || (one.Cost == other.Cost && one.Begin >= other.Begin) ? one : other;
    }

    private static (Vector128<byte>, Vector128<byte>, Vector128<byte>) TableOf(Func<byte, byte> cost)
    {
        byte[] all = [.. Enumerable.Range(0, Phonemes.Codes).Select(c => cost((byte)c))];
        return (Vector128.Create(all, 0), Vector128.Create(all, 16), Vector128.Create(all, 32));
    }
}
