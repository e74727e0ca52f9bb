using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;

namespace EmberLane.Web.Rooms;

/// <summary>Where the strip of a whole sitting draws what: heights in per cent of its length, widths in units of the drawing.</summary>
public sealed class StripDrawing(Transcript text, MediaTime longPause)
{
    private const int Lanes = 4;

    /// <summary>A pause that is less than a line high would only blur hours of talk.</summary>
    private const int Lines = 600;

    private readonly List<int> voices = [.. text.Voices()];

    /// <summary>How long the sitting is by its words; a second at least.</summary>
    public MediaTime End { get; } =
        text.Words.Count == 0
            ? MediaTime.FromMilliseconds(1000)
            : MediaTime.Max(new MediaTime(1), text.Words.Max(w => w.Range.Out.FromZero));

    /// <summary>Hours need more room for their figures.</summary>
    public bool IsLong => End >= MediaTime.FromMilliseconds(3_600_000);

    /// <summary>How far everything is moved to the right for that.</summary>
    public int Left => IsLong ? 18 : 0;

    /// <summary>The moments of the figures at its side, with their heights.</summary>
    public IEnumerable<(string Y, string Label)> Ticks() =>
        new SittingChart([new SittingRange(default, new SittingTime(End))])
            .Ticks()
            .Select(t => (Percent(decimal.Parse(t.X, System.Globalization.CultureInfo.InvariantCulture) / 10), t.Label));

    /// <summary>Pauses that are worth a line, each with the height of its middle.</summary>
    public IEnumerable<(string Y, MediaTime Length)> Pauses()
    {
        var seen = MediaTime.Max(longPause, new MediaTime(End.Units / Lines));
        return text
            .Words.Zip(text.Words.Skip(1), (one, next) => (At: one.Range.Out.FromZero, Length: next.Range.In - one.Range.Out))
            .Where(p => p.Length >= seen)
            .Select(p => (Percent(p.At + new MediaTime(p.Length.Units / 2)), p.Length));
    }

    /// <summary>Where a voice's bars stand; the fourth and all further voices share one place.</summary>
    public int Lane(int voice) => Left + 38 + (Math.Min(Lanes - 1, voices.IndexOf(voice)) * 9);

    /// <summary>A turn's bar: where it begins and how high it is.</summary>
    public (string Y, string Height) Bar(Turn turn)
    {
        var from = text.At(turn.First).Range.In.FromZero;
        return (Percent(from), Percent(MediaTime.Max(text.At(turn.Last).Range.Out.FromZero - from, MediaTime.Zero)));
    }

    /// <summary>The flags, each at its word.</summary>
    public IEnumerable<(string Y, Mark Flag)> Flags() =>
        from flag in text.Layers.Marks.Values
        where flag.StandsBefore
        let place = MarkPlace.Of(flag, text)
        where place is not null
        select (Percent(text.At(place.Value.First).Range.In.FromZero), flag);

    /// <summary>A moment as a height.</summary>
    public string Percent(MediaTime at) => Percent((decimal)at.Units * 100 / Math.Max(1, End.Units));

    private static string Percent(decimal share) => FormattableString.Invariant($"{Math.Round(share, 3)}%");
}
