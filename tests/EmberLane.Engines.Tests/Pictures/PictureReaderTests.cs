using EmberLane.Core.Pictures;
using EmberLane.Engines.Pictures;

namespace EmberLane.Engines.Tests.Pictures;

/// <summary>Pictures read with ffmpeg, on files made here and on those of the demonstration, whose truth is known.</summary>
public sealed class PictureReaderTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember ' pictures,[x];").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static string Footage(string name)
    {
        var at = new DirectoryInfo(AppContext.BaseDirectory);
        while (!Directory.Exists(Path.Combine(at.FullName, "demo", "footage")))
        {
            at = at.Parent!;
        }
        return Path.Combine(at.FullName, "demo", "footage", name);
    }

    private async Task<string> MakeAsync(string name, params string[] arguments)
    {
        var path = Path.Combine(folder, name);
        await Tool.ReadAsync("ffmpeg", ["-v", "error", "-y", .. arguments, path], TimeSpan.FromMinutes(1), Cancel);
        return path;
    }

    [Fact]
    public async Task A_file_of_several_takes_is_cut_where_they_meet_to_the_frame_and_each_has_its_colour()
    {
        var file = await MakeAsync(
            "three.mp4",
            "-f",
            "lavfi",
            "-i",
            "color=c=0x2850c8:s=640x360:r=25:d=2.2[a];color=c=0x28a03c:s=640x360:r=25:d=3.04[b];testsrc2=s=640x360:r=25:d=2[c];"
                + "[a][b][c]concat=n=3",
            "-pix_fmt",
            "yuv420p"
        );
        var seen = await PictureReader.WholeAsync(file, MediaTime.FromMilliseconds(7_240), null, Cancel);
        Assert.Equal([MediaTime.FromMilliseconds(2_200), MediaTime.FromMilliseconds(5_240)], seen.Cuts.Select(c => c.FromZero));
        Assert.InRange(seen.Frames.Count, 28, 30);
        var shots = ShotMeasure.Shots(seen.Cuts, MediaTime.FromMilliseconds(7_240)).Select(s => ShotMeasure.Of(s, seen.Frames)!).ToList();
        Assert.Equal([PictureColour.Blue, PictureColour.Green], shots.Take(2).Select(s => s.Colours[0]));
        Assert.Equal([ShotMovement.Still, ShotMovement.Still, ShotMovement.Lively], shots.Select(s => s.Motion));
        Assert.All(shots, s => Assert.Equal(0, s.Faces));
    }

    [Theory]
    [InlineData("320x240")]
    [InlineData("108x192")]
    [InlineData("16x16")]
    [InlineData("1000x4")]
    public async Task Pictures_of_any_shape_are_read_and_a_file_of_one_frame_has_one(string size)
    {
        var file = await MakeAsync("one.mkv", "-f", "lavfi", "-i", $"color=c=white:s={size}:r=25:d=0.04", "-c:v", "ffv1");
        var seen = await PictureReader.WholeAsync(file, MediaTime.FromMilliseconds(40), null, Cancel);
        var shot = ShotMeasure.Of(ShotMeasure.Shots(seen.Cuts, MediaTime.FromMilliseconds(40))[0], seen.Frames)!;
        Assert.Equal((ShotLight.Bright, PictureColour.White), (shot.Light, Assert.Single(shot.Colours)));
    }

    [Fact]
    public async Task What_is_no_picture_is_refused()
    {
        var file = Path.Combine(folder, "words.mp4");
        await File.WriteAllTextAsync(file, new string('x', 50_000), Cancel);
        await Assert.ThrowsAsync<ToolException>(() => PictureReader.WholeAsync(file, MediaTime.FromMilliseconds(1_000), null, Cancel));
        await Assert.ThrowsAsync<ToolException>(() => PictureReader.JpegAsync(file, Cancel));
    }

    [Theory]
    [InlineData("A001C002_FERRY_WIDE.MOV", 2, "Wide")]
    [InlineData("B001C002_CLOSE_MAREN.MOV", 1, "Close")]
    [InlineData("E007C001_BRIDGE_WALK.MP4", 1, "Medium")]
    [InlineData("F001C002.MP4", 0, null)]
    public async Task The_drawn_faces_of_the_demonstration_are_found_with_their_size(string name, int faces, string? size)
    {
        var file = Footage(name);
        var length = (await MediaProbe.MeasureAsync(file, Cancel)).Duration;
        var frames = await PictureReader.PlacesAsync(file, length, 4, Cancel);
        var shot = ShotMeasure.Of(new SourceRange(default, new SourceTime(length)), frames)!;
        Assert.Equal((faces, size), (shot.Faces, shot.Size?.ToString()));
        Assert.Equal(faces, SeenPerson.Of(frames, shot.Range).Count);
    }

    [Fact]
    public async Task Who_is_named_on_the_close_angles_is_offered_on_the_wide_one()
    {
        async Task<IReadOnlyList<SeenPerson>> Seen(string name)
        {
            var length = (await MediaProbe.MeasureAsync(Footage(name), Cancel)).Duration;
            var frames = await PictureReader.PlacesAsync(Footage(name), length, 4, Cancel);
            return SeenPerson.Of(frames, new SourceRange(default, new SourceTime(length)));
        }
        var maren = Assert.Single(await Seen("B001C002_CLOSE_MAREN.MOV"));
        var tobias = Assert.Single(await Seen("C003C002_CLOSE_TOBIAS.MOV"));
        var wide = await Seen("A001C002_FERRY_WIDE.MOV");
        Assert.Equal(["Maren", "Tobias"], OfferedNames.Of(wide, [(tobias, "Tobias"), (maren, "Maren")], []));
        Assert.Equal([null], OfferedNames.Of(await Seen("A004C011_HUT.MOV"), [(tobias, "Tobias"), (maren, "Maren")], []));
    }

    [Fact]
    public async Task A_tagger_of_the_studio_gets_the_path_of_a_picture_and_one_that_hangs_fails_or_talks_nonsense_is_told_so()
    {
        var picture = await MakeAsync("a.jpg", "-f", "lavfi", "-i", "color=c=0x2850c8:s=64x36:d=0.04", "-frames:v", "1");
        string Program(string name, string script)
        {
            var path = Path.Combine(folder, name);
            File.WriteAllText(path, "#!/bin/sh\n" + script);
            File.SetUnixFileMode(path, UnixFileMode.UserRead | UnixFileMode.UserExecute);
            return path;
        }
        Task<IReadOnlyList<PictureTag>> Ask(string program, double seconds = 20) =>
            new CommandTagger(program, TimeSpan.FromSeconds(seconds)).TagAsync(picture, Cancel);
        var good = Program("good", "test -s \"$1\" && echo '[{\"tag\":\"ferry\",\"confidence\":0.9}]'");
        Assert.Equal([new PictureTag("ferry", new PerMille(900))], await Ask(good));
        Assert.Contains(
            "took longer",
            (await Assert.ThrowsAsync<ToolException>(() => Ask(Program("slow", "sleep 60"), 0.5))).Message,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "exit code 3",
            (await Assert.ThrowsAsync<ToolException>(() => Ask(Program("bad", "exit 3")))).Message,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "none",
            (await Assert.ThrowsAsync<ToolException>(() => Ask(Program("words", "echo a ferry")))).Message,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "is not there",
            new CommandTagger(Path.Combine(folder, "nowhere"), TimeSpan.FromSeconds(1)).WhyNot(),
            StringComparison.Ordinal
        );
        Assert.Contains("--tagger-command", new CommandTagger(null, TimeSpan.FromSeconds(1)).WhyNot(), StringComparison.Ordinal);
        Assert.Equal(["water", "sky"], (await new SimulatedTagger().TagAsync(picture, Cancel)).Select(t => t.Tag));
    }
}
