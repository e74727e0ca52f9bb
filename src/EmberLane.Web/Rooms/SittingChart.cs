using System.Globalization;
using System.Text;
using EmberLane.Core.Finding;
using EmberLane.Core.Sittings;
using EmberLane.Core.Sync;
using EmberLane.Store;

namespace EmberLane.Web.Rooms;

/// <summary>
/// A source as it is drawn: where it lies, the outline of its sound (empty while that is not made), and where a click leads (null:
/// nowhere).
/// </summary>
public sealed record SourceBar(Source Source, SittingRange Fill, string Wave, string? Address);

/// <summary>Where things on a sitting's clock are drawn: 1000 units wide, from the first source's start to the last one's end.</summary>
public sealed class SittingChart
{
    private const int Wide = 1000;

    private readonly MediaTime first,
        length;

    public SittingChart(IReadOnlyList<SittingRange> fills)
    {
        first = fills.Count == 0 ? MediaTime.Zero : fills.Min(f => f.In.FromZero);
        var last = fills.Count == 0 ? MediaTime.Zero : fills.Max(f => f.Out.FromZero);
        length = MediaTime.Max(last - first, MediaTime.FromMilliseconds(1000));
    }

    /// <summary>The bars, row by row.</summary>
    public IReadOnlyList<IReadOnlyList<SourceBar>> Rows { get; private init; } = [];

    /// <summary>How many sources are placed.</summary>
    public int Count => Rows.Sum(r => r.Count);

    public MediaTime First => first;

    public MediaTime Length => length;

    /// <summary>
    /// The chart of the placed ones among these sources: sound first, then cameras by name, clips of one camera in one row.
    /// <paramref name="peaks"/> gives the file with a source's peaks, or null.
    /// </summary>
    public static SittingChart Of(IReadOnlyList<Source> sources, Func<Source, string?> peaks, Func<Source, string>? address)
    {
        var placed = sources.Where(s => s.Place is not null).ToDictionary(s => s.Id);
        var bars = placed
            .Values.Select(s => new ChartBar(s.Id, s.Camera, s.Place!.Value.Fill(s.Facts.Duration)))
            .OrderBy(b => placed[b.SourceId].Facts.Picture is not null)
            .ThenBy(b => b.Of, NumbersInOrder.Comparer)
            .ThenBy(b => b.Fill.In)
            .ToList();
        var chart = new SittingChart([.. bars.Select(b => b.Fill)]);
        return new SittingChart([.. bars.Select(b => b.Fill)])
        {
            Rows =
            [
                .. ChartRows
                    .Lay(bars)
                    .Select(r =>
                        r.Select(b => new SourceBar(
                                placed[b.SourceId],
                                b.Fill,
                                chart.Wave(b.Fill, peaks(placed[b.SourceId])),
                                address?.Invoke(placed[b.SourceId])
                            ))
                            .ToList()
                    ),
            ],
        };
    }

    // Standing on the lower edge of a bar that is 24 high, in the chart's units, scaled to its own loudest.
    private string Wave(SittingRange fill, string? peaks)
    {
        if (peaks is null)
        {
            return "";
        }
        decimal left = (decimal)(fill.In.FromZero - first).Units * Wide / length.Units,
            width = (decimal)fill.Length.Units * Wide / length.Units;
        var columns = Peaks.Columns(File.ReadAllBytes(peaks), Math.Max(1, (int)(width / 2)));
        var most = Math.Max((byte)1, columns.DefaultIfEmpty().Max());
        var path = new StringBuilder();
        path.Append(CultureInfo.InvariantCulture, $"M{left:0.#},24");
        for (var c = 0; c < columns.Length; c++)
        {
            path.Append(CultureInfo.InvariantCulture, $"L{left + (width * c / columns.Length):0.#},{24 - (columns[c] * 20.0 / most):0.#}");
        }
        return path.Append(CultureInfo.InvariantCulture, $"L{left + width:0.#},24Z").ToString();
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
    public static string Signed(MediaTime offset) =>
        ((decimal)offset.Units / MediaTime.UnitsPerSecond).ToString("+0.0000 s;−0.0000 s;0 s", CultureInfo.InvariantCulture);

    /// <summary>A time of day.</summary>
    public static string Clock(MediaTime sinceMidnight)
    {
        var seconds = sinceMidnight.Units / MediaTime.UnitsPerSecond;
        return string.Create(CultureInfo.InvariantCulture, $"{seconds / 3600:00}:{seconds / 60 % 60:00}:{seconds % 60:00}");
    }

    private string Units(MediaTime time) =>
        (Math.Round((decimal)time.Units * Wide / length.Units, 2)).ToString(CultureInfo.InvariantCulture);
}
