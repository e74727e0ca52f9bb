using EmberLane.Core.Cameras;

namespace EmberLane.Application.Gathering;

/// <summary>
/// How loud the mics of a sitting are, as it lies in the cache: a byte for each step of each mic, in halves of a decibel, which is 360 kB
/// for an hour of a mic.
/// </summary>
internal static class MicLevelFile
{
    private const int Head = sizeof(long) + sizeof(int);

    private static readonly float[] OfHalves = [.. Enumerable.Range(0, 256).Select(h => (float)Math.Pow(10, h / 20.0) - 1)];

    /// <summary>Writes them.</summary>
    public static void Write(string path, MicLevels levels)
    {
        using var file = File.Create(path);
        file.Write(BitConverter.GetBytes(levels.From.FromZero.Units));
        file.Write(BitConverter.GetBytes(levels.Rows.Count));
        foreach (var row in levels.Rows)
        {
            file.Write(Array.ConvertAll(row, v => (byte)Math.Clamp(Math.Round(20 * Math.Log10(v + 1)), 0, 255)));
        }
    }

    /// <summary>What was written.</summary>
    public static MicLevels Read(string path)
    {
        var bytes = File.ReadAllBytes(path);
        var mics = BitConverter.ToInt32(bytes, sizeof(long));
        var steps = mics == 0 ? 0 : (bytes.Length - Head) / mics;
        return new MicLevels(
            new SittingTime(new MediaTime(BitConverter.ToInt64(bytes))),
            [
                .. Enumerable
                    .Range(0, mics)
                    .Select(m => Array.ConvertAll(bytes.AsSpan(Head + (m * steps), steps).ToArray(), half => OfHalves[half])),
            ]
        );
    }
}
