using CsCheck;
using EmberLane.Core.Media;

namespace EmberLane.Core.Tests.Media;

public sealed class PacketCutsTests
{
    private static SourceTime At(long milliseconds) => new(MediaTime.FromMilliseconds(milliseconds));

    private static SourceRange Stretch(long from, long to) => new(At(from), At(to));

    // Two groups of five pictures, each 40 ms, in the order of decoding: the last of a group is needed by those before it.
    private static readonly PicturePacket[] Packets =
    [
        new(At(0), true),
        new(At(160), false),
        new(At(40), false),
        new(At(80), false),
        new(At(120), false),
        new(At(200), true),
        new(At(360), false),
        new(At(240), false),
        new(At(280), false),
        new(At(320), false),
    ];

    [Fact]
    public void A_stretch_goes_with_all_that_is_decoded_behind_its_first_picture_up_to_the_next_whole_one() =>
        Assert.Equal([(3, 4)], PacketCuts.Of(Packets, [Stretch(80, 100)]));

    [Fact]
    public void A_picture_that_others_need_goes_with_them() => Assert.Equal([(1, 4)], PacketCuts.Of(Packets, [Stretch(160, 170)]));

    [Fact]
    public void Several_stretches_are_several_runs_and_one_run_where_they_meet()
    {
        Assert.Equal([(3, 4), (9, 9)], PacketCuts.Of(Packets, [Stretch(320, 330), Stretch(80, 100)]));
        Assert.Equal([(4, 9)], PacketCuts.Of(Packets, [Stretch(120, 130), Stretch(200, 210)]));
    }

    [Theory]
    [InlineData(400, 500)]
    [InlineData(81, 90)]
    [InlineData(80, 80)]
    public void Where_no_picture_begins_nothing_goes(long from, long to) => Assert.Empty(PacketCuts.Of(Packets, [Stretch(from, to)]));

    [Fact]
    public void Of_nothing_nothing_goes() => Assert.Empty(PacketCuts.Of([], [Stretch(0, 100)]));

    [Fact]
    public void Nothing_of_a_stretch_stays_nothing_that_stays_needs_what_goes_and_no_group_goes_that_holds_none_of_it() =>
        Gen.Select(Gen.Int[1, 6].List[1, 12], Gen.Int[0, 40].Array[0, 6], Gen.Int[0, 1_000])
            .Sample(
                (groups, ends, seed) =>
                {
                    // Groups of pictures, the first of each whole; the others of a group in any order of decoding.
                    var random = new Random(seed);
                    var packets = new List<(PicturePacket Packet, int Group)>();
                    var n = 0;
                    foreach (var (g, size) in groups.Index())
                    {
                        var shown = Enumerable.Range(n, size).ToArray();
                        var others = shown[1..];
                        random.Shuffle(others);
                        packets.AddRange(others.Prepend(shown[0]).Select((s, i) => (new PicturePacket(At(40 * s), i == 0), g)));
                        n += size;
                    }
                    var stretches = ends.Chunk(2)
                        .Where(c => c.Length == 2)
                        .Select(c => Stretch(40 * Math.Min(c[0], c[1]), 40 * Math.Max(c[0], c[1])))
                        .ToList();
                    var goes = PacketCuts
                        .Of([.. packets.Select(p => p.Packet)], stretches)
                        .SelectMany(r => Enumerable.Range(r.First, r.Last - r.First + 1))
                        .ToHashSet();
                    foreach (var (i, (packet, group)) in packets.Index())
                    {
                        var isIn = stretches.Any(s => s.Holds(packet.At));
                        var groupHolds = packets.Any(p => p.Group == group && stretches.Any(s => s.Holds(p.Packet.At)));
                        Assert.True(!isIn || goes.Contains(i));
                        // Within a group whatever stays is decoded before whatever goes.
                        Assert.True(
                            goes.Contains(i) || packets.Index().All(o => o.Item.Group != group || o.Index > i || !goes.Contains(o.Index))
                        );
                        // A group of which nothing is asked for goes only where the stretch has not ended when it begins.
                        Assert.True(
                            !goes.Contains(i)
                                || groupHolds
                                || stretches.Any(s => s.In < packet.At && packets.First(p => p.Group == group).Packet.At < s.Out)
                        );
                    }
                }
            );
}
