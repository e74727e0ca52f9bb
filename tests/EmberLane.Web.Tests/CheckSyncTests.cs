using EmberLane.Running;
using EmberLane.Store;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

public sealed class CheckSyncTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private Source Wide => demo.Get<Footage>().SourcesOf(1).Single(s => s.Name == "A001C002_FERRY_WIDE.MOV");

    private decimal Begins => (decimal)Wide.Place!.Value.Start.FromZero.Units / MediaTime.UnitsPerSecond;

    private void OpenCheck(string query = "")
    {
        demo.Open(FormattableString.Invariant($"/productions/1/gather/check/{Wide.Id}{query}"));
        Browser.Until(() => Browser.Run<bool>("return document.readyState === 'complete' && !!window.htmx"), "the page");
    }

    private void Wait(string wanted) =>
        Browser.Until(() => Browser.Find("#offset").GetAttribute("value") == wanted, $"the offset {wanted}");

    [Fact]
    public void A_source_is_nudged_by_frame_millisecond_and_sample_by_keyboard_and_every_step_is_taken_back()
    {
        OpenCheck();
        var before = Begins;
        var expected = before;
        foreach (var (button, by) in new[] { ("#on-frame", 0.04m), ("#back-ms", -0.001m), ("#on-sample", 1m / 48_000) })
        {
            expected += by;
            Browser.Find(button).SendKeys(Keys.Enter);
            Wait(expected.ToString("0.######", System.Globalization.CultureInfo.InvariantCulture));
            Assert.Equal(expected, Begins, 9);
        }
        Browser.UntilText("#check", "sync leaves it as it is");
        Browser.Driver.Navigate().Refresh();
        Wait(expected.ToString("0.######", System.Globalization.CultureInfo.InvariantCulture));
        for (var i = 0; i < 3; i++)
        {
            var shown = Browser.Find("#offset").GetAttribute("value");
            Browser.Click("#take-back");
            Browser.Until(() => Browser.Find("#offset").GetAttribute("value") != shown, "the step to be taken back");
        }
        Assert.Equal(before, Begins);
    }

    [Fact]
    public async Task An_offset_typed_in_stays_when_sync_runs_again_until_it_is_left_to_sync()
    {
        OpenCheck();
        var found = Begins;
        Browser.Empty("#offset");
        Browser.Type("#offset", "−4,25" + Keys.Enter);
        Wait("-4.25");
        demo.Open("/productions/1/gather?sitting=1");
        Browser.UntilText(".sources", "set by hand");
        Browser.Click("[hx-post*='handler=Sync'] button");
        await RunningServer.UntilAsync(
            () =>
                demo.Get<Jobs>().Newest("sync", 1) is { State: "done" } job
                && job.Detail.Contains("1 left as placed by hand", StringComparison.Ordinal),
            "sync to run again"
        );
        Assert.Equal(-4.25m, Begins);
        OpenCheck();
        Browser.Click("#release");
        Browser.UntilText("#accept", "Accept this place");
        demo.Open("/productions/1/gather?sitting=1");
        Browser.Click("[hx-post*='handler=Sync'] button");
        await RunningServer.UntilAsync(() => Begins == found, "sync to place it again");
    }

    [Theory]
    [InlineData("soon")]
    [InlineData("99999999999999999999999999999999")]
    [InlineData("200000")]
    public void An_offset_that_is_none_is_refused_with_what_to_type(string typed)
    {
        OpenCheck();
        var before = Begins;
        Browser.Empty("#offset");
        Browser.Type("#offset", typed + Keys.Enter);
        Browser.UntilText("#check [role=alert]", "Give the offset in seconds");
        Assert.Equal(before, Begins);
    }

    [Fact]
    public void Both_waveforms_are_drawn_at_every_width_and_the_back_button_returns_to_the_last()
    {
        OpenCheck();
        foreach (var zoom in new[] { "0", "600000", "60000", "10000", "2000", "200" })
        {
            Browser.Click("#zoom-" + zoom);
            Browser.Until(() => Browser.Find("#zoom-" + zoom).GetAttribute("aria-current") == "true", "the width " + zoom);
            Assert.True(Browser.Find("path.wave-above").GetAttribute("d")!.Length > 2000);
            Assert.True(Browser.Find("path.wave-below").GetAttribute("d")!.Length > 2000);
        }
        Browser.Click("#zoom-2");
        // Two milliseconds hold 96 samples: each is a point of the curve.
        Browser.Until(
            () =>
                Browser.All("polyline.wave-below").Count == 1
                && Browser.Find("polyline.wave-below").GetAttribute("points")!.Split(' ').Length == 96,
            "single samples"
        );
        Browser.Driver.Navigate().Back();
        Browser.Until(() => Browser.Find("#zoom-200").GetAttribute("aria-current") == "true", "the width before");
    }

    [Fact]
    public async Task Both_are_heard_as_they_lie_together_or_left_and_right()
    {
        using var client = new HttpClient();
        var address = FormattableString.Invariant($"{demo.Server.Address}/productions/1/gather/check/{Wide.Id}?handler=Listen&at=60000");
        var together = await client.GetByteArrayAsync(new Uri(address));
        var apart = await client.GetByteArrayAsync(new Uri(address + "&apart=true"));
        Assert.Equal(44 + (6 * 48_000 * 4), together.Length);
        short At(byte[] wav, int i, int side) => BitConverter.ToInt16(wav, 44 + (i * 4) + (side * 2));
        Assert.All(Enumerable.Range(0, 48_000), i => Assert.Equal(At(together, i, 0), At(together, i, 1)));
        Assert.Contains(Enumerable.Range(0, 200_000), i => At(apart, i, 0) != At(apart, i, 1));
        Assert.All(
            Enumerable.Range(100_000, 1000),
            i => Assert.InRange(At(together, i, 0) - ((At(apart, i, 0) + At(apart, i, 1)) / 2), -2, 2)
        );
        OpenCheck("?at=60000");
        Browser.Run<object?>(
            "document.querySelector('#check audio').muted = true; document.querySelector('#check audio').play(); return null"
        );
        Browser.Until(() => Browser.Run<bool>("return document.querySelector('#check audio').currentTime > 0.2"), "it to sound");
    }

    [Fact]
    public void The_reference_says_that_it_stays_and_a_source_of_another_production_is_not_found()
    {
        var reference = demo.Get<Footage>().Sitting(1)!.SoundSourceId;
        demo.Open(FormattableString.Invariant($"/productions/1/gather/check/{reference}"));
        Browser.UntilText("#check", "sitting's reference");
        Assert.Empty(Browser.All("#accept"));
        demo.Open("/productions/1/gather/check/4711");
        Browser.UntilText("h1", "There is no such page");
    }
}
