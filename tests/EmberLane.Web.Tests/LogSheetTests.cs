using System.Net;
using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;
using EmberLane.Running;
using EmberLane.Store;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

/// <summary>The log sheet: parts proposed and corrected, key words, pulls of a length; and what is missing among the bites.</summary>
public sealed class LogSheetTests : IClassFixture<DemoServer>
{
    private readonly DemoServer demo;
    private readonly long typed;

    // The typed text, whose sentences have stops.
    public LogSheetTests(DemoServer demo)
    {
        this.demo = demo;
        var texts = demo.Get<Texts>();
        typed = texts.Of(1).Single(t => t.Recogniser.StartsWith("text:", StringComparison.Ordinal)).Id;
        if (demo.Get<Store.Footage>().Sitting(1)!.TranscriptId != typed)
        {
            texts.Choose(1, typed, "test");
        }
    }

    private Browser Browser => demo.Browser;

    private Transcript Text => demo.Get<Store.Transcripts>().Get(typed);

    private List<Mark> Parts => [.. Text.Layers.Marks.Values.Where(m => m.Kind == MarkKind.Part).OrderBy(m => m.First)];

    private void Open(string query = "")
    {
        demo.Open("/productions/1/read/1/log" + query);
        Browser.UntilText("h1", "Log sheet of The first crossing");
    }

    private void Settled() => Browser.Until(() => Browser.All(".htmx-request, .htmx-settling, .htmx-added").Count == 0, "the answer");

    private void Take(int line) => Browser.Run<object?>("arguments[0].focus(); return null", Browser.All(".log-part")[line]);

    [Fact]
    public void Parts_are_proposed_accepted_renamed_moved_joined_and_set_aside()
    {
        demo.Open("/productions/1/read/1");
        Browser.UntilText("h1", "The first crossing");
        Browser.Press("k");
        Browser.UntilText("h1", "Log sheet of The first crossing");
        var proposed = Browser.All(".log-part.proposed").Count;
        Assert.InRange(proposed, 2, 8);
        Take(0);
        Browser.Press("y");
        Browser.UntilText(".done-line", "It is a part.");
        Assert.Single(Parts);
        Settled();
        Browser.All(".room-actions button").Single(b => b.Text.StartsWith("Accept all", StringComparison.Ordinal)).Click();
        Browser.Until(() => Parts.Count == proposed, "all parts");
        Browser.Until(() => Browser.All(".log-part.proposed").Count == 0, "no proposal");
        Settled();

        Take(1);
        Browser.Press("e");
        Browser.Until(() => Browser.All(".part-name:focus").Count == 1, "its name");
        Browser.Driver.SwitchTo().ActiveElement().SendKeys("The bench" + Keys.Enter);
        Browser.Until(() => Parts[1].Note == "The bench", "the name");
        Settled();

        var (before, begin) = (Parts[0], Parts[1].First);
        Take(1);
        Browser.Press("]");
        Browser.Until(() => Parts[1].First > begin, "a later begin");
        // No word lies between the two.
        Assert.Equal(Text.PlaceOf(Parts[1].First), Text.PlaceOf(Parts[0].Last)! + 1);
        Assert.Equal(before.First, Parts[0].First);
        Settled();
        Take(1);
        Browser.Press("[");
        Browser.Until(() => Parts[1].First == begin, "the begin as it was");
        Settled();

        Take(1);
        Browser.Press("x");
        Browser.Until(() => Browser.All(".log-part.is-aside").Count == 1, "the part aside");
        Settled();
        Browser.Press("u");
        Browser.Until(() => Browser.All(".log-part.is-aside").Count == 0, "the part back");
        Settled();
        Take(1);
        Browser.All(".log-part")[1].FindElements(By.CssSelector("button")).Single(b => b.Text == "No border here").Click();
        Browser.Until(() => Parts.Count == proposed - 1, "one part less");
        Assert.Equal(before.First, Parts[0].First);
    }

