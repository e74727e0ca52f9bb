using EmberLane.Core.Speech;

namespace EmberLane.Core.Voices;

/// <summary>
/// Who speaks, from one mix: by how voices sound. Speech is cut into pieces of about two seconds; pieces that one normal distribution
/// describes as well as two are put together, best first (Chen and Gopalakrishnan, 1998, by the Bayesian information criterion), until none
/// are left or as many voices as were asked for; then the borders are found again frame by frame with each voice's own distribution, three
/// times. How long people talk does not change how many they are: a voice is compared by a few seconds' worth of what it says.
/// </summary>
public static class SpeakerClustering
{
    /// <summary>Steps of a piece, and of the shortest that tells what a voice sounds like.</summary>
    private const int Piece = 200,
        Telling = 80;

    /// <summary>Pieces are put together among at most so many at a time, since the cost grows with their square.</summary>
    private const int AtOnce = 600;

    /// <summary>How heavily a second voice's numbers weigh against how much better two describe: measured, see the bench.</summary>
    public const double Weight = 2.5;

    /// <summary>
    /// So many steps does each count for at most when two are compared. No one talks as one normal distribution: with every second more of
    /// the same voice, two would describe it better. Measured, see the bench and docs/architecture.md: more make more voices than people,
    /// which a person joins in a moment; fewer make one voice of two people.
    /// </summary>
    private const long Compared = 1_100;

    /// <summary>Who never says two seconds in a row is a kind of sound that another voice makes.</summary>
    private const int Saying = 200;

    private const int Rounds = 3;

    /// <summary>
    /// Frames to both sides that have their say for a step, and how much of each one's say is its own, since neighbours say the same.
    /// </summary>
    private const int Around = 40;

    private const double Own = 0.12;

    private const int Pause = 20,
        ShortestSpeech = 20,
        LeastVoice = 150,
        Numbers = Mfcc.Coefficients * (Mfcc.Coefficients + 3) / 2;

    /// <summary>
    /// Sounds of 10 ms steps, and where in them somebody speaks (<see cref="VoiceActivity"/>). <paramref name="voices"/> is how many speak,
    /// 1 or more, or null to find out. Rows are <c>voice 1</c> … by when they are first heard. Nothing random: the same sound gives the
    /// same answer.
    /// </summary>
    public static VoiceChances Of(IReadOnlyList<float[]> sounds, IReadOnlyList<StepRange> speaking, int? voices)
    {
        var steps = sounds.Count;
        var speech = new StepRuns([.. speaking.Select(s => s.Until(steps)).Where(s => s.Count > 0)])
            .Joined(Pause)
            .AtLeast(ShortestSpeech)
            .Runs;
        if (speech.Count == 0)
        {
            return new VoiceChances([], []);
        }
        var all = Shape(sounds, speech).Variances();
        var groups = Together(
            [
                .. speech
                    .SelectMany(Cut)
                    .Where(p => p.Count >= Telling)
                    .DefaultIfEmpty(speech[0])
                    .Select(p => Shape(sounds, [p]).Settle(all)),
            ],
            all,
            voices
        );
        for (var round = 0; round < Rounds; round++)
        {
            var heard = Said(sounds, Rows(sounds, speech, groups, steps), voices)
                .Where(s => s.Count >= LeastVoice || groups.Count == 1)
                .ToList();
            groups = Together([.. heard.DefaultIfEmpty(Shape(sounds, speech)).Select(s => s.Settle(all))], all, voices);
        }
        var rows = Rows(sounds, speech, groups, steps);
        if (Said(sounds, rows, voices) is { Count: > 0 } talking && talking.Count < groups.Count)
        {
            rows = Rows(sounds, speech, [.. talking.Select(s => s.Settle(all))], steps);
        }
        rows = [.. rows.OrderBy(r => Array.FindIndex(r, c => c >= 0.5f) is >= 0 and var first ? first : int.MaxValue)];
        return new VoiceChances([.. Enumerable.Range(1, rows.Count).Select(n => FormattableString.Invariant($"voice {n}"))], rows);
    }

    // What each voice says; without those that never say anything in a row, unless their number was given.
    private static List<VoiceShape> Said(IReadOnlyList<float[]> sounds, List<float[]> rows, int? voices) =>
        [
            .. rows.Select(r => StepRuns.Of(r.Length, i => r[i] >= 0.5f))
                .Where(said => voices is not null || said.AtLeast(Saying).Runs.Count > 0)
                .Select(said => Shape(sounds, said.Runs)),
        ];

