using EmberLane.Running;
using EmberLane.Store;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

public sealed class ReadingTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private string Lit => Browser.Run<string>("const [range] = CSS.highlights.get('playing'); return range ? range.toString() : ''");

    private double Clock => Browser.Run<double>("return Number(document.getElementById('sound').currentTime) + 0.0001");

    [Fact]
    public void A_click_on_a_word_takes_every_picture_and_the_clock_there()
    {
        demo.OpenRead(1);
        Browser.Click("#turn-22 .speech, .turn:nth-of-type(6) .speech");
        Browser.Until(() => Browser.Find("#clock").Text != "0:00.0", "the clock to move");
        var sound = Clock;
        Assert.True(sound > 5);
        // The wide camera began 3.4 s after the recorder: the picture stands that much earlier in its own file.
        Browser.Until(
            () =>
                Math.Abs(
                    Browser.Run<double>("return document.querySelector('[data-angle=\"1\"] video').currentTime + 0.0001") - (Clock - 3.4)
                ) < 0.06,
            "the wide picture in step"
        );
        Assert.NotEqual("", Lit);
    }

    [Fact]
    public void The_address_of_another_word_of_the_open_page_goes_there_without_loading_it_anew()
    {
        demo.OpenReadAt(demo.WordOf("one thousand people"));
        Browser.Until(() => Lit == "one", "the word of the address");
        Browser.Run<object?>("window.stayed = true; return null");
        demo.Open(FormattableString.Invariant($"/productions/1/read/1#word-{demo.WordOf("cable was singing")}"));
        Browser.Until(() => Lit == "cable", "the other word");
        Assert.True(Browser.Run<bool>("return window.stayed === true"));
    }

    [Fact]
    public void While_it_plays_the_words_light_up_one_after_another_and_stop_when_stopped()
    {
        demo.OpenRead(1);
        Browser.Press(Keys.ArrowDown, Keys.ArrowDown);
        var first = Lit;
        Browser.Press(" ");
        Browser.Until(() => Lit != first && Lit != "", "another word to light up");
        var second = Lit;
        Browser.Until(() => Lit != second, "the next word to light up");
        var video = Browser.Run<bool>("return [...document.querySelectorAll('video')].some(v => !v.paused)");
        Assert.True(video, "A picture runs along with the sound.");
        Browser.Press(" ");
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('sound').paused"), "it to stop");
    }

    [Fact]
    public void A_word_is_retyped_by_keyboard_keeps_its_time_and_the_change_is_taken_back_with_U()
    {
        demo.OpenRead(1);
        var before = Browser.Run<string>("return document.querySelector('.turn .speech').dataset.times");
        var said = Browser.Text(".turn .speech");
        Browser.Press("e");
        Browser.Type("#correct-text", Keys.Control + "a");
        Browser.Type("#correct-text", "Ternhollow" + Keys.Enter);
        Browser.UntilText(".turn .speech", "Ternhollow");
        var after = Browser.Run<string>("return document.querySelector('.turn .speech').dataset.times");
        Assert.Equal(before.Split(' ').Select(f => f[..f.LastIndexOf(',')]), after.Split(' ').Select(f => f[..f.LastIndexOf(',')]));
        Browser.Driver.Navigate().Refresh();
        Browser.UntilText(".turn .speech", "Ternhollow");
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('read').dataset.ready === 'true'"), "the page");
        Browser.Press("u");
        Browser.Until(() => Browser.Text(".turn .speech") == said, "the word as it was");
    }

    [Fact]
    public void Reading_goes_on_where_it_was_left_after_a_reload_and_on_a_new_visit_and_begins_at_the_first_word()
    {
        demo.OpenRead(1);
        var first = demo.Crossing.Words[0].Range.In.FromZero.ToSecondsInexact();
        Browser.Until(
            () =>
                Math.Abs(
                    Browser.Run<double>(
                        "const [m, s] = document.getElementById('clock').textContent.split(':').map(Number); return (60 * m) + s + 0.0001"
                    ) - first
                ) < 0.06,
            "the first word's time"
        );
        Browser.Press(Keys.ArrowDown, Keys.ArrowDown, Keys.ArrowRight);
        var there = Browser.Text("#clock");
        Browser.Driver.Navigate().Refresh();
        Browser.Until(() => Browser.Text("#clock") == there, "the place after a reload");
        demo.Open("/productions/1/bites");
        demo.Open("/productions/1/read/1");
        Browser.Until(() => Browser.Text("#clock") == there, "the place on another visit");
        // No camera rolls yet at the first word: each shows its nearest picture and when it rolls.
        demo.OpenRead(1);
        Browser.Until(
            () => Browser.All(".angle").All(a => a.GetAttribute("data-still")!.StartsWith("rolls from", StringComparison.Ordinal)),
            "when each angle rolls"
        );
        Assert.Equal(3, Browser.All(".angle video.nearest").Count);
    }

    [Fact]
    public void What_stands_beside_the_words_goes_at_a_click_on_the_page_unless_something_was_typed()
    {
        demo.OpenRead(1);
        Browser.Press("f");
        Browser.Until(() => Browser.Find("#flag-dialog").Displayed, "the flag");
        Browser.Click(".turn:nth-of-type(6) .speech");
        Browser.Until(() => !Browser.Find("#flag-dialog").Displayed, "the flag to go");
        Browser.Press("f");
        Browser.Type("#flag-note", "half a thought");
        Browser.Click(".turn:nth-of-type(6) .speech");
        Assert.True(Browser.Find("#flag-dialog").Displayed);
        Browser.Type("#flag-note", Keys.Escape);
        Browser.Press("/");
        Browser.Type("#find-words", "xylophone");
        Browser.UntilText("#found-count", "not found");
        Browser.Type("#find-words", Keys.Escape);
    }

    [Fact]
    public void Read_reached_by_the_lane_opens_a_sitting_of_its_own_address_where_words_can_be_corrected()
    {
        demo.ForgetPlaces();
        demo.Open("/productions/1/gather");
        Browser.Click(".lane a[data-room=R]");
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('read')?.dataset.ready === 'true'"), "the page of turns");
        Assert.EndsWith("/productions/1/read/1", Browser.Driver.Url, StringComparison.Ordinal);
        var said = Browser.Text(".turn .speech");
        Browser.Press("e");
        Browser.Type("#correct-text", "z" + Keys.Enter);
        Browser.Until(() => Browser.Text(".turn .speech") != said, "the word to be corrected");
        Browser.Press("u");
        Browser.Until(() => Browser.Text(".turn .speech") == said, "the word as it was");
    }

    [Fact]
    public void A_voice_that_gets_a_name_has_it_everywhere_at_once()
    {
        demo.OpenRead(2);
        var turns = Browser.Run<long>(
            "return [...document.querySelectorAll('.turn .who span')].filter(s => s.textContent === 'Interviewer').length"
        );
        Assert.True(turns > 3);
        Browser.Press("v");
        Browser.Type("#voice-name", Keys.Control + "a");
        Browser.Type("#voice-name", "Wren Adair <b>" + Keys.Enter);
        Browser.Until(
            () =>
                Browser.Run<long>(
                    "return [...document.querySelectorAll('.turn .who span')].filter(s => s.textContent === 'Wren Adair <b>').length"
                ) == turns,
            "the name in every turn"
        );
        Browser.UntilText("#voices", "Wren Adair <b>");
        Browser.Press("u");
        Browser.UntilText("#voices", "Interviewer");
    }

    [Fact]
    public void Words_selected_by_keyboard_are_kept_as_a_bite_listed_and_heard()
    {
        demo.OpenRead(2);
        Browser.Press(Keys.ArrowDown);
        for (var i = 0; i < 5; i++)
        {
            Browser.PressWithShift(Keys.ArrowRight);
        }
        Assert.Contains("6 words", Browser.Text("#selected-figure"), StringComparison.Ordinal);
        Browser.Press("b");
        var words = Browser.Text("#keep-words");
        Browser.Type("#keep-theme", "names");
        Browser.Type("#keep-note", "who she is");
        Browser.Click("#keep-dialog .btn-ember");
        Browser.Until(() => !Browser.Find("#keep-dialog").Displayed, "the dialog to close");
        Browser.UntilText("#lane", "11 kept");
        demo.Open("/productions/1/bites");
        Browser.UntilText("#bites", words);
        var bite = Browser.Run<string>(
            "return [...document.querySelectorAll('.bite')].find(b => b.textContent.includes(arguments[0])).id",
            words
        );
        Browser.Run<object?>("document.getElementById(arguments[0]).focus(); return null", bite);
        Browser.Press(Keys.Enter);
        Browser.Until(
            () => Browser.Run<bool>("const s = document.getElementById('sound'); return !s.paused && s.currentTime > 0"),
            "the bite to be heard"
        );
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('sound').paused"), "the bite to end by itself");
        Assert.InRange(
            Browser.Run<double>(
                "const b = document.getElementById(arguments[0]); return document.getElementById('sound').currentTime - "
                    + "Number(b.dataset.pieces.split(',').at(-1)) + 0.00001",
                bite
            ),
            -0.05,
            0.3
        );
        Browser.Press("x");
        Browser.UntilText("#bites", "1 set aside");
        Browser.UntilText("#lane", "10 kept");
    }

    [Fact]
    public void The_next_doubtful_word_is_found_with_N_and_marked()
    {
        demo.OpenRead(1);
        Assert.Contains("doubtful words", Browser.Text("#doubtful-count"), StringComparison.Ordinal);
        Browser.Press("n");
        Browser.Until(() => Browser.Find("#actions").Displayed, "the word's actions");
        Assert.True(Browser.Run<bool>("return CSS.highlights.get('doubtful').size > 10"));
    }

    [Fact]
    public void The_bridge_walk_is_transcribed_by_the_local_recogniser_while_the_page_is_left()
    {
        demo.Open("/productions/1/gather?sitting=3");
        Browser.Click("#transcribe");
        Browser.UntilText("#sheet", "Transcript of The bridge walk");
        Browser.UntilText("#sitting-list .open", "not transcribed");
        Browser.Until(
            () =>
                Browser.All("#sheet .job .mono") is [var line, ..]
                && line.Text.Contains("× real time", StringComparison.Ordinal)
                && line.Text.Contains("left", StringComparison.Ordinal),
            "progress with speed and time left",
            120
        );
        demo.Open("/");
        Browser.Until(() => demo.Get<Footage>().Sitting(3)!.TranscriptId is not null, "the transcript", 240);
        demo.OpenRead(3);
        var page = Browser.Text("#page").ToLowerInvariant();
        Assert.True(
            new[] { "bridge", "ferry", "river", "finished", "morning" }.Count(w => page.Contains(w, StringComparison.Ordinal)) >= 3,
            "The page holds what was said: " + page
        );
        var words = demo.Get<Store.Transcripts>().Get(demo.Get<Footage>().Sitting(3)!.TranscriptId!.Value).Words;
        Assert.All(words, w => Assert.InRange(w.Confidence!.Value.Value, 0, 1000));
        Assert.True(words.Zip(words.Skip(1)).All(p => p.First.Range.In <= p.Second.Range.In));
    }
}
