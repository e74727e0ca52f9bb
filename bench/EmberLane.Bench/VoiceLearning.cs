using EmberLane.Core.Speech;
using EmberLane.Core.Voices;
using EmberLane.Core.Voices.OneMix;
using EmberLane.Engines.Speech;
using MathNet.Numerics.LinearAlgebra;
using MathNet.Numerics.LinearAlgebra.Double;

namespace EmberLane.Bench;

/// <summary>
/// Learns what tells people apart (<see cref="VoiceSpace"/>) from made sittings of the tuning half of the real voices and some further
/// people, and writes it to where the core ships it. The other half is not looked at.
/// </summary>
internal static class VoiceLearning
{
    private const int Sittings = 60,
        Seconds = 600,
        Kinds = 64,
        Rounds = 12,
        Thinned = 4,
        Directions = 20,
        SubsetsOfASize = 6;

    /// <summary>A turn is somebody's when this share of what is said in it is theirs; so many turns make a person.</summary>
    private const double Pure = 0.85;

    private const int LeastTurns = 5;

    /// <summary>How strongly the weights of the signs are held small.</summary>
    private const double Held = 30;

    /// <summary>This share of what two features of one person's turns have in common is not believed.</summary>
    private const double Shrunk = 0.3;

    private sealed record Heard(HeardTurns Turns, double[][] Features, int[] Who, double[] Purity, IReadOnlyList<int> People)
    {
        public double[] Seconds => [.. Turns.Turns.Select(TurnFeatures.Seconds)];
    }

    private sealed record Sound(
        IReadOnlyList<float[]> Frames,
        IReadOnlyList<float> Pitch,
        IReadOnlyList<StepRange> Speech,
        IReadOnlyList<Spoken> Truth,
        IReadOnlyList<int> People
    );

    public static async Task RunAsync(string repository)
    {
        var sounds = await SoundsAsync(repository);
        var kinds = LearnKinds(sounds);
        var heard = sounds.Select(s => Hear(s, kinds)).ToList();
        Console.WriteLine($"learned {Kinds} kinds of sound; {heard.Sum(h => h.Who.Length)} turns of {heard.Count} sittings");
        var (means, spreads, weights) = LearnSigns(heard, kinds);
        var space = new VoiceSpace(kinds, LearnDirections(heard, []), means, spreads, weights);
        var file = Path.Combine(repository, "src", "EmberLane.Core", "Voices", "OneMix", "voice-space.txt");
        await File.WriteAllTextAsync(file, space.ToText());
        Console.WriteLine($"written to {file}");
    }

    private static async Task<List<Sound>> SoundsAsync(string repository)
    {
        var people = await RealPeople.PrepareToLearnAsync(repository);
        return [.. Enumerable.Range(0, Sittings).AsParallel().AsOrdered().Select(n => Made(people, n))];
    }

    private static Sound Made(MadePeople people, int n)
    {
        var room = new RoomSound(0.2 + (0.3 * (n * 11 % Sittings) / (Sittings - 1)), 10 + (15.0 * (n * 7 % Sittings) / (Sittings - 1)));
        var sitting = people.Make(2 + (n % 4), Seconds, 1_900 + n, spoiled: false, room: room, onlyMix: true);
        var energy = SilenceSegmenter.Energy(sitting.Mix);
        Mfcc frames = new();
        PitchTracker pitch = new();
        frames.Add(sitting.Mix);
        pitch.Add(sitting.Mix);
        return new Sound(
            frames.Frames,
            pitch.Steps,
            VoiceActivity.Speech(SpeechNetwork.Chances(sitting.Mix), energy),
            sitting.Truth,
            sitting.People
        );
    }

    private static Heard Hear(Sound sound, SoundKinds kinds)
    {
        var turns = new HeardTurns(sound.Frames, sound.Pitch, Speech(sound), kinds);
        var said = turns.Turns.Select(t => Said(t, sound.Truth)).ToList();
        return new Heard(
            turns,
            TurnFeatures.Of(turns.Frames, sound.Pitch, turns.Turns),
            [.. said.Select(s => s.MaxBy(v => v.Value).Key)],
            [.. said.Select(s => (double)s.Values.Max() / Math.Max(1, s.Values.Sum()))],
            sound.People
        );
    }

    private static IReadOnlyList<StepRange> Speech(Sound sound) =>
        [.. sound.Speech.Select(s => s.Until(sound.Frames.Count)).Where(s => s.Count >= 10)];

    // How many steps of a turn each says; somebody without steps where nobody does.
    private static Dictionary<int, int> Said(StepRange turn, IReadOnlyList<Spoken> truth)
    {
        var said = new Dictionary<int, int> { [0] = 0 };
        foreach (var s in truth.Where(t => t.First < turn.End && t.End > turn.First))
        {
            var steps = Math.Min(s.End.Value, turn.End.Value) - Math.Max(s.First.Value, turn.First.Value);
            said[s.Voice] = said.GetValueOrDefault(s.Voice) + steps;
        }
        return said;
    }

