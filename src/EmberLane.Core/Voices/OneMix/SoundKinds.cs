namespace EmberLane.Core.Voices.OneMix;

/// <summary>
/// The kinds of sound that talk consists of, whoever talks: a mixture of normal distributions with variances alone over frames of mean 0
/// and spread 1 (Reynolds, Quatieri and Dunn, 2000). A voice is how it moves their means.
/// </summary>
internal sealed class SoundKinds
{
    private const int D = Mfcc.Coefficients;

    /// <summary>So many of the kinds have their say for a frame: the rest are too far from it to count.</summary>
    private const int Nearest = 5;

    private readonly float[] constants;
    private readonly float[] narrow;

    /// <summary>
    /// Shares of the kinds, their means and variances, row by row of <see cref="Mfcc.Coefficients"/>; at least five kinds.
    /// </summary>
    public SoundKinds(float[] shares, float[] means, float[] variances)
    {
        (Shares, Means, Variances) = (shares, means, variances);
        narrow = [.. variances.Select(v => 1 / v)];
        constants =
        [
            .. shares.Select((s, k) => (float)(Math.Log(s) - (0.5 * variances.Skip(k * D).Take(D).Sum(v => Math.Log(2 * Math.PI * v))))),
        ];
    }

    public float[] Shares { get; }

    public float[] Means { get; }

    public float[] Variances { get; }

    public int Count => Shares.Length;

    /// <summary>The kinds nearest to a frame, and how likely each is the one, together 1.</summary>
    public (int Kind, float Chance)[] Near(float[] frame)
    {
        Span<float> logs = stackalloc float[Count];
        var near = new (int Kind, float Chance)[Nearest];
        var held = 0;
        for (var k = 0; k < Count; k++)
        {
            logs[k] = Log(frame, k, Means);
            if (held < Nearest || logs[k] > near[held - 1].Chance)
            {
                var at = held < Nearest ? held++ : held - 1;
                for (; at > 0 && near[at - 1].Chance < logs[k]; at--)
                {
                    near[at] = near[at - 1];
                }
                near[at] = (k, logs[k]);
            }
        }
        float most = near[0].Chance,
            sum = 0;
        for (var i = 0; i < near.Length; i++)
        {
            near[i].Chance = MathF.Exp(near[i].Chance - most);
            sum += near[i].Chance;
        }
        for (var i = 0; i < near.Length; i++)
        {
            near[i].Chance /= sum;
        }
        return near;
    }

    /// <summary>How likely a frame is, as a logarithm, of these kinds with other <paramref name="means"/>, by those near to it.</summary>
    public float Fits(float[] frame, (int Kind, float Chance)[] near, float[] means)
    {
        Span<float> logs = stackalloc float[near.Length];
        var most = float.NegativeInfinity;
        for (var i = 0; i < near.Length; i++)
        {
            logs[i] = Log(frame, near[i].Kind, means);
            most = Math.Max(most, logs[i]);
        }
        float sum = 0;
        foreach (var log in logs)
        {
            sum += MathF.Exp(log - most);
        }
        return most + MathF.Log(sum);
    }

    private float Log(float[] frame, int kind, float[] means)
    {
        float distance = 0;
        for (int d = 0, at = kind * D; d < D; d++, at++)
        {
            var off = frame[d] - means[at];
            distance += off * off * narrow[at];
        }
        return constants[kind] - (0.5f * distance);
    }
}
