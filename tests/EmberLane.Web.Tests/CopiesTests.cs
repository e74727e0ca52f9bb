using System.Net;
using EmberLane.Core.Handoff;
using EmberLane.Engines;
using EmberLane.Running;
using EmberLane.Web.Commands;

namespace EmberLane.Web.Tests;

/// <summary>Copies of a story to hear and see: from the page, and by command.</summary>
public sealed class CopiesTests(DemoServer demo) : IClassFixture<DemoServer>, IDisposable
{
    private const string Room = "/productions/1/handoff/copies";

    private readonly string folder = Directory.CreateTempSubdirectory("ember-copies-test").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    [Fact]
    public async Task A_copy_is_asked_for_made_in_the_background_played_downloaded_and_taken_away()
    {
        var cancel = TestContext.Current.CancellationToken;
        demo.Open(Room);
        Assert.Contains("Nobody has asked for a copy yet", demo.Browser.Text("#copies"), StringComparison.Ordinal);
        Assert.False(demo.Browser.Find(".copy-look").Displayed);
        demo.Browser.Empty("#copy-loud");
        demo.Browser.Type("#copy-loud", "-20");
        demo.Browser.Choose("#copy-of", demo.Browser.All("#copy-of option")[3].Text);
        demo.Browser.Click("[form=copy-form]");
        demo.Browser.UntilText("#copies", "measured −20.");
        Assert.Contains("card 1", demo.Browser.Text(".copy-head b"), StringComparison.Ordinal);
        Browser.Until(() => demo.Browser.Run<bool>("return document.querySelector('.copy audio').duration > 1"), "the copy's length");
        using var client = new HttpClient { BaseAddress = new Uri(demo.Server.Address) };
        var copy = demo.Browser.Find(".copy").GetAttribute("id")!.Split('-')[1];
        var answer = await client.GetAsync(new Uri($"{Room}?handler=File&copy={copy}&save=true", UriKind.Relative), cancel);
        Assert.Equal("low_water__first_order__card_1", answer.Content.Headers.ContentDisposition!.FileName!.Split("_v")[0]);
        var file = Path.Combine(folder, "copy.mp3");
        await File.WriteAllBytesAsync(file, await answer.Content.ReadAsByteArrayAsync(cancel), cancel);
        Assert.InRange((await Ffmpeg.LoudnessOfAsync(file, cancel))!.Value, -20.5, -19.5);
        // A file that somebody has shortened is not taken for whole.
        var kept = Path.Combine(demo.Data, "copies", copy + ".mp3");
        await File.WriteAllBytesAsync(kept, (await File.ReadAllBytesAsync(kept, cancel))[..2_000], cancel);
        demo.Browser.Driver.Navigate().Refresh();
        demo.Browser.UntilText("#copies", "no longer in the data folder");
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await client.GetAsync(new Uri($"{Room}?handler=File&copy={copy}", UriKind.Relative), cancel)).StatusCode
        );
        demo.Browser.Click(".copy-acts form button");
        demo.Browser.UntilText("#copies", "Nobody has asked for a copy yet");
        Assert.False(File.Exists(kept));
    }

    [Theory]
    [InlineData("Loudness", "very loud", "no loudness")]
    [InlineData("Kilobits", "9999", "32 to 320")]
    [InlineData("Shape", "3:1", "Known are 16:9")]
    [InlineData("Kind", "gif", "a listening copy or a viewing copy")]
    [InlineData("Of", "00000000-0000-0000-0000-000000000001", "not in the story")]
    [InlineData("Size", "large", "whole numbers")]
    public async Task What_can_not_be_made_is_refused_with_a_sentence_and_nothing_is_begun(string field, string value, string says)
    {
        var answer = await demo.PostAsync($"{Room}?handler=Make", [new(field, value)]);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        var page = await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        Assert.Contains(says, WebUtility.HtmlDecode(page), StringComparison.Ordinal);
        Assert.DoesNotContain("class=\"copy\"", page, StringComparison.Ordinal);
    }

    [Fact]
    public async Task By_command_copies_lie_beside_the_package_and_in_its_manifest()
    {
        await using var output = new StringWriter();
        string[] asked =
        [
            "handoff",
            "--data",
            demo.Data,
            "--production",
            "Slack Water",
            "--story",
            "Low water, first order",
            "--out",
            folder,
        ];
        string[] how = ["--only", "edl,wav,mp4", "--lufs", "-23", "--shape", "1:1", "--with-captions", "--end-card", "Slack Water"];
        Assert.Equal(0, await CommandLine.RunAsync([.. asked, .. how], output, TestContext.Current.CancellationToken));
        var files = Manifest
            .Read(await File.ReadAllTextAsync(Path.Combine(folder, Manifest.FileName), TestContext.Current.CancellationToken))
            .Files;
        Assert.Equal(
            ["low_water__first_order.edl", "low_water__first_order.mp4", "low_water__first_order.wav"],
            files.Select(f => f.Name).Order()
        );
        foreach (var file in files)
        {
            var bytes = await File.ReadAllBytesAsync(Path.Combine(folder, file.Name), TestContext.Current.CancellationToken);
            Assert.Equal(file.Sum, new PackageFile(file.Name, bytes).Sum);
        }
        var list = await File.ReadAllTextAsync(Path.Combine(folder, "low_water__first_order.edl"), TestContext.Current.CancellationToken);
        Assert.Contains("* SHAPE: 1:1 ", list, StringComparison.Ordinal);
        Assert.Contains("MP4, 1:1, 540 × 540, −23 LUFS", output.ToString(), StringComparison.Ordinal);
        var facts = await MediaProbe.MeasureAsync(Path.Combine(folder, "low_water__first_order.mp4"), default);
        Assert.Equal((540, 540, "01:00:00:00"), (facts.Picture!.Width, facts.Picture.Height, facts.Start.Label.ToString()));
        var heard = await MediaProbe.MeasureAsync(Path.Combine(folder, "low_water__first_order.wav"), default);
        Assert.InRange((facts.Duration - heard.Duration).ToMillisecondsRounded(), 3_900, 4_100);
        Assert.InRange((await Ffmpeg.LoudnessOfAsync(Path.Combine(folder, "low_water__first_order.wav"), default))!.Value, -23.3, -22.7);
        Assert.Empty(Directory.GetFiles(folder, "*.part"));
    }
}