    [Fact]
    public void A_border_is_dragged_by_sentences()
    {
        Open();
        Settled();
        if (Browser.All(".log-part.proposed").Count > 0)
        {
            Browser.All(".room-actions button").Single(b => b.Text.StartsWith("Accept all", StringComparison.Ordinal)).Click();
            Browser.Until(() => Browser.All(".log-part.proposed").Count == 0, "all parts");
            Settled();
        }
        var begin = Parts[^1].First;
        new OpenQA.Selenium.Interactions.Actions(Browser.Driver)
            .ClickAndHold(Browser.All(".border-handle")[^1])
            .MoveByOffset(0, -32)
            .Release()
            .Perform();
        Browser.Until(() => Parts[^1].First < begin, "an earlier begin");
    }

    [Fact]
    public void A_pull_of_a_length_is_heard_and_kept_with_one_key()
    {
        Open();
        Browser.All(".pull-length")[0].Click();
        Browser.Until(() => Browser.All(".pull").Count > 0, "short pulls");
        Assert.EndsWith("length=short", Browser.Driver.Url, StringComparison.Ordinal);
        Settled();
        var said = Browser.Text(".pull .speech");
        var kept = demo.Get<Store.Bites>().Of(1).Count;
        Browser.Run<object?>("arguments[0].focus(); return null", Browser.All(".pull")[0]);
        Browser.Press("b");
        Browser.UntilText(".done-line", "Kept.");
        Assert.Equal(kept + 1, demo.Get<Store.Bites>().Of(1).Count);
        Browser.UntilText(".pull .kind", "kept");
        demo.Open("/productions/1/bites");
        Browser.Until(() => Browser.Texts(".bite .speech").Any(s => s.StartsWith(said[..20], StringComparison.Ordinal)), "the bite");
    }

    [Fact]
    public void A_key_word_leads_to_its_places_one_after_another()
    {
        Open();
        Browser.Find(".key-term").Click();
        Browser.UntilText("#term-place", "place 1 of");
        Browser.Find(".key-term").Click();
        Browser.UntilText("#term-place", "place 2 of");
        Browser.Find("#term-place a").Click();
        Browser.Until(() => Browser.Driver.Url.Contains("/read/1#word-", StringComparison.Ordinal), "its place");
    }

    [Fact]
    public async Task The_sheet_is_text_with_times_and_odd_requests_are_answered()
    {
        using var client = new HttpClient { BaseAddress = new Uri(demo.Server.Address) };
        var cancel = TestContext.Current.CancellationToken;
        var text = await client.GetStringAsync(new Uri("/productions/1/read/1/log?handler=Text", UriKind.Relative), cancel);
        Assert.StartsWith("The first crossing", text, StringComparison.Ordinal);
        Assert.Matches(@"(?m)^\d+:\d\d\.\d–\d+:\d\d\.\d  .+$", text);
        foreach (var address in new[] { "/productions/1/read/3/log", "/productions/1/read/999/log" })
        {
            Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync(new Uri(address, UriKind.Relative), cancel)).StatusCode);
        }
        foreach (
            var request in new[]
            {
                "Border&part=99999&by=1",
                "Join&part=99999",
                "Aside&part=99999",
                "Name&part=1&name=",
                "Keep&first=x&last=1",
            }
        )
        {
            var answer = await demo.PostAsync("/productions/1/read/1/log?handler=" + request, []);
            Assert.Equal(HttpStatusCode.Conflict, answer.StatusCode);
        }
    }

    [Fact]
    public void What_is_missing_is_told_and_leads_to_what_would_fill_it()
    {
        demo.Open("/productions/1/bites");
        Browser.Find("#bites-missing summary").Click();
        Browser.UntilText(".thin", "Nobody but Ilse Varga speaks of “school”.");
        Browser.UntilText(".shares", "The bench".ToLowerInvariant());
        Browser.All(".thin a").Single(a => a.Text.Contains("“school”", StringComparison.Ordinal)).Click();
        Browser.Until(() => Browser.All("#question").Count == 1, "the question");
        Assert.Equal("school", Browser.Find("#question").GetAttribute("value"));
        Browser.UntilText(".look-line", "hit");
    }
}
