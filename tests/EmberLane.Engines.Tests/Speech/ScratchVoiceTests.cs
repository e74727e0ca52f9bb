using EmberLane.Engines.Speech;

namespace EmberLane.Engines.Tests.Speech;

public sealed class ScratchVoiceTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-scratch").FullName;

    private const int HeadBytes = 44,
        BytesASecond = 32_000;

    [Theory]
    [InlineData("It ran for ninety years, six minutes at a time, and nobody on a bridge will ever hear that.", 5_600)]
    [InlineData("It ran for ninety years, six minutes at a time, and nobody on a bridge will ever hear that.", 7_500)]
    // What looks like an argument, or like a command, is read as words.
    [InlineData("-o $(id) --version; the cable was singing", 4_000)]
    public async Task Words_are_read_aloud_in_about_the_time_that_they_shall_take(string words, long milliseconds)
    {
        Assert.True(ScratchVoice.IsThere);
        var path = Path.Combine(folder, "voice.wav");
        await ScratchVoice.MakeAsync(words, MediaTime.FromMilliseconds(milliseconds), path, TestContext.Current.CancellationToken);
        var sound = await File.ReadAllBytesAsync(path, TestContext.Current.CancellationToken);
        Assert.InRange((sound.Length - HeadBytes) * 1000L / BytesASecond, milliseconds * 90 / 100, milliseconds * 110 / 100);
        Assert.True(
            Enumerable.Range(0, (sound.Length - HeadBytes) / 2).Max(i => Math.Abs((int)BitConverter.ToInt16(sound, HeadBytes + (2 * i))))
                > 3_000
        );
        Assert.Equal([path], Directory.EnumerateFiles(folder));
    }

    [Fact]
    public async Task Where_the_disk_is_full_nothing_is_taken_for_a_whole_sound()
    {
        // flite itself says that all went well.
        var path = Path.Combine(folder, "full.wav");
        File.CreateSymbolicLink(path, "/dev/full");
        var failed = await Assert.ThrowsAsync<ToolException>(() =>
            ScratchVoice.MakeAsync("It ran.", MediaTime.FromMilliseconds(900), path, TestContext.Current.CancellationToken)
        );
        Assert.Contains("Is the disk full?", failed.Message, StringComparison.Ordinal);
    }

    public void Dispose() => Directory.Delete(folder, recursive: true);
}
