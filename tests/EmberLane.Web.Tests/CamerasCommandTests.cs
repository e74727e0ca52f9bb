using System.Text.Json;
using EmberLane.Web.Commands;

namespace EmberLane.Web.Tests;

/// <summary><c>ember cameras</c>: plans, and what can not be planned.</summary>
public sealed class CamerasCommandTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-cameras-test").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    private string Write(string text)
    {
        var path = Path.Combine(folder, "sitting.json");
        File.WriteAllText(path, text);
        return path;
    }

    private const string Angles = """
        "angles":[{"name":"wide","covers":["Ada","Bo"],"rolls":[[0,40]]},{"name":"near Ada","covers":["Ada"],"rolls":[[0,40]]},
        {"name":"near Bo","covers":["Bo"],"rolls":[[2.52,40]]}]
        """;

    private static async Task<string> RunAsync(params string[] arguments)
    {
        var output = new StringWriter();
        Assert.Equal(0, await CommandLine.RunAsync(["cameras", .. arguments], output, TestContext.Current.CancellationToken));
        return output.ToString();
    }

    [Fact]
    public async Task Shots_follow_the_speakers_and_mics_with_them_as_json_and_in_lines()
    {
        var file = Write(
            $$$"""
            {"seconds":40,{{{Angles}}},"speech":[{"who":"Ada","in":1,"out":18},{"who":"Bo","in":18.5,"out":39}],
            "crowd":[[20,22]],"locked":[{"angle":"wide","in":30,"out":33.25}],"rules":{"shortest":2,"longest":15,"wideEvery":0}}
            """
        );
        using var json = JsonDocument.Parse(await RunAsync(file, "--json"));
        var shots = json.RootElement.GetProperty("shots").EnumerateArray().ToList();
        Assert.Equal(0, shots[0].GetProperty("in").GetDecimal());
        Assert.Equal(40, shots[^1].GetProperty("out").GetDecimal());
        Assert.All(
            shots.Zip(shots.Skip(1)),
            p => Assert.Equal(p.First.GetProperty("out").GetDecimal(), p.Second.GetProperty("in").GetDecimal())
        );
        Assert.All(shots, s => Assert.InRange(s.GetProperty("out").GetDecimal() - s.GetProperty("in").GetDecimal(), 2m, 15m));
        Assert.Equal(
            "wide",
            shots
                .Single(s => s.GetProperty("in").GetDecimal() <= 30 && s.GetProperty("out").GetDecimal() > 30)
                .GetProperty("angle")
                .GetString()
        );
        var mics = json.RootElement.GetProperty("mics").EnumerateArray().ToList();
        Assert.Equal(["Ada", "Bo"], mics.Select(m => m.GetProperty("who").GetString()));
        Assert.Equal(18.4m, mics[0].GetProperty("out").GetDecimal());
        Assert.True(json.RootElement.GetProperty("cost").GetDecimal() > 0);
        var lines = await RunAsync(file);
        Assert.Contains("near Ada: ", lines, StringComparison.Ordinal);
        Assert.Contains("mic of Bo", lines, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("""{"seconds":40,ANGLES,"rules":{"shortest":30}}""", "shortest")]
    [InlineData("""{"seconds":40,ANGLES,"rules":{"longst":30}}""", "longst")]
    [InlineData("""{"seconds":40,ANGLES,"rules":{"together":"loud"}}""", "together")]
    [InlineData("""{"seconds":40,ANGLES,"rules":{"shortest":"1e9999"}}""", "shortest")]
    [InlineData("""{"seconds":40,ANGLES,"rules":{"pace":"hasty"}}""", "pace")]
    [InlineData("""{"seconds":0,ANGLES}""", "seconds")]
    [InlineData("""{"angles":[]}""", "seconds")]
    [InlineData("""{"seconds":40,ANGLES,"speech":[{"who":"Ada","in":9,"out":3}]}""", "Turn 1")]
    [InlineData("""{"seconds":40,ANGLES,"speech":[{"in":1,"out":3}]}""", "who")]
    [InlineData("""{"seconds":40,ANGLES,"locked":[{"angle":"near Bo","in":0,"out":3}]}""", "near Bo")]
    [InlineData("""{"seconds":40,"angles":[{"name":"a","rolls":[[1]]}]}""", "rolls")]
    [InlineData("""{"seconds":40,"angles":[{"name":"a","turns":[7]}]}""", "turns")]
    [InlineData("""{"seconds":40,"angles":[{"name":"a","turns":[{"covers":["Ada"]}]}]}""", "at")]
    [InlineData("""{"seconds":40,"angles":[{"name":"a","punch":"yes"}]}""", "punch")]
    [InlineData("""[1,2]""", "object")]
    [InlineData("""{"seconds":""", "JSON")]
    [InlineData("", "JSON")]
    public async Task What_can_not_be_planned_is_refused_with_its_name(string json, string named)
    {
        var file = Write(json.Replace("ANGLES", Angles, StringComparison.Ordinal));
        var refused = await Assert.ThrowsAsync<ArgumentException>(() => RunAsync(file));
        Assert.StartsWith("sitting.json: ", refused.Message, StringComparison.Ordinal);
        Assert.Contains(named, refused.Message, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_sitting_without_angles_or_speech_is_planned_as_far_as_it_goes()
    {
        using var empty = JsonDocument.Parse(await RunAsync(Write("""{"seconds":10,"angles":[]}"""), "--json"));
        Assert.Equal(0, empty.RootElement.GetProperty("shots").GetArrayLength());
        using var one = JsonDocument.Parse(await RunAsync(Write("""{"seconds":10,"angles":[{"name":"only"}]}"""), "--json"));
        Assert.Equal(1, one.RootElement.GetProperty("shots").GetArrayLength());
        Assert.Equal(0, one.RootElement.GetProperty("mics").GetArrayLength());
    }
}
