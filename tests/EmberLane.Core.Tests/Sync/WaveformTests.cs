using CsCheck;
using EmberLane.Core.Sync;

namespace EmberLane.Core.Tests.Sync;

public sealed class WaveformTests
{
    [Fact]
    public void Columns_agree_with_looking_at_every_sample() =>
        Gen.Select(Gen.Float[-1, 1].Array[1, 60], Gen.Int[-20, 60], Gen.Int[1, 80], Gen.Int[1, 30])
            .Sample(
                (samples, first, length, columns) =>
                {
                    var drawn = Waveform.Columns(new HeldSound(samples), first, first + length, columns);
                    for (var c = 0; c < columns; c++)
                    {
                        int from = Floor(first + ((decimal)length * c / columns)),
                            to = Math.Max(from + 1, Floor(first + ((decimal)length * (c + 1) / columns)));
                        var inside = Enumerable
                            .Range(from, to - from)
                            .Where(i => i >= 0 && i < samples.Length)
                            .Select(i => samples[i])
                            .ToList();
                        Assert.Equal(inside.Count == 0 ? (0f, 0f) : (inside.Min(), inside.Max()), drawn[c]);
                    }
                }
            );

    private static int Floor(decimal value) => (int)Math.Floor(value);

    [Fact]
    public void An_empty_stretch_or_no_columns_are_refused()
    {
        Assert.Throws<ArgumentOutOfRangeException>(() => Waveform.Columns(new HeldSound([1]), 5, 5, 10));
        Assert.Throws<ArgumentOutOfRangeException>(() => Waveform.Columns(new HeldSound([1]), 0, 5, 0));
    }

    [Fact]
    public void A_moved_source_keeps_its_drift_and_a_far_away_place_is_refused()
    {
        var before = Placement.BySound(new ClockMap(new SittingTime(MediaTime.FromMilliseconds(1000)), 30_000), "same sound");
        var moved = PlaceSource.Moved(before, new SittingTime(MediaTime.FromMilliseconds(-2000)));
        Assert.Equal(
            new Placement(new ClockMap(new SittingTime(MediaTime.FromMilliseconds(-2000)), 30_000), PlaceBasis.Person, "set by hand", true),
            moved
        );
        Assert.Throws<EditRefusedException>(() => PlaceSource.Moved(before, new SittingTime(MediaTime.FromMilliseconds(49L * 3_600_000))));
        Assert.Throws<EditRefusedException>(() => PlaceSource.Moved(before, new SittingTime(MediaTime.FromMilliseconds(-49L * 3_600_000))));
    }

    [Fact]
    public void A_place_is_accepted_once_and_nothing_can_not_be()
    {
        var accepted = PlaceSource.Accepted(Placement.BySound(new ClockMap(default, 0), "same sound"));
        Assert.Equal(new Placement(new ClockMap(default, 0), PlaceBasis.Sound, "accepted · same sound", true), accepted);
        Assert.Equal(accepted, PlaceSource.Accepted(accepted));
        Assert.Throws<EditRefusedException>(() => PlaceSource.Accepted(Placement.Nowhere()));
    }
}
