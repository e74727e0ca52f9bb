using System.Text.Json;
using EmberLane.Web.Commands;

namespace EmberLane.Web.Tests;

/// <summary><c>ember seams</c> on made sound, and on what is none.</summary>
public sealed class SeamsCommandTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-seams-test").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    private string Write(string name, string text)
    {
        var path = Path.Combine(folder, name);
        File.WriteAllText(path, text);
        return path;
    }

    // Noise from 1 to 2 s and from 3 to 4 s.
    private string Sound()
    {
        var path = Path.Combine(folder, "sound.wav");
        MadeMedia.Make(
            "-f",
            "lavfi",
            "-i",
            "anoisesrc=duration=5:seed=4:amplitude=0.3,volume='if(between(t,1,2)+between(t,3,4),1,0.0005)':eval=frame",
            "-ar",
            "48000",
            path
        );
        return path;
    }

    private string Words() =>
        Write(
            "words.json",
            """{"schema":"ember-lane.words/1","language":"en","words":[{"t":"one","s":1.05,"e":1.9},{"t":"two","s":3.1,"e":3.9}]}"""
        );

    private static async Task<string> RunAsync(params string[] arguments)
    {
        var output = new StringWriter();
        Assert.Equal(0, await CommandLine.RunAsync(["seams", .. arguments], output, TestContext.Current.CancellationToken));
        return output.ToString();
    }

    [Fact]
    public async Task Cuts_at_a_recognisers_word_ends_are_moved_into_the_quiet_and_told_as_json_and_in_lines()
    {
        string[] asked = [Write("cuts.json", """[{"in":3.1,"out":3.9},{"in":1.05,"out":1.9}]"""), "--words", Words(), "--sound", Sound()];
        using var json = JsonDocument.Parse(await RunAsync([.. asked, "--json"]));
        var pieces = json.RootElement.EnumerateArray().ToList();
        Assert.Equal(2, pieces.Count);
        Assert.InRange(pieces[0].GetProperty("in").GetDecimal(), 2.1m, 3.0m);
        Assert.InRange(pieces[1].GetProperty("out").GetDecimal(), 2.0m, 2.9m);
        Assert.All(
            pieces,
            p =>
            {
                Assert.True(p.GetProperty("before").GetProperty("clips").GetBoolean());
                Assert.False(p.GetProperty("after").GetProperty("clips").GetBoolean());
                Assert.Equal(0, p.GetProperty("score").GetInt32());
            }
        );
        Assert.EndsWith("0 pieces to look at, the worst first\n", await RunAsync(asked), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("[]", null, "")]
    [InlineData("nothing", null, "cuts.json")]
    [InlineData("""[{"in":1,"out":99}]""", null, "lasts")]
    [InlineData("""[{"in":1,"out":2}]""", "{}", "words.json")]
    public async Task What_can_not_be_read_is_told_with_the_file(string cuts, string? words, string said)
    {
        string[] asked =
        [
            Write("cuts.json", cuts),
            "--words",
            words is null ? Words() : Write("words.json", words),
            "--sound",
            Sound(),
            "--json",
        ];
        if (said.Length == 0)
        {
            Assert.Equal("[]", (await RunAsync(asked)).Trim());
        }
        else
        {
            var refused = await Assert.ThrowsAsync<ArgumentException>(() => RunAsync(asked));
            Assert.Contains(said, refused.Message, StringComparison.Ordinal);
        }
    }
}
