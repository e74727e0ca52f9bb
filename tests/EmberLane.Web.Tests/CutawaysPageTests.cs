using System.Net;
using System.Text.Json;
using EmberLane.Core.Pictures;
using EmberLane.Running;
using EmberLane.Store;
using EmberLane.Web.Commands;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

/// <summary>Cutaways: found by what they show, described, tagged, their best seconds marked, who is seen named.</summary>
public sealed class CutawaysPageTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private const string Page = "/productions/1/cutaways";

    private Browser Browser => demo.Browser;

    private Source Loose(string name) => demo.Get<Footage>().Sources(1).Single(s => s.Name == name);

    private IReadOnlyList<string> Titles => Browser.Texts(".print-title");

    private void Settled() => Browser.Until(() => Browser.All(".htmx-request, .htmx-settling, .htmx-added").Count == 0, "quiet");

    private void OpenShot(string name, string of = "all")
    {
        demo.Open($"{Page}?of={of}&shot={Loose(name).Id}/1");
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('picture')?.readyState > 0"), "the picture");
    }

    private void Seek(string seconds)
    {
        Browser.Run<object?>($"document.getElementById('picture').currentTime = {seconds}; return null");
        Browser.Until(
            () =>
                Browser.Run<bool>(
                    $"const v = document.getElementById('picture'); return !v.seeking && Math.abs(v.currentTime - {seconds}) < 0.01"
                ),
            "the moment"
        );
    }

    [Fact]
    public void Shots_are_found_by_what_they_show_by_buttons_and_by_typing()
    {
        demo.Open($"{Page}?of=all");
        Browser.UntilText(".look-line", "10 shots");
        Browser.Click("a.limit[data-question='faces:2']");
        Browser.UntilText(".look-line", "1 shot");
        Assert.Equal("faces:2", Browser.Find("#question").GetAttribute("value"));
        Assert.Contains("2 faces, wide", Browser.Text(".print"), StringComparison.Ordinal);
        // Another limit of the same name takes its place; the same one again is taken off.
        Settled();
        Browser.Click("a.limit[data-question='faces:0']");
        Browser.UntilText(".look-line", "3 shots");
        Settled();
        Browser.Find("#question").SendKeys(" ramp");
        Browser.UntilText(".look-line", "1 shot");
        Assert.Equal(["the ramp with nobody on it"], Titles);
        // It stands in the address.
        Settled();
        Browser.Driver.Navigate().Refresh();
        Browser.UntilText(".look-line", "1 shot");
        Browser.Choose("#of", "angles of sittings");
        Browser.UntilText(".look-line", "0 shots");
        Browser.UntilText(".empty", "No shot fits");
    }

    [Fact]
    public void Best_seconds_are_marked_by_keys_at_frames_described_found_beside_what_is_said_and_taken_back()
    {
        OpenShot("F001C003.MP4", "");
        Browser.Press("n");
        Browser.UntilText("#notice", "Mark first where");
        Seek("1.01");
        Browser.PressWithShift(Keys.ArrowLeft);
        Browser.PressWithShift(Keys.ArrowRight);
        Browser.Press("b");
        Seek("2.99");
        Browser.Press("n");
        Browser.UntilText(".done-line", "The best seconds are marked.");
        Browser.UntilText(".best-parts", "0:01.0 – 0:03.0");
        // The frame that was seen at the end is the last one; both ends lie on frames.
        var part = Assert.Single(BestPart.Of(Loose("F001C003.MP4").Labels));
        Assert.Equal(
            (MediaTime.FromMilliseconds(1_000), MediaTime.FromMilliseconds(3_000)),
            (part.Range.In.FromZero, part.Range.Out.FromZero)
        );
        Browser.UntilText(".print.open", "1 best part");
        // The picture stays where it was.
        Browser.Until(
            () => Browser.Run<bool>("return Math.abs(document.getElementById('picture').currentTime - 2.99) < 0.05"),
            "the place"
        );
        Settled();
        Browser.Find(".best-parts input").SendKeys("spray over the bow" + Keys.Tab);
        Browser.UntilText(".done-line", "Written.");
        demo.Open("/productions/1/find?q=sprays");
        Browser.UntilText(".look-line", "1 hit.");
        Browser.UntilText(".hit mark", "spray over the bow");
        Assert.Equal("0:01.0", Browser.Text(".hit a.mono"));
        Browser.Find("#question").SendKeys(Keys.ArrowDown);
        Browser.Press(Keys.Enter);
        Assert.EndsWith("#t=1.000000,3.000000", Browser.Find(".hit video").GetAttribute("src"), StringComparison.Ordinal);
        Browser.Press(Keys.Enter);
        Browser.Until(() => Browser.All(".hit video").Count == 0, "the list alone");
        Browser.Click(".hit a.mono");
        Browser.UntilText(".best-parts", "0:01.0 – 0:03.0");
        Browser.Click("[aria-label='Mark them as best no more']");
        Browser.UntilText(".done-line", "U brings them back");
        Assert.Empty(BestPart.Of(Loose("F001C003.MP4").Labels));
        Settled();
        Browser.Press("u");
        Browser.UntilText(".best-parts", "0:01.0 – 0:03.0");
        Assert.Equal("spray over the bow", BestPart.Of(Loose("F001C003.MP4").Labels).Single().Note);
        demo.Open("/productions/1/changes");
        Browser.UntilText("#main", "best seconds of F001C003.MP4");
    }

    [Fact]
    public void The_keyboard_alone_steps_over_prints_lays_one_open_plays_and_describes_it()
    {
        demo.Open(Page);
        Browser.UntilText(".look-line", "3 shots");
        Browser.Press(Keys.ArrowDown);
        Browser.Press(Keys.ArrowRight);
        Browser.Press(Keys.Enter);
        Browser.UntilText("#open", "F001C002.MP4");
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('picture')?.readyState > 0"), "the picture");
        Browser.Press(" ");
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('picture').currentTime > 0.2"), "the picture moves");
        Browser.Press(" ");
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('picture').paused"), "the picture stands");
        Settled();
        Browser.Press("e");
        Browser.Until(() => Browser.Run<bool>("return document.activeElement.id === 'description'"), "the field");
        Browser.Driver.SwitchTo().ActiveElement().SendKeys(" <b>at noon</b>" + Keys.Tab);
        Browser.UntilText(".done-line", "Written.");
        Assert.EndsWith("<b>at noon</b>", Loose("F001C002.MP4").Labels.Description, StringComparison.Ordinal);
        Browser.UntilText("#table", "<b>at noon</b>");
        Settled();
        Browser.Press(Keys.Escape);
        Browser.Press("u");
        Browser.Until(() => !Loose("F001C002.MP4").Labels.Description.Contains("noon", StringComparison.Ordinal), "as it was");
        // Shots that look like it, the nearest first; the page holds what was asked when it is loaded again.
        Settled();
        Browser.Press("l");
        Browser.Until(() => Browser.Find("#question").GetAttribute("value")!.StartsWith("like:", StringComparison.Ordinal), "the question");
        Browser.Until(() => Browser.Driver.Url.Contains("like%3A", StringComparison.Ordinal), "the address");
        Browser.Driver.Navigate().Refresh();
        Browser.UntilText("#open", "F001C002.MP4");
    }

    [Fact]
    public void Whoever_is_named_on_a_close_angle_is_offered_on_the_wide_one_and_found_by_name()
    {
        OpenShot("C003C002_CLOSE_TOBIAS.MOV");
        Browser.Find(".seen-people input").SendKeys("Tobias Fenn" + Keys.Tab);
        Browser.UntilText(".done-line", "Tobias Fenn is seen here.");
        OpenShot("A001C002_FERRY_WIDE.MOV");
        Browser.UntilText(".seen-people", "Tobias Fenn?");
        Assert.Single(Browser.All(".seen-people button"));
        Browser.Click(".seen-people button");
        Browser.UntilText(".done-line", "Tobias Fenn is seen here.");
        Assert.Equal(["", "Tobias Fenn"], Browser.All(".seen-people input").Select(i => i.GetAttribute("value")!));
        demo.Open($"{Page}?of=all&q=tobias");
        Browser.UntilText(".look-line", "3 shots");
        demo.Open("/productions/1/find?q=kind:picture+%22tobias+fenn%22");
        Browser.UntilText(".look-line", "2 hits.");
    }

    [Fact]
    public async Task Who_writes_tags_beside_an_older_description_changes_nothing_but_the_tags()
    {
        var source = Loose("F001C001.MP4");
        var answer = await demo.PostAsync(
            $"{Page}?handler=Write&only=tags&shot={source.Id}/1",
            new Dictionary<string, string>
            {
                ["description"] = "what stood there an hour ago",
                ["tags"] = "cable, iron",
                ["note"] = "an older note",
            }
        );
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        Assert.Equal(source.Labels with { Tags = "cable, iron" }, Loose("F001C001.MP4").Labels);
    }

    [Fact]
    public async Task A_tagger_says_what_shots_show_and_its_words_are_taken_over()
    {
        demo.Open(Page);
        Browser.Click(".table-actions button");
        Browser.UntilText("#notice", "No tagger is set");
        demo.Open("/settings");
        Browser.Click("#tagger input[value=simulated]");
        Browser.Click("#tagger button");
        Browser.UntilText("#main [role=status]", "Saved.");
        // Also while a shot lies open.
        OpenShot("F001C003.MP4", "");
        // What is said stands there until the tagger is done, which may be at once.
        Browser.Run<object?>(
            "window.told = ''; new MutationObserver(() => { window.told += document.querySelector('#table .done-line')?.textContent ?? ''; "
                + "}).observe(document.body, { childList: true, subtree: true }); return null"
        );
        Browser.Click(".table-actions button");
        Browser.Until(
            () => Browser.Run<string>("return window.told").Contains("looks at the shots of 3 files", StringComparison.Ordinal),
            "it to be told"
        );
        await demo.IdleAsync();
        OpenShot("F001C003.MP4", "");
        Browser.UntilText(".tagger-words", "Simulated tagger:");
        Browser.Click("button[hx-post*='tag=sky']");
        Browser.UntilText(".done-line", "“sky” is a tag.");
        Assert.Equal("water, sky", Loose("F001C003.MP4").Labels.Tags);
        demo.Open("/productions/1/find?q=kind:picture+earth");
        Browser.UntilText(".look-line", "3 hits.");
    }

    [Theory]
    [InlineData("handler=Best&shot={0}/1", "from=2&to=1")]
    [InlineData("handler=Best&shot={0}/1", "from=x&to=1")]
    [InlineData("handler=Best&shot={0}/1", "from=1&to=1")]
    [InlineData("handler=Best&shot={0}/99", "from=1&to=2")]
    [InlineData("handler=Best&shot=", "from=1&to=2")]
    [InlineData("handler=Note&shot={0}/1&begin=7", "note=nothing")]
    [InlineData("handler=Name&shot={0}/1&person=3", "name=Nobody")]
    [InlineData("handler=Name&shot={0}/1&person=-1", "name=Nobody")]
    [InlineData("handler=Write&shot={0}/1", "description=LONG")]
    public async Task What_can_not_be_written_is_refused_with_a_sentence_and_nothing_changes(string address, string form)
    {
        var before = Loose("F001C001.MP4");
        var fields = form.Replace("LONG", new string('x', 600), StringComparison.Ordinal)
            .Split('&')
            .Select(f => f.Split('='))
            .ToDictionary(f => f[0], f => f[1]);
        var answer = await demo.PostAsync(
            $"{Page}?" + string.Format(System.Globalization.CultureInfo.InvariantCulture, address, before.Id),
            fields
        );
        Assert.Equal(HttpStatusCode.Conflict, answer.StatusCode);
        Assert.EndsWith(".", await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken), StringComparison.Ordinal);
        Assert.Equal(before.Labels, Loose("F001C001.MP4").Labels);
    }

    [Theory]
    [InlineData("q=light:mauve", "takes dark, even, bright")]
    [InlineData("q=like:99999/1", "0 shots")]
    [InlineData("q=%22%F0%9F%90%9F", "10 shots")]
    [InlineData("q=-ferry&shot=../../etc", "shots")]
    [InlineData("q=kind:speech+%22", "10 shots")]
    public async Task Any_question_has_an_answer(string query, string said)
    {
        using var client = new HttpClient();
        var answer = await client.GetAsync(new Uri($"{demo.Server.Address}{Page}?of=all&{query}"), TestContext.Current.CancellationToken);
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        Assert.Contains(said, await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken), StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_command_tells_pictures_with_the_time_in_their_file()
    {
        var output = new StringWriter();
        Assert.Equal(
            0,
            await CommandLine.RunAsync(
                ["find", "size:close faces:1", "--data", demo.Data, "--json"],
                output,
                TestContext.Current.CancellationToken
            )
        );
        using var answer = JsonDocument.Parse(output.ToString());
        var hits = answer.RootElement.GetProperty("hits").EnumerateArray().ToList();
        Assert.Equal(4, hits.Count);
        Assert.All(hits, h => Assert.Equal("picture", h.GetProperty("kind").GetString()));
        Assert.All(hits, h => Assert.True(h.GetProperty("out").GetDecimal() > h.GetProperty("in").GetDecimal()));
        Assert.Contains(hits, h => h.GetProperty("text").GetString()!.Contains("B001C002_CLOSE_MAREN.MOV", StringComparison.Ordinal));
    }

    [Fact]
    public void A_picture_is_chosen_for_a_card_of_the_story_and_laid_over_it_where_it_shall_come()
    {
        var stories = demo.Get<Stories>();
        var id = stories.InHand(1)!.Value;
        var card = stories.Get(id, "producer")!.Story.Cards[2];
        demo.Open("/productions/1/story");
        Browser.Run<object?>($"document.getElementById('card-{card.Id}').focus(); return null");
        Browser.Click($"#card-{card.Id} [data-action=picture]");
        Browser.UntilText(".over-line", "A picture over “");
        Browser.Click(".print");
        Browser.Until(() => Browser.All(".over-form").Count == 1, "the way to lay it");
        // A time that is none is refused with a word, and nothing is laid.
        Browser.Empty("#over-after");
        Browser.Type("#over-after", "soon");
        Browser.Click(".over-form .btn-ember");
        Browser.UntilText("#notice", "is no time");
        Assert.Null(stories.Get(id, "producer")!.Story.Cards[2].Over);
        Browser.Empty("#over-after");
        Browser.Type("#over-after", "0:02");
        Browser.Click(".over-form .btn-ember");
        Browser.UntilText($"#card-{card.Id}", "Over it: the picture of");
        Browser.UntilText($"#card-{card.Id}", "0:02.0 after its begin");
        var over = stories.Get(id, "producer")!.Story.Cards[2].Over!;
        Assert.Equal(MediaTime.FromMilliseconds(2_000), over.After);
        Assert.Contains(demo.Get<Footage>().Sources(1), s => s.Id == over.SourceId && s.SittingId is null);
        // It is played from there on.
        using var play = JsonDocument.Parse(Browser.Find($"#card-{card.Id}").GetAttribute("data-play")!);
        Assert.Equal("2.000000", play.RootElement[0].GetProperty("length").GetString());
        Assert.Equal($"/media/{over.SourceId}/play", play.RootElement[1].GetProperty("picture").GetProperty("address").GetString());
        stories.Step(id, redo: false, "producer");
        Assert.Equal(card, stories.Get(id, "producer")!.Story.Cards[2]);
    }
}
