using System.Net;
using System.Text.Json;
using EmberLane.Core.Transcripts;
using EmberLane.Running;
using EmberLane.Store;
using EmberLane.Web.Commands;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

/// <summary>
/// Find: asked from any room, answered as one types, heard, kept and laid without leaving the list; and from the command line.
/// </summary>
public sealed class FindPageTests : IClassFixture<DemoServer>
{
    private readonly DemoServer demo;

    // The typed texts, which say what is said.
    public FindPageTests(DemoServer demo)
    {
        this.demo = demo;
        var texts = demo.Get<Texts>();
        foreach (var sitting in new long[] { 1, 2 })
        {
            var typed = texts.Of(sitting).Single(t => t.Recogniser.StartsWith("text:", StringComparison.Ordinal)).Id;
            if (demo.Get<Store.Footage>().Sitting(sitting)!.TranscriptId != typed)
            {
                texts.Choose(sitting, typed, "test");
            }
        }
    }

    private Browser Browser => demo.Browser;

    private int Kept => demo.Get<Store.Bites>().Of(1).Count;

    private void Ask(string question)
    {
        demo.Open("/productions/1/find");
        Browser.UntilText("h1", "Find");
        Browser.Find("#question").SendKeys(question);
        // The answer to all of it, not to its beginning.
        Browser.Until(
            () =>
                Browser.Find("#found").GetAttribute("data-asked") == question
                && Browser.All("#found.htmx-settling, .htmx-added, .htmx-request").Count == 0,
            "the answer"
        );
    }

    [Fact]
    public void In_order_of_time_hits_stand_under_their_day_with_the_sitting_beside_each()
    {
        Ask("water");
        Browser.Click("input[name=time]");
        Browser.Until(() => Browser.Driver.Url.Contains("time=true", StringComparison.Ordinal), "the address");
        Browser.UntilText("#found h2", "2026-");
        Assert.Contains(Browser.Texts(".hit .second"), t => t.Contains("The first crossing", StringComparison.Ordinal));
        var days = Browser.Texts("#found h2").Select(t => t.Split(' ')[0]).ToList();
        Assert.Equal(days.Order(StringComparer.Ordinal), days);
    }

    [Fact]
    public void From_any_room_one_key_asks_and_hits_come_as_one_types()
    {
        demo.Open("/productions/1/story");
        Browser.UntilText("h1", "");
        Browser.Press("q");
        Browser.Until(() => Browser.All("#question").Count == 1, "the question");
        Browser.Find("#question").SendKeys("compass");
        Browser.UntilText(".look-line", "hits.");
        Assert.Contains("compass", Browser.Text(".hit mark"), StringComparison.OrdinalIgnoreCase);
        Assert.Contains("q=compass", Browser.Driver.Url, StringComparison.Ordinal);
        Browser.Find("#question").SendKeys(" zebra");
        Browser.UntilText("#found", "Nothing is found.");
    }

    [Fact]
    public void A_hit_is_heard_kept_as_its_sentence_and_put_into_the_story_by_keys()
    {
        Ask("\"i put it\" \"i stood\" kind:speech");
        Browser.UntilText(".look-line", "1 hit.");
        Browser.Find("#question").SendKeys(Keys.ArrowDown);
        Browser.Press(Keys.Enter);
        Browser.Until(() => Browser.All(".hit .sounding").Count == 1, "the hit to be heard");
        Browser.Press(Keys.Escape);
        Browser.Until(() => Browser.All(".hit .sounding").Count == 0, "it to stop");
        var before = Kept;
        Browser.Press("b");
        Browser.UntilText(".done-line", "Kept: “I put it under the compass. My father kept");
        Assert.Equal(before + 1, Kept);
        Browser.UntilText(".hit .kind", "kept");
        var cards = demo.Get<Store.Stories>().Of(1).Sum(s => s.Cards);
        Browser.Until(() => Browser.All(".hit:focus").Count == 1, "the focus to come back");
        Browser.Press("s");
        Browser.UntilText(".done-line", "at the end of the story");
        Assert.Equal(cards + 1, demo.Get<Store.Stories>().Of(1).Sum(s => s.Cards));
        Browser.Until(() => Browser.All(".hit:focus").Count == 1, "the focus to come back again");
        Browser.PressWithShift(Keys.Enter);
        Browser.Until(() => Browser.Driver.Url.Contains("/read/1#word-", StringComparison.Ordinal), "its place");
        Browser.Driver.Navigate().Back();
        Browser.UntilText(".look-line", "1 hit.");
    }

