using EmberLane.Core.Speech;

namespace EmberLane.Core.Voices.OneMix;

/// <summary>
/// Finds the borders between voices again, step by step: each voice moves the means of the kinds of sound, and along a run of speech
/// changing the voice costs (forward and backward); three times, since better borders make better voices.
/// </summary>
internal sealed class VoiceBorders(float[][] frames, IReadOnlyList<StepRange> speech, (int Kind, float Chance)[][] near, SoundKinds kinds)
{
    /// <summary>Neighbouring frames say the same, so that each one's say is only this share its own.</summary>
    private const float Own = 0.12f;

    /// <summary>How likely the voice changes from a step to the next.</summary>
    private const double Change = 0.002;

    /// <summary>From so sure a step is one that tells what its voice sounds like.</summary>
    private const float Telling = 0.6f;

    private const int Rounds = 3;

    /// <summary>In steps: who is left with less says nothing that another voice could not have said.</summary>
    private const int Least = 150;

    /// <summary>
    /// How likely each voice speaks in each step, a row a voice, from the steps that are surely theirs. Voices that lose nearly all their
    /// steps go, unless <paramref name="keep"/>.
    /// </summary>
    public float[][] Find(IReadOnlyList<IReadOnlyList<StepRange>> voices, bool keep)
    {
        var counts = voices.Select(v => Counts(v.SelectMany(r => r.Steps))).ToList();
        float[][] rows = [];
        for (var round = 0; round < Rounds; round++)
        {
            rows = Rows([.. counts.Select(c => c.Means())]);
            var said = rows.Select(r => speech.SelectMany(s => s.Steps).Where(i => r[i] > Telling).ToList()).ToList();
            if (!keep && said.Count(s => s.Count >= Least) is > 0 and var left && left < said.Count)
            {
                said = [.. said.Where(s => s.Count >= Least)];
                rows = Rows([.. said.Select(s => Counts(s).Means())]);
            }
            counts = [.. said.Select((s, v) => s.Count > 0 ? Counts(s) : counts[v])];
        }
        return rows;
    }

    private KindCounts Counts(IEnumerable<int> steps)
    {
        var counts = new KindCounts(kinds);
        foreach (var step in steps)
        {
            counts.Add(frames[step], near[step]);
        }
        return counts;
    }

    private float[][] Rows(float[][] voices)
    {
        var rows = voices.Select(_ => new float[frames.Length]).ToArray();
        Parallel.ForEach(speech, run => Along(run, voices, rows));
        return rows;
    }

    private void Along(StepRange run, float[][] voices, float[][] rows)
    {
        var likely = new double[run.Count][];
        for (var t = 0; t < likely.Length; t++)
        {
            var step = run.First.Value + t;
            var fits = voices.Select(v => (double)(Own * kinds.Fits(frames[step], near[step], v))).ToArray();
            var most = fits.Max();
            likely[t] = [.. fits.Select(f => Math.Exp(f - most))];
        }
        var after = new double[run.Count][];
        after[^1] = [.. voices.Select(_ => 1.0 / voices.Length)];
        for (var t = run.Count - 2; t >= 0; t--)
        {
            after[t] = Changed([.. after[t + 1].Zip(likely[t + 1], (a, l) => a * l)]);
        }
        double[]? before = null;
        for (var t = 0; t < run.Count; t++)
        {
            before = Shares([.. (before is null ? likely[t] : Changed(before).Zip(likely[t], (b, l) => b * l))]);
            var both = Shares([.. before.Zip(after[t], (b, a) => b * a)]);
            for (var v = 0; v < voices.Length; v++)
            {
                rows[v][run.First.Value + t] = (float)both[v];
            }
        }
    }

    // The shares of a step, a step on.
    private static double[] Changed(double[] shares)
    {
        shares = Shares(shares);
        return shares.Length == 1 ? shares : [.. shares.Select(s => (s * (1 - Change)) + ((1 - s) * Change / (shares.Length - 1)))];
    }

    private static double[] Shares(double[] values)
    {
        var sum = values.Sum();
        return [.. values.Select(v => v / sum)];
    }
}
