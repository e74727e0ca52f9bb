using EmberLane.Application.Rooms;
using EmberLane.Core.Handoff;
using EmberLane.Running;
using EmberLane.Web.Rooms;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace EmberLane.Web.Tests;

public sealed class StoryTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private string Order =>
        Browser.Run<string>("return [...document.querySelectorAll('.card-piece .speech')].map(c => c.textContent.slice(0, 12)).join('|')");

    [Fact]
    public void Cards_are_laid_moved_and_taken_out_by_keyboard_and_every_change_is_taken_back()
    {
        demo.OpenStory();
        var order = Order;
        var running = Browser.Text("#running-time");
        Browser.Press(Keys.ArrowDown, "]");
        Browser.Until(() => Order != order, "the first card to move down");
        var cards = order.Split('|');
        Assert.Equal([cards[1], cards[0], .. cards[2..]], Order.Split('|'));
        Browser.Until(
            () => Browser.Run<bool>("return document.activeElement.classList.contains('card-piece')"),
            "the focus to stay on a card"
        );
        Browser.Press("x");
        Browser.Until(() => Order.Split('|').Length == cards.Length - 1, "the card to be taken out");
        Assert.NotEqual(running, Browser.Text("#running-time"));
        Browser.Press("u");
        Browser.Until(() => Order.Split('|').Length == cards.Length, "the card to come back");
        Browser.Press("u");
        Browser.Until(() => Order == order, "the first order");
        Browser.PressWithShift("u");
        Browser.Until(() => Order != order, "the move again");
        Browser.Press("u");
        Browser.Until(() => Order == order, "the first order");
        Assert.Equal(running, Browser.Text("#running-time"));
    }

    [Fact]
    public void A_bite_is_dragged_from_the_shelf_between_cards()
    {
        demo.OpenStory();
        var cards = Order.Split('|');
        var said = Browser.Text(".shelf-bite .speech")[..12];
        new Actions(Browser.Driver)
            .MoveToElement(Browser.Find(".shelf-bite .speech"))
            .ClickAndHold()
            .MoveByOffset(-40, 5)
            .MoveToElement(Browser.Find(".piece:nth-child(2) .speech"))
            .MoveByOffset(0, 12)
            .Pause(TimeSpan.FromMilliseconds(250))
            .Release()
            .Perform();
        Browser.Until(() => Order.Split('|').Length == cards.Length + 1, "the bite in the story");
        Assert.Contains(said, Order, StringComparison.Ordinal);
        Assert.NotEqual(said, Order.Split('|')[^1]);
        Browser.Press("u");
        Browser.Until(() => Order.Split('|').Length == cards.Length, "the story as it was");
    }

    [Fact]
    public async Task A_card_dissolves_in_over_the_length_that_was_typed_in_the_player_and_in_the_list()
    {
        demo.OpenStory();
        Browser.Press(Keys.ArrowDown, Keys.ArrowDown);
        var card = Browser.Run<string>("return document.activeElement.dataset.card");
        Browser.Until(() => Browser.All($"#comes-in-{card}").Count == 1, "what can be done with the card");
        Browser.Click($"#comes-in-{card}");
        Browser.Press(Keys.Control + "a" + Keys.Null + "1.2" + Keys.Tab);
        Browser.UntilText($"#card-{card}", "It dissolves in over 1.2 s.");
        Assert.Contains("\"dissolve\":1.2", Browser.Find($"#card-{card}").GetAttribute("data-play"), StringComparison.Ordinal);
        using var client = new HttpClient { BaseAddress = new Uri(demo.Server.Address) };
        var list = await client.GetStringAsync(
            new Uri("/productions/1/handoff?handler=Package&part=edl&alone=true", UriKind.Relative),
            TestContext.Current.CancellationToken
        );
        Assert.Single(EdlReader.Read(list, Core.Time.FrameRate.R25).Events, e => e.DissolveFrames is not null);
        var version = FormattableString.Invariant($"{demo.Get<Store.Stories>().Get(1, "")!.Version}");
        var refused = await demo.PostAsync(
            $"/productions/1/story?handler=ComesIn&card={card}",
            [new("seconds", "11"), new("version", version)]
        );
        Assert.Contains(
            "from 0.04 to 10 seconds",
            await refused.Content.ReadAsStringAsync(TestContext.Current.CancellationToken),
            StringComparison.Ordinal
        );
        // The one before goes on while this one comes.
        Browser.Run<object>("document.activeElement.blur(); window.scrollTo(0, 0)");
        Browser.Press(Keys.Space);
        Browser.Until(
            () =>
                Browser.Run<bool>(
                    "const seen = [...document.querySelectorAll('.stage video.shown')];"
                        + "return seen.length === 2 && seen.some(v => Number(v.style.opacity) > 0.05) && seen.every(v => !v.paused)"
                ),
            "both pictures to be seen"
        );
        Browser.Press(Keys.Space);
        Browser.Until(() => Browser.All("#player[open]").Count == 0, "the player to close");
        Browser.Press("u");
        Browser.Until(() => Browser.All($"#card-{card} .card-line").All(l => !l.Text.Contains("dissolves")), "the cut again");
    }

    [Fact]
    public void A_change_from_a_second_window_is_not_overwritten()
    {
        demo.OpenStory();
        var first = Browser.Driver.CurrentWindowHandle;
        // Its line for news is cut, as when a machine was asleep.
        Browser.Run<object?>("window.dispatchEvent(new Event('pagehide')); return null");
        Browser.Driver.SwitchTo().NewWindow(WindowType.Tab);
        demo.OpenStory();
        var before = Order;
        Browser.Press(Keys.ArrowDown, "]");
        Browser.Until(() => Order != before, "the change");
        var order = Order;
        Browser.Driver.Close();
        Browser.Driver.SwitchTo().Window(first);
        Browser.Press(Keys.ArrowDown, "x");
        Browser.UntilText("#story", "changed the same in another window");
        Assert.Equal(order, Order);
        Browser.Press("u");
        Browser.Until(() => Order != order, "the change taken back");
    }

    [Fact]
    public void A_change_from_a_second_window_comes_into_the_first_by_itself()
    {
        demo.OpenStory();
        var (first, before) = (Browser.Driver.CurrentWindowHandle, Order);
        Browser.Driver.SwitchTo().NewWindow(WindowType.Tab);
        demo.OpenStory();
        Browser.Press(Keys.ArrowDown, "]");
        Browser.Until(() => Order != before, "the change");
        var order = Order;
        Browser.Driver.Close();
        Browser.Driver.SwitchTo().Window(first);
        Browser.Until(() => Order == order, "the other window's change");
        Browser.Press("u");
        Browser.Until(() => Order == before, "the change taken back");
    }

    [Fact]
    public void The_story_plays_through_its_cards_from_the_sources()
    {
        demo.OpenStory();
        Browser.Run<object?>("const cards = document.querySelectorAll('.card-piece'); cards[cards.length - 3].focus(); return null");
        Browser.Press(" ");
        Browser.Until(
            () =>
                Browser.Run<bool>(
                    "return document.getElementById('player').open && ['a', 'b'].some(s => document.getElementById('sound-' + "
                        + "s).currentTime > 0 && !document.getElementById('sound-' + s).paused)"
                ),
            "the sound"
        );
        var words = Browser.Text("#player-words");
        Assert.True(Browser.Run<bool>("return [...document.querySelectorAll('.stage video.shown')].length === 1"));
        Browser.Until(() => Browser.All("#player-words") is [var now] && now.Text != words, "the next card", 30);
        Browser.Press(" ");
        Browser.Until(() => !Browser.Find("#player").Displayed, "the player to close");
    }

    [Fact]
    public async Task The_hand_off_is_counted_as_chosen_and_the_list_downloaded_reads_back_as_the_story()
    {
        demo.Open("/productions/1/handoff");
        Browser.Empty("#start");
        Browser.Type("#start", "10:01:00;00");
        Browser.Choose("#count", "29.97 drop frame");
        Browser.Click(".count-form .btn");
        Browser.UntilText(".alert-line", "drop frame leaves it out");
        Assert.Equal("10:01:00;00", Browser.Find("#start").GetAttribute("value"));
        Browser.Empty("#start");
        Browser.Type("#start", "10:00:00:00");
        Browser.Choose("#count", "29.97 drop frame");
        Browser.Click(".count-form .btn");
        Browser.UntilText(".list", "FCM: DROP FRAME");
        using var client = new HttpClient();
        var text = await client.GetStringAsync(new Uri(demo.Server.Address + "/productions/1/handoff?handler=List"));
        var list = EdlReader.Read(text, FrameRate.R2997);
        var story = demo.Get<Desk>().StoryOf(demo.Get<Store.Footage>().Production(1)!, "producer");
        Assert.Equal(demo.Get<Desk>().EventsOf(story).Events, list.Events);
        Assert.Equal("10:00:00;00", list.Events[0].RecordIn.ToString());
        Assert.Equal(
            demo.Get<Desk>().CutOf(story).RunningTime(FrameRate.R2997),
            FrameRate.R2997.TimeOf(list.Events[^1].RecordOut.Frame - list.Events[0].RecordIn.Frame)
        );
        var paper = await client.GetStringAsync(
            new Uri(demo.Server.Address + "/productions/1/handoff?handler=Package&part=txt&alone=true")
        );
        Assert.Contains("TOBIAS FENN / the sound", paper, StringComparison.Ordinal);
        Browser.Empty("#start");
        Browser.Type("#start", "01:00:00:00");
        Browser.Choose("#count", "25");
        Browser.Click(".count-form .btn");
        Browser.UntilText(".list", "FCM: NON-DROP FRAME");
    }
}
