using EmberLane.Application.People;
using EmberLane.Application.Work;
using EmberLane.Core.Comments;
using EmberLane.Running;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

/// <summary>Talking over words, bites and cards; who is here, and what is new.</summary>
public sealed class CommentsPageTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private Store.Comments Comments => demo.Get<Store.Comments>();

    private long SayAs(string who, CommentPlace place, string body)
    {
        var id = Comments.Begin(1, place, "what was said", body, who, ["producer", who]);
        demo.Get<News>().Tell(new NewsItem(NewsOf.Comments, 1, who));
        return id;
    }

    private void Say(string text)
    {
        Browser.Type("#talk-new", text);
        Browser.Click(".talk-begin .btn-ember");
        Browser.UntilText("#talk-body", text);
    }

    // Tests of this class talk over the same production.
    private string FigureOf(string thing) => Application.Rooms.Many.Of(Comments.Counts(1)[thing], "comment");

    private void CloseTalk()
    {
        Browser.Press(Keys.Escape);
        Browser.Until(() => !Browser.Find("#talk").Displayed, "the dialog to close");
    }

    [Fact]
    public void Words_a_bite_and_a_card_are_talked_of_by_keyboard_where_they_stand()
    {
        demo.OpenRead(1);
        Browser.PressWithShift(Keys.ArrowRight);
        Browser.PressWithShift(Keys.ArrowRight);
        var words = Browser.Text("#selected-figure");
        Assert.Contains("3 words", words, StringComparison.Ordinal);
        Browser.PressWithShift("c");
        Say("Is this the very first word?");
        Assert.Equal("", ScreenReader.Trouble(Browser));
        CloseTalk();
        Browser.UntilText("#sitting-talk", "Is this the very first word?");

        demo.Open("/productions/1/bites");
        Browser.UntilText("h1", "Bites");
        var bite = Browser.Run<string>("const b = document.querySelector('.bite'); b.focus(); return b.id");
        Browser.PressWithShift("c");
        Say("Rather the shorter take.");
        CloseTalk();
        Browser.UntilText($"#{bite} [data-talk-figure]", FigureOf(bite));

        demo.OpenStory();
        var card = Browser.Run<string>("const c = document.querySelector('.card-piece[data-talk]'); c.focus(); return c.id");
        Browser.PressWithShift("c");
        Say("Begin later here.");
        CloseTalk();
        Browser.UntilText($"#{card} [data-talk-figure]", FigureOf(card));

        demo.Open("/productions/1/comments");
        Browser.UntilText("#threads", "Begin later here.");
        Assert.Equal("", ScreenReader.Trouble(Browser));
        Browser.Run<object?>("[...document.querySelectorAll('#threads a')].find(a => a.href.includes('#at-')).click(); return null");
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('read')?.dataset.ready === 'true'"), "the page of turns");
    }

    [Fact]
    public void A_talk_is_answered_settled_opened_again_and_what_is_ones_own_is_taken_away()
    {
        var id = SayAs("Ada", new BitePlace(1), "Which of the two?");
        demo.Open(FormattableString.Invariant($"/productions/1/comments?thread={id}"));
        var talk = FormattableString.Invariant($"#thread-{id}");
        Browser.Type(talk + " textarea", "The second, @ada");
        Browser.Click(talk + " .talk-answer .btn");
        Browser.UntilText(talk, "The second, @Ada");
        Assert.Equal("@Ada", Browser.Text(talk + " .talk-name"));
        Assert.Contains(Comments.After(1, 0, "Ada", 9), s => s is { MentionsThem: true, Comment.Who: "producer" });
        Assert.Single(Browser.All(talk + " .talk-said button"));
        Still();
        Browser.Click(talk + " .talk-said button");
        Browser.UntilText(talk, "producer took this away");
        Still();
        Browser.Click(talk + " .talk-said button");
        Browser.UntilText(talk, "The second");
        Still();
        Browser.Click(talk + " [hx-post*=Settle]");
        Browser.UntilText(talk, "Settled by producer");
        demo.Open("/productions/1/comments?which=Settled");
        Browser.UntilText("#threads", "Which of the two?");
    }

    // What was swapped in is taken up a moment later: a click before that goes nowhere.
    private void Still() =>
        Browser.Until(() => Browser.All(".htmx-request, .htmx-settling, .htmx-added").Count == 0, "the page to be still");

    [Fact]
    public void Who_else_is_here_and_what_they_said_meanwhile_is_told_at_once()
    {
        demo.Get<Store.SeenUntil>()
            .Seen(1, "producer", long.MaxValue >> 1, Comments.After(1, 0, "producer", 1).Select(s => s.Comment.Id).SingleOrDefault());
        demo.Open("/productions/1/read/1");
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('talk-counts') !== null"), "what is new");
        var here = demo.Get<Here>();
        using (var seat = here.Enter(new Seat(1, "Ada Quay", "/productions/1/read/2")))
        {
            demo.Get<News>().Tell(new NewsItem(NewsOf.Here, 1, "Ada Quay"));
            Browser.UntilText("#here-menu", "with Ada");
            Browser.Click("#here-menu summary");
            Browser.UntilText("#here-menu", "Read, The school hut");
            here.Take(seat.Id, 1, "Ada Quay", new TalkedOf(new BitePlace(2), string.Join(' ', Enumerable.Repeat("water", 30))));
            Browser.Click("#here-menu summary");
            Browser.Click("#here-menu summary");
            Browser.UntilText("#here-menu a", "“water water");
            Assert.EndsWith("/productions/1/bites#bite-2", Browser.Find("#here-menu a").GetAttribute("href"), StringComparison.Ordinal);
            SayAs("Ada Quay", new BitePlace(2), "Look, @producer <b>bold</b>");
            Browser.UntilText("#new-here", "1 for you");
        }
        demo.Get<News>().Tell(new NewsItem(NewsOf.Here, 1, "Ada Quay"));
        Browser.Until(() => Browser.All("#here-menu").Count == 0, "the other to leave");
        Browser.Click("#new-here");
        Browser.UntilText("#said-since", "Look, @producer <b>bold</b>");
        Assert.Equal("", ScreenReader.Trouble(Browser));
        Browser.Click("form[action*=Seen] .btn-ember");
        Browser.UntilText("#nothing-new", "Nobody else said or changed anything");
    }

    [Fact]
    public void Others_are_told_which_word_bite_or_card_somebody_has_in_hand_and_none_of_it_once_they_left()
    {
        var here = demo.Get<Here>();
        TalkedOf? InHand() => here.Others(1, "Ada").FirstOrDefault(s => s.InHand is not null)?.InHand;
        void Until<T>()
            where T : CommentPlace => Browser.Until(() => InHand()?.Place is T, "what is in hand to be told");
        demo.OpenRead(1);
        Browser.Press(Keys.ArrowRight);
        Browser.Press(Keys.ArrowRight);
        Until<WordsPlace>();
        var first = ((WordsPlace)InHand()!.Place).First;
        Browser.Press(Keys.ArrowRight);
        Browser.Until(() => InHand()?.Place is WordsPlace words && words.First != first, "the next word");
        demo.Open("/productions/1/bites");
        Browser.Run<object?>("document.querySelector('.bite').focus(); return null");
        Until<BitePlace>();
        demo.OpenStory();
        Browser.Run<object?>("document.querySelector('.card-piece[data-talk]').focus(); return null");
        Until<CardPlace>();
        var seat = here.Enter(new Seat(1, "Ida", "/productions/1/bites"));
        here.Take(seat.Id, 1, "Ada", new TalkedOf(new BitePlace(1), "not hers"));
        here.Take(seat.Id, 2, "Ida", new TalkedOf(new BitePlace(1), "not there"));
        Assert.Null(Assert.Single(here.Others(1, "producer"), s => s.Who == "Ida").InHand);
        seat.Dispose();
        here.Take(seat.Id, 1, "Ida", new TalkedOf(new BitePlace(1), "gone"));
        Assert.DoesNotContain(here.Others(1, "producer"), s => s.Who == "Ida");
        Browser.Open("about:blank");
        Browser.Until(() => InHand() is null, "the page to be left");
    }

    [Fact]
    public async Task What_is_not_there_or_says_nothing_is_refused_with_a_sentence()
    {
        async Task RefusedAsync(string query, string body, string reason)
        {
            using var answer = await demo.PostAsync("/productions/1/comments?handler=" + query, [new("body", body)]);
            Assert.Equal(System.Net.HttpStatusCode.Conflict, answer.StatusCode);
            Assert.Contains(
                reason,
                await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken),
                StringComparison.Ordinal
            );
        }
        await RefusedAsync("Say&bite=1", "  ", "Type what you want to say");
        await RefusedAsync("Say&bite=1", new string('x', 3_000), "at most");
        await RefusedAsync("Say&bite=99999", "so", "not there any more");
        await RefusedAsync("Say&sitting=1&first=5&last=2", "so", "not there any more");
        await RefusedAsync("Say&sitting=99&first=1&last=2", "so", "not there any more");
        await RefusedAsync("Say&card=" + Guid.NewGuid(), "so", "not there any more");
        await RefusedAsync("Say", "so", "not there any more");
        await RefusedAsync("Answer&thread=99999", "so", "not there");
        var id = SayAs("Ada", new BitePlace(1), "mine");
        await RefusedAsync(FormattableString.Invariant($"Away&thread={id}&comment={id}&away=true"), "", "Ada said that");
    }
}
