using EmberLane.Core.Pictures;

namespace EmberLane.Core.Tests.Pictures;

/// <summary>What is measured of pictures, on pictures whose truth is known.</summary>
public sealed class PictureTests
{
    internal static Raster Plain(int width, int height, byte red, byte green, byte blue) =>
        new(width, height, [.. Enumerable.Range(0, width * height).SelectMany(_ => new[] { red, green, blue })]);

    /// <summary>One colour above, another below.</summary>
    internal static Raster Halves((byte, byte, byte) above, (byte, byte, byte) below) =>
        new(
            64,
            36,
            [.. Enumerable.Range(0, 64 * 36).Select(i => i < 64 * 18 ? above : below).SelectMany(c => new[] { c.Item1, c.Item2, c.Item3 })]
        );

    internal static SourceTime At(long ms) => new(MediaTime.FromMilliseconds(ms));

    private static SeenFrame Frame(long ms, Raster picture, params Face[]? faces) => SeenFrame.Of(At(ms), picture, faces);

    [Theory]
    [InlineData(10, 10, 12, "Black")]
    [InlineData(128, 128, 128, "Grey")]
    [InlineData(250, 250, 245, "White")]
    [InlineData(220, 20, 30, "Red")]
    [InlineData(240, 140, 30, "Orange")]
    [InlineData(110, 70, 40, "Brown")]
    [InlineData(240, 230, 40, "Yellow")]
    [InlineData(40, 160, 60, "Green")]
    [InlineData(30, 150, 150, "Teal")]
    [InlineData(40, 80, 200, "Blue")]
    [InlineData(130, 60, 200, "Purple")]
    [InlineData(240, 90, 180, "Pink")]
    public void A_colour_has_the_name_that_people_give_it(byte red, byte green, byte blue, string name) =>
        Assert.Equal(name, PictureColours.NameOf(red, green, blue).ToString());

    [Fact]
    public void Main_colours_come_by_how_much_of_the_picture_they_have_and_the_largest_always()
    {
        Assert.Equal([PictureColour.Blue], PictureColours.Main([Plain(8, 8, 40, 80, 200)]));
        Assert.Equal(2, PictureColours.Main([Halves((40, 80, 200), (40, 160, 60))]).Count);
        var many = new Raster(
            12,
            1,
            [.. Enum.GetValues<PictureColour>().SelectMany(c => new byte[] { (byte)(20 * (int)c), 120, (byte)(255 - (20 * (int)c)) })]
        );
        Assert.InRange(PictureColours.Main([many]).Count, 1, 3);
    }

    [Fact]
    public void Shrinking_keeps_the_mean_and_what_lies_beyond_a_part_is_cut_off()
    {
        var halves = Halves((200, 0, 0), (0, 0, 100));
        var small = halves.Shrunk(2, 2);
        Assert.Equal([200, 0, 0, 200, 0, 0, 0, 0, 100, 0, 0, 100], small.Rgb);
        var part = halves.Part(-10, 10, 20, 200);
        Assert.Equal((10, 26), (part.Width, part.Height));
        Assert.Throws<ArgumentOutOfRangeException>(() => halves.Part(64, 0, 5, 5));
        Assert.Throws<ArgumentOutOfRangeException>(() => halves.Shrunk(65, 1));
    }

    [Fact]
    public void A_look_is_nearest_to_itself_near_to_what_is_a_little_brighter_and_far_from_another_picture()
    {
        PictureLook sea = PictureLook.Of([Halves((170, 190, 210), (60, 100, 140))]),
            brighter = PictureLook.Of([Halves((180, 200, 220), (70, 110, 150))]),
            turned = PictureLook.Of([Halves((60, 100, 140), (170, 190, 210))]),
            grass = PictureLook.Of([Halves((90, 140, 60), (60, 40, 20))]);
        Assert.Equal(PerMille.None, sea.Apart(sea));
        Assert.True(sea.Apart(brighter) < sea.Apart(turned));
        Assert.True(sea.Apart(turned) < sea.Apart(grass));
        Assert.Equal(sea.Apart(grass), grass.Apart(sea));
        // Whatever lies where, the colours of the turned one are the same.
        Assert.Equal(PerMille.None, sea.ColoursApart(turned));
        Assert.Equal(sea, PictureLook.Mean([sea, sea]));
    }

