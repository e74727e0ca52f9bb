using System.Globalization;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Cameras;

/// <summary>
/// A tighter framing of an angle, which is planned as a view of its own: how much larger, in hundredths, around which centre, in hundredths
/// of the picture's width and height; at the cut, or slowly over the shot from the whole picture on.
/// </summary>
public sealed record PunchIn(int Percent, int Across, int Down, bool IsSlow)
{
    /// <summary>The least and the most that a picture is enlarged.</summary>
    public const int Least = 105,
        Most = 200;

    private const string Slow = "slow";

    /// <summary>As it is offered: a face is seldom below the middle.</summary>
    public static readonly PunchIn Offered = new(130, 50, 42, false);

    /// <summary>Throws <see cref="EditRefusedException"/> that names what can not be.</summary>
    public PunchIn Check() =>
        Percent is < Least or > Most
            ? throw new EditRefusedException(FormattableString.Invariant($"A picture is enlarged to {Least} to {Most} %, not {Percent}."))
        : Across is < 0 or > 100 || Down is < 0 or > 100
            ? throw new EditRefusedException("The centre lies 0 to 100 % across and 0 to 100 % down the picture.")
        : this;

    /// <summary>It as it is kept.</summary>
    public string Written => string.Create(CultureInfo.InvariantCulture, $"{Percent} {Across} {Down}") + (IsSlow ? " " + Slow : "");

    /// <summary>It as it was kept.</summary>
    public static PunchIn Read(string text)
    {
        var parts = text.Split(' ');
        return new PunchIn(Whole(0), Whole(1), Whole(2), parts.Length > 3 && parts[3] == Slow);

        int Whole(int i) => int.Parse(parts[i], NumberStyles.None, CultureInfo.InvariantCulture);
    }

    /// <summary>What is seen in a part of a shot.</summary>
    public Framed Over(SittingRange shot, SittingRange part)
    {
        var close = Crop.Of(Percent, Across, Down);
        return IsSlow ? new Framed(Crop.All, close).Part(part.In - shot.In, part.Out - shot.In, shot.Length) : new Framed(close, close);
    }
}