    [Fact]
    public void A_limit_goes_into_the_question_and_out_of_it_again()
    {
        Ask("the");
        Browser.UntilText(".look-line", "hits");
        var all = Browser.All(".hit").Count;
        Browser.Find("a.limit[data-question*='Ilse']").Click();
        Browser.UntilText(".limit.on", "Ilse Varga");
        Assert.Equal("the by:\"Ilse Varga\"", Browser.Find("#question").GetAttribute("value"));
        Browser.Until(() => Browser.All(".hit").Count < all && Browser.Texts(".hit .second").All(t => t.Contains("Ilse")), "hers alone");
        Browser.Find("a.limit.on").Click();
        Browser.Until(() => Browser.All(".hit").Count == all, "all of them");
    }

    [Fact]
    public void What_is_mended_meanwhile_is_found_as_it_is_now()
    {
        var texts = demo.Get<Store.Transcripts>();
        var id = demo.Get<Store.Footage>().Sitting(2)!.TranscriptId!.Value;
        texts.Apply(id, new Retype(new WordNumber(30), "Quillhaven"), "test");
        Ask("quillhavn");
        Browser.UntilText("#found", "Nothing is found.");
        Browser.Find("input[name=rough]").Click();
        Browser.UntilText(".hit mark", "Quillhaven");
    }

    [Fact]
    public void A_kept_hit_is_stretched_and_shortened_by_a_word_with_keys()
    {
        Ask("\"suppose i will\" kind:speech");
        Browser.UntilText(".look-line", "1 hit.");
        Browser.Find("#question").SendKeys(Keys.ArrowDown);
        if (Browser.All(".kept-as").Count == 0)
        {
            Browser.Press("b");
            Browser.UntilText(".done-line", "Kept:");
        }
        var said = Browser.Text(".kept-as");
        Browser.Until(() => Browser.All(".hit:focus").Count == 1, "the focus");
        Browser.Press(Keys.ArrowLeft);
        Browser.Until(() => Browser.Text(".kept-as").Length < said.Length, "a word less");
        Browser.Until(() => Browser.All(".hit:focus").Count == 1, "the focus again");
        Browser.Press(Keys.ArrowRight);
        Browser.Until(() => Browser.Text(".kept-as") == said, "the word again");
    }

    [Fact]
    public void A_saved_search_says_how_many_hits_are_new_until_it_is_looked_at()
    {
        Ask("skiff");
        Browser.UntilText("#found", "Nothing is found.");
        Browser.Find("#saved summary").Click();
        Browser.Find(".save-search input[name=name]").SendKeys("the skiff" + Keys.Enter);
        Browser.UntilText(".saved-search", "the skiff");
        var texts = demo.Get<Store.Transcripts>();
        var id = demo.Get<Store.Footage>().Sitting(2)!.TranscriptId!.Value;
        texts.Apply(id, new Retype(new WordNumber(40), "skiff"), "test");
        demo.Open("/productions/1/find");
        Browser.UntilText(".saved-search", "1 new");
        Browser.Find(".saved-search a").Click();
        Browser.UntilText(".hit .kind", "new");
        Assert.Equal("skiff", Browser.Find("#question").GetAttribute("value"));
        demo.Open("/productions/1/find");
        Browser.Until(() => Browser.All("#saved.htmx-settling").Count == 0 && Browser.All(".saved-search").Count == 1, "the search");
        Assert.Empty(Browser.All(".saved-search .kind"));
        Browser.Find(".forget").Click();
        Browser.Until(() => Browser.All(".saved-search").Count == 0, "it to be gone");
    }

