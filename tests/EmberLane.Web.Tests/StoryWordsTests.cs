using EmberLane.Application.Rooms;
using EmberLane.Core.Stories;
using EmberLane.Running;
using EmberLane.Store;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

/// <summary>The story as a text: words selected, cut and pasted, cards parted, joined and stretched; sections, spaces and titles.</summary>
public sealed class StoryWordsTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private StoredStory Story => demo.Get<Desk>().StoryOf(demo.Get<Footage>().Production(1)!, "producer");

    // What each piece says, from top to bottom.
    private List<string> Pieces =>
        [
            .. Browser
                .Run<IReadOnlyCollection<object>>(
                    "return [...document.querySelectorAll('.card-piece')].map(c => c.querySelector('.speech, .other-words, "
                        + ".section-name').textContent.trim().replace(/\\s+/g, ' '))"
                )
                .Cast<string>(),
        ];

    private int PlaceOf(string begins) => Pieces.FindIndex(p => p.StartsWith(begins, StringComparison.Ordinal));

    private void GoTo(int place) => Browser.Run<object?>($"document.querySelectorAll('.card-piece')[{place}].focus(); return null");

    private int PlaceOfSection => Pieces.FindIndex(p => p.Contains("Under the compass", StringComparison.Ordinal));

    private static string[] Words(string said) => said.Split(' ');

    private static string From(string said, int word) => string.Join(' ', Words(said)[word..]);

    private static string To(string said, int word) => string.Join(' ', Words(said)[..word]);

    private string Selected => Browser.Run<string>("return getSelection().toString()");

    private void UntilSettled() =>
        Browser.Until(() => Browser.All(".htmx-request, .htmx-settling, .htmx-added").Count == 0, "the page to be still");

    private void TakeAllBack(int until)
    {
        while (Story.Version > 0 && demo.Get<Stories>().Get(Story.Id, "producer")!.Story.Pieces.Count != until)
        {
            demo.Get<Stories>().Step(Story.Id, redo: false, "producer");
        }
    }

    [Fact]
    public void Words_are_taken_out_pasted_elsewhere_and_come_back_by_keys_alone()
    {
        demo.OpenStory();
        var (before, running) = (Pieces, Browser.Text("#running-time"));
        var said = before[2];
        GoTo(2);
        Browser.Press(Keys.ArrowRight, Keys.ArrowRight);
        Browser.PressWithShift(Keys.ArrowRight);
        Assert.Equal(string.Join(' ', Words(said)[1..3]), Selected);
        Browser.Press("x");
        Browser.Until(() => Pieces.Count == before.Count + 1, "the card to be parted around what went");
        Assert.Equal([To(said, 1), From(said, 3)], Pieces.Skip(2).Take(2));
        Assert.NotEqual(running, Browser.Text("#running-time"));
        UntilSettled();
        // Behind the first card of all.
        GoTo(0);
        Browser.Press("v");
        Browser.Until(() => Pieces.Count == before.Count + 2, "the words to be put in");
        Assert.Equal(string.Join(' ', Words(said)[1..3]), Pieces[1]);
        UntilSettled();
        Browser.Press("u");
        Browser.Until(() => Pieces.Count == before.Count + 1, "the words to be out again");
        UntilSettled();
        Browser.Press("u");
        Browser.Until(() => Pieces.SequenceEqual(before), "the story as it was");
        Assert.Equal(running, Browser.Text("#running-time"));
    }

    [Fact]
    public void A_space_is_left_that_keeps_the_length_and_a_selection_across_cards_goes_as_one()
    {
        demo.OpenStory();
        var (before, pieces) = (Pieces, Story.Story.Pieces);
        var length = demo.Get<Desk>().CutOf(Story).RunningTime(FrameRate.R25);
        var (one, next) = (before[1], before[2]);
        Browser.Run<object?>(
            "const [from, to] = [1, 2].map(n => document.querySelectorAll('.card-piece')[n].querySelector('.speech').firstChild); "
                + "getSelection().setBaseAndExtent(from, arguments[0], to, arguments[1]); return null",
            To(one, 4).Length + 1,
            To(next, 2).Length
        );
        Browser.PressWithShift("x");
        Browser.Until(() => Pieces.Count == before.Count + 1, "the space");
        Assert.Equal((To(one, 4), From(next, 2)), (Pieces[1], Pieces[3]));
        Assert.StartsWith("Space for pictures", Pieces[2], StringComparison.Ordinal);
        // The ends that are cut anew are mended, so that it is as long as before but for that.
        var now = demo.Get<Desk>().CutOf(Story).RunningTime(FrameRate.R25);
        Assert.InRange((now - length).ToMillisecondsRounded(), -600, 600);
        UntilSettled();
        Browser.Press("u");
        Browser.Until(() => Pieces.SequenceEqual(before), "the story as it was");
        Assert.Equal(pieces, Story.Story.Pieces);
    }

    [Fact]
    public void A_card_is_parted_at_a_word_joined_again_and_stretched_so_that_words_come_back()
    {
        demo.OpenStory();
        var before = Pieces;
        var said = before[2];
        GoTo(2);
        Browser.Press(Keys.ArrowRight, Keys.ArrowRight, Keys.ArrowRight, "t");
        Browser.Until(() => Pieces.Count == before.Count + 1, "two cards");
        Assert.Equal([To(said, 2), From(said, 2)], Pieces.Skip(2).Take(2));
        Browser.UntilText("#cards", "goes on without a cut");
        UntilSettled();
        GoTo(2);
        Browser.Press(".");
        Browser.Until(() => Pieces[2] == To(said, 3), "a word to come back");
        UntilSettled();
        GoTo(2);
        Browser.Press(",");
        Browser.Until(() => Pieces[2] == To(said, 2), "it to go again");
        UntilSettled();
        GoTo(2);
        Browser.Press("j");
        Browser.Until(() => Pieces.Count == before.Count, "one card again");
        Assert.Equal(before, Pieces);
        UntilSettled();
        GoTo(0);
        Browser.Press("j");
        Browser.UntilText("#story .alert-line", "does not continue this one");
        for (var i = 0; i < 4; i++)
        {
            demo.Get<Stories>().Step(Story.Id, redo: false, "producer");
        }
        demo.OpenStory();
        Assert.Equal(before, Pieces);
    }

    [Fact]
    public void Ticked_cards_go_together_and_what_was_selected_elsewhere_is_let_go()
    {
        demo.OpenStory();
        var (before, running) = (Pieces, Browser.Text("#running-time"));
        GoTo(0);
        Browser.Press(Keys.ArrowRight);
        Assert.NotEqual("", Selected);
        Browser.Press(Keys.ArrowDown, "m");
        Assert.Equal("", Selected);
        GoTo(3);
        Browser.Press("m");
        Browser.PressWithShift("x");
        Browser.Until(() => Pieces.Count == before.Count - 1, "two cards to leave one space");
        Assert.StartsWith("Space for pictures", Pieces[1], StringComparison.Ordinal);
        Assert.Equal([before[0], before[2], .. before[4..]], Pieces.Where((_, i) => i != 1));
        Assert.Equal(running, Browser.Text("#running-time"));
        UntilSettled();
        GoTo(0);
        Browser.Press("v");
        Browser.Until(() => Pieces.Count == before.Count + 1, "both to be put in");
        Assert.Equal([before[1], before[3]], Pieces.Skip(1).Take(2));
        UntilSettled();
        Browser.Press("u");
        Browser.Until(() => Pieces.Count == before.Count - 1, "them to be out again");
        UntilSettled();
        Browser.Press("u");
        Browser.Until(() => Pieces.SequenceEqual(before), "the story as it was");
    }

    [Fact]
    public void Text_from_elsewhere_is_not_taken_for_footage_and_nothing_is_changed()
    {
        demo.OpenStory();
        var version = Story.Version;
        Browser.Run<object?>(
            "localStorage.setItem('ember-story-clip', JSON.stringify({ text: 'Ninety years', json: '[]' })); const data = new "
                + "DataTransfer(); data.setData('text/plain', 'From a letter'); document.body.dispatchEvent(new ClipboardEvent('paste', { "
                + "clipboardData: data, bubbles: true, cancelable: true })); return null"
        );
        Browser.UntilText("#notice", "no footage belongs to it");
        Assert.Equal(version, Story.Version);
    }

    [Fact]
    public void A_section_is_laid_folded_moved_as_one_and_dissolved_and_a_space_title_and_narration_have_their_lengths()
    {
        demo.OpenStory();
        var before = Pieces;
        void Lay(int behind, string kind, string text, string length)
        {
            GoTo(behind);
            Browser.Press("a");
            Browser.Until(() => Browser.Find("#text-new").Displayed, "the form");
            Browser.Run<object?>("document.querySelector(`#add-piece [value=\"${arguments[0]}\"]`).click(); return null", kind);
            Browser.Type("#text-new", text);
            Browser.Type("#length-new", length);
            var count = Pieces.Count;
            Browser.Click("#add-piece form:first-of-type .btn-ember");
            Browser.Until(() => Pieces.Count == count + 1, "it to be laid");
            UntilSettled();
        }
        Lay(0, "section", "Under the compass", "0:10");
        Assert.StartsWith("− Under the compass", Pieces[1], StringComparison.Ordinal);
        Browser.UntilText(".section-head .card-figures", "over 0:10.0");
        Lay(2, "narration", "It ran for ninety years, six minutes at a time.", "");
        Browser.UntilText(".narration-piece .card-figures", "0:04.0");
        Browser.UntilText(".shares", "Lines to record");
        Lay(2, "title", "Tern Hollow", "3");
        Browser.UntilText(".title-piece .card-figures", "0:03.0");
        // Folded, its cards are not seen; moved up, they come along.
        GoTo(PlaceOfSection);
        Browser.Press("f");
        Browser.Until(() => Browser.All(".piece[hidden]").Count == before.Count + 1, "the cards to fold");
        UntilSettled();
        GoTo(PlaceOfSection);
        Browser.Press("[");
        Browser.Until(() => PlaceOf("+ Under the compass") == 0, "the section at the top");
        Assert.Equal(before[0], Pieces[^1]);
        UntilSettled();
        GoTo(PlaceOfSection);
        Browser.Press("x");
        Browser.Until(() => Browser.All(".section-head").Count == 0, "the heading to go");
        Assert.Equal(before.Count + 2, Pieces.Count);
        TakeAllBack(before.Count);
        demo.OpenStory();
        Assert.Equal(before, Pieces);
    }

    [Fact]
    public void A_bite_lies_beside_a_card_takes_its_place_and_lends_it_its_picture()
    {
        demo.OpenStory();
        var before = Pieces;
        GoTo(1);
        Browser.Run<object?>("document.querySelector('.shelf-bite').focus(); return null");
        Browser.Press("k");
        Browser.UntilText("#cards", "1 other take");
        UntilSettled();
        Browser.Run<object?>("document.querySelector('.shelf-bite').focus(); return null");
        Browser.Press("o");
        Browser.UntilText("#cards", "Over it: the picture of");
        UntilSettled();
        var bite = long.Parse(
            Browser.Find(".shelf-bite:nth-child(2)").GetAttribute("data-bite")!,
            System.Globalization.CultureInfo.InvariantCulture
        );
        Browser.Run<object?>("document.querySelectorAll('.shelf-bite')[1].focus(); return null");
        Browser.Press("i");
        Browser.Until(() => Story.Story.Cards[1].BiteId == bite, "the bite in its place");
        Assert.Equal(2, Story.Story.Cards[1].OtherTakes.Split(' ').Length);
        UntilSettled();
        foreach (var _ in before.Take(3))
        {
            Browser.Press("u");
            UntilSettled();
        }
        Browser.Until(() => Story.Story.Cards[1] is { OtherTakes: "", Over: null }, "all of it to be taken back");
        Browser.Until(() => Pieces.SequenceEqual(before), "the story as it was");
    }

    [Fact]
    public void Words_selected_in_Read_are_kept_and_laid_at_the_storys_end_at_once()
    {
        var before = Story.Story.Pieces.Count;
        demo.OpenReadAt(demo.Crossing.At(new(30)).Number);
        Browser.PressWithShift(Keys.ArrowRight);
        Browser.Press("b");
        Browser.Until(() => Browser.Find("#keep-dialog").Displayed, "the bite to be described");
        Browser.Click("#keep-dialog [name=lay]");
        Browser.Until(() => Story.Story.Pieces.Count == before + 1, "the card");
        var card = Story.Story.Cards[^1];
        Assert.Equal(2, demo.Get<Stories>().ReadingsOf(Story.Id)[card.Id].Said.Split(' ').Length);
        TakeAllBack(before);
    }

    [Fact]
    public async Task A_hostile_clip_is_refused_with_a_word_and_the_story_still_opens()
    {
        var card = Story.Story.Cards[0];
        string Clip(string takes, long from, long to) =>
            System.Text.Json.JsonSerializer.Serialize<IReadOnlyList<Piece>>([
                card with
                {
                    OtherTakes = takes,
                    Range = new SittingRange(
                        new SittingTime(MediaTime.FromMilliseconds(from)),
                        new SittingTime(MediaTime.FromMilliseconds(to))
                    ),
                },
            ]);
        foreach (
            var (clip, says) in new[]
            {
                (Clip("abc", 0, 900), "other takes"),
                (Clip(string.Join(' ', Enumerable.Range(1, 90)), 0, 900), "other takes"),
                (Clip("", 0, 900_000_000), "outside of any sitting"),
                (Clip("", 0, 0), "Nothing would be left"),
                ("[{\"$type\":\"card\"}]", "not kept any more"),
                ("{\"sitting\":1,\"text\":999,\"first\":0,\"last\":3}", "is read by another text"),
                ("{\"sitting\":\"x\",\"first\":1e99}", "Nothing was cut"),
                ("[{\"$type\":\"nonsense\"}]", "Nothing was cut"),
                ("[null]", "Nothing was cut"),
                ("{", "Nothing was cut"),
                ("[]", "Nothing was cut"),
                (new string('[', 100_000), "Nothing was cut"),
            }
        )
        {
            using var answer = await demo.PostAsync("/productions/1/story?handler=Paste&version=0", [new("clip", clip)]);
            Assert.Contains(says, await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        }
        demo.OpenStory();
        Assert.Equal(Story.Story.Pieces.Count, Pieces.Count);
    }
}
