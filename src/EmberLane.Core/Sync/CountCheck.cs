using System.Globalization;
using EmberLane.Core.Media;

namespace EmberLane.Core.Sync;

/// <summary>A source that sync placed by its sound, and where its timecode would have put it (null: it has none).</summary>
public sealed record Counted(string Name, MediaTime BySound, MediaTime? ByCount, MediaTime Frame);

/// <summary>
/// Whether the timecodes of a sitting can be believed: sound is the judge, and what it has confirmed speaks for files without sound.
/// </summary>
public static class CountCheck
{
    /// <summary>
    /// Counts further apart than this (ten minutes) do not run on one clock at all: a camera that counts from its first take, say.
    /// </summary>
    private static readonly MediaTime SameClock = MediaTime.FromMilliseconds(600_000);

    /// <summary>A word on one source's timecode, for its evidence; empty when it has none that could be compared.</summary>
    public static string Words(Counted source) =>
        Apart(source) is not { } apart || Magnitude(apart) > SameClock ? ""
        : Agrees(apart, source.Frame) ? "; timecode agrees"
        : string.Create(
            CultureInfo.InvariantCulture,
            $"; timecode is off by {(decimal)apart.Units / MediaTime.UnitsPerSecond:+0.00;−0.00} s"
        );

    /// <summary>
    /// Where a source without sound is put: where its timecode says (<paramref name="byCount"/>, null when it or the sitting has none),
    /// when that lies on the sitting and no other timecode there was found wrong. Else <paramref name="before"/>, with the reason.
    /// </summary>
    public static Placement Silent(
        MediaTime? byCount,
        SourceFacts source,
        SittingRange sitting,
        IReadOnlyList<Counted> others,
        Placement before
    )
    {
        if (byCount is not { } offset)
        {
            return before.NotFound(
                source.Start == StartOfFile.Unknown
                    ? "no sound and no timecode to go by"
                    : "no sound to go by, and no other file here has a timecode to lay it beside"
            );
        }
        var place = new ClockMap(new SittingTime(offset), 0);
        var fill = place.Fill(source.Duration);
        if (fill.Out <= sitting.In || fill.In >= sitting.Out)
        {
            return before.NotFound("no sound to go by, and its timecode lies outside this sitting");
        }
        var near = others.Where(o => Apart(o) is { } apart && Magnitude(apart) <= SameClock).ToList();
        if (near.FirstOrDefault(o => !Agrees(Apart(o)!.Value, o.Frame)) is { } wrong)
        {
            return before.NotFound($"no sound to go by, and timecode is not to be trusted here: that of {wrong.Name} is wrong");
        }
        var checkedBy =
            near.Count == 0 ? " alone; not checked"
            : near.Count == 1 ? $", which is right for {near[0].Name}"
            : FormattableString.Invariant($", which is right for {near.Count} others");
        return new Placement(place, PlaceBasis.Timecode, "by timecode" + checkedBy, false);
    }

    private static MediaTime? Apart(Counted source) => source.ByCount is { } count ? count - source.BySound : null;

    private static MediaTime Magnitude(MediaTime time) => time < MediaTime.Zero ? -time : time;

    // Counts tick in frames: a start is known to one frame of its own and one of the other's.
    private static bool Agrees(MediaTime apart, MediaTime frame) => Magnitude(apart) <= frame + frame;
}
