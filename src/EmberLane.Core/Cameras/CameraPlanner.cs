namespace EmberLane.Core.Cameras;

/// <summary>
/// The plan that costs least, by dynamic programming over moments and angles: the best plan whose last shot is of an angle and ends at a
/// moment is the best one up to where that shot begins, on another angle, and the shot. What a shot costs by its length has three parts
/// (too short, right, too long), in each of which the best begin is the least of a window, so that the work grows linearly with time.
/// </summary>
public static class CameraPlanner
{
    private const long Never = long.MaxValue / 4;

    private const byte Nobody = byte.MaxValue;

    /// <summary>Plans a problem. Throws <see cref="FormatException"/> where it contradicts itself.</summary>
    public static CameraPlan Plan(CameraProblem problem)
    {
        var ground = CameraGround.Of(problem.Checked());
        var (shots, cost) = new Search(ground, problem.Rules).Run();
        return new CameraPlan(CameraReasons.Of(problem, ground, shots), cost);
    }

    /// <summary>
    /// What any plan costs, by adding up its shots, each (angle, from, to) by moments of the ground; black is the last angle. The
    /// search is held against it. Linear.
    /// </summary>
    internal static Int128 CostOf(CameraGround ground, CameraRules rules, IReadOnlyList<(int Angle, int From, int To)> shots)
    {
        Int128 cost = 0;
        for (var i = 0; i < shots.Count; i++)
        {
            var (angle, from, to) = shots[i];
            if (i > 0)
            {
                cost += (Int128)EntryCost(ground, from, shots[i - 1].Angle == angle) * CameraGround.TicksPerSecond;
            }
            for (var step = from; step < to; step++)
            {
                cost += (Int128)ground.RateOf(angle, step) * (ground.Ticks[step + 1] - ground.Ticks[step]);
            }
            var length = ground.Points[to] - ground.Points[from];
            var ticks = ground.Ticks[to] - ground.Ticks[from];
            cost +=
                angle == ground.Angles - 1 ? 0
                : length < rules.Shortest.Units
                    ? ((Int128)CameraCosts.TooShort * CameraGround.TicksPerSecond)
                        + ((Int128)CameraCosts.TooShortSecond * (CameraGround.TicksOf(rules.Shortest) - ticks))
                : length > rules.Longest.Units ? (Int128)CameraCosts.TooLong * (ticks - CameraGround.TicksOf(rules.Longest))
                : 0;
        }
        return cost;
    }

    // What it costs to begin a shot at a moment, behind one of the same angle or another.
    private static long EntryCost(CameraGround ground, int at, bool isSame) =>
        ground.IsSeam[at]
            ? isSame
                ? CameraCosts.Jump
                : 0
            : ground.CutCosts[at];

    private sealed class Search(CameraGround ground, CameraRules rules)
    {
        private readonly int black = ground.Angles - 1;
        private readonly Line[] lines = [.. Enumerable.Range(0, ground.Angles).Select(_ => new Line(ground.Steps + 1))];

        // The last shot of each angle: what leads up to each begin, and the windows in which begins lie.
        private sealed class Line(int points)
        {
            public readonly long[] Before = new long[points];
            public readonly int[] Begin = new int[points];
            public readonly byte[] After = new byte[points];
            public readonly WindowMinimum Short = new();
            public readonly WindowMinimum Right = new();
            public (int At, long Value) Long = (-1, Never);
            public int NextRight;
            public int NextLong;
            public long Sum;
            public long Ends;

            public void Restart(int at)
            {
                Short.Clear();
                Right.Clear();
                Long = (-1, Never);
                (NextRight, NextLong) = (at, at);
            }
        }

        public (IReadOnlyList<(int Angle, int From, int To)> Shots, Int128 Cost) Run()
        {
            for (var at = 0; at < ground.Steps; at++)
            {
                Enter(at);
                for (var angle = 0; angle < lines.Length; angle++)
                {
                    Advance(angle, at);
                }
            }
            return Back();
        }

