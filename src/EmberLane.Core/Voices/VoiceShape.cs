namespace EmberLane.Core.Voices;

/// <summary>
/// The frames of one voice as one normal distribution with all its covariances: how many, their sums and the sums of their products.
/// </summary>
internal sealed class VoiceShape
{
    private const int D = Mfcc.Coefficients;

    /// <summary>Added to each variance: a share of what all sound varies by, so that few frames do not make a shape of no width.</summary>
    private const double Widened = 0.02;

    private readonly double[] sums = new double[D],
        products = new double[D * (D + 1) / 2];
    private double[] mean = [],
        lower = [];
    private double logDeterminant;

    public long Count { get; private set; }

    /// <summary>The logarithm of the covariance's determinant; after <see cref="Settle"/>.</summary>
    public double LogDeterminant => logDeterminant;

    public void Add(float[] frame)
    {
        Count++;
        for (int i = 0, k = 0; i < D; i++)
        {
            sums[i] += frame[i];
            for (var j = 0; j <= i; j++, k++)
            {
                products[k] += frame[i] * frame[j];
            }
        }
    }

    /// <summary>Both as one, each counting for at most so many frames.</summary>
    public VoiceShape With(VoiceShape other, long most = long.MaxValue)
    {
        double own = Share(most),
            others = other.Share(most);
        var both = new VoiceShape { Count = Math.Min(Count, most) + Math.Min(other.Count, most) };
        for (var i = 0; i < sums.Length; i++)
        {
            both.sums[i] = (own * sums[i]) + (others * other.sums[i]);
        }
        for (var i = 0; i < products.Length; i++)
        {
            both.products[i] = (own * products[i]) + (others * other.products[i]);
        }
        return both;
    }

    private double Share(long most) => Count <= most ? 1 : (double)most / Count;

    /// <summary>How widely each coefficient varies: the variances.</summary>
    public double[] Variances() =>
        [
            .. Enumerable
                .Range(0, D)
                .Select(i => Math.Max(1e-6, (products[(i * (i + 1) / 2) + i] / Count) - (sums[i] / Count * (sums[i] / Count)))),
        ];

    /// <summary>Works out the shape, once all frames are in; <paramref name="all"/> are the variances of all sound.</summary>
    public VoiceShape Settle(double[] all)
    {
        mean = [.. sums.Select(s => s / Count)];
        lower = new double[products.Length];
        double sum = 0;
        // Cholesky's lower triangle, row by row.
        for (int i = 0, row = 0; i < D; row += ++i)
        {
            for (int j = 0, other = 0; j <= i; other += ++j)
            {
                var value = (products[row + j] / Count) - (mean[i] * mean[j]) + (i == j ? Widened * all[i] : 0);
                for (var k = 0; k < j; k++)
                {
                    value -= lower[row + k] * lower[other + k];
                }
                lower[row + j] = i == j ? Math.Sqrt(Math.Max(value, 1e-9)) : value / lower[other + j];
            }
            sum += Math.Log(lower[row + i]);
        }
        logDeterminant = 2 * sum;
        return this;
    }

    /// <summary>The logarithm of how likely a frame is of this voice, without the constant that all voices share.</summary>
    public double Fits(float[] frame)
    {
        Span<double> solved = stackalloc double[D];
        double distance = 0;
        for (int i = 0, row = 0; i < D; row += ++i)
        {
            var value = frame[i] - mean[i];
            for (var k = 0; k < i; k++)
            {
                value -= lower[row + k] * solved[k];
            }
            solved[i] = value / lower[row + i];
            distance += solved[i] * solved[i];
        }
        return -0.5 * (distance + logDeterminant);
    }
}
