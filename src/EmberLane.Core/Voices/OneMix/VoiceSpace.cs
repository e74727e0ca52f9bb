using System.Globalization;

namespace EmberLane.Core.Voices.OneMix;

/// <summary>
/// What was learned from people talking (<c>./ember bench learn-voices</c>, on the tuning half of the bench's real voices alone): the kinds
/// of sound in talk, the directions in which turns of two people differ more than those of one (linear discriminant analysis), and by
/// which signs two groups of turns are two people's (logistic regression).
/// </summary>
internal sealed record VoiceSpace(SoundKinds Kinds, double[][] Directions, double[] SignMeans, double[] SignSpreads, double[] SignWeights)
{
    private static readonly Lazy<VoiceSpace> Read = new(ReadLearned);

    /// <summary>As it ships.</summary>
    public static VoiceSpace Learned => Read.Value;

    /// <summary>A turn's features along the directions.</summary>
    public double[] Along(double[] features)
    {
        var along = new double[Directions.Length];
        for (var i = 0; i < along.Length; i++)
        {
            for (var d = 0; d < features.Length; d++)
            {
                along[i] += Directions[i][d] * features[d];
            }
        }
        return along;
    }

    /// <summary>How likely two groups with these signs (<see cref="JoinSigns"/>) are two people's.</summary>
    public double TwoPeople(double[] signs)
    {
        var sum = SignWeights[0];
        for (var i = 0; i < signs.Length; i++)
        {
            sum += SignWeights[i + 1] * (signs[i] - SignMeans[i]) / SignSpreads[i];
        }
        return 1 / (1 + Math.Exp(-sum));
    }

    /// <summary>As text: a line of numbers for each part, rows one after the other.</summary>
    public string ToText() =>
        string.Join(
            '\n',
            new[]
            {
                Kinds.Shares.Select(v => (double)v),
                Kinds.Means.Select(v => (double)v),
                Kinds.Variances.Select(v => (double)v),
                Directions.SelectMany(r => r),
                SignMeans,
                SignSpreads,
                SignWeights,
            }.Select(part => string.Join(' ', part.Select(v => v.ToString("G5", CultureInfo.InvariantCulture))))
        ) + "\n";

    public static VoiceSpace OfText(string text)
    {
        var parts = text.TrimEnd('\n')
            .Split('\n')
            .Select(line => line.Split(' ').Select(v => double.Parse(v, CultureInfo.InvariantCulture)).ToArray())
            .ToArray();
        static float[] Single(double[] part) => [.. part.Select(v => (float)v)];
        return new VoiceSpace(
            new SoundKinds(Single(parts[0]), Single(parts[1]), Single(parts[2])),
            [.. parts[3].Chunk(TurnFeatures.Count)],
            parts[4],
            parts[5],
            parts[6]
        );
    }

    private static VoiceSpace ReadLearned()
    {
        using var text = new StreamReader(
            typeof(VoiceSpace).Assembly.GetManifestResourceStream("voice-space.txt")
                ?? throw new InvalidOperationException("The assembly lacks what was learned of voices.")
        );
        return OfText(text.ReadToEnd());
    }
}
