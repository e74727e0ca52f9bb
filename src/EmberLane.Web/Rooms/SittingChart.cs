using System.Globalization;

namespace EmberLane.Web.Rooms;

/// <summary>Where things on a sitting's clock are drawn: 1000 units wide, from the first source's start to the last one's end.</summary>
public sealed class SittingChart
{
    private const int Wide = 1000;

    private readonly MediaTime first, length;

    public SittingChart(IReadOnlyList<SittingRange> fills)
    {
        first = fills.Count == 0 ? MediaTime.Zero : fills.Min(f => f.In.FromZero);
        var last = fills.Count == 0 ? MediaTime.Zero : fills.Max(f => f.Out.FromZero);
        length = MediaTime.Max(last - first, MediaTime.FromMilliseconds(1000));
    }

    public string X(SittingTime at) => Units(at.FromZero - first);

    public string Width(SittingRange fill) => Units(fill.Length);

    /// <summary>Marks at round times, six to twelve of them.</summary>
    public IEnumerable<(string X, string Label)> Ticks()
    {
        int[] steps = [5, 10, 15, 30, 60, 120, 300, 600, 900, 1800, 3600, 7200];
        var step = MediaTime.FromMilliseconds(1000L * steps.FirstOrDefault(s => length.ToSecondsInexact() / s <= 12, steps[^1]));
        for (var at = new MediaTime(Exact.CeilingDivide(first.Units, step.Units) * step.Units); at <= first + length; at += step)
        {
            yield return (Units(at - first), at.ToString()[..^2]);
        }
    }

    /// <summary>An offset with its sign, to the tenth of a millisecond: <c>+13.1229 s</c>.</summary>
    public static string Signed(MediaTime offset) => ((decimal)offset.Units / MediaTime.UnitsPerSecond).ToString("+0.0000 s;−0.0000 s;0 s", CultureInfo.InvariantCulture);

    /// <summary>A time of day.</summary>
    public static string Clock(MediaTime sinceMidnight)
    {
        var seconds = sinceMidnight.Units / MediaTime.UnitsPerSecond;
        return string.Create(CultureInfo.InvariantCulture, $"{seconds / 3600:00}:{seconds / 60 % 60:00}:{seconds % 60:00}");
    }

    private string Units(MediaTime time) => (Math.Round((decimal)time.Units * Wide / length.Units, 2)).ToString(CultureInfo.InvariantCulture);
}