    private static IEnumerable<StepRange> Cut(StepRange stretch)
    {
        var parts = Math.Max(1, (int)Math.Round((double)stretch.Count / Piece));
        return Enumerable
            .Range(0, parts)
            .Select(p => new StepRange(stretch.First + (stretch.Count * p / parts), stretch.First + (stretch.Count * (p + 1) / parts)));
    }

    private static VoiceShape Shape(IReadOnlyList<float[]> sounds, IReadOnlyList<StepRange> where)
    {
        var shape = new VoiceShape();
        foreach (var step in where.SelectMany(w => w.Steps))
        {
            shape.Add(sounds[step]);
        }
        return shape;
    }

    private static List<VoiceShape> Together(List<VoiceShape> shapes, double[] all, int? voices)
    {
        while (shapes.Count > AtOnce)
        {
            var next = shapes.Chunk(AtOnce).SelectMany(part => Join([.. part], all, Math.Max(voices ?? 1, AtOnce / 8))).ToList();
            if (next.Count == shapes.Count)
            {
                break;
            }
            shapes = next;
        }
        shapes = Join(shapes, all, voices ?? 1);
        return voices is { } given ? Join(shapes, all, given, long.MaxValue, always: true) : shapes;
    }

    // The pair that loses least by being one, again and again, while the loss is less than the second's numbers are worth. Where there are
    // still more than the number that was asked for, what they say in all decides: a small remainder is worth less than a person.
    private static List<VoiceShape> Join(List<VoiceShape> shapes, double[] all, int least, long most = Compared, bool always = false)
    {
        var losses = shapes.Select((s, i) => shapes.Take(i).Select(o => Loss(s, o, all, most)).ToList()).ToList();
        while (shapes.Count > least)
        {
            var (loss, i, j) = Least(losses);
            if (loss >= 0 && !always)
            {
                break;
            }
            shapes[j] = shapes[i].With(shapes[j]).Settle(all);
            shapes.RemoveAt(i);
            losses.RemoveAt(i);
            foreach (var row in losses.Skip(i))
            {
                row.RemoveAt(i);
            }
            losses[j] = [.. shapes.Take(j).Select(o => Loss(shapes[j], o, all, most))];
            for (var k = j + 1; k < shapes.Count; k++)
            {
                losses[k][j] = Loss(shapes[k], shapes[j], all, most);
            }
        }
        return shapes;
    }

    private static (double Loss, int I, int J) Least(List<List<double>> losses)
    {
        var least = (Loss: double.PositiveInfinity, I: 0, J: 0);
        for (var i = 1; i < losses.Count; i++)
        {
            for (var j = 0; j < i; j++)
            {
                least = losses[i][j] < least.Loss ? (losses[i][j], i, j) : least;
            }
        }
        return least;
    }

    private static double Loss(VoiceShape one, VoiceShape other, double[] all, long most)
    {
        var both = one.With(other, most).Settle(all);
        return (
                0.5
                * (
                    (both.Count * both.LogDeterminant)
                    - (Math.Min(one.Count, most) * one.LogDeterminant)
                    - (Math.Min(other.Count, most) * other.LogDeterminant)
                )
            ) - (Weight * 0.5 * Numbers * Math.Log(both.Count));
    }

    private static List<float[]> Rows(IReadOnlyList<float[]> sounds, IReadOnlyList<StepRange> speech, List<VoiceShape> groups, int steps)
    {
        var rows = groups.Select(_ => new float[steps]).ToList();
        Parallel.ForEach(
            speech,
            stretch =>
            {
                var (first, length) = (stretch.First.Value, stretch.Count);
                var sums = groups
                    .Select(g =>
                    {
                        var running = new double[length + 1];
                        for (var i = 0; i < length; i++)
                        {
                            running[i + 1] = running[i] + g.Fits(sounds[first + i]);
                        }
                        return running;
                    })
                    .ToArray();
                var fits = new double[groups.Count];
                for (var i = 0; i < length; i++)
                {
                    int from = Math.Max(0, i - Around),
                        to = Math.Min(length, i + Around + 1);
                    for (var v = 0; v < fits.Length; v++)
                    {
                        fits[v] = Own * (sums[v][to] - sums[v][from]);
                    }
                    var most = fits.Max();
                    var total = fits.Sum(f => Math.Exp(f - most));
                    for (var v = 0; v < fits.Length; v++)
                    {
                        rows[v][first + i] = (float)(Math.Exp(fits[v] - most) / total);
                    }
                }
            }
        );
        return rows;
    }
}
