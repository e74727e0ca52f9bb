using EmberLane.Core.Sync;

namespace EmberLane.Core.Tests.Sync;

public sealed class OutlineTests
{
    // Talk-like bursts of noise: loud for a moment, quiet for a moment.
    private static float[] Talk(int seconds, int seed)
    {
        var random = new Random(seed);
        var sound = new float[seconds * SoundMatch.SampleRate];
        for (var at = 0; at < sound.Length;)
        {
            int loud = random.Next(800, 4_000),
                quiet = random.Next(400, 3_000);
            var level = 0.1 + (0.4 * random.NextDouble());
            for (var i = 0; i < loud && at < sound.Length; i++, at++)
            {
                sound[at] = (float)(level * ((2 * random.NextDouble()) - 1));
            }
            at += quiet;
        }
        return sound;
    }

    private static SoundOutline Of(float[] sound) => SoundOutline.Of(new HeldSound(sound));

    [Fact]
    public void Sounds_that_overlap_stand_out_and_others_do_not()
    {
        var talk = Talk(120, 1);
        var index = new OutlineIndex();
        index.Add(Of(talk[..(80 * SoundMatch.SampleRate)]));
        index.Add(Of(talk[(50 * SoundMatch.SampleRate)..]));
        index.Add(Of(Talk(90, 2)));
        var heights = index.Heights(0, [1, 2], CancellationToken.None);
        Assert.True(heights[0] > 2 * OutlineIndex.WorthALook, $"{heights[0]}");
        Assert.True(heights[1] < OutlineIndex.WorthALook, $"{heights[1]}");
        Assert.Equal(heights[0], index.Heights(1, [0], CancellationToken.None)[0], 3);
    }

    [Fact]
    public void An_outline_comes_back_from_its_file_as_it_was_and_silence_or_a_moment_stands_out_nowhere()
    {
        var outline = Of(Talk(30, 3));
        Assert.Equal(30 * SoundOutline.StepsPerSecond, outline.Length);
        Assert.Equal(outline.Write(), SoundOutline.Read(outline.Write()).Write());
        Assert.Throws<FormatException>(() => SoundOutline.Read([1, 2, 3]));
        var index = new OutlineIndex();
        index.Add(outline);
        index.Add(Of(new float[30 * SoundMatch.SampleRate]));
        index.Add(Of(Talk(2, 4)));
        Assert.All(index.Heights(0, [1, 2], CancellationToken.None), h => Assert.True(h < OutlineIndex.WorthALook));
    }

    [Fact]
    public void What_belongs_together_by_way_of_others_is_one_group_and_is_looked_at_once()
    {
        var groups = new SoundGroups([new Alike(1, 2, "x"), new Alike(3, 4, "x"), new Alike(2, 3, "x")]);
        Assert.Single(new[] { 1L, 2, 3, 4 }.Select(groups.Of).Distinct());
        Assert.NotEqual(groups.Of(1), groups.Of(5));
        Assert.Equal([3L, 5], groups.WorthALook([(1, 20), (3, 30), (5, 10), (6, 7)]));
        // Among many, what others reach by chance counts for nothing.
        var many = Enumerable.Range(10, 40).Select(i => ((long)i, 12.0 + (i * 0.01))).ToList();
        Assert.Empty(groups.WorthALook(many));
        Assert.Equal([99L], groups.WorthALook([.. many, (99, 25)]));
    }
}
