namespace EmberLane.Core.Media;

/// <summary>A picture of a compressed stream: when it is shown, and whether it is whole by itself.</summary>
public readonly record struct PicturePacket(SourceTime At, bool IsKey);

/// <summary>
/// Which pictures of a compressed stream go when stretches of it are not to be seen, and all others are to stay as they are.
/// </summary>
public static class PacketCuts
{
    /// <summary>
    /// Runs of places in <paramref name="packets"/>, which are in the order of decoding, first and last included, in order and apart: from
    /// the first picture of each stretch to the one before the next that is whole by itself and shown behind it; and what is of the stretch
    /// all the same. The picture before a run stands until the one behind it. Linear in packets times stretches.
    /// </summary>
    public static IReadOnlyList<(int First, int Last)> Of(IReadOnlyList<PicturePacket> packets, IReadOnlyList<SourceRange> stretches)
    {
        var goes = new bool[packets.Count];
        foreach (var stretch in stretches)
        {
            var isOver = true;
            for (var i = 0; i < packets.Count; i++)
            {
                var isIn = stretch.Holds(packets[i].At);
                isOver = !isIn && (isOver || (packets[i].IsKey && packets[i].At >= stretch.Out));
                goes[i] |= isIn || !isOver;
            }
        }
        return Runs(goes);
    }

    private static List<(int First, int Last)> Runs(bool[] goes)
    {
        var runs = new List<(int First, int Last)>();
        for (var i = 0; i < goes.Length; i++)
        {
            if (goes[i])
            {
                var first = i;
                while (i + 1 < goes.Length && goes[i + 1])
                {
                    i++;
                }
                runs.Add((first, i));
            }
        }
        return runs;
    }
}