    [Fact]
    public void A_file_is_parted_where_it_is_cut_and_a_flash_is_no_shot()
    {
        var length = MediaTime.FromMilliseconds(10_000);
        Assert.Equal([new SourceRange(At(0), At(10_000))], ShotMeasure.Shots([], length));
        Assert.Equal(
            [new SourceRange(At(0), At(4_000)), new SourceRange(At(4_000), At(7_000)), new SourceRange(At(7_000), At(10_000))],
            ShotMeasure.Shots([At(7_000), At(4_000), At(4_200), At(9_900), At(12_000), At(100)], length)
        );
        var random = new Random(5);
        for (var n = 0; n < 200; n++)
        {
            var cuts = Enumerable.Range(0, random.Next(30)).Select(_ => At(random.Next(-500, 12_000))).ToList();
            var shots = ShotMeasure.Shots(cuts, length);
            Assert.Equal(At(0), shots[0].In);
            Assert.Equal(At(10_000), shots[^1].Out);
            Assert.All(shots.Zip(shots.Skip(1)), pair => Assert.Equal(pair.First.Out, pair.Second.In));
        }
    }

    [Fact]
    public void Light_movement_and_faces_are_those_of_the_shots_own_frames()
    {
        Raster dark = Plain(64, 36, 20, 20, 20),
            white = Plain(64, 36, 250, 250, 250);
        var face = new Face(new PictureBox(400, 300, 160, 300), new PerMille(900));
        List<SeenFrame> frames =
        [
            Frame(0, dark),
            Frame(250, dark, null),
            Frame(500, dark, null),
            Frame(1_000, white, face),
            Frame(1_250, dark, null),
            Frame(1_500, white, face),
        ];
        var night = ShotMeasure.Of(new SourceRange(At(0), At(1_000)), frames)!;
        Assert.Equal((ShotLight.Dark, ShotMovement.Still, 0, null), (night.Light, night.Motion, night.Faces, night.Size));
        var lightning = ShotMeasure.Of(new SourceRange(At(1_000), At(2_000)), frames)!;
        Assert.Equal(
            (ShotLight.Bright, ShotMovement.Lively, 1, ShotSize.Close),
            (lightning.Light, lightning.Motion, lightning.Faces, lightning.Size)
        );
        Assert.Null(ShotMeasure.Of(new SourceRange(At(3_000), At(4_000)), frames));
        Assert.Equal("dark, still, black", ShotWords.Of(night));
        Assert.EndsWith("1 face, close", ShotWords.Of(lightning), StringComparison.Ordinal);
    }

    [Fact]
    public void A_face_that_is_seen_in_one_frame_of_many_is_none()
    {
        var face = new Face(new PictureBox(400, 300, 80, 140), new PerMille(700));
        var frames = Enumerable.Range(0, 9).Select(i => Frame(1_000 * i, Plain(64, 36, 90, 90, 90), i == 4 ? [face] : [])).ToList();
        var shot = new SourceRange(At(0), At(9_000));
        Assert.Equal(0, ShotMeasure.Of(shot, frames)!.Faces);
        Assert.Empty(SeenPerson.Of(frames, shot));
    }

    [Fact]
    public void What_the_face_network_says_becomes_boxes_in_the_picture_each_face_once()
    {
        var boxes = new float[48 * 48 * FaceBoxes.Numbers];
        var scores = new float[48 * 48];
        Array.Fill(scores, -100);
        // Two places see one face in the middle, 48 pixels wide: a quarter of the square.
        foreach (var (place, off) in new[] { ((24 * 48) + 24, -2f), ((24 * 48) + 25, -6f) })
        {
            scores[place] = 3;
            (boxes[place * 16], boxes[(place * 16) + 1], boxes[(place * 16) + 2], boxes[(place * 16) + 3]) = (off, -2, 48, 48);
        }
        var face = Assert.Single(FaceBoxes.Of(boxes, scores, new PictureBox(0, -389, 1000, 1778)));
        Assert.Equal((375, 250), (face.Box.X, face.Box.Width));
        Assert.InRange(face.Box.Middle.Y, 495, 505);
        Assert.InRange(face.Chance.Value, 950, 955);
        // What is not likely, or lies beside the picture, is none.
        Array.Fill(scores, 0.3f);
        Assert.Empty(FaceBoxes.Of(new float[boxes.Length], scores, new PictureBox(0, 0, 1000, 1000)));
    }
}
