using EmberLane.Core.Transcripts;
using EmberLane.Running;
using EmberLane.Store;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

/// <summary>Reading as the reader likes it: pace, loop, margin, lines, ways of finding, unsure voices.</summary>
public sealed class PageChoicesTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private double Now => Browser.Run<double>("return document.querySelector('#sound').currentTime + 0.0001");

    private Transcript Text => demo.Get<Store.Transcripts>().Get(demo.Get<Footage>().Sitting(1)!.TranscriptId!.Value);

    [Fact]
    public void The_margin_shows_a_clock_a_timecode_or_nothing_and_stays_so_with_the_lines()
    {
        demo.OpenRead(1);
        var first = Text.Words[0].Range.In.FromZero.ToSecondsInexact();
        Browser.UntilText(".turn-who", "0:01");
        Browser.Click("#page-menu summary");
        Browser.Choose("[data-choice=margin]", "timecode of A001C002_FERRY_WIDE");
        // Before the camera rolled there is none; the second turn lies 3.4 s into the sitting's clock before the camera's first frame.
        var second = Turns.Lay(Text)[1];
        var frame = (int)Math.Floor(Math.Round((Text.At(second.First).Range.In.FromZero.ToSecondsInexact() - 3.4) * 25, 6));
        Browser.UntilText(
            FormattableString.Invariant($"#turn-{second.First} .turn-who"),
            FormattableString.Invariant($"01:00:{frame / 25:00}:{frame % 25:00}")
        );
        Assert.True(first < 3.4);
        Assert.DoesNotContain(":", Browser.Text("#turn-0 .turn-who"), StringComparison.Ordinal);
        Browser.Choose("[data-choice=spacing]", "wide");
        demo.OpenRead(1);
        Browser.UntilText(FormattableString.Invariant($"#turn-{second.First} .turn-who"), "01:00:0");
        Assert.Equal("1.95", Browser.Run<string>("return getComputedStyle(document.documentElement).getPropertyValue('--speech-lines')"));
        Browser.Click("#page-menu summary");
        Browser.Choose("[data-choice=margin]", "nothing");
        Browser.Until(() => Browser.All("#page .turn-time").All(t => !t.Displayed), "an empty margin");
        Browser.Choose("[data-choice=margin]", "clock");
        Browser.Type("#page-menu summary", Keys.Escape);
        Browser.Until(() => Browser.All("#page-menu[open]").Count == 0, "the menu to close");
    }

    [Fact]
    public void The_pace_goes_from_half_to_two_and_a_half_with_the_pitch_kept()
    {
        demo.OpenRead(1);
        Browser.Press("+", "+", "+", "+", "=", "=", "=", "=");
        Assert.Equal(
            (2.5, true),
            (
                Browser.Run<double>("return document.querySelector('#sound').playbackRate"),
                Browser.Run<bool>("return document.querySelector('#sound').preservesPitch")
            )
        );
        Browser.Press("-", "-", "-", "-", "-", "-", "-", "-", "-");
        Assert.Equal(
            (0.5, "0.5"),
            (Browser.Run<double>("return document.querySelector('#sound').playbackRate"), Browser.Find("#rate").GetAttribute("value"))
        );
    }

    [Fact]
    public void A_selection_plays_again_and_again_until_the_reader_goes_elsewhere()
    {
        demo.OpenRead(1);
        Browser.Press(Keys.ArrowDown);
        Browser.PressWithShift(Keys.ArrowRight);
        Browser.UntilText("#selected-figure", "2 words");
        var turn = Turns.Lay(Text)[1];
        double from = Text.At(turn.First).Range.In.FromZero.ToSecondsInexact(),
            to = Text.At(turn.First + 1).Range.Out.FromZero.ToSecondsInexact();
        Browser.Run<object?>(
            "window.back = 0; let last = 0; document.querySelector('#sound').addEventListener('seeked', () => { window.back += 1; })"
        );
        Browser.Press("l");
        Browser.Until(() => Browser.Run<long>("return window.back") >= 3, "the third round");
        Assert.InRange(Now, from - 0.3, to + 0.3);
        Assert.Equal("true", Browser.Find("[data-action=loop]").GetDomAttribute("aria-pressed"));
        Browser.Press(Keys.Space, Keys.ArrowDown);
        Assert.Equal("false", Browser.Find("[data-action=loop]").GetDomAttribute("aria-pressed"));
    }

    [Fact]
    public void Finding_may_ask_for_whole_words_the_same_case_and_near_spellings()
    {
        demo.OpenRead(1);
        var all = Turns.Lay(Text).Select(t => Text.Said(t.First, t.Last)).ToList();
        var anywhere = all.Sum(t => t.Split("in").Length - 1);
        var whole = Text.Words.Count(w => Text.TextOf(w) == "in");
        Assert.True(anywhere > whole && whole > 0);
        Browser.Type("#find-words", "in");
        Browser.Until(() => Browser.Text("#found-count") == FormattableString.Invariant($"{anywhere}"), "all places");
        Browser.Click("#find-menu summary");
        Browser.Click("[data-choice=find-whole]");
        Browser.Until(() => Browser.Text("#found-count") == FormattableString.Invariant($"{whole}"), "whole words");
        Browser.Click("[data-choice=find-case]");
        Browser.Empty("#find-words");
        Browser.Type("#find-words", "Nobody");
        Browser.Until(() => Browser.Text("#found-count") == "not found", "none in this case");
        Browser.Click("[data-choice=find-case]");
        Browser.Click("[data-choice=find-near]");
        Browser.Empty("#find-words");
        Browser.Type("#find-words", "noboddy");
        Browser.Until(() => Browser.Text("#found-count") is not ("not found" or ""), "a near spelling");
        Browser.Click("[data-choice=find-whole]");
        Browser.Click("[data-choice=find-near]");
    }

    [Fact]
    public void Turns_whose_voice_is_unsure_say_so_and_are_stepped_through_until_somebody_decides()
    {
        var sitting = demo.Get<Footage>().Sitting(1)!;
        var words = Text
            .Words.Select(w =>
                w with
                {
                    VoiceSure = w.Number.Value is >= 60 and < 64 ? new PerMille(400) : new PerMille(990),
                    Voice = w.Number.Value is >= 60 and < 64 ? 1 : 0,
                }
            )
            .ToList();
        demo.Get<Store.Transcripts>()
            .Add(1, "local", "en", words, new Dictionary<int, string> { [0] = "Maren Oakhurst", [1] = "Tobias Fenn" });
        demo.OpenRead(1);
        Browser.UntilText("#unsure-count", "1 unsure voice");
        Browser.UntilText("#turn-60 .turn-who", "40 % sure");
        Browser.Press("w");
        Browser.UntilText("#selected-figure", "4 words");
        Browser.Press("v");
        Browser.Choose("#give-voice", "Maren Oakhurst");
        Browser.Click("#give-dialog .btn-ember");
        Browser.Until(() => Browser.Text("#unsure-count").Length == 0, "no unsure voice");
        Assert.All(Text.Words.Skip(60).Take(4), w => Assert.Equal(PerMille.All, Text.SureOf(w)));
        Browser.Press("w");
        Browser.UntilText("#notice", "No voice is unsure any more.");
        demo.Get<Texts>().Choose(1, sitting.TranscriptId, "test");
    }
}
