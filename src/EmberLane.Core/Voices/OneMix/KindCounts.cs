namespace EmberLane.Core.Voices.OneMix;

/// <summary>
/// What some talk tells of each kind of sound: how many frames were of it, and how far they lay from its mean, in its spreads.
/// </summary>
internal sealed class KindCounts(SoundKinds kinds)
{
    private const int D = Mfcc.Coefficients;

    /// <summary>Of so many frames of a kind, a voice's mean is drawn half to what they say and half to the mean of all talk.</summary>
    private const float Relevance = 16;

    private readonly float[] frames = new float[kinds.Count],
        off = new float[kinds.Count * D];

    public void Add(float[] frame, (int Kind, float Chance)[] near)
    {
        foreach (var (kind, chance) in near)
        {
            frames[kind] += chance;
            for (int d = 0, at = kind * D; d < D; d++, at++)
            {
                off[at] += chance * (frame[d] - kinds.Means[at]) / MathF.Sqrt(kinds.Variances[at]);
            }
        }
    }

    public void Add(KindCounts other)
    {
        for (var i = 0; i < frames.Length; i++)
        {
            frames[i] += other.frames[i];
        }
        for (var i = 0; i < off.Length; i++)
        {
            off[i] += other.off[i];
        }
    }

    /// <summary>How far this voice moves each mean, in spreads.</summary>
    public float[] Moves()
    {
        var moves = new float[off.Length];
        for (var i = 0; i < off.Length; i++)
        {
            moves[i] = off[i] / (frames[i / D] + Relevance);
        }
        return moves;
    }

    /// <summary>The means of all kinds as this voice moves them.</summary>
    public float[] Means() => [.. Moves().Select((m, i) => kinds.Means[i] + (m * MathF.Sqrt(kinds.Variances[i])))];

    /// <summary>How much likelier this talk is by a voice that moves the means so than by anybody, as a logarithm.</summary>
    public double Fits(float[] moves)
    {
        double sum = 0;
        for (var k = 0; k < frames.Length; k++)
        {
            float along = 0,
                length = 0;
            for (int d = 0, at = k * D; d < D; d++, at++)
            {
                along += off[at] * moves[at];
                length += moves[at] * moves[at];
            }
            sum += along - (0.5f * frames[k] * length);
        }
        return sum;
    }
}
