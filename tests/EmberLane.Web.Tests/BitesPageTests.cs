using System.Net;
using EmberLane.Core.Bites;
using EmberLane.Running;
using EmberLane.Store;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

/// <summary>Bites: the list and the board, filters, ends moved by keys, and several bites changed at once.</summary>
public sealed class BitesPageTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private Store.Bites Kept => demo.Get<Store.Bites>();

    private IReadOnlyList<Bite> All => [.. Kept.Of(1).Where(b => !b.IsAside)];

    private void Open(string query = "")
    {
        demo.Open("/productions/1/bites" + query);
        Browser.UntilText("h1", "Bites");
    }

    private void Settled() => Browser.Until(() => Browser.All(".htmx-request, .htmx-settling, .htmx-added").Count == 0, "the answer");

    // The bite in hand, by its id in the page.
    private long InHand(int place)
    {
        var bite = Browser.All("article.bite")[place];
        Browser.Run<object?>("arguments[0].focus(); return null", bite);
        return long.Parse(bite.GetAttribute("id")!["bite-".Length..], System.Globalization.CultureInfo.InvariantCulture);
    }

    [Fact]
    public void Grades_are_given_by_keys_shown_as_dots_and_taken_back()
    {
        Open();
        var id = InHand(2);
        Browser.Press("3");
        Browser.Until(() => Kept.Get(id)!.Grade == 3, "the grade");
        Browser.Until(() => Browser.All($"#bite-{id} .dot.on").Count == 3, "three dots");
        Browser.Until(() => Browser.All($"#bite-{id}:focus").Count == 1, "the focus");
        Browser.Press("u");
        Browser.Until(() => Kept.Get(id)!.Grade == 0, "no grade");
        Settled();
        Open("?is.least=3");
        Browser.UntilText(".empty", "No bite is as you ask");
    }

    [Fact]
    public void An_end_moves_by_a_word_with_a_key_and_by_ear_with_a_button()
    {
        Open();
        var id = InHand(3);
        var before = Kept.Get(id)!;
        var said = Browser.Text($"#bite-{id} .speech");
        Browser.Press(Keys.ArrowRight);
        Browser.Until(() => Browser.Text($"#bite-{id} .speech").Length > said.Length, "a word more");
        Assert.StartsWith(said, Browser.Text($"#bite-{id} .speech"), StringComparison.Ordinal);
        Browser.Until(() => Browser.All($"#bite-{id}:focus").Count == 1, "the focus");
        Browser.Press(Keys.ArrowLeft);
        Browser.Until(() => Browser.Text($"#bite-{id} .speech") == said, "the word less");
        Browser.Until(() => Browser.All($"#bite-{id}:focus").Count == 1, "the focus again");
        Browser.Press("e");
        Browser.Find($"#ends-{id}");
        Settled();
        var end = Kept.Get(id)!.Range.Out;
        Browser.All($"#ends-{id} .end-row")[1].FindElements(By.CssSelector("button")).Single(b => b.Text == "+20 ms").Click();
        Browser.Until(() => Kept.Get(id)!.Range.Out - end == BiteEnds.Step, "the end by ear");
        Assert.Equal(before.Range.In, Kept.Get(id)!.Range.In);
        // The panel stays, for the next step.
        Settled();
        Browser.Find($"#ends-{id}");
    }

    [Fact]
    public void A_word_pressed_makes_two_bites_and_undo_makes_them_one()
    {
        Open();
        var id = InHand(0);
        var count = All.Count;
        var words = Browser.Text($"#bite-{id} .speech");
        Browser.Press("e");
        Browser.Until(() => Browser.All($"#ends-{id} .word-split").Count > 3, "its words");
        Settled();
        Browser.All($"#ends-{id} .word-split")[3].Click();
        Browser.UntilText(".done-line", "Two bites now.");
        Assert.Equal(count + 1, All.Count);
        Assert.Equal(string.Join(' ', words.Split(' ')[..3]), Browser.Text($"#bite-{id} .bite-body > .speech"));
        Settled();
        InHand(0);
        Browser.Press("u");
        Browser.Until(() => All.Count == count, "one bite again");
    }

    [Fact]
    public void Ticked_bites_get_a_theme_at_once_and_one_key_takes_it_back()
    {
        Open();
        var first = InHand(0);
        Browser.Press("m");
        Browser.UntilText("#ticked", "1 ticked");
        var second = InHand(1);
        Browser.Press("m");
        Browser.UntilText("#ticked", "2 ticked");
        Browser.Find("#ticked-value").SendKeys("weather");
        Browser.Click("#ticked button[value=theme]");
        Browser.UntilText(".done-line", "2 bites: theme “weather”.");
        Assert.All([first, second], id => Assert.Contains("weather", Kept.Get(id)!.Themes));
        // The choice of themes has it without a reload.
        Browser.Choose("#bites-theme", "weather");
        Browser.Until(() => Browser.All("article.bite").Count == 2, "those two");
        Assert.Contains("is.Theme=weather", Browser.Driver.Url, StringComparison.OrdinalIgnoreCase);
        Browser.Driver.Navigate().Refresh();
        Browser.Until(() => Browser.All("article.bite").Count == 2, "those two after a reload");
        InHand(0);
        Browser.Press("u");
        Browser.UntilText(".empty", "No bite is as you ask");
        Assert.DoesNotContain(All, b => b.Themes.Contains("weather"));
    }

    [Fact]
    public void The_same_bites_stand_under_people_and_under_sittings()
    {
        Open();
        var sittings = Browser.Texts(".bite-group");
        Assert.Equal(Kept.Of(1).Where(b => !b.IsAside).Select(b => b.SittingId).Distinct().Count(), sittings.Count);
        var bites = Browser.All("article.bite").Count;
        Browser.All(".view")[1].Click();
        Browser.Until(() => Browser.Texts(".bite-group").Contains("Maren Oakhurst"), "people");
        Assert.Equal(bites, Browser.All("article.bite").Count);
        Browser.Find("#bites-words").SendKeys("zebra");
        Browser.UntilText(".look-line", "0 of them asked for");
    }

    [Fact]
    public void On_the_board_a_bite_goes_to_the_theme_beside_by_a_key()
    {
        Open("?is.view=board");
        var columns = Browser.Texts(".board-column h2");
        Assert.Equal(Kept.Themes(1).Count, columns.Count);
        var card = Browser.All(".board-column")[0].FindElement(By.CssSelector(".board-card"));
        var id = long.Parse(card.GetAttribute("data-bite")!, System.Globalization.CultureInfo.InvariantCulture);
        var (from, to) = (
            Browser.All(".board-column")[0].GetAttribute("data-theme-of")!,
            Browser.All(".board-column")[1].GetAttribute("data-theme-of")!
        );
        Browser.Run<object?>("arguments[0].focus(); return null", card);
        Browser.Press(Keys.ArrowRight);
        Browser.Until(() => Kept.Get(id)!.Themes.Contains(to), "the other theme");
        Assert.DoesNotContain(from, Kept.Get(id)!.Themes);
    }

    [Fact]
    public void What_another_person_marks_arrives_without_a_reload()
    {
        Open();
        var id = All[^1].Id;
        var shown = Browser.All($"#bite-{id} .note").Count;
        using var other = new Browser();
        other.Open(demo.Server.Address + "/productions/1/bites");
        Browser.Until(() => other.All($"#bite-{id}").Count == 1, "the bite");
        other.Run<object?>("arguments[0].focus(); return null", other.Find($"#bite-{id}"));
        other.Press("2");
        Browser.Until(() => Browser.All($"#bite-{id} .dot.on").Count == 2, "two dots in the other window");
        Assert.Equal(shown, Browser.All($"#bite-{id} .note").Count);
    }

    [Theory]
    [InlineData("csv", "text/csv", "sitting,in,out")]
    [InlineData("markers", "text/csv", "reel,in,out,name,comment")]
    [InlineData("edl", "application/octet-stream", "TITLE:")]
    [InlineData("docx", "application/vnd.openxmlformats-officedocument.wordprocessingml.document", "PK")]
    [InlineData("vtt&is.sitting=1", "text/vtt", "WEBVTT")]
    public async Task Bites_are_taken_out_as_files(string form, string type, string begins)
    {
        using var client = new HttpClient { BaseAddress = new Uri(demo.Server.Address) };
        var address = new Uri("/productions/1/bites?handler=Take&handles=12&form=" + form, UriKind.Relative);
        var answer = await client.GetAsync(address, TestContext.Current.CancellationToken);
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        Assert.Equal(type, answer.Content.Headers.ContentType!.MediaType);
        var text = await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        Assert.StartsWith(begins, text, StringComparison.Ordinal);
        if (form == "csv")
        {
            Assert.Equal(All.Count + 1, text.Split("\r\n", StringSplitOptions.RemoveEmptyEntries).Length);
        }
    }

    [Fact]
    public async Task A_selects_reel_holds_each_bite_with_its_handles_to_the_frame()
    {
        using var client = new HttpClient { BaseAddress = new Uri(demo.Server.Address) };
        var lists = new List<Core.Handoff.EventList>();
        foreach (var handles in new[] { 0, 10 })
        {
            var address = new Uri($"/productions/1/bites?handler=Take&form=edl&handles={handles}", UriKind.Relative);
            lists.Add(
                Core.Handoff.EdlReader.Read(await client.GetStringAsync(address, TestContext.Current.CancellationToken), FrameRate.R25)
            );
        }
        // What is set aside in a bite parts it; handles lie before its first part and behind its last.
        long Frames(Core.Handoff.EventList list) => list.Events.Max(e => e.RecordOut.Frame) - list.Events.Min(e => e.RecordIn.Frame);
        Assert.Equal(20L * All.Count, Frames(lists[1]) - Frames(lists[0]));
    }

    [Theory]
    [InlineData("vtt", "choose it above")]
    [InlineData("csv&is.words=zebra", "nothing to take out")]
    public async Task What_can_not_be_taken_out_is_said(string form, string says)
    {
        using var client = new HttpClient { BaseAddress = new Uri(demo.Server.Address) };
        var address = new Uri("/productions/1/bites?handler=Take&form=" + form, UriKind.Relative);
        var answer = await client.GetAsync(address, TestContext.Current.CancellationToken);
        Assert.Equal(HttpStatusCode.Conflict, answer.StatusCode);
        Assert.Contains(says, await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken), StringComparison.Ordinal);
    }

    [Fact]
    public void A_paper_edit_comes_in_and_what_fits_nothing_is_shown_with_the_reason()
    {
        var before = All.Count;
        demo.Open("/productions/1/bites/bring");
        Browser
            .Find("textarea[name=pasted]")
            .SendKeys("The first crossing 0:43.5 – 0:52 the compass\nThe first crossing 9:00 – 9:10\nNobody’s tape 0:01 – 0:02\n");
        Browser.Click("form.bring-paper button");
        Browser.UntilText(".done-line", "1 bite kept; 2 of 3 lines fit nothing");
        Assert.Equal(
            [
                "not kept: It lies beyond “The first crossing”, which ends at 2:12.8.",
                "not kept: No sitting, reel or file is called “Nobody’s tape”.",
            ],
            Browser.Texts("tr.not-kept td:last-child")
        );
        Assert.Equal(before + 1, All.Count);
        Assert.Contains(All, b => b.Note == "the compass" && b.Range.In.ToString() == "0:43.5" && b.Range.Out.ToString() == "0:52.0");
        Open();
        InHand(0);
        Browser.Press("u");
        Browser.Until(() => All.Count == before, "it to be gone again");
        demo.Open("/productions/1/bites/bring");
        Browser.Click("form.bring-paper button");
        Browser.UntilText(".alert-line", "No range is in it");
    }

    [Fact]
    public async Task Words_highlighted_in_a_transcript_that_went_out_become_bites()
    {
        var text = demo.Get<Store.Transcripts>().Get(demo.Get<Store.Footage>().Sitting(2)!.TranscriptId!.Value);
        var words = string.Join(' ', Enumerable.Range(10, 6).Select(i => text.TextOf(text.At(new Core.Transcripts.TextPlace(i)))));
        var before = All.Count;
        var answer = await demo.UploadAsync(
            "/productions/1/bites/bring",
            "marked.docx",
            MarkedDocument.Of("The school hut", words, "words that nobody said here at all")
        );
        var page = await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        Assert.Contains("1 bite kept; 1 of 2 lines fit nothing", page, StringComparison.Ordinal);
        Assert.Equal(before + 1, All.Count);
        Assert.Contains(All, b => b.FirstWord == text.At(new Core.Transcripts.TextPlace(10)).Number && b.SittingId == 2);
    }

    [Theory]
    [InlineData("broken.docx", "this is no zip")]
    [InlineData("table.csv", "in,out\n\"never closed")]
    [InlineData("list.txt", "")]
    public async Task A_paper_edit_that_can_not_be_read_is_refused_and_nothing_is_kept(string name, string content)
    {
        var before = All.Count;
        var answer = await demo.UploadAsync("/productions/1/bites/bring", name, System.Text.Encoding.UTF8.GetBytes(content));
        Assert.NotEqual(HttpStatusCode.InternalServerError, answer.StatusCode);
        Assert.Equal(before, All.Count);
    }

    [Theory]
    [InlineData("Many&what=theme&value=x", HttpStatusCode.Conflict)]
    [InlineData("Many&what=theme&ticks=1&value=", HttpStatusCode.Conflict)]
    [InlineData("Many&what=theme&ticks=1+99999&value=x", HttpStatusCode.NotFound)]
    [InlineData("Many&what=merge&ticks=1", HttpStatusCode.Conflict)]
    [InlineData("Many&what=grade&ticks=x+y&value=1", HttpStatusCode.NotFound)]
    [InlineData("Move&bite=99999&end=stop&words=1", HttpStatusCode.NotFound)]
    [InlineData("Split&bite=99999&at=x", HttpStatusCode.Conflict)]
    [InlineData("Grade&bite=99999&grade=2", HttpStatusCode.NotFound)]
    public async Task What_names_no_bite_of_this_production_is_refused(string request, HttpStatusCode status)
    {
        var before = All.Count;
        Assert.Equal(status, (await demo.PostAsync("/productions/1/bites?handler=" + request, [])).StatusCode);
        Assert.Equal(before, All.Count);
    }

    [Theory]
    [InlineData("?is.view=nothing&is.least=99&is.sitting=x&is.who=%00&is.theme=%F0%9F%90%9F&is.story=%22%3E")]
    [InlineData("?is.words=%25_%27%22%3Cscript%3E&is.view=board")]
    [InlineData("?handler=More&shown=-5")]
    [InlineData("?handler=Pane&pane=99999&shown=99999999")]
    public async Task Whatever_the_address_asks_for_is_answered_with_a_page(string query)
    {
        using var client = new HttpClient { BaseAddress = new Uri(demo.Server.Address) };
        var answer = await client.GetAsync(
            new Uri("/productions/1/bites" + query, UriKind.Relative),
            TestContext.Current.CancellationToken
        );
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
    }
}
