using EmberLane.Core.Speech;
using MathNet.Numerics.LinearAlgebra;
using MathNet.Numerics.LinearAlgebra.Double;

namespace EmberLane.Core.Voices;

/// <summary>
/// What a voice is known by in another sitting: how its sounds vary together (the covariances of <see cref="Mfcc"/>, row by row of the
/// lower triangle), which another mic or room hardly changes, and its pitch. <see cref="Steps"/> is how many steps of 10 ms it was heard
/// for; the pitches are the quartiles in hertz, 0 where it was never voiced.
/// </summary>
public sealed record VoicePrint(int Steps, IReadOnlyList<float> Covariances, float LowerPitch, float Pitch, float UpperPitch)
{
    /// <summary>Ten seconds tell a voice.</summary>
    public const int Telling = 1000;

    /// <summary>Of a voice that says too little.</summary>
    public static VoicePrint None { get; } = new(0, [], 0, 0, 0);

    private const int D = Mfcc.Coefficients;

    /// <summary>Distances at which a likeness has fallen to 0.37 by either alone; chosen by <c>./ember bench voices</c>.</summary>
    private const double TimbreUnlike = 0.5,
        PitchUnlike = 6;

    /// <summary>Of the steps in these stretches; null when there are fewer than a second.</summary>
    public static VoicePrint? Of(IReadOnlyList<float[]> sounds, IReadOnlyList<float> pitches, IReadOnlyList<StepRange> stretches)
    {
        var steps = stretches.SelectMany(s => s.Steps).Where(s => s >= 0 && s < sounds.Count).ToList();
        if (steps.Count < Telling / 10)
        {
            return null;
        }
        var mean = new double[D];
        foreach (var step in steps)
        {
            for (var i = 0; i < D; i++)
            {
                mean[i] += sounds[step][i] / steps.Count;
            }
        }
        var products = new double[D * (D + 1) / 2];
        foreach (var step in steps)
        {
            for (int i = 0, k = 0; i < D; i++)
            {
                for (var j = 0; j <= i; j++, k++)
                {
                    products[k] += (sounds[step][i] - mean[i]) * (sounds[step][j] - mean[j]) / steps.Count;
                }
            }
        }
        var voiced = steps
            .Where(s => s % PitchTracker.Every == 0 && s / PitchTracker.Every < pitches.Count)
            .Select(s => pitches[s / PitchTracker.Every])
            .Where(p => p > 0)
            .Order()
            .ToList();
        float Quartile(int of4) => voiced.Count == 0 ? 0 : voiced[(voiced.Count - 1) * of4 / 4];
        return new VoicePrint(steps.Count, [.. products.Select(p => (float)p)], Quartile(1), Quartile(2), Quartile(3));
    }

    /// <summary>
    /// How alike two voices are, 0–1: by the arithmetic-harmonic sphericity of their covariances (Bimbot and others, 1995), which is 0 for
    /// equal ones whatever the mic's colour, and by the distance of their pitches.
    /// </summary>
    public double Likeness(VoicePrint other)
    {
        double timbre = Sphericity(other),
            semitones = Pitch > 0 && other.Pitch > 0 ? Math.Abs(12 * Math.Log2(Pitch / other.Pitch)) : 0;
        return Math.Exp(-((timbre / TimbreUnlike) + (semitones / PitchUnlike)));
    }

    // The traces of A·B⁻¹ and of B·A⁻¹.
    private double Sphericity(VoicePrint other)
    {
        Matrix<double> a = Square(),
            b = other.Square();
        return Math.Log(b.Cholesky().Solve(a).Trace() * a.Cholesky().Solve(b).Trace() / (D * D));
    }

    private DenseMatrix Square()
    {
        var square = new DenseMatrix(D);
        for (int i = 0, k = 0; i < D; i++)
        {
            for (var j = 0; j <= i; j++, k++)
            {
                square[i, j] = square[j, i] = Covariances[k] + (i == j ? 1e-3 : 0);
            }
        }
        return square;
    }
}
