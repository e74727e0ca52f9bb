using System.Net;
using EmberLane.Application.Rooms;
using EmberLane.Running;
using EmberLane.Store;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

/// <summary>The written script: its lines with their takes, a changed one, and a story from it.</summary>
public sealed class ScriptPageTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private StoredStory Story => demo.Get<Desk>().StoryOf(demo.Get<Footage>().Production(1)!, "producer");

    // What the first sitting says, as a script has it: two lines of it, one changed, one that nobody says.
    private (string Said, string Other) Lines()
    {
        var text = demo.Crossing;
        var turns = Core.Transcripts.Turns.Lay(text).Where(t => t.Last.Value - t.First.Value is >= 8 and <= 30).Take(2).ToList();
        return (text.Said(turns[0].First, turns[0].Last), text.Said(turns[1].First, turns[1].Last));
    }

    private void Match(string script)
    {
        Browser.Run<object?>("document.getElementById('script-text').value = arguments[0]; return null", script);
        Browser.Click(".tidy-side form .btn");
        Browser.UntilText(".done-line", "The script is matched");
    }

    [Fact]
    public void Lines_are_matched_to_their_takes_and_a_story_is_laid_from_them_with_spaces_for_what_is_missing()
    {
        var (said, other) = Lines();
        demo.Open("/productions/1/script");
        Match($"A purple walrus juggles seventeen umbrellas.\nMAREN: {said}\n{other}\nNobody ever polishes telescopes on Thursdays.");
        Browser.UntilText(".look-figures", "2 missing");
        Browser.UntilText("#line-1", "Nobody says it");
        Browser.UntilText("#line-2 .attempt.best", said.Split(' ')[0]);
        Assert.All(Browser.Texts("#line-2 .attempt .second"), t => Assert.Contains("the same", t, StringComparison.Ordinal));
        // Heard by its number.
        Browser.Run<object?>("document.getElementById('line-2').focus(); return null");
        Browser.Press("1");
        Browser.Until(() => Browser.All("#line-2 .sounding").Count == 1, "the take to be heard");
        Browser.Press(Keys.Escape);
        var before = Story.Story.Cards.Count;
        Browser.Click(".look-figures .btn-ember");
        Browser.UntilText(".done-line", "2 cards laid");
        var cards = Story.Story.Cards.Skip(before).ToList();
        Assert.Equal("A purple walrus juggles seventeen umbrellas.", cards[0].SpaceBefore);
        Assert.Equal("Nobody ever polishes telescopes on Thursdays.", cards[1].SpaceAfter);
        Assert.Equal(said, demo.Get<Readings>().Of(cards[0].BiteId)!.Said);
        demo.Open("/productions/1/story");
        Browser.UntilText("#cards", "purple walrus");
        Browser.UntilText("#cards", "missing behind it");
        demo.Open("/productions/1/handoff");
        Browser.UntilText("main", FormattableString.Invariant($"Lines are missing beside card {before + 1}"));
        demo.Open("/productions/1/story");
        Browser.Click(FormattableString.Invariant($"#card-{cards[0].Id} .space .btn"));
        Browser.Until(() => Story.Story.Cards[before].SpaceBefore.Length == 0, "the space to be gone");
        Browser.Until(() => Browser.All(FormattableString.Invariant($"#card-{cards[0].Id} .space")).Count == 0, "the page without it");
        Browser.Press("u");
        Browser.Until(() => Story.Story.Cards[before].SpaceBefore.Length > 0, "the space to be back");
        Browser.Until(() => Browser.All(FormattableString.Invariant($"#card-{cards[0].Id} .space")).Count == 1, "the page with it");
        Browser.Press("u");
        Browser.Until(() => Story.Story.Cards.Count == before, "all cards to be out in one step");
    }

    [Fact]
    public void A_chosen_take_stays_chosen_in_a_changed_script_and_another_is_shown_in_the_story()
    {
        // The same line three times, in another sitting.
        const string line = "The harbour froze over in January that year and nobody crossed";
        var words = string.Join(" ", Enumerable.Repeat(line + " the water was black below", 3)).Split(' ');
        var record = words.Select(
            (w, i) =>
                new Core.Transcripts.RecordWord(
                    new Core.Transcripts.WordNumber(i),
                    w,
                    new SittingRange(
                        new SittingTime(MediaTime.FromMilliseconds(1000 + (400 * i) + (3000 * (i / 16)))),
                        new SittingTime(MediaTime.FromMilliseconds(1350 + (400 * i) + (3000 * (i / 16))))
                    ),
                    null,
                    0
                )
        );
        var id = demo.Get<Store.Transcripts>().Add(2, "local", "en", [.. record], new Dictionary<int, string> { [0] = "Ada" });
        if (demo.Get<Footage>().Sitting(2)!.TranscriptId != id)
        {
            demo.Get<Texts>().Choose(2, id, "test");
        }
        demo.Open("/productions/1/script");
        Match(line + ".");
        Browser.Until(() => Browser.All("#line-1 .attempt").Count == 3, "three takes");
        Browser.UntilText("#line-1 .attempt.best", "proposed");
        Browser.Click("#line-1 .attempt:nth-child(1) .attempt-side .btn");
        Browser.UntilText(".done-line", "Take 1 of line 1 is chosen");
        Match("An opening that nobody says aloud.\n" + line.Replace("that year", "", StringComparison.Ordinal) + ".");
        Browser.UntilText("#line-2 .attempt:nth-child(1)", "chosen");
        Browser.UntilText("#line-2 .attempt.best .attempt-number", "1");
        var before = Story.Story.Cards.Count;
        Browser.Click(".look-figures .btn-ember");
        Browser.UntilText(".done-line", "1 card laid");
        var card = Story.Story.Cards[before];
        var others = card.OtherTakes.Split(' ');
        Assert.Equal(2, others.Length);
        demo.Open("/productions/1/story");
        // What can be done with a card is brought when one comes to it.
        Browser.Run<object?>($"document.getElementById('card-{card.Id}').focus(); return null");
        Browser.Until(() => Browser.All($"#take-{card.Id}").Count == 1, "the choice of takes");
        Browser.Until(() => Browser.All(".htmx-request, .htmx-settling, .htmx-added").Count == 0, "the page to settle");
        Browser.Run<object?>(
            "const s = document.getElementById('take-' + arguments[0]); s.value = arguments[1]; "
                + "s.dispatchEvent(new Event('change', { bubbles: true })); return null",
            card.Id.ToString(),
            others[1]
        );
        Browser.Until(
            () => Story.Story.Cards[before].BiteId.ToString(System.Globalization.CultureInfo.InvariantCulture) == others[1],
            "the take"
        );
        Assert.Equal(card.Id, Story.Story.Cards[before].Id);
        Assert.Contains(
            card.BiteId.ToString(System.Globalization.CultureInfo.InvariantCulture),
            Story.Story.Cards[before].OtherTakes,
            StringComparison.Ordinal
        );
        Browser.Press("u");
        Browser.Until(() => Story.Story.Cards[before] == card, "the take before");
    }

    [Theory]
    [InlineData("Bring&pasted=", HttpStatusCode.UnprocessableEntity, "no line with words")]
    [InlineData("Bring&pasted=[door slams]", HttpStatusCode.UnprocessableEntity, "no line with words")]
    [InlineData("Choose&line=99&take=0", HttpStatusCode.Conflict, "not there any more")]
    [InlineData("Choose&line=1&take=-1", HttpStatusCode.Conflict, "not there any more")]
    public async Task What_is_no_script_is_refused_with_a_sentence(string handler, HttpStatusCode status, string says)
    {
        var before = demo.Get<Scripts>().All(1, 100).Count;
        var form = handler.Split('&').Skip(1).Select(p => p.Split('=', 2)).Select(p => KeyValuePair.Create(p[0], p[1]));
        using var answer = await demo.PostAsync($"/productions/1/script?handler={handler.Split('&')[0]}", form);
        Assert.Equal(status, answer.StatusCode);
        Assert.Contains(says, await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken), StringComparison.Ordinal);
        Assert.Equal(before, demo.Get<Scripts>().All(1, 100).Count);
    }

    [Fact]
    public async Task Five_thousand_lines_and_a_thousand_of_the_same_are_answered()
    {
        var many = string.Join('\n', Enumerable.Range(0, 5000).Select(i => $"Line {i} of the harbour master about boats and lamps."));
        var same = string.Join('\n', Enumerable.Repeat(Lines().Said, 1000));
        foreach (
            var (script, says) in new[]
            {
                (many, "The first 400 of 5000"),
                (same, "The first 400 of 1000"),
                (many + "\none more line", "more than 5000"),
            }
        )
        {
            using var answer = await demo.PostAsync("/productions/1/script?handler=Bring", [KeyValuePair.Create("pasted", script)]);
            Assert.Contains(says, await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken), StringComparison.Ordinal);
        }
    }
}
