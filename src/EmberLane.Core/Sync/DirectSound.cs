using EmberLane.Core.Signal;

namespace EmberLane.Core.Sync;

/// <summary>
/// The sound that came straight from who speaks to the mic: the first strong peak of what the source hears of the reference
/// (<see cref="GccPhat.Response"/>). A reflection may be louder in the bands that agree best, but it comes later.
/// </summary>
internal static class DirectSound
{
    /// <summary>
    /// A peak came straight from this share of the highest on, when it stands so many times above what the response holds before any sound
    /// could come. Measured, see the bench.
    /// </summary>
    private const double Share = 0.4,
        AboveNoise = 6;

    /// <summary>
    /// In samples: how much earlier and later than the line's place is looked (80 and 20 ms), and how near to it the line is left as it is.
    /// </summary>
    private const int Earlier = SoundMatch.SampleRate / 12,
        Later = SoundMatch.SampleRate / 50,
        Near = 2;

    /// <summary>
    /// The line moved to the direct sound; the same line where it lies there already, or where nothing stands out.
    /// </summary>
    public static LagLine Moved(GccPhat fine, IReadOnlyList<long> places, LagLine line)
    {
        if (fine.Response(places, line, (3 * Earlier) + StretchLags.Margin) is not { } response)
        {
            return line;
        }
        var noise = Percentile.Of(Enumerable.Range(Earlier, 2 * Earlier).Select(k => (double)Math.Abs(response[k])), 50);
        var highest = Enumerable.Range(-Later, Later + Earlier + 1).Max(k => Math.Abs(response[k]));
        var least = Math.Max(Share * highest, AboveNoise * noise);
        // What arrives later agrees with an earlier moment of the reference: the first to arrive has the greatest lag.
        for (var k = Earlier; k >= -Later; k--)
        {
            var height = Math.Abs(response[k]);
            if (height >= least && height >= Math.Abs(response[k - 1]) && height >= Math.Abs(response[k + 1]))
            {
                return Math.Abs(k) <= Near ? line : line with { Offset = line.Offset + Top(response, k) };
            }
        }
        return line;
    }

    // Between samples, by climbing in ever smaller steps.
    private static double Top(StretchLags response, int peak)
    {
        double at = peak;
        for (var step = 0.5; step > 0.001; step /= 2)
        {
            foreach (var beside in new[] { at - step, at + step })
            {
                at = Math.Abs(response.Between(beside)) > Math.Abs(response.Between(at)) ? beside : at;
            }
        }
        return at;
    }
}