        // What it costs at least to begin a shot of each angle at a moment.
        private void Enter(int at)
        {
            var (best, second) = (-1, -1);
            for (var angle = 0; angle < lines.Length && at > 0; angle++)
            {
                if (best < 0 || lines[angle].Ends < lines[best].Ends)
                {
                    (best, second) = (angle, best);
                }
                else if (second < 0 || lines[angle].Ends < lines[second].Ends)
                {
                    second = angle;
                }
            }
            for (var angle = 0; angle < lines.Length; angle++)
            {
                var line = lines[angle];
                var isSeam = ground.IsSeam[at];
                if (isSeam || (ground.May(angle, at) && (at == 0 || !ground.May(angle, at - 1))))
                {
                    line.Restart(at);
                }
                if (!ground.May(angle, at))
                {
                    continue;
                }
                long cost = 0;
                line.After[at] = Nobody;
                if (at > 0)
                {
                    var from = best == angle ? second : best;
                    cost = from < 0 ? Never : lines[from].Ends + Scaled(EntryCost(ground, at, isSame: false));
                    var stays = isSeam ? line.Ends + Scaled(EntryCost(ground, at, isSame: true)) : Never;
                    if (stays < cost)
                    {
                        (from, cost) = (angle, stays);
                    }
                    line.After[at] = from < 0 ? Nobody : (byte)from;
                }
                line.Before[at] = Math.Min(cost, Never) - line.Sum;
                line.Short.Add(at, line.Before[at] + (CameraCosts.TooShortSecond * ground.Ticks[at]));
            }
        }

        // Where the shot that ends at the next moment begins best.
        private void Advance(int angle, int at)
        {
            var line = lines[angle];
            var next = ground.Points[at + 1];
            if (!ground.May(angle, at))
            {
                line.Ends = Never;
                return;
            }
            line.Sum += ground.RateOf(angle, at) * (ground.Ticks[at + 1] - ground.Ticks[at]);
            var (least, most) = angle == black ? (0, long.MaxValue) : (rules.Shortest.Units, rules.Longest.Units);
            while (line.NextRight <= at && next - ground.Points[line.NextRight] >= least)
            {
                line.Short.DropUpTo(line.NextRight);
                line.Right.Add(line.NextRight, line.Before[line.NextRight]);
                line.NextRight++;
            }
            while (line.NextLong < line.NextRight && next - ground.Points[line.NextLong] > most)
            {
                line.Right.DropUpTo(line.NextLong);
                var value = line.Before[line.NextLong] - (CameraCosts.TooLong * ground.Ticks[line.NextLong]);
                if (value < line.Long.Value)
                {
                    line.Long = (line.NextLong, value);
                }
                line.NextLong++;
            }
            var best = (At: -1, Value: Never);
            if (!line.Right.IsEmpty)
            {
                Take(line.Right.Least, 0);
            }
            if (!line.Short.IsEmpty)
            {
                Take(
                    line.Short.Least,
                    Scaled(CameraCosts.TooShort)
                        + (CameraCosts.TooShortSecond * (CameraGround.TicksOf(new MediaTime(least)) - ground.Ticks[at + 1]))
                );
            }
            if (line.Long.At >= 0)
            {
                Take(line.Long, CameraCosts.TooLong * (ground.Ticks[at + 1] - CameraGround.TicksOf(new MediaTime(most))));
            }
            line.Begin[at + 1] = best.At;
            line.Ends = best.At < 0 ? Never : best.Value;

            void Take((int At, long Value) begin, long more)
            {
                var value = begin.Value + more + line.Sum;
                if (value < best.Value)
                {
                    best = (begin.At, value);
                }
            }
        }

        private (IReadOnlyList<(int, int, int)>, Int128) Back()
        {
            var last = 0;
            for (var angle = 1; angle < lines.Length; angle++)
            {
                if (lines[angle].Ends < lines[last].Ends)
                {
                    last = angle;
                }
            }
            var cost = lines[last].Ends;
            if (cost >= Never)
            {
                throw new FormatException(
                    "So many shots are forced to be too short that no plan can be weighed. Take locks or “shortest” down."
                );
            }
            var shots = new List<(int, int, int)>();
            for (int angle = last, to = ground.Steps; to > 0;)
            {
                var from = lines[angle].Begin[to];
                shots.Add((angle, from, to));
                (angle, to) = (lines[angle].After[from], from);
            }
            shots.Reverse();
            return (shots, cost);
        }

        private static long Scaled(long hundredths) => hundredths * CameraGround.TicksPerSecond;
    }
}