    // Expectation and maximisation over every fourth frame of speech, from frames that are spread evenly.
    private static SoundKinds LearnKinds(List<Sound> sounds)
    {
        const int d = Mfcc.Coefficients;
        var frames = sounds
            .SelectMany(s => HeardTurns.Levelled(s.Frames, Speech(s)).Where(f => f.Length > 0).Where((_, i) => i % Thinned == 0))
            .ToList();
        float[] shares = [.. Enumerable.Repeat(1f / Kinds, Kinds)],
            means = [.. Enumerable.Range(0, Kinds).SelectMany(k => frames[(int)((k + 0.5) * frames.Count / Kinds)])],
            variances = [.. Enumerable.Repeat(1f, Kinds * d)];
        var kinds = new SoundKinds(shares, means, variances);
        for (var round = 0; round < Rounds; round++)
        {
            var parts = frames
                .Chunk((frames.Count / (4 * Environment.ProcessorCount)) + 1)
                .AsParallel()
                .AsOrdered()
                .Select(chunk =>
                {
                    double[] count = new double[Kinds],
                        sum = new double[Kinds * d],
                        squares = new double[Kinds * d];
                    foreach (var frame in chunk)
                    {
                        foreach (var (kind, chance) in kinds.Near(frame))
                        {
                            count[kind] += chance;
                            for (int i = 0, at = kind * d; i < d; i++, at++)
                            {
                                sum[at] += chance * frame[i];
                                squares[at] += chance * frame[i] * frame[i];
                            }
                        }
                    }
                    return (count, sum, squares);
                })
                .ToList();
            double[] counts = [.. Enumerable.Range(0, Kinds).Select(k => Math.Max(5, parts.Sum(p => p.count[k])))];
            means = [.. Enumerable.Range(0, Kinds * d).Select(i => (float)(parts.Sum(p => p.sum[i]) / counts[i / d]))];
            variances =
            [
                .. Enumerable
                    .Range(0, Kinds * d)
                    .Select(i => (float)Math.Max(0.05, (parts.Sum(p => p.squares[i]) / counts[i / d]) - (means[i] * means[i]))),
            ];
            kinds = new SoundKinds([.. counts.Select(c => (float)(c / counts.Sum()))], means, variances);
        }
        return kinds;
    }

    // Linear discriminant analysis of turns, without those of some people: directions in which one person's turns vary by one a second.
    private static double[][] LearnDirections(List<Heard> heard, IReadOnlyCollection<int> without)
    {
        Matrix<double> within = new DenseMatrix(TurnFeatures.Count),
            between = new DenseMatrix(TurnFeatures.Count);
        int turns = 0,
            persons = 0;
        foreach (var sitting in heard)
        {
            foreach (var voice in sitting.Who.Distinct().Where(v => !without.Contains(sitting.People[v])))
            {
                var own = Enumerable.Range(0, sitting.Who.Length).Where(t => sitting.Who[t] == voice && sitting.Purity[t] > Pure).ToList();
                if (own.Count < LeastTurns)
                {
                    continue;
                }
                var seconds = own.Select(t => sitting.Seconds[t]).ToArray();
                var mean = new DenseVector(TurnFeatures.Count);
                foreach (var (t, s) in own.Zip(seconds))
                {
                    mean += (DenseVector)(s / seconds.Sum() * DenseVector.OfArray(sitting.Features[t]));
                }
                foreach (var (t, s) in own.Zip(seconds))
                {
                    var off = DenseVector.OfArray(sitting.Features[t]) - mean;
                    within += s * off.OuterProduct(off);
                    turns++;
                }
                between += mean.OuterProduct(mean);
                persons++;
            }
        }
        within /= turns;
        between /= persons;
        for (var i = 0; i < within.RowCount; i++)
        {
            for (var j = 0; j < i; j++)
            {
                within[i, j] = within[j, i] = (1 - Shrunk) * within[i, j];
            }
        }
        var narrow = within.Cholesky().Factor.Inverse();
        var parted = narrow * between * narrow.Transpose();
        var axes = ((parted + parted.Transpose()) / 2).Evd(Symmetricity.Symmetric);
        return
        [
            .. Enumerable
                .Range(0, TurnFeatures.Count)
                .OrderByDescending(i => axes.EigenValues[i].Real)
                .Take(Directions)
                .Select(i => (axes.EigenVectors.Column(i) * narrow).ToArray()),
        ];
    }

