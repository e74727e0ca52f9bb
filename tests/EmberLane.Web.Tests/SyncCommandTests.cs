using System.Text.Json;
using EmberLane.Application.Demo;
using EmberLane.Engines;
using EmberLane.Running;
using EmberLane.Web.Commands;

namespace EmberLane.Web.Tests;

public sealed class SyncCommandTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-synced").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    private string In(string name) => Path.Combine(folder, name);

    private static string Film(string name) => Path.Combine(RunningServer.Repository, "demo", "footage", name);

    private static async Task<List<JsonElement>> SyncAsync(params string[] files)
    {
        using var output = new StringWriter();
        Assert.Equal(0, await CommandLine.RunAsync(["sync", .. files, "--json"], output, CancellationToken.None));
        return [.. JsonDocument.Parse(output.ToString()).RootElement.EnumerateArray()];
    }

    private async Task<string> RecorderAsync()
    {
        await RecorderFile.WriteAsync(Film("SND0614_T01.recorder.json"), folder, CancellationToken.None);
        return In("SND0614_T01.WAV");
    }

    [Fact]
    public async Task Clips_of_a_drifting_camera_that_was_stopped_and_started_are_placed_one_after_another()
    {
        var found = await SyncAsync(await RecorderAsync(), Film("C003C001_CLOSE_TOBIAS.MOV"), Film("C003C002_CLOSE_TOBIAS.MOV"));
        Assert.Equal("reference", found[0].GetProperty("evidence").GetString());
        // The camera's mic hears the room more than the people: what it hears first may be a wall, some metres away.
        Assert.InRange(found[1].GetProperty("offsetSeconds").GetDouble() - 1.71, -0.03, 0.001);
        Assert.InRange(found[2].GetProperty("offsetSeconds").GetDouble() - 75.3, -0.03, 0.001);
        Assert.All(found.Skip(1), f => Assert.InRange(f.GetProperty("driftPpm").GetDouble(), 29, 31));
        Assert.All(found.Skip(1), f => Assert.True(f.GetProperty("matched").GetBoolean() && f.GetProperty("confidence").GetDouble() > 0.9));
    }

    [Fact]
    public async Task A_file_of_another_occasion_silence_and_a_picture_without_sound_are_not_matched()
    {
        MadeMedia.Make("-f", "lavfi", "-i", "anullsrc=r=48000:cl=mono", "-t", "30", In("silence.wav"));
        MadeMedia.Make("-f", "lavfi", "-i", "testsrc2=size=160x90:rate=25:duration=2", "-c:v", "mpeg4", In("mute.mov"));
        var found = await SyncAsync(await RecorderAsync(), Film("A004C011_HUT.MOV"), In("silence.wav"), In("mute.mov"));
        Assert.All(found.Skip(1), f => Assert.False(f.GetProperty("matched").GetBoolean()));
        Assert.All(found.Skip(1), f => Assert.Equal(JsonValueKind.Null, f.GetProperty("offsetSeconds").ValueKind));
        Assert.Equal("no sound to go by", found[3].GetProperty("evidence").GetString());
    }

    [Theory]
    [InlineData("opposite", "pan=stereo|c0=c0|c1=-1*c0", 48_000, 0)]
    [InlineData("tape", "anull", 44_100, 0)]
    [InlineData("high", "anull", 96_000, 0)]
    [InlineData("upside", "volume=-1", 48_000, 0)]
    [InlineData("faint", "volume=-34dB", 48_000, 0)]
    [InlineData("late", "adelay=20000:all=1", 48_000, -20)]
    [InlineData("many", "pan=16c|c3=c0|c9=c0", 48_000, 0)]
    public async Task Sound_that_is_recorded_another_way_is_placed_all_the_same(string name, string filter, int rate, double later)
    {
        var reference = await RecorderAsync();
        var copy = In(name + ".wav");
        MadeMedia.Make(
            "-ss",
            "30",
            "-t",
            "60",
            "-i",
            reference,
            "-af",
            "pan=mono|c0=c0," + filter,
            "-ar",
            rate.ToString(System.Globalization.CultureInfo.InvariantCulture),
            copy
        );
        var found = (await SyncAsync(reference, copy))[1];
        Assert.True(found.GetProperty("matched").GetBoolean(), found.ToString());
        Assert.InRange(found.GetProperty("offsetSeconds").GetDouble() - 30 - later, -0.0005, 0.0005);
        Assert.InRange(found.GetProperty("driftPpm").GetDouble(), -2, 2);
    }

    [Fact]
    public async Task A_missing_file_a_text_and_a_mute_file_are_refused_with_a_sentence()
    {
        using var output = new StringWriter();
        var missing = await Assert.ThrowsAsync<UnreadableMediaException>(() =>
            CommandLine.RunAsync(["sync", In("no.wav"), In("nope.wav")], output, CancellationToken.None)
        );
        Assert.Contains("no.wav is not there", missing.Message, StringComparison.Ordinal);
        await File.WriteAllTextAsync(In("text.wav"), "hello");
        await Assert.ThrowsAsync<UnreadableMediaException>(() =>
            CommandLine.RunAsync(["sync", In("text.wav"), In("text.wav")], output, CancellationToken.None)
        );
        MadeMedia.Make("-f", "lavfi", "-i", "testsrc2=size=160x90:rate=25:duration=2", "-c:v", "mpeg4", In("mute.mov"));
        var mute = await Assert.ThrowsAsync<UnreadableMediaException>(() =>
            CommandLine.RunAsync(["sync", In("mute.mov"), In("mute.mov")], output, CancellationToken.None)
        );
        Assert.Contains("has no sound", mute.Message, StringComparison.Ordinal);
        Assert.Equal("", output.ToString());
    }
}
