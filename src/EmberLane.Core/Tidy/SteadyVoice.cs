using EmberLane.Core.Speech;
using EmberLane.Core.Voices;

namespace EmberLane.Core.Tidy;

/// <summary>
/// How steady a voice sounds, for each 10 ms: up to 1 where its colour does not move at all. An “um” is steadier than most words are.
/// </summary>
public static class SteadyVoice
{
    /// <summary>In steps: the colour of so many before a moment is set against that of as many behind it.</summary>
    public const int Side = 4;

    /// <summary>Coefficients of the colour that are looked at; finer ones tell of the pitch.</summary>
    private const int Coarse = 12;

    /// <summary>A colour that moves by so much is half as steady as one that stands.</summary>
    private const float Moves = 10;

    /// <summary>A number for each whole step of 16 kHz sound, 0 at its ends, which have no sides. Linear in it.</summary>
    public static float[] Of(ReadOnlySpan<short> samples)
    {
        var colour = new Mfcc();
        colour.Add(samples);
        var steady = new float[samples.Length * (long)Step.PerSecond / SilenceSegmenter.SampleRate];
        for (var i = Side; i + Side < colour.Frames.Count && i < steady.Length; i++)
        {
            steady[i] = 1 / (1 + (Moved(colour.Frames, i) / Moves));
        }
        return steady;
    }

    private static float Moved(IReadOnlyList<float[]> frames, int at)
    {
        float sum = 0;
        for (var c = 0; c < Coarse; c++)
        {
            float moved = 0;
            for (var k = 1; k <= Side; k++)
            {
                moved += frames[at + k][c] - frames[at - k][c];
            }
            sum += moved * moved;
        }
        return MathF.Sqrt(sum) / Side;
    }
}