    [Theory]
    [InlineData("\"")]
    [InlineData("-")]
    [InlineData("near(")]
    [InlineData("kept:maybe")]
    [InlineData("<script>alert(1)</script>")]
    [InlineData("🐟")]
    [InlineData("שלום مرحبا")]
    [InlineData("%00%01")]
    public async Task Whatever_is_asked_is_answered_with_a_page(string question)
    {
        using var client = new HttpClient { BaseAddress = new Uri(demo.Server.Address) };
        var answer = await client.GetAsync(
            new Uri("/productions/1/find?q=" + Uri.EscapeDataString(question), UriKind.Relative),
            TestContext.Current.CancellationToken
        );
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        Assert.DoesNotContain(
            "<script>alert",
            await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken),
            StringComparison.Ordinal
        );
        var keep = await demo.PostAsync("/productions/1/find?handler=Keep&sitting=1&first=x&last=3&q=a", []);
        Assert.Equal(HttpStatusCode.Conflict, keep.StatusCode);
    }

    [Fact]
    public async Task What_another_production_says_is_shown_there_and_kept_there_alone()
    {
        var footage = demo.Get<Store.Footage>();
        var other = footage.AddProduction("Low Water");
        Assert.Equal(
            HttpStatusCode.Conflict,
            (
                await demo.PostAsync(FormattableString.Invariant($"/productions/{other}/find?handler=Keep&sitting=1&first=1&last=2"), [])
            ).StatusCode
        );
        demo.Open(FormattableString.Invariant($"/productions/{other}/find?q=compass"));
        Browser.UntilText("#found", "Nothing is found.");
        Browser.Find("input[name=all]").Click();
        Browser.UntilText(".look-line", "hits.");
        Assert.Empty(Browser.All("[data-action='keep']"));
        Assert.Contains("/productions/1/read/1#word-", Browser.Find(".hit a").GetAttribute("href"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_command_gives_places_times_and_all_that_were_counted()
    {
        using var output = new StringWriter();
        string[] arguments = ["find", "compass kind:speech", "--data", demo.Data, "--production", "slack water", "--limit", "1", "--json"];
        Assert.Equal(0, await CommandLine.RunAsync(arguments, output, TestContext.Current.CancellationToken));
        var json = JsonDocument.Parse(output.ToString()).RootElement;
        Assert.Equal(2, json.GetProperty("count").GetInt32());
        Assert.True(json.GetProperty("milliseconds").GetDouble() >= 0);
        var hit = Assert.Single(json.GetProperty("hits").EnumerateArray());
        var text = demo.Get<Store.Transcripts>().Get(demo.Get<Store.Footage>().Sitting(1)!.TranscriptId!.Value);
        var word = text.At(new TextPlace(hit.GetProperty("first").GetInt32()));
        Assert.Equal("compass.", text.TextOf(word));
        Assert.Equal(hit.GetProperty("first").GetInt32(), hit.GetProperty("last").GetInt32());
        Assert.Equal((double)word.Range.In.FromZero.Units / MediaTime.UnitsPerSecond, hit.GetProperty("in").GetDouble(), 0.001);
        Assert.Equal((double)word.Range.Out.FromZero.Units / MediaTime.UnitsPerSecond, hit.GetProperty("out").GetDouble(), 0.001);
        Assert.Equal(
            ("Slack Water", "The first crossing", "speech", "Maren Oakhurst"),
            (Text("production"), Text("sitting"), Text("kind"), Text("who"))
        );
        Assert.Matches(@"^\d\d:\d\d:\d\d:\d\d$", Text("timecode"));
        Assert.Contains("under the compass.", Text("text"), StringComparison.Ordinal);

        string Text(string name) => hit.GetProperty(name).GetString()!;
    }

    [Theory]
    [InlineData("a word", "find", "", "--data", "DATA")]
    [InlineData("no production", "find", "a", "--data", "DATA", "--production", "None")]
    [InlineData("no database", "find", "a", "--data", "/tmp/there-is-none")]
    [InlineData("--limit", "find", "a", "--data", "DATA", "--limit", "0")]
    public async Task The_command_says_what_it_can_not_do(string says, params string[] arguments)
    {
        var refused = await Assert.ThrowsAnyAsync<Exception>(() =>
            CommandLine.RunAsync(
                [.. arguments.Select(a => a == "DATA" ? demo.Data : a)],
                TextWriter.Null,
                TestContext.Current.CancellationToken
            )
        );
        Assert.Contains(says, refused.Message, StringComparison.Ordinal);
    }
}
