using EmberLane.Core.Speech;

namespace EmberLane.Core.Voices.OneMix;

/// <summary>
/// The speech of a sitting, ready to be told apart: its frames brought to mean 0 and spread 1, so that the mic's and the room's colour fall
/// out, which kinds of sound each is near to, and the turns.
/// </summary>
internal sealed class HeardTurns
{
    private readonly IReadOnlyList<float> pitch;
    private readonly SoundKinds kinds;

    public HeardTurns(IReadOnlyList<float[]> sounds, IReadOnlyList<float> pitch, IReadOnlyList<StepRange> speech, SoundKinds kinds)
    {
        (this.pitch, this.kinds) = (pitch, kinds);
        Frames = Levelled(sounds, speech);
        Near = new (int, float)[sounds.Count][];
        Parallel.ForEach(
            speech,
            run =>
            {
                foreach (var step in run.Steps)
                {
                    Near[step] = kinds.Near(Frames[step]);
                }
            }
        );
        Turns = SpeechTurns.Cut(Frames, speech);
    }

    /// <summary>A row a step where somebody speaks; elsewhere an empty one.</summary>
    public float[][] Frames { get; }

    public (int Kind, float Chance)[][] Near { get; }

    public IReadOnlyList<StepRange> Turns { get; }

    public TurnGroups Groups(VoiceSpace space)
    {
        var rows = TurnFeatures.Of(Frames, pitch, Turns).Select(space.Along).ToArray();
        return new TurnGroups(rows, [.. Turns.Select(TurnFeatures.Seconds)], Counts(), kinds);
    }

    public KindCounts[] Counts()
    {
        var counts = new KindCounts[Turns.Count];
        Parallel.For(
            0,
            counts.Length,
            t =>
            {
                counts[t] = new KindCounts(kinds);
                foreach (var step in Turns[t].Steps)
                {
                    counts[t].Add(Frames[step], Near[step]);
                }
            }
        );
        return counts;
    }

    public static float[][] Levelled(IReadOnlyList<float[]> sounds, IReadOnlyList<StepRange> speech)
    {
        const int d = Mfcc.Coefficients;
        double[] sums = new double[d],
            squares = new double[d];
        var count = 0;
        foreach (var step in speech.SelectMany(s => s.Steps))
        {
            count++;
            for (var i = 0; i < d; i++)
            {
                sums[i] += sounds[step][i];
                squares[i] += (double)sounds[step][i] * sounds[step][i];
            }
        }
        var mean = sums.Select(s => s / count).ToArray();
        var spread = squares.Select((s, i) => Math.Sqrt(Math.Max(1e-9, (s / count) - (mean[i] * mean[i])))).ToArray();
        var frames = new float[sounds.Count][];
        Array.Fill(frames, []);
        foreach (var step in speech.SelectMany(s => s.Steps))
        {
            frames[step] = [.. sounds[step].Select((v, i) => (float)((v - mean[i]) / spread[i]))];
        }
        return frames;
    }
}