    // Of every sitting, with some of its people and with all, each join on the way from many groups to one, along directions that were
    // learned from the others: is it of two people?
    private static (double[] Means, double[] Spreads, double[] Weights) LearnSigns(List<Heard> heard, SoundKinds kinds)
    {
        var ways = heard
            .SelectMany(sitting => WaysOf(sitting, new VoiceSpace(kinds, LearnDirections(heard, [.. sitting.People]), [], [], [])))
            .ToList();
        var joins = ways.SelectMany(w => w.Joins).ToList();
        Console.WriteLine($"{joins.Count} joins, {joins.Count(j => j.Two)} of them of two people");
        int right = 0,
            few = 0,
            many = 0;
        foreach (var way in ways.Where(w => w.IsWhole))
        {
            // By what was learned without any of its people.
            var (means, spreads, weights) = Regress([.. ways.Where(w => !w.People.Intersect(way.People).Any()).SelectMany(w => w.Joins)]);
            var found = TurnGroups.Found(way.All, new VoiceSpace(kinds, [], means, spreads, weights)).Max() + 1 - way.People.Count;
            (right, few, many) = (right + (found == 0 ? 1 : 0), few + (found < 0 ? 1 : 0), many + (found > 0 ? 1 : 0));
        }
        Console.WriteLine(
            $"people left out, the number of voices is right in {right} of {right + few + many}, too few in {few}, too many in {many}"
        );
        return Regress(joins);
    }

    /// <summary>The way from many groups to one of the turns of some people of a sitting, or of all.</summary>
    private sealed record Way(IReadOnlyList<int> People, bool IsWhole, IReadOnlyList<TurnJoin> All, List<(double[] Signs, bool Two)> Joins);

    private static IEnumerable<Way> WaysOf(Heard sitting, VoiceSpace space)
    {
        var counts = sitting.Turns.Counts();
        int[] all = [.. sitting.Who.Distinct().Order()];
        foreach (var some in Subsets(all))
        {
            var turns = Enumerable.Range(0, sitting.Who.Length).Where(t => some.Contains(sitting.Who[t])).ToList();
            if (turns.Count < 9)
            {
                continue;
            }
            double[][] rows = [.. turns.Select(t => space.Along(sitting.Features[t]))];
            double[] seconds = [.. turns.Select(t => sitting.Seconds[t])];
            TurnFeatures.Centre(rows, seconds);
            var joins = new TurnGroups(rows, seconds, [.. turns.Select(t => counts[t])], space.Kinds).Joins();
            var told = new List<(double[], bool)>();
            foreach (var (grouped, pair, signs, _) in joins.Where(j => j.Signs is not null))
            {
                int Whose(int group) =>
                    Enumerable
                        .Range(0, turns.Count)
                        .Where(t => grouped[t] == group)
                        .GroupBy(t => sitting.Who[turns[t]])
                        .MaxBy(g => g.Sum(t => sitting.Turns.Turns[turns[t]].Count))!
                        .Key;
                told.Add((signs!, Whose(pair.One) != Whose(pair.Other)));
            }
            yield return new Way([.. some.Select(v => sitting.People[v])], some.Length == all.Length, joins, told);
        }
    }

    private static IEnumerable<int[]> Subsets(int[] voices) =>
        Enumerable
            .Range(1, (1 << voices.Length) - 1)
            .Select(bits => voices.Where((_, i) => (bits & (1 << i)) != 0).ToArray())
            .GroupBy(s => s.Length)
            .SelectMany(g => g.Take(SubsetsOfASize));

    // Logistic regression by Newton's steps, weights held small.
    private static (double[] Means, double[] Spreads, double[] Weights) Regress(List<(double[] Signs, bool Two)> joins)
    {
        const int count = JoinSigns.Count;
        double[] means = [.. Enumerable.Range(0, count).Select(i => joins.Average(j => j.Signs[i]))],
            spreads =

            [
                .. Enumerable
                    .Range(0, count)
                    .Select(i => Math.Sqrt(joins.Average(j => (j.Signs[i] - means[i]) * (j.Signs[i] - means[i])) + 1e-9)),
            ];
        var rows = DenseMatrix.Create(
            joins.Count,
            count + 1,
            (j, i) => i == 0 ? 1 : (joins[j].Signs[i - 1] - means[i - 1]) / spreads[i - 1]
        );
        var truth = DenseVector.Create(joins.Count, j => joins[j].Two ? 1 : 0);
        Vector<double> weights = new DenseVector(count + 1);
        var held = DenseMatrix.CreateDiagonal(count + 1, count + 1, i => i == 0 ? 0 : Held);
        for (var step = 0; step < 20; step++)
        {
            var chances = (rows * weights).Map(z => 1 / (1 + Math.Exp(-z)));
            var slope = (rows.TransposeThisAndMultiply(truth - chances)) - (held * weights);
            var curve =
                rows.TransposeThisAndMultiply(
                    DenseMatrix.OfColumnVectors([
                        .. rows.EnumerateColumns().Select(c => c.PointwiseMultiply(chances.Map(p => p * (1 - p)))),
                    ])
                ) + held;
            weights += curve.Solve(slope);
        }
        return (means, spreads, [.. weights]);
    }
}
