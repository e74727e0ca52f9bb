using System.Net;
using EmberLane.Running;
using EmberLane.Store;

namespace EmberLane.Web.Tests;

/// <summary>What of a sitting was read is known, and what was not.</summary>
public sealed class ReadThroughTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    [Fact]
    public void What_was_in_sight_for_as_long_as_reading_takes_is_read_and_the_rest_is_told_with_where_to_go_on()
    {
        demo.OpenRead(2);
        Browser.Until(() => demo.Get<ReadTimes>().Of(1).ContainsKey(2), "what was read");
        var read = demo.Get<ReadTimes>().Of(1)[2];
        Assert.True(read[0].In < new SittingTime(MediaTime.FromMilliseconds(20_000)), $"{read[0]}");
        demo.Open("/productions/1/bites");
        Browser.Click("#bites-missing summary");
        Browser.UntilText(".missing-told table:last-of-type", "The school hut");
        var row = Browser
            .All(".missing-told table:last-of-type tbody tr")
            .Single(r => r.Text.StartsWith("The school hut", StringComparison.Ordinal));
        Assert.DoesNotContain(" 0:00.0 ", row.Text.Replace("0:00.0 read on", "", StringComparison.Ordinal), StringComparison.Ordinal);
        // The first sitting was not opened.
        var other = Browser
            .All(".missing-told table:last-of-type tbody tr")
            .Single(r => r.Text.StartsWith("The first crossing", StringComparison.Ordinal));
        Assert.Contains("0:00.0", other.Text, StringComparison.Ordinal);
        Browser.Click(".missing-told table:last-of-type tbody tr:nth-of-type(2) a");
        Browser.Until(() => Browser.Driver.Url.Contains("/read/2#word-", StringComparison.Ordinal), "the place to go on");
        Assert.False(Browser.Driver.Url.EndsWith("#word-0", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("/productions/1/read/1?handler=Read", "ranges=1-x", HttpStatusCode.BadRequest)]
    [InlineData("/productions/1/read/1?handler=Read", "ranges=9-1", HttpStatusCode.BadRequest)]
    [InlineData("/productions/1/read/1?handler=Read", "ranges=-5-1", HttpStatusCode.BadRequest)]
    [InlineData("/productions/1/read/1?handler=Read", "ranges=0-99999999999", HttpStatusCode.BadRequest)]
    [InlineData("/productions/1/read/1?handler=Read", "ranges=", HttpStatusCode.NoContent)]
    [InlineData("/productions/1/read/77?handler=Read", "ranges=0-1", HttpStatusCode.NotFound)]
    public async Task Nonsense_is_read_by_nobody(string address, string form, HttpStatusCode status)
    {
        var answer = await demo.PostAsync(address, [KeyValuePair.Create("ranges", form["ranges=".Length..])]);
        Assert.Equal(status, answer.StatusCode);
    }
}
