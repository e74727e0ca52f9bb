using EmberLane.Core.Media;

namespace EmberLane.Core.Tests.Media;

public sealed class LabelsTests
{
    private static SourceFacts Camera(string? reel = null, string? make = null, string? model = null) =>
        new(
            "mov",
            MediaTime.FromMilliseconds(1000),
            new PictureFacts("h264", "yuv420p", 960, 540, FrameRate.R25, false),
            [],
            StartOfFile.Unknown,
            reel,
            make,
            model
        );

    [Theory]
    [InlineData("A001C002_FERRY.MOV", null, null, "A")]
    [InlineData("clip.mov", "C003", null, "C")]
    [InlineData("A001C002.MOV", "B004", null, "B")]
    [InlineData("holiday.mov", null, "Pocket 7", "Pocket 7")]
    [InlineData("holiday.mov", null, null, "")]
    [InlineData("ABC123.MOV", null, null, "")]
    public void The_camera_is_read_from_reel_name_or_device(string name, string? reel, string? model, string camera) =>
        Assert.Equal(camera, Labels.None.CameraOf(Camera(reel, null, model), name));

    [Fact]
    public void What_a_person_wrote_goes_before_what_the_file_says()
    {
        var facts = Camera("A001", "Made-up", "One") with { Scene = "14", Take = "2", RecordedAt = new DateTime(2026, 9, 14, 7, 42, 0) };
        Assert.Equal(
            ("A", "A001", "14", "2", "2026-09-14"),
            (
                Labels.None.CameraOf(facts, "x"),
                Labels.None.ReelOf(facts),
                Labels.None.SceneOf(facts),
                Labels.None.TakeOf(facts),
                Labels.None.DayOf(facts)
            )
        );
        var written = Labels
            .None.With("camera", "Drone")
            .With("reel", "Z9")
            .With("scene", "15")
            .With("take", "1")
            .With("day", "2026-09-13");
        Assert.Equal(
            ("Drone", "Z9", "15", "1", "2026-09-13"),
            (written.CameraOf(facts, "x"), written.ReelOf(facts), written.SceneOf(facts), written.TakeOf(facts), written.DayOf(facts))
        );
        Assert.Equal(Labels.None, written.With("camera", " ").With("reel", "").With("scene", "").With("take", "").With("day", ""));
    }

    [Fact]
    public void Text_is_cleaned_and_tags_are_not_doubled()
    {
        Assert.Equal("two lines", Labels.None.With("note", " two\nlines\0 ").Note);
        Assert.Equal("rope, Hands", Labels.None.With("tags", "rope,, Hands ,ROPE").Tags);
    }

    [Theory]
    [InlineData("day", "14.9.2026")]
    [InlineData("day", "2026-02-30")]
    [InlineData("colour", "red")]
    public void A_wrong_day_and_an_unknown_label_are_refused(string name, string text) =>
        Assert.Throws<EditRefusedException>(() => Labels.None.With(name, text));

    [Fact]
    public void A_text_that_is_too_long_is_refused() =>
        Assert.Throws<EditRefusedException>(() => Labels.None.With("note", new string('x', Labels.Longest + 1)));

    [Fact]
    public void A_recorders_notes_give_scene_take_and_the_channels_in_their_places()
    {
        var notes = RecorderNotes.Read(
            """
            <?xml version="1.0"?><BWFXML><SCENE>14B</SCENE><TAKE>3</TAKE><TAPE>DAY2</TAPE><TRACK_LIST>
            <TRACK><CHANNEL_INDEX>5</CHANNEL_INDEX><INTERLEAVE_INDEX>2</INTERLEAVE_INDEX><NAME>Boom</NAME></TRACK>
            <TRACK><CHANNEL_INDEX>1</CHANNEL_INDEX><INTERLEAVE_INDEX>1</INTERLEAVE_INDEX><NAME>Lav  Ilse</NAME></TRACK>
            <TRACK><CHANNEL_INDEX>999999999</CHANNEL_INDEX><NAME>far</NAME></TRACK><TRACK><NAME>nowhere</NAME></TRACK>
            </TRACK_LIST></BWFXML>
            """ + "\0\0"
        );
        Assert.Equal(("14B", "3", "DAY2"), (notes.Scene, notes.Take, notes.Tape));
        Assert.Equal(["Lav Ilse", "Boom"], notes.ChannelNames);
    }

    [Theory]
    [InlineData("")]
    [InlineData("not xml")]
    [InlineData("<BWFXML><SCENE>1</BWFXML>")]
    [InlineData("<!DOCTYPE a [<!ENTITY b \"bbbb\">]><BWFXML><SCENE>&b;</SCENE></BWFXML>")]
    public void Notes_that_are_broken_or_hostile_are_left_out(string xml) => Assert.Equal(RecorderNotes.None, RecorderNotes.Read(xml));
}
