using EmberLane.Application.Rooms;
using EmberLane.Core.Seams;
using EmberLane.Core.Stories;
using EmberLane.Running;
using EmberLane.Store;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

/// <summary>Seams on the screen: judged, mended, laid open, moved by hand; the story played over them; its versions compared.</summary>
public sealed class StorySeamsTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private StoredStory Story => demo.Get<Desk>().StoryOf(demo.Get<Footage>().Production(1)!, "producer");

    private async Task OpenAsync()
    {
        await demo.IdleAsync();
        await RunningServer.UntilAsync(() => demo.Get<SeamSounds>().Of(1) is not null, "the sound to be measured");
        demo.Open("/productions/1/story");
        Browser.Until(() => Browser.All(".seam").Count > 3, "the seams");
    }

    private void UntilSettled() =>
        Browser.Until(() => Browser.All(".htmx-request, .htmx-settling, .htmx-added").Count == 0, "the page to be still");

    [Fact]
    public async Task Cut_ends_are_mended_at_once_said_and_taken_back_in_one_step()
    {
        await OpenAsync();
        var before = Story.Story.Pieces;
        if (Browser.All("#mend-all").Count > 0)
        {
            Browser.Click("#mend-all");
            Browser.Until(() => !Story.Story.Pieces.SequenceEqual(before), "the ends to be mended");
            Browser.UntilText("#cards", "the end moved");
        }
        var seams = demo.Get<StorySeams>();
        var desk = demo.Get<Desk>();
        foreach (
            var seam in seams.Of(Story, desk.Cards(Story), desk.CutOf(Story), desk.Listed(Story), desk.ShotsOf(Story, desk.CutOf(Story)))
        )
        {
            Assert.True(seam.End is not { HasRoom: true, Before.Clips: true } and not { HasRoom: true, Before.Leaks: true });
            Assert.True(seam.Begin is not { HasRoom: true, Before.Clips: true } and not { HasRoom: true, Before.Leaks: true });
        }
        // No mend moves an end into another word: every card says what it said.
        UntilSettled();
        Browser.Press("u");
        Browser.Until(() => Story.Story.Pieces.SequenceEqual(before), "them to be as they were");
    }

    [Fact]
    public async Task A_seam_is_gone_to_laid_open_and_its_ends_moved_by_frame_millisecond_and_sample()
    {
        await OpenAsync();
        var (one, next) = (Story.Story.Cards[1], Story.Story.Cards[2]);
        Card One() => Story.Story.Cards[1];
        Card Next() => Story.Story.Cards[2];
        Browser.Run<object?>($"document.getElementById('seam-{one.Id}').focus(); return null");
        Browser.Press("e");
        Browser.Until(() => Browser.All("#loupe .loupe-in").Count == 2, "both sides of the seam");
        var said = demo.Get<Stories>().ReadingsOf(Story.Id);
        var words = said[one.Id].Said.Split(' ');
        Assert.Contains(words[^1], Browser.Texts(".loupe-word"));
        Assert.Contains(said[next.Id].Said.Split(' ')[0], Browser.Texts(".loupe-word"));
        UntilSettled();
        Browser.Press(Keys.ArrowRight);
        Browser.Until(() => One().Range.Out == one.Range.Out + FrameRate.R25.TimeOf(1), "the end a frame later");
        UntilSettled();
        Browser.Press("3", "<");
        Browser.Until(() => Next().Range.In == next.Range.In - MediaTime.FromMilliseconds(1), "the begin a millisecond earlier");
        UntilSettled();
        Browser.Press("4", ",");
        var sample = new MediaTime(MediaTime.UnitsPerSecond / 48_000);
        Browser.Until(() => One().Range.Out == one.Range.Out + FrameRate.R25.TimeOf(1) - sample, "both a sample earlier");
        Assert.Equal(next.Range.In - MediaTime.FromMilliseconds(1) - sample, Next().Range.In);
        UntilSettled();
        Browser.Until(() => Browser.All("#loupe .btn").Any(b => b.Text == "As it was"), "the way back");
        Browser.All("#loupe .btn").First(b => b.Text == "As it was").Click();
        Browser.Until(() => One().Range == one.Range && Next().Range == next.Range, "the ends as they were laid");
        UntilSettled();
        Browser.Press("1", Keys.ArrowLeft);
        Browser.Until(() => demo.Get<Stories>().ReadingsOf(Story.Id)[one.Id].Said == string.Join(' ', words[..^1]), "a word less");
        foreach (var _ in Enumerable.Range(0, 5))
        {
            demo.Get<Stories>().Step(Story.Id, redo: false, "producer");
        }
        Assert.Equal([one, next], Story.Story.Cards.Skip(1).Take(2));
    }

    [Fact]
    public async Task Ends_are_dragged_on_the_sound_alone_or_with_shift_together()
    {
        await OpenAsync();
        var (one, next) = (Story.Story.Cards[1], Story.Story.Cards[2]);
        Browser.Run<object?>($"document.getElementById('seam-{one.Id}').focus(); return null");
        Browser.Press("e");
        Browser.Until(() => Browser.All(".loupe-grip").Count == 2, "a grip on each side");
        UntilSettled();
        Browser.Run<object?>("document.getElementById('loupe').scrollIntoView({ block: 'center' }); return null");
        var perPixel =
            3_000m
            / decimal.Parse(
                Browser.Run<string>("const m = document.querySelector('.loupe-wave').getScreenCTM(); return String(1000 * m.a)"),
                System.Globalization.CultureInfo.InvariantCulture
            );
        new OpenQA.Selenium.Interactions.Actions(Browser.Driver)
            .ClickAndHold(Browser.All(".loupe-grip rect")[0])
            .MoveByOffset(20, 0)
            .Perform();
        Browser.UntilText(".loupe-grip.held text", "ms");
        new OpenQA.Selenium.Interactions.Actions(Browser.Driver).Release().Perform();
        Browser.Until(() => Story.Story.Cards[1].Range.Out != one.Range.Out, "the end to be moved");
        var by = (Story.Story.Cards[1].Range.Out - one.Range.Out).ToMillisecondsRounded();
        Assert.InRange(by, (long)(18 * perPixel), (long)(22 * perPixel) + 1);
        Assert.Equal(next, Story.Story.Cards[2]);
        UntilSettled();
        var apart = Story.Story.Cards[1];
        new OpenQA.Selenium.Interactions.Actions(Browser.Driver)
            .KeyDown(Keys.Shift)
            .ClickAndHold(Browser.All(".loupe-grip rect")[1])
            .MoveByOffset(-10, 0)
            .Release()
            .KeyUp(Keys.Shift)
            .Perform();
        Browser.Until(() => Story.Story.Cards[2].Range.In < next.Range.In, "both to be moved");
        Assert.Equal(next.Range.In - Story.Story.Cards[2].Range.In, apart.Range.Out - Story.Story.Cards[1].Range.Out);
        demo.Get<Stories>().Step(Story.Id, redo: false, "producer");
        demo.Get<Stories>().Step(Story.Id, redo: false, "producer");
        Assert.Equal([one, next], Story.Story.Cards.Skip(1).Take(2));
    }

    [Fact]
    public async Task Narration_is_read_by_a_machine_where_that_is_wanted_and_the_page_says_so()
    {
        await OpenAsync();
        var stories = demo.Get<Stories>();
        var narration = new Narration(Guid.NewGuid(), "It ran for ninety years, six minutes at a time.", MediaTime.Zero);
        stories.Apply(Story.Id, Story.Version, LayPiece.Of(narration, 1), "producer");
        var address = new Uri($"{demo.Server.Address}/media/narration/{Story.Id}/{narration.Id}");
        using var client = new HttpClient();
        Assert.Equal(
            System.Net.HttpStatusCode.NotFound,
            (await client.GetAsync(address, TestContext.Current.CancellationToken)).StatusCode
        );
        demo.Open("/productions/1/story");
        Browser.Click("#story-menu summary");
        Browser.Click("form[action*=Scratch] button");
        Browser.UntilText(".narration-piece .card-figures", "scratch voice");
        var sound = await client.GetByteArrayAsync(address, TestContext.Current.CancellationToken);
        Assert.InRange(sound.Length, 4_000 * 28, 4_000 * 36);
        Assert.Contains("/media/narration/", Browser.Find(".narration-piece").GetAttribute("data-play"), StringComparison.Ordinal);
        Browser.Click("#story-menu summary");
        Browser.UntilText("#story-menu", "a machine, until it is recorded");
        Browser.Click("form[action*=Scratch] button");
        Browser.Until(
            () => !Browser.Text(".narration-piece .card-figures").Contains("scratch", StringComparison.Ordinal),
            "it to be silent"
        );
        stories.Step(Story.Id, redo: false, "producer");
    }

    [Fact]
    public async Task Joins_inside_a_card_where_something_is_set_aside_are_judged_too()
    {
        await OpenAsync();
        var card = Story.Story.Cards.First(c => c.SittingId == 1);
        Assert.DoesNotContain("Inside it", Browser.Text($"#card-{card.Id}"), StringComparison.Ordinal);
        var (texts, id) = (demo.Get<Store.Transcripts>(), demo.Get<Footage>().Sitting(1)!.TranscriptId!.Value);
        var text = demo.Crossing;
        var place = EmberLane.Core.Marks.MarkPlace.In(text, card.Range)!.Value;
        // Words in the middle of talk: there is no quiet beside them.
        texts.Apply(
            id,
            t =>
                EmberLane.Core.Marks.Marking.TurnAside(
                    t,
                    place.First + 2,
                    place.First + 3,
                    new EmberLane.Core.Marks.Signed("logger", DateTimeOffset.UnixEpoch)
                ),
            "logger"
        );
        await OpenAsync();
        Browser.UntilText($"#card-{card.Id}", "Inside it, where something is set aside, at ");
        texts.Step(id, redo: false, "logger");
        await OpenAsync();
        Assert.DoesNotContain("Inside it", Browser.Text($"#card-{card.Id}"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Plain_media_is_played_at_its_level_and_comes_and_goes_as_it_shall()
    {
        await OpenAsync();
        var stories = demo.Get<Stories>();
        var file = demo.Get<Footage>().Sources(1).First(s => s.SittingId is null && s.Facts.Picture is not null);
        var media = new PlainMedia(
            Guid.NewGuid(),
            file.Id,
            new SourceRange(new SourceTime(MediaTime.Zero), new SourceTime(MediaTime.FromMilliseconds(4_000))),
            -60,
            MediaTime.FromMilliseconds(500),
            MediaTime.FromMilliseconds(1_000)
        );
        stories.Apply(Story.Id, Story.Version, LayPiece.Of(media, 0), "producer");
        demo.Open("/productions/1/story");
        // At the moments 0, a quarter, one, three and a half, and four seconds: half as loud is 6 dB less.
        var heard = Browser.Run<IReadOnlyCollection<object>>(
            "const part = JSON.parse(document.querySelector('.media-piece').dataset.play)[0]; return import('/js/range-player.js')"
                + ".then(m => [0, 0.25, 1, 3.5, 4].map(at => Math.round(1000 * m.levelAt(part, at))))"
        );
        Assert.Equal([0L, 251L, 501L, 251L, 0L], heard.Cast<long>());
        stories.Step(Story.Id, redo: false, "producer");
    }

    [Fact]
    public async Task The_worst_seam_comes_first_and_three_keys_go_through_them()
    {
        await OpenAsync();
        Browser.Press("w");
        var first = Browser.Run<string>("return document.activeElement.id");
        var score = Browser.Run<string>("return document.activeElement.dataset.score");
        Assert.StartsWith("seam-", first, StringComparison.Ordinal);
        Assert.Equal(
            Browser.Run<string>("return String(Math.max(...[...document.querySelectorAll('.seam')].map(s => Number(s.dataset.score))))"),
            score
        );
        Browser.Press(Keys.Enter);
        Browser.Until(() => Browser.All("#loupe").Count == 1, "the seam to lie open");
        UntilSettled();
        Browser.Press(Keys.Enter);
        Browser.Until(
            () => Browser.Run<bool>("return ['a', 'b'].some(s => document.getElementById('sound-' + s).currentTime > 0)"),
            "the seam to sound"
        );
        Browser.Press("n");
        Browser.Until(() => Browser.Run<string>("return document.activeElement.id") != first, "the next");
        Assert.True(
            Browser.Run<bool>(
                "return Number(document.activeElement.dataset.score) <= arguments[0]",
                int.Parse(score, System.Globalization.CultureInfo.InvariantCulture)
            )
        );
    }

    [Fact]
    public async Task Versions_are_named_compared_and_brought_back_and_a_card_is_brought_over()
    {
        await OpenAsync();
        var (id, before) = (Story.Id, Story.Story.Pieces);
        demo.Open("/productions/1/versions");
        Browser.Type("#version-name", "before the school goes" + Keys.Enter);
        Browser.UntilText(".version-list", "before the school goes");
        var gone = Story.Story.Cards[0];
        var said = demo.Get<Stories>().ReadingsOf(id)[gone.Id].Said;
        demo.Get<Stories>().Apply(id, new TakeOut(gone.Id), "producer");
        demo.Get<Stories>().Apply(id, new MoveCard(Story.Story.Cards[^1].Id, 1), "producer");
        demo.Open("/productions/1/versions");
        Browser.All(".version-list a").First(a => a.Text == "before the school goes").Click();
        Browser.UntilText("#compare-title", "From “before the school goes” to what it is now");
        Browser.UntilText(".versions", "0 came in, 1 went out, 1 moved, 0 changed");
        Assert.Equal(said, Browser.Text(".went-out .speech"));
        Browser.Click(".went-out .btn");
        Browser.UntilText(".versions", "0 came in, 0 went out, 1 moved");
        Assert.Equal(gone, Story.Story.Cards[0]);
        Browser.Click(".version-acts form:first-child .btn");
        Browser.Until(() => Story.Story.Pieces.SequenceEqual(before), "the story as it was");
        // In an hour nothing else will have been done; an hour ago there was nothing.
        demo.Open(
            "/productions/1/versions?at="
                + DateTime.Now.AddHours(1).ToString("yyyy-MM-ddTHH:mm", System.Globalization.CultureInfo.InvariantCulture)
        );
        Browser.UntilText(".versions", "0 came in, 0 went out, 0 moved, 0 changed");
        demo.Open("/productions/1/versions?at=nonsense");
        Browser.UntilText(".alert-line", "Choose a day and a time");
        demo.Open("/productions/1/versions?was=99999");
        Browser.UntilText(".alert-line", "not known");
    }

    [Fact]
    public async Task Playing_goes_over_borders_and_tells_how_long_nothing_was_heard()
    {
        await OpenAsync();
        Browser.Run<object?>("const cards = document.querySelectorAll('.card-piece'); cards[cards.length - 3].focus(); return null");
        Browser.Press(" ");
        Browser.Until(() => Browser.Run<string>("return document.getElementById('player').dataset.gaps ?? ''").Length > 0, "a border", 40);
        Assert.All(
            Browser.Run<string>("return document.getElementById('player').dataset.gaps").Split(' '),
            gap => Assert.True(double.Parse(gap, System.Globalization.CultureInfo.InvariantCulture) >= 0)
        );
        Browser.Press(" ");
        Browser.Until(() => !Browser.Find("#player").Displayed, "the player to close");
    }
}
