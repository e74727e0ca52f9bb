using EmberLane.Application.Rooms;
using EmberLane.Application.Work;
using EmberLane.Core.Stories;
using EmberLane.Core.Transcripts;
using EmberLane.Running;
using EmberLane.Store;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

/// <summary>A story and what it is taken from: side by side, and which words of a sitting are in which story.</summary>
public sealed class BesideTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private StoredStory Story => demo.Get<Desk>().StoryOf(demo.Get<Footage>().Production(1)!, "producer");

    private void GoTo(int place) => Browser.Run<object?>($"document.querySelectorAll('.card-piece')[{place}].focus(); return null");

    private string Selected => Browser.Run<string>("return getSelection().toString()");

    // The word that the cursor of Read is at.
    private string ReadAt => Browser.Run<string>("return [...(CSS.highlights.get('playing') ?? [])].map(r => r.toString()).join('')");

    [Fact]
    public void The_source_opens_beside_the_story_and_each_goes_to_the_word_that_the_other_is_at()
    {
        demo.OpenStory();
        var card = Story.Story.Cards[1];
        var said = demo.Get<Stories>().ReadingsOf(Story.Id)[card.Id].Said.Split(' ');
        GoTo(1);
        Browser.Press("s");
        var own = Browser.Driver.CurrentWindowHandle;
        Browser.Until(() => Browser.Driver.WindowHandles.Count == 2, "a second window");
        Browser.Driver.SwitchTo().Window(Browser.Driver.WindowHandles.Single(w => w != own));
        var other = Browser.Driver.CurrentWindowHandle;
        try
        {
            Browser.Until(() => Browser.Run<bool>("return document.getElementById('read')?.dataset.ready === 'true'"), "Read");
            Assert.Contains($"/read/{card.SittingId}#word-", Browser.Driver.Url, StringComparison.Ordinal);
            Browser.Until(() => ReadAt == said[0], "the first word of the card");
            // A word on in Read is selected in the story.
            Browser.Press(Keys.ArrowRight);
            Browser.Driver.SwitchTo().Window(own);
            Browser.Until(() => Selected == said[1], "the next word in the story");
            // And the other way round.
            Browser.Press(Keys.ArrowRight);
            Browser.Until(() => Selected == said[2], "the word behind it");
            Browser.Driver.SwitchTo().Window(other);
            Browser.Until(() => ReadAt == said[2], "the word in Read");
            // A card of another sitting brings that sitting.
            var elsewhere = Story.Story.Cards.First(c => c.SittingId != card.SittingId);
            Browser.Driver.SwitchTo().Window(own);
            Browser.Run<object?>($"getSelection().removeAllRanges(); document.querySelector('#card-{elsewhere.Id}').focus(); return null");
            Browser.Press(Keys.ArrowUp);
            Browser.Press(Keys.ArrowDown);
            Browser.Driver.SwitchTo().Window(other);
            Browser.Until(
                () => Browser.Driver.Url.Contains($"/read/{elsewhere.SittingId}#", StringComparison.Ordinal),
                "the other sitting"
            );
        }
        finally
        {
            Browser.Driver.SwitchTo().Window(other).Close();
            Browser.Driver.SwitchTo().Window(own);
        }
    }

    [Fact]
    public void A_sitting_shows_which_of_its_words_are_in_which_story_and_a_card_where_else_they_are()
    {
        var stories = demo.Get<Stories>();
        var first = Story.Story.Cards.First(c => c.SittingId == 1);
        var copy = stories.Copy(Story, "Another cut", "producer");
        var text = demo.Crossing;
        var words = text.Words.Count(w =>
            Story.Story.Cards.Any(c => c.SittingId == 1 && Middle(w) >= c.Range.In && Middle(w) < c.Range.Out)
        );
        demo.Open("/productions/1/read/1");
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('read')?.dataset.ready === 'true'"), "Read");
        Assert.Equal(words, Lit("storied"));
        Assert.Equal(words, Lit("used"));
        Assert.Equal(2 * Story.Story.Cards.Count(c => c.SittingId == 1), Browser.All("#strip .strip-used").Count);
        Assert.Equal(
            2 * Story.Story.Cards.Count(c => c.SittingId == 1),
            Browser
                .Run<IReadOnlyCollection<object>>("return [...document.querySelectorAll('#in-stories [data-in]')].map(b => b.textContent)")
                .Count
        );
        Assert.Contains(
            "Another cut",
            Browser.Run<string>("return document.getElementById('in-stories').textContent"),
            StringComparison.Ordinal
        );
        // What is taken out of the story is not underlined any more, without a reload.
        var (id, cards) = (Story.Id, Story.Story.Cards);
        demo.Get<RoomChanges>().Make(1, NewsOf.Story, "logger", () => stories.Apply(id, Story.Version, new TakeOut(first.Id), "logger"));
        var gone = stories.ReadingsOf(copy)[first.Id].Said.Split(' ').Length;
        Browser.Until(() => Lit("storied") == words - gone, "its words to be let go");
        Assert.Equal((2 * cards.Count(c => c.SittingId == 1)) - 1, Browser.All("#strip .strip-used").Count);
        Assert.Equal(words, Lit("used"));
        stories.Step(id, redo: false, "logger");
        // And the card tells where else its words are.
        demo.OpenStory();
        GoTo(cards.ToList().FindIndex(c => c.Id == first.Id));
        Browser.UntilText($"#card-{first.Id} .elsewhere", "Another cut, card 1");
        demo.Open("/productions/1/bites");
        Browser.UntilText("#bites", "also in Another cut");
        stories.PutAway(copy, true, "producer");
        demo.Open("/productions/1/bites");
        Browser.UntilText("#bites", "in the story");
        Assert.DoesNotContain("also in", Browser.Text("#bites"), StringComparison.Ordinal);

        static SittingTime Middle(RecordWord word) => word.Range.In + new MediaTime(word.Range.Length.Units / 2);

        int Lit(string light) =>
            (int)
                Browser.Run<long>(
                    "return [...CSS.highlights.get(arguments[0])].reduce((sum, r) => sum + r.toString().trim().split(/\\s+/).length, 0)",
                    light
                );
    }

    [Fact]
    public async Task Bites_are_copied_into_the_story_of_another_production_and_everything_knows_where_they_are_from()
    {
        var footage = demo.Get<Footage>();
        var other = footage.AddProduction("Another film");
        demo.Open("/productions/1/bites");
        Browser.Until(() => Browser.All(".bite").Count > 2, "the bites");
        var said = Browser.Texts(".bite .speech").Take(2).ToList();
        Browser.Run<object?>("document.querySelectorAll('.bite')[0].focus(); return null");
        Browser.Press("m", Keys.ArrowDown, "m", "c");
        Browser.UntilText("#notice", "2 bites are copied");
        demo.OpenStory(other);
        Browser.Press("v");
        Browser.Until(() => Browser.All(".card-piece").Count == 2, "two cards");
        Assert.Equal(said, Browser.Texts(".card-piece .speech"));
        Assert.All(
            Browser.Texts(".card-piece .card-body > .second"),
            t => Assert.EndsWith("from Slack Water", t, StringComparison.Ordinal)
        );
        Assert.All(
            Browser
                .Run<IReadOnlyCollection<object>>("return [...document.querySelectorAll('.card-piece')].map(c => c.dataset.play)")
                .Cast<string>(),
            play => Assert.Contains("/media/", play, StringComparison.Ordinal)
        );
        // Words are taken out and laid back as in any story, and the list names its reels and files.
        var desk = demo.Get<Desk>();
        var story = desk.StoryOf(footage.Production(other)!, "producer");
        Assert.True(desk.EventsOf(story).Events.Count >= 4);
        GoTo(0);
        Browser.Press(Keys.ArrowRight, "x");
        Browser.Until(() => Browser.Texts(".card-piece .speech")[0] == string.Join(' ', said[0].Split(' ')[1..]), "a word less");
        using var client = new HttpClient { BaseAddress = new Uri(demo.Server.Address) };
        var list = await client.GetStringAsync(
            new Uri($"/productions/{other}/handoff?handler=List", UriKind.Relative),
            TestContext.Current.CancellationToken
        );
        Assert.Contains("FROM CLIP NAME", list, StringComparison.Ordinal);
        // The sitting tells that its words are in that story.
        Assert.Contains(demo.Get<Stories>().UsesIn(story.Story.Cards[0].SittingId), u => u.Story == story.Id);
        demo.Get<Productions>().PutAway(other, true, "producer");
        demo.Get<Stories>().PutAway(story.Id, true, "producer");
    }

    [Fact]
    public void Hundreds_of_cards_are_copied_at_once_and_where_the_browser_keeps_no_more_it_says_so_and_nothing_is_cut()
    {
        var stories = demo.Get<Stories>();
        var before = Story.Story.Pieces;
        stories.Apply(
            Story.Id,
            Story.Version,
            StoryTogether.Of([
                .. Enumerable
                    .Range(0, 400)
                    .Select(n => LayPiece.Of(new TitleCard(Guid.NewGuid(), $"Title {n}", MediaTime.FromMilliseconds(1_000)), n)),
            ]),
            "producer"
        );
        demo.OpenStory();
        Assert.True(
            Browser.Run<bool>("return import('/js/story-clip.js').then(m => m.keep(null, [...document.querySelectorAll('.card-piece')]))")
        );
        Assert.Equal(
            before.Count + 400,
            Browser.Run<long>("return JSON.parse(JSON.parse(localStorage.getItem('ember-story-clip')).json).length")
        );
        // As with a browser that is full.
        GoTo(3);
        Browser.Run<object?>("Storage.prototype.setItem = () => { throw new DOMException('full', 'QuotaExceededError'); }; return null");
        Browser.Press("x");
        Browser.UntilText("#notice", "more than this browser keeps at once");
        Assert.Equal(before.Count + 400, Story.Story.Pieces.Count);
        stories.Step(Story.Id, redo: false, "producer");
        Assert.Equal(before, Story.Story.Pieces);
    }

    [Fact]
    public void Words_copied_in_Read_are_put_into_the_story_behind_the_card_that_one_is_at()
    {
        var before = Story.Story.Pieces;
        var from = demo.Crossing.At(new(40));
        demo.OpenReadAt(from.Number);
        demo.SelectWords(4);
        Browser.Press("c");
        Browser.UntilText("#notice", "The selected words are copied");
        demo.OpenStory();
        GoTo(1);
        Browser.Press("v");
        Browser.Until(() => Story.Story.Pieces.Count == before.Count + 1, "the card");
        var card = Story.Story.Cards[2];
        Assert.Equal(demo.Crossing.Said(new(40), new(43)), demo.Get<Stories>().ReadingsOf(Story.Id)[card.Id].Said);
        Assert.Equal(before[1], Story.Story.Pieces[1]);
        // Words of a text that the sitting is not read by any more are not taken for others.
        var count = demo.Get<Store.Bites>().Of(1).Count;
        Browser.Run<object?>(
            "const clip = JSON.parse(localStorage.getItem('ember-story-clip')); const words = JSON.parse(clip.json); words.text += 1000; "
                + "localStorage.setItem('ember-story-clip', JSON.stringify({ ...clip, json: JSON.stringify(words) })); return null"
        );
        GoTo(1);
        Browser.Press("v");
        Browser.UntilText("#story", "is read by another text");
        Assert.Equal(count, demo.Get<Store.Bites>().Of(1).Count);
        demo.Get<Stories>().Step(Story.Id, redo: false, "producer");
        Assert.Equal(before, Story.Story.Pieces);
    }
}
