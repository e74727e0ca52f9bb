using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;
using EmberLane.Running;
using EmberLane.Store;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

/// <summary>What is marked on the page: set aside, flags, bites with themes, pauses; and the strip that shows them.</summary>
public sealed class MarksTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private long Id => demo.Get<Footage>().Sitting(1)!.TranscriptId!.Value;

    private Transcript Now => demo.Crossing;

    private static readonly Signed Logger = new("logger", null);

    private List<WordNumber> Numbers(Func<RecordWord, bool> which) => [.. Now.Words.Where(which).Select(w => w.Number)];

    private string Lit => Browser.Run<string>("const [range] = CSS.highlights.get('playing'); return range ? range.toString() : ''");

    [Fact]
    public void Words_set_aside_fold_to_a_mark_are_passed_over_open_on_a_click_and_come_back()
    {
        var first = demo.WordOf("one thousand people satellite");
        demo.OpenReadAt(first);
        Browser.Press(Keys.ArrowRight);
        demo.SelectWords(2);
        Browser.Press("x");
        Browser.UntilText(FormattableString.Invariant($"#turn-{first} .fold"), "2 words aside · 0:0");
        Assert.Equal([first.Next, first.Next.Next], Numbers(Now.IsAside));
        Assert.DoesNotContain("thousand people", Browser.Text("#page"), StringComparison.Ordinal);
        Browser.Until(() => Browser.All("#strip .strip-aside").Count == 1, "the strip to show it");
        // Arrows step over what is folded; finding opens it.
        demo.OpenReadAt(first);
        Browser.Press(Keys.ArrowRight);
        Browser.Until(() => Lit == "satellite", "the word behind the fold");
        Browser.Press(Keys.ArrowLeft);
        Browser.Until(() => Lit == "one", "the word before it");
        Browser.Click(".fold");
        Browser.Press(Keys.ArrowRight);
        Browser.Until(() => Lit == "thousand", "a word in the open fold");
        // What is mended within stays open.
        Browser.Press("a");
        Browser.UntilText(FormattableString.Invariant($"#turn-{first} .aside"), "Thousand people");
        Browser.Press("u");
        Browser.UntilText(FormattableString.Invariant($"#turn-{first} .aside"), "thousand people");
        demo.SelectWords(2);
        Browser.UntilText("#actions", "Bring back");
        Browser.Press("x");
        Browser.Until(() => Browser.All(".fold").Count == 0, "the words to be back");
        Assert.Empty(Numbers(Now.IsAside));
        Browser.Driver.SwitchTo().ActiveElement().SendKeys(Keys.Control + "z");
        Browser.UntilText(".fold", "2 words aside");
        Browser.Driver.SwitchTo().ActiveElement().SendKeys(Keys.Control + "y");
        Browser.Until(() => Browser.All(".fold").Count == 0, "the words to be back again");
    }

    [Fact]
    public async Task What_is_set_aside_is_shown_at_choice_and_taken_out_only_when_asked_for()
    {
        var first = demo.PlaceOf("feet first");
        demo.Get<Store.Transcripts>().Apply(Id, t => Marking.TurnAside(t, first, first + 1, Logger), "logger");
        demo.OpenReadAt(new(0));
        Assert.DoesNotContain("feet first", Browser.Text("#page"), StringComparison.Ordinal);
        Browser.Click("#page-menu summary");
        Browser.Choose("[data-choice=aside]", "shown");
        Browser.UntilText("#page", "feet first");
        Browser.Choose("[data-choice=aside]", "folded");
        using var client = new HttpClient();
        var address = demo.Server.Address + "/productions/1/read/1?handler=Take&format=txt";
        Assert.DoesNotContain(
            "feet first",
            await client.GetStringAsync(new Uri(address), TestContext.Current.CancellationToken),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "feet first",
            await client.GetStringAsync(new Uri(address + "&aside=true"), TestContext.Current.CancellationToken),
            StringComparison.Ordinal
        );
        demo.Get<Store.Transcripts>().Step(Id, redo: false, "logger");
    }

    [Fact]
    public void A_flag_is_put_seen_in_the_strip_found_again_changed_and_taken_away()
    {
        var word = demo.WordOf("one thousand people").Next;
        demo.OpenReadAt(word);
        Browser.Press("f");
        Browser.Choose("#flag-kind", "use this");
        Browser.Type("#flag-note", "<b>sixty</b>" + Keys.Enter);
        Browser.UntilText("#page .flag", "use this");
        Assert.Equal(
            (MarkKind.UseThis, "<b>sixty</b>"),
            Now.FlagsBefore(Now.At(Now.PlaceOf(word)!.Value)).Select(f => (f.Kind, f.Note)).Single()
        );
        Browser.Until(() => Browser.All("#strip .strip-flag").Count == 1, "the strip to show it");
        demo.OpenReadAt(new(0));
        Browser.PressWithShift("f");
        Browser.Until(() => Lit == "thousand", "the flagged word");
        Browser.Click("#page .flag");
        Assert.Equal("<b>sixty</b>", Browser.Find("#flag-note").GetAttribute("value"));
        Browser.Click("#flag-dialog [name=away]");
        Browser.Until(() => Browser.All("#page .flag").Count == 0, "the flag to go");
        Browser.Press("u");
        Browser.UntilText("#page .flag", "use this");
        Browser.Press("u");
        Browser.Until(() => Browser.All("#page .flag").Count == 0, "the flag to go again");
        Browser.PressWithShift("f");
        Browser.UntilText("#notice", "There is no flag yet.");
    }

    [Fact]
    public void A_bite_stands_in_the_margin_and_its_theme_is_written_there()
    {
        var bite = demo.Get<Store.Bites>().Of(1).First(b => b.SittingId == 1);
        demo.OpenReadAt(bite.FirstWord);
        Browser.UntilText("#page .turn-bites", bite.Theme);
        Browser.Press("t");
        Browser.Until(() => Browser.Find("#theme-theme").GetAttribute("value") == bite.Theme, "its theme");
        Browser.Type("#theme-theme", Keys.End + " & <i>" + Keys.Enter);
        Browser.UntilText("#page .turn-bites", bite.Theme + " & <i>");
        Assert.Equal(bite.Theme + " & <i>", demo.Get<Store.Bites>().Get(bite.Id)!.Theme);
        Browser.Click("#page .turn-bites button");
        Browser.Until(() => Browser.Find("#theme-dialog").Displayed, "the dialog");
        Browser.Type("#theme-theme", Keys.Escape);
        demo.Get<Store.Bites>().Describe(bite.Id, bite.Theme, bite.Note, "producer");
    }

    [Fact]
    public void Pauses_are_shown_with_their_length_from_the_length_that_the_reader_sets()
    {
        demo.OpenReadAt(new(0));
        var pauses = Now
            .Words.Zip(Now.Words.Skip(1))
            .Select(p => ((p.Second.Range.In - p.First.Range.Out).ToMillisecondsRounded() + 50) / 100)
            .ToList();
        Browser.Click("#page-menu summary");
        foreach (var (choice, tenths) in new[] { ("from 0.5 s", 5), ("from 2 s", 20), ("from 1 s", 10) })
        {
            Browser.Choose("[data-choice=pauses]", choice);
            Browser.Until(
                () => Shown() == pauses.Count(p => p >= tenths),
                FormattableString.Invariant($"{pauses.Count(p => p >= tenths)} pauses, not {Shown()}")
            );
        }
        Assert.Contains(
            Browser.Run<IReadOnlyCollection<object>>("return [...document.querySelectorAll('#page .pause')].map((p) => p.textContent)"),
            p => (string)p == (pauses.Max() / 10m).ToString("0.0", System.Globalization.CultureInfo.InvariantCulture) + " s"
        );
        Browser.Choose("[data-choice=pauses]", "not shown");
        Browser.Until(() => Shown() == 0, "no pauses");
        Browser.Choose("[data-choice=pauses]", "from 1 s");
        Browser.Type("#page-menu summary", Keys.Escape);

        long Shown() =>
            Browser.Run<long>(
                "return [...document.querySelectorAll('#page .pause')].filter((p) => getComputedStyle(p).display !== 'none').length"
            );
    }

    [Fact]
    public void The_strip_shows_what_the_page_shows_and_leads_to_any_moment()
    {
        demo.OpenReadAt(new(0));
        var box = Browser.Run<Dictionary<string, object>>(
            "const { left, top, width, height } = document.getElementById('strip').getBoundingClientRect(); return { left, top, width, "
                + "height }"
        );
        double Number(string of) => Convert.ToDouble(box[of], System.Globalization.CultureInfo.InvariantCulture);
        Browser.Run<object?>(
            "const s = document.getElementById('strip'), b = s.getBoundingClientRect(); s.dispatchEvent(new MouseEvent('click', { bubbles: "
                + "true, clientX: b.left + 90, clientY: b.top + (b.height * 0.75) })); return null"
        );
        var asked = Now.Words[^1].Range.Out.FromZero.ToSecondsInexact() * 0.75;
        Browser.Until(
            () => Math.Abs(Browser.Run<double>("return document.querySelector('#sound').currentTime + 0.0001") - asked) < 3,
            "the moment"
        );
        Browser.Until(
            () =>
                Browser.Run<bool>(
                    """
                    const view = document.getElementById("strip-view").getBoundingClientRect(),
                        now = document.getElementById("strip-now").getBoundingClientRect();
                    return view.top <= now.top && now.top <= view.bottom && view.height < 300;
                    """
                ),
            "the frame around what is shown to hold where it is"
        );
        Assert.True(Number("height") > 400 && Browser.All("#strip text").Count > 5);
    }

    [Fact]
    public void Capitals_and_marks_are_changed_by_a_key_that_goes_on_when_it_is_pressed_again()
    {
        var at = demo.PlaceOf("one thousand people");
        var first = demo.WordOf("one thousand people");
        demo.OpenReadAt(first);
        demo.SelectWords(3);
        foreach (var said in new[] { "One Thousand People", "ONE THOUSAND PEOPLE", "one thousand people" })
        {
            Browser.Press("a");
            Browser.UntilText(FormattableString.Invariant($"#turn-{first}"), said);
        }
        foreach (var said in new[] { "people.", "people,", "people?" })
        {
            Browser.Press(".");
            Browser.UntilText(FormattableString.Invariant($"#turn-{first}"), said);
        }
        Browser.Press(".");
        Browser.Until(() => Now.Said(at, at + 2) == "one thousand people", "the words as they were");
        Assert.Empty(Now.Layers.Retyped);
    }

    [Fact]
    public void Words_are_copied_in_one_step_the_selection_or_the_whole_with_names()
    {
        var first = demo.WordOf("one thousand people");
        // What would go to the clipboard; a browser without a monitor has none to give to a test.
        demo.OpenReadAt(first);
        Browser.Run<object?>(
            "window.copied = []; navigator.clipboard.writeText = (text) => { window.copied.push(text); return Promise.resolve(); }; return "
                + "null"
        );
        demo.SelectWords(3);
        Browser.Press("c");
        Browser.UntilText("#notice", "The selected words are copied.");
        Browser.Run<object?>(
            "document.getElementById('notice').textContent = ''; document.dispatchEvent(new ClipboardEvent('copy', { bubbles: true })); "
                + "return null"
        );
        Browser.UntilText("#notice", "The selected words are copied.");
        Browser.Press(Keys.Escape, "c");
        Browser.UntilText("#notice", "The whole text is copied.");
        var copied = Browser.Run<IReadOnlyCollection<object>>("return window.copied").Cast<string>().ToList();
        Assert.Equal(["one thousand people\n", "one thousand people\n"], copied[..2]);
        Assert.Contains("MAREN OAKHURST: thirty one years", copied[2], StringComparison.Ordinal);
    }

    [Fact]
    public void A_doubtful_word_that_is_right_is_settled_by_a_key_that_goes_on_to_the_next()
    {
        demo.OpenReadAt(new(0));
        var doubtful = Now.Words.Where(Now.IsDoubtful).Select(w => w.Number).ToList();
        Browser.Press("n");
        Browser.Until(() => Lit == Now.TextOf(Now.At(Now.PlaceOf(doubtful[0])!.Value)), "the first doubtful word");
        Browser.Press("y", "y");
        Browser.Until(() => Numbers(Now.IsSettled).Count == 2, "two settled words");
        Assert.Equal(doubtful[..2], Numbers(Now.IsSettled));
        Browser.Until(() => Lit == Now.TextOf(Now.At(Now.PlaceOf(doubtful[2])!.Value)), "the third doubtful word");
        Browser.UntilText("#doubtful-count", FormattableString.Invariant($"{doubtful.Count - 2} doubtful"));
        // Correcting a word to what it is says the same.
        Browser.Press("e");
        Browser.Type("#correct-text", Keys.Enter);
        Browser.UntilText("#doubtful-count", FormattableString.Invariant($"{doubtful.Count - 3} doubtful"));
        foreach (var left in new[] { 2, 1, 0 })
        {
            Browser.Press("u");
            Browser.UntilText("#doubtful-count", FormattableString.Invariant($"{doubtful.Count - left} doubtful"));
        }
        // All doubtful ones of a selection that was drawn backwards.
        demo.OpenReadAt(doubtful[2]);
        while (
            Browser.Run<long>("return CSS.highlights.get('chosen').size") == 0
            || !Browser
                .Run<string>("return [...CSS.highlights.get('chosen')][0].toString()")
                .StartsWith(Now.TextOf(Now.At(Now.PlaceOf(doubtful[0])!.Value)) + " ", StringComparison.Ordinal)
        )
        {
            Browser.PressWithShift(Keys.ArrowLeft);
        }
        Browser.Press("y");
        Browser.Until(() => Numbers(Now.IsSettled).Count == 3, "three settled words");
        Browser.Until(() => Lit == Now.TextOf(Now.At(Now.PlaceOf(doubtful[3])!.Value)), "the fourth doubtful word");
        Browser.Press("u");
        Browser.UntilText("#doubtful-count", FormattableString.Invariant($"{doubtful.Count} doubtful"));
        demo.OpenReadAt(Now.Words.First(w => !Now.IsDoubtful(w)).Number);
        Browser.Press("y");
        Browser.UntilText("#notice", "Nothing is doubtful here.");
    }

    [Fact]
    public void An_unsure_voice_that_is_right_is_settled_as_a_whole_turn()
    {
        var sitting = demo.Get<Footage>().Sitting(1)!;
        var words = Now
            .Words.Select(w =>
                w with
                {
                    VoiceSure = w.Number.Value is >= 60 and < 64 or >= 90 and < 95 ? new PerMille(400) : new PerMille(990),
                    Voice = w.Number.Value is >= 60 and < 64 or >= 90 and < 95 ? 1 : 0,
                }
            )
            .ToList();
        demo.Get<Store.Transcripts>()
            .Add(1, "local", "en", words, new Dictionary<int, string> { [0] = "Maren Oakhurst", [1] = "Tobias Fenn" });
        demo.OpenRead(1);
        Browser.Press("w");
        Browser.UntilText("#selected-figure", "4 words");
        Browser.Press("y");
        Browser.UntilText("#selected-figure", "5 words");
        Browser.UntilText("#unsure-count", "1 unsure voice");
        Browser.Press("y");
        Browser.UntilText("#notice", "No voice is unsure any more.");
        Browser.Until(() => Browser.Text("#unsure-count").Length == 0, "no unsure voice");
        Assert.Equal(9, Now.Layers.Given.Count(g => g.Value == 1));
        Assert.Empty(Numbers(Now.IsSettled));
        demo.Get<Texts>().Choose(1, sitting.TranscriptId, "test");
    }

    [Fact]
    public void Playing_passes_over_what_is_folded_and_plays_it_when_it_is_shown()
    {
        var first = demo.WordOf("rails and and nobody ever");
        var at = demo.PlaceOf("rails and and nobody ever");
        demo.Get<Store.Transcripts>().Apply(Id, t => Marking.TurnAside(t, at + 1, at + 4, Logger), "logger");
        double from = Now.At(at + 1).Range.In.FromZero.ToSecondsInexact(),
            to = Now.At(at + 5).Range.In.FromZero.ToSecondsInexact();
        foreach (var shown in new[] { false, true })
        {
            demo.OpenReadAt(first);
            if (shown)
            {
                Browser.Click(".fold");
            }
            Browser.Run<object?>(
                "window.heard = []; const sound = document.getElementById('sound'); const look = () => { "
                    + "window.heard.push(sound.currentTime); requestAnimationFrame(look); }; look(); return null"
            );
            Browser.Press(Keys.Space);
            Browser.Until(() => Browser.Run<bool>("return window.heard.some((at) => at > arguments[0])", to + 0.1), "what comes behind");
            Browser.Press(Keys.Space);
            Assert.Equal(
                shown,
                Browser.Run<bool>("return window.heard.some((at) => at > arguments[0] && at < arguments[1])", from + 0.25, to - 0.1)
            );
        }
        demo.Get<Store.Transcripts>().Step(Id, redo: false, "logger");
    }

    [Fact]
    public void After_a_click_on_a_button_of_the_page_Space_plays_and_two_quick_undos_are_both_shown()
    {
        demo.OpenReadAt(new(0));
        Browser.Click("#page .who");
        Browser.Until(() => Browser.Find("#voice-dialog").Displayed, "the dialog");
        Browser.Type("#voice-name", Keys.Escape);
        Browser.Until(() => !Browser.Find("#voice-dialog").Displayed, "the dialog to close");
        Browser.Press(Keys.Space);
        Browser.Until(() => Browser.Run<bool>("return !document.getElementById('sound').paused"), "the sound");
        Browser.Press(Keys.Space);
        Assert.False(Browser.Find("#voice-dialog").Displayed);
        var words = new[] { demo.WordOf("one thousand people"), demo.WordOf("nobody on the bridge") };
        demo.OpenReadAt(words[0]);
        Browser.Press("a");
        Browser.UntilText("#page", "One thousand people");
        demo.OpenReadAt(words[1]);
        Browser.Press("a");
        Browser.UntilText("#page", "Nobody on the bridge");
        Browser.Press("u", "u");
        Browser.Until(
            () =>
                Browser.Text("#page") is var page
                && page.Contains("one thousand people", StringComparison.Ordinal)
                && page.Contains("thinking nobody on", StringComparison.Ordinal),
            "both as they were"
        );
        Assert.Empty(Now.Layers.Retyped);
    }

    [Fact]
    public void A_person_who_speaks_in_two_sittings_is_named_anew_in_both_and_a_name_that_is_here_makes_two_voices_one()
    {
        var store = demo.Get<Store.Transcripts>();
        var hut = demo.Get<Footage>().Sitting(2)!.TranscriptId!.Value;
        demo.OpenReadAt(new(0));
        Browser.Press("v");
        Browser.UntilText("#voice-everywhere", "in the other sitting too");
        Browser.Type("#voice-name", Keys.Control + "a");
        Browser.Type("#voice-name", "Wren Adair" + Keys.Enter);
        Browser.UntilText("#voices", "Wren Adair");
        Assert.Contains("Wren Adair", store.VoiceNames(hut).Values);
        Browser.Press("v");
        Browser.Until(() => Browser.Find("#voice-everywhere input").Displayed, "the choice");
        Browser.Click("#voice-everywhere input");
        Browser.Type("#voice-name", Keys.Control + "a");
        Browser.Type("#voice-name", "tobias fenn" + Keys.Enter);
        Browser.Until(() => !Browser.Text("#voices").Contains("Wren Adair", StringComparison.Ordinal), "the two to be one");
        Assert.Contains("Wren Adair", store.VoiceNames(hut).Values);
        Assert.Equal(2, Now.Voices().Count);
        Browser.Press("u");
        Browser.UntilText("#voices", "Wren Adair");
        Browser.Press("u");
        Browser.UntilText("#voices", "Interviewer");
        store.Step(hut, redo: false, "producer");
        Assert.Contains("Interviewer", store.VoiceNames(hut).Values);
    }
}
