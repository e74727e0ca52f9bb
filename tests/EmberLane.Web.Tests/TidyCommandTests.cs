using System.Text.Json;
using EmberLane.Core.Captions;
using EmberLane.Engines;
using EmberLane.Running;
using EmberLane.Web.Commands;

namespace EmberLane.Web.Tests;

/// <summary><c>ember tidy</c> on the demonstration's true words and its sound, and on files that are none.</summary>
public sealed class TidyCommandTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-tidied").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    private string Written(string name, string text)
    {
        var file = Path.Combine(folder, name);
        File.WriteAllText(file, text);
        return file;
    }

    // The words of the first crossing as words JSON, in the order that is asked for.
    private string Crossing(bool turned = false)
    {
        using var truth = JsonDocument.Parse(
            File.ReadAllText(Path.Combine(RunningServer.Repository, "demo", "footage", "first-crossing.truth.json"))
        );
        var words = truth.RootElement.GetProperty("words").EnumerateArray().Select(w => w.GetRawText()).ToList();
        if (turned)
        {
            words.Reverse();
        }
        return Written("words.json", $$"""{"schema":"ember-lane.words/1","language":"en","words":[{{string.Join(',', words)}}]}""");
    }

    private static async Task<string> TidyAsync(params string[] arguments)
    {
        using var output = new StringWriter();
        Assert.Equal(0, await CommandLine.RunAsync(["tidy", .. arguments], output, CancellationToken.None));
        return output.ToString();
    }

    private static async Task<JsonElement> FoundAsync(params string[] arguments) =>
        JsonDocument.Parse(await TidyAsync([.. arguments, "--json"])).RootElement;

    private static string Refused(params string[] arguments) =>
        Assert.ThrowsAny<Exception>(() => TidyAsync(arguments).GetAwaiter().GetResult()).Message;

    [Fact]
    public async Task Pauses_are_told_by_the_sound_and_the_words_together()
    {
        var sound = Path.Combine(RunningServer.Repository, "demo", "footage", "SND0614_T01.1.flac");
        var byWords = (await FoundAsync(Crossing())).GetProperty("pauses").EnumerateArray().Select(Middle).ToList();
        var found = (await FoundAsync(Crossing(), "--sound", sound)).GetProperty("pauses").EnumerateArray().Select(Middle).ToList();
        Assert.InRange(found.Count, byWords.Count - 2, byWords.Count + 4);
        Assert.True(byWords.Count(p => found.Exists(f => Math.Abs(f - p) < 0.4)) >= byWords.Count - 2);
        // Options may stand before the words, and each sound has its own.
        var before = await FoundAsync("--sound", sound, "--sound", sound.Replace(".1.", ".2.", StringComparison.Ordinal), Crossing());
        Assert.InRange(before.GetProperty("pauses").GetArrayLength(), byWords.Count - 2, byWords.Count + 4);
        Assert.True((await FoundAsync(Crossing(), "--pause", "2")).GetProperty("pauses").GetArrayLength() < byWords.Count);

        static double Middle(JsonElement pause) => (pause.GetProperty("in").GetDouble() + pause.GetProperty("out").GetDouble()) / 2;
    }

    [Fact]
    public async Task Hesitations_retakes_and_cues_of_the_demonstration_are_found()
    {
        var found = await FoundAsync(Crossing());
        Assert.Equal(
            ["filled", "twice", "phrase", "filled"],
            found.GetProperty("hesitations").EnumerateArray().Select(h => h.GetProperty("kind").GetString())
        );
        var retake = Assert.Single(found.GetProperty("retakes").EnumerateArray());
        Assert.Equal(3, retake.GetProperty("attempts").GetArrayLength());
        Assert.Equal(2, retake.GetProperty("best").GetInt32());
        Assert.Equal(
            ["use that", "can we leave out", "leave that out"],
            found.GetProperty("cues").EnumerateArray().Select(c => c.GetProperty("cue").GetString())
        );
        var lines = await TidyAsync(Crossing());
        Assert.Contains("22 pauses, 4 hesitations, 1 retake, 3 cues\n", lines, StringComparison.Ordinal);
        Assert.Contains("3. 1:13.7 Ninety years of people standing next to each other for six minutes\n", lines, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Places_are_those_of_the_file_whatever_order_its_words_are_in()
    {
        JsonElement straight = (await FoundAsync(Crossing())).GetProperty("hesitations"),
            turned = (await FoundAsync(Crossing(turned: true))).GetProperty("hesitations");
        var last = JsonDocument.Parse(await File.ReadAllTextAsync(Crossing())).RootElement.GetProperty("words").GetArrayLength() - 1;
        Assert.Equal(
            straight.EnumerateArray().Select(h => last - h.GetProperty("first").GetInt32()),
            turned.EnumerateArray().Select(h => h.GetProperty("first").GetInt32())
        );
    }

    [Fact]
    public async Task A_script_in_text_or_word_is_matched_to_its_takes()
    {
        const string script = "MAREN: Ninety years of people standing next to each other for six minutes.\nTOBIAS: I never said this.\n";
        var docx = Path.Combine(folder, "script.docx");
        await File.WriteAllBytesAsync(
            docx,
            WordDocument.Write(
                "Script",
                [.. script.Split('\n', StringSplitOptions.RemoveEmptyEntries).Select(l => new TextPiece("", default, default, l))],
                names: false,
                times: false
            )
        );
        foreach (var file in new[] { Written("script.txt", script), docx })
        {
            var lines = (await FoundAsync(Crossing(), "--script", file)).GetProperty("script").EnumerateArray().ToList();
            var said = Assert.Single(lines, l => l.GetProperty("takes").GetArrayLength() > 0);
            Assert.Equal(1, said.GetProperty("takes")[said.GetProperty("best").GetInt32()].GetProperty("score").GetDouble());
            Assert.Equal(JsonValueKind.Null, lines[^1].GetProperty("best").ValueKind);
        }
    }

    [Fact]
    public void What_can_not_be_read_is_refused_with_the_file_and_the_reason()
    {
        var words = Crossing();
        Assert.Equal("none.json: There is no such file.", Refused(Path.Combine(folder, "none.json")));
        Assert.Contains("not JSON", Refused(Written("bad.json", "{")), StringComparison.Ordinal);
        Assert.Equal(
            "timeless.json: Word 1: “s” must be a number of seconds from 0.",
            Refused(Written("timeless.json", """{"schema":"ember-lane.words/1","words":[{"t":"ferry"}]}"""))
        );
        Assert.Equal("empty.txt: The script has no line with words.", Refused(words, "--script", Written("empty.txt", "\n")));
        Assert.Contains("--pause takes seconds", Refused(words, "--pause", "often"), StringComparison.Ordinal);
        Assert.Contains("--pause takes seconds", Refused(words, "--pause", "-1"), StringComparison.Ordinal);
        Assert.NotEmpty(Refused(words, "--sound", Written("noise.wav", "no sound at all")));
    }
}
