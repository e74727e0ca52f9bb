using EmberLane.Core.Transcripts;
using EmberLane.Running;
using EmberLane.Store;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

public sealed class MendingTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private long Id => demo.Get<Footage>().Sitting(1)!.TranscriptId!.Value;

    private Transcript Now => demo.Crossing;

    private void TakeBack(Func<bool> until)
    {
        Browser.Press("u");
        Browser.Until(until, "the change to be taken back");
    }

    [Fact]
    public void A_selection_is_given_to_somebody_new_by_keyboard_joined_to_another_and_taken_back()
    {
        var first = demo.WordOf("one thousand people");
        demo.OpenReadAt(first);
        demo.SelectWords(3);
        Browser.Press("v");
        Browser.UntilText("#give-words", "one thousand people");
        Browser.Type("#give-name", "Anselm Roe" + Keys.Enter);
        Browser.UntilText("#voices", "Anselm Roe");
        Browser.UntilText(FormattableString.Invariant($"#turn-{first} .who"), "Anselm Roe");
        Assert.Equal(3, Now.Words.Count(w => Now.NameOf(Now.VoiceOf(w)) == "Anselm Roe"));
        Browser.Until(
            () =>
            {
                Browser.All("#voices .who").Single(w => w.Text.Contains("Anselm Roe", StringComparison.Ordinal)).Click();
                return true;
            },
            "the voice to be clicked"
        );
        Browser.Choose("#voice-into", "Interviewer");
        Browser.Click("#voice-dialog .btn-ember");
        Browser.Until(() => !Browser.Text("#voices").Contains("Anselm Roe", StringComparison.Ordinal), "the two to be one");
        TakeBack(() => Browser.Text("#voices").Contains("Anselm Roe", StringComparison.Ordinal));
        TakeBack(() => !Browser.Text("#voices").Contains("Anselm Roe", StringComparison.Ordinal));
        Assert.Empty(Now.Layers.Given);
    }

    [Fact]
    public void Words_leave_the_text_as_a_dot_and_come_back()
    {
        var first = demo.WordOf("and and nobody");
        demo.OpenReadAt(first);
        demo.SelectWords(2);
        Browser.Press("o");
        Browser.UntilText("#page", "rails · · nobody");
        Assert.Equal([first, first.Next], Now.Layers.Hidden);
        Browser.Driver.Navigate().Refresh();
        Browser.UntilText("#page", "rails · · nobody");
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('read')?.dataset.ready === 'true'"), "the page of turns");
        TakeBack(() => Browser.Text("#page").Contains("rails and and nobody", StringComparison.Ordinal));
    }

    [Fact]
    public void Two_words_become_one_that_keeps_both_times_and_two_again()
    {
        var first = demo.WordOf("feet first");
        demo.OpenReadAt(first);
        demo.SelectWords(2);
        Browser.Press("j");
        Browser.UntilText("#page", "feetfirst");
        Assert.Equal([first.Next], Now.Layers.Joined);
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('read')?.dataset.ready === 'true'"), "the page of turns");
        demo.OpenReadAt(first.Next);
        Browser.Until(
            () =>
                Math.Abs(
                    Browser.Run<double>("return document.querySelector('#sound').currentTime + 0.0001")
                        - Now.At(Now.PlaceOf(first.Next)!.Value).Range.In.FromZero.ToSecondsInexact()
                ) < 0.01,
            "the second part's own time"
        );
        Assert.Equal("first", Browser.Run<string>("return [...CSS.highlights.get('playing')][0].toString()"));
        TakeBack(() => Browser.Text("#page").Contains("feet first", StringComparison.Ordinal));
        Assert.Empty(Now.Layers.Joined);
    }

    [Fact]
    public void A_word_is_split_and_another_added_by_keyboard_each_with_a_time_of_its_own_and_taken_back()
    {
        var word = Now.At(demo.PlaceOf("one thousand people") + 1);
        demo.OpenReadAt(word.Number);
        Browser.Press("e");
        Browser.Type("#correct-text", Keys.Control + "a");
        Browser.Type("#correct-text", "thou <sand>" + Keys.Enter);
        Browser.UntilText("#page", "one thou <sand> people");
        var part = Now.At(Now.PlaceOf(word.Number)!.Value + 1);
        Assert.True(
            part.Number.Value >= Now.Record.Count && part.Range.In > word.Range.In && part.Range.Out == word.Range.Out,
            part.ToString()
        );
        // The page goes to the part by its own time, and to words behind it as before.
        Browser.Press(Keys.ArrowRight);
        Browser.Until(
            () =>
                Math.Abs(
                    Browser.Run<double>("return document.querySelector('#sound').currentTime + 0.0001")
                        - part.Range.In.FromZero.ToSecondsInexact()
                ) < 0.01,
            "the second part's own time"
        );
        Browser.Press("i");
        Browser.UntilText("#insert-beside", "<sand>");
        Browser.Type("#insert-text", "hungry" + Keys.Enter);
        Browser.UntilText("#page", "thou <sand> hungry people");
        demo.OpenReadAt(part.Number);
        demo.SelectWords(3);
        Browser.Press("o");
        Browser.UntilText("#page", "one thou · · · ");
        TakeBack(() => Browser.Text("#page").Contains("<sand> hungry people", StringComparison.Ordinal));
        TakeBack(() => Browser.Text("#page").Contains("<sand> people", StringComparison.Ordinal));
        TakeBack(() => Browser.Text("#page").Contains("one thousand people", StringComparison.Ordinal));
        Assert.Equal(Now.Record.Count, Now.Words.Count);
    }

    [Fact]
    public void A_page_that_is_laid_anew_stays_where_it_was()
    {
        var last = Now.Words[Now.Words.Count / 2].Number;
        demo.OpenReadAt(last);
        var was = Top();
        Assert.True(Browser.Run<double>("return document.getElementById('page').scrollTop + 0.0001") > 300);
        demo.SelectWords(2);
        Browser.Press("j");
        Browser.Until(
            () =>
                Now.Layers.Joined.Count == 1
                && Browser.Run<bool>(
                    "return document.querySelector('#page').textContent.includes(arguments[0])",
                    Now.Said(Now.PlaceOf(last)!.Value, Now.PlaceOf(last)!.Value + 1)
                ),
            "the words to be one"
        );
        Browser.Until(() => Math.Abs(Top() - was) < 3, "the page to be where it was");
        TakeBack(() => Now.Layers.Joined.IsEmpty);
        Browser.Until(() => Math.Abs(Top() - was) < 3, "the page to be where it was again");

        double Top() => Browser.Run<double>("return [...CSS.highlights.get('playing')][0].getBoundingClientRect().top + 0.0001");
    }

    [Fact]
    public void Right_to_left_words_lie_and_are_stepped_through_as_they_are_read()
    {
        var at = demo.PlaceOf("one thousand people");
        var first = demo.WordOf("one thousand people");
        demo.OpenReadAt(first);
        var store = demo.Get<Store.Transcripts>();
        store.Apply(Id, now => Respell.Over(now, at, at + 2, "אלף אנשים באו"), "producer");
        store.Apply(Id, VoiceEdits.Give(Now, at, at + 2, Now.FreshVoice(), "נועה"), "producer");
        demo.OpenReadAt(first);
        Assert.Equal(
            "rtl",
            Browser.Run<string>(
                "return getComputedStyle(document.querySelector(arguments[0] + ' .speech')).direction",
                FormattableString.Invariant($"#turn-{first}")
            )
        );
        var right = Left();
        Browser.Press(Keys.ArrowLeft);
        Browser.Until(() => Browser.Run<string>("return [...CSS.highlights.get('playing')][0].toString()") == "אנשים", "the next word");
        Assert.True(Left() < right);
        Browser.Press(Keys.ArrowRight);
        Browser.Until(() => Browser.Run<string>("return [...CSS.highlights.get('playing')][0].toString()") == "אלף", "the word before");
        TakeBack(() => !Browser.Text("#voices").Contains("נועה", StringComparison.Ordinal));
        TakeBack(() => Browser.Text("#page").Contains("one thousand people", StringComparison.Ordinal));

        double Left() => Browser.Run<double>("return [...CSS.highlights.get('playing')][0].getBoundingClientRect().left + 0.0001");
    }

    [Fact]
    public void Selected_words_are_corrected_together()
    {
        var first = demo.WordOf("feet first");
        demo.OpenReadAt(first);
        demo.SelectWords(2);
        Browser.Press("e");
        Browser.UntilText("#correct-title", "Correct the words");
        Browser.Type("#correct-text", Keys.Control + "a");
        Browser.Type("#correct-text", "feetfirst" + Keys.Enter);
        Browser.UntilText("#page", "feetfirst");
        Assert.Equal([first.Next], Now.Layers.Joined);
        demo.OpenReadAt(first.Next);
        Browser.Press("e");
        Assert.Equal("feetfirst", Browser.Find("#correct-text").GetAttribute("value"));
        Browser.Type("#correct-text", Keys.Escape);
        TakeBack(() => Browser.Text("#page").Contains("feet first", StringComparison.Ordinal));
    }

    [Fact]
    public void What_somebody_else_changed_meanwhile_is_not_written_over()
    {
        var word = demo.WordOf("one thousand people");
        demo.OpenReadAt(word);
        Browser.Press("e");
        demo.Get<Store.Transcripts>().Apply(Id, new Retype(word, "eleven"), "logger");
        Browser.Type("#correct-text", Keys.Control + "a");
        Browser.Type("#correct-text", "ten" + Keys.Enter);
        Browser.UntilText("#notice", "it reads “eleven” now");
        Assert.Equal("ten", Browser.Find("#correct-text").GetAttribute("value"));
        Assert.Equal("eleven", Now.TextOf(Now.At(Now.PlaceOf(word)!.Value)));
        Browser.Type("#correct-text", Keys.Escape);
        Browser.Press("u");
        demo.Get<Store.Transcripts>().Step(Id, redo: false, "logger");
    }

    [Fact]
    public void A_person_gives_a_name_and_sees_that_somebody_else_changed_the_text_and_whose_undo_is_whose()
    {
        var word = demo.WordOf("one thousand people");
        demo.OpenReadAt(word);
        Browser.Click("#person-menu summary");
        Browser.Type("#person-name", Keys.Control + "a");
        Browser.Type("#person-name", "Ilse <V>" + Keys.Enter);
        Browser.UntilText("#person-menu", "Ilse <V>");
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('read')?.dataset.ready === 'true'"), "the page of turns");
        demo.OpenReadAt(word);
        Browser.Press("e");
        Browser.Type("#correct-text", Keys.Control + "a");
        Browser.Type("#correct-text", "seven" + Keys.Enter);
        Browser.UntilText("#page", "seven thousand people");
        Assert.Equal("Ilse <V>", demo.Get<Store.Transcripts>().Changes(Id, 1)[0].Who);
        Browser.Until(
            () =>
                Browser.Run<bool>(
                    "return document.getElementById('seen').value === arguments[0]",
                    FormattableString.Invariant($"{demo.Get<Store.Transcripts>().Head(Id)!.Version}")
                )
                && Browser.Text("#others").Length == 0,
            "the page to know its own change"
        );
        demo.Get<Store.Transcripts>().Apply(Id, new Retype(word.Next.Next, "persons"), "Tobias");
        demo.Get<Application.Work.News>().Tell();
        Browser.UntilText("#others", "Tobias has changed this text meanwhile.");
        Browser.Click("#others button");
        Browser.UntilText("#page", "seven thousand persons");
        Browser.Until(() => Browser.Text("#others").Length == 0, "the line to go");
        TakeBack(() => Browser.Text("#page").Contains("one thousand persons", StringComparison.Ordinal));
        Browser.Press("u");
        Browser.UntilText("#notice", "There is nothing to take back.");
        demo.Get<Store.Transcripts>().Step(Id, redo: false, "Tobias");
        Browser.Driver.Manage().Cookies.DeleteCookieNamed("person");
    }

    [Fact]
    public void An_unnamed_voice_that_was_heard_in_another_sitting_is_suggested_with_the_reason_and_named_at_a_click()
    {
        var store = demo.Get<Store.Transcripts>();
        var hut = demo.Get<Footage>().Sitting(2)!.TranscriptId!.Value;
        var voice = store.VoiceNames(hut).Single(n => n.Value == "Interviewer").Key;
        store.Apply(hut, new NameVoice(voice, null), "producer");
        // As a change on the page asks for it.
        demo.Get<Application.Work.Upkeep>().Ask(1);
        demo.Open("/productions/1/read/2");
        Browser.Until(() => Browser.Text("#voices .guess"), "a guess", seconds: 60);
        Assert.Matches(
            "^Sounds like Interviewer in (The first crossing|The bridge walk): \\d\\d of 100 alike, pitch \\d+ and \\d+ Hz\\.",
            Browser.Text("#voices .guess")
        );
        Browser.Click("#voices .guess button");
        Browser.Until(() => Browser.All("#voices .guess").Count == 0, "the guess to go");
        Assert.Equal("Interviewer", store.VoiceNames(hut)[voice]);
        // Somebody who was never heard elsewhere is left open.
        var ilse = store.VoiceNames(hut).Single(n => n.Value == "Ilse Varga").Key;
        store.Apply(hut, new NameVoice(ilse, null), "producer");
        demo.Open("/productions/1/read/2");
        Browser.UntilText("#voices", "Voice");
        Assert.Empty(Browser.All("#voices .guess"));
        store.Apply(hut, new NameVoice(ilse, "Ilse Varga"), "producer");
    }

    [Fact]
    public void Words_are_replaced_everywhere_after_a_look_at_each_place_and_taken_back_at_once()
    {
        var before = Now.Words.Count(w => Now.TextOf(w) == "them");
        Assert.True(before > 1);
        demo.OpenReadAt(new(0));
        Browser.Click("#text-menu summary");
        Browser.Click("[data-action=replace]");
        Browser.Type("#replace-asked", "them");
        Browser.Type("#replace-by", "the <rails>");
        Browser.UntilText("#places", FormattableString.Invariant($"{before} places"));
        Browser.Click("#places li:first-child input");
        Browser.Click("#replace-dialog .btn-ember");
        Browser.UntilText("#page", "the <rails>");
        Assert.Equal(1, Now.Words.Count(w => Now.TextOf(w) == "them"));
        TakeBack(() => !Browser.Text("#page").Contains("<rails>", StringComparison.Ordinal));
        Assert.Equal(before, Now.Words.Count(w => Now.TextOf(w) == "them"));
    }

    [Fact]
    public void What_is_looked_for_is_counted_lit_and_stepped_through_by_keyboard()
    {
        demo.OpenReadAt(new(0));
        Browser.Press("/");
        var field = Browser.Find("#find-words");
        Browser.Until(() => Browser.Driver.SwitchTo().ActiveElement().Equals(field), "the field to have the focus");
        field.SendKeys("NOBODY");
        var places = WordSearch.Find(Now, "nobody", whole: false, matchCase: false);
        Browser.UntilText("#found-count", FormattableString.Invariant($"{places.Count}"));
        Assert.Equal(places.Count, Browser.Run<long>("return CSS.highlights.get('found').size"));
        field.SendKeys(Keys.Enter + Keys.Enter);
        Browser.UntilText("#found-count", FormattableString.Invariant($"2 of {places.Count}"));
        Browser.Until(
            () =>
                Math.Abs(
                    Browser.Run<double>("return document.querySelector('#sound').currentTime + 0.0001")
                        - Now.At(places[1].First).Range.In.FromZero.ToSecondsInexact()
                ) < 0.01,
            "the second place"
        );
        field.SendKeys(Keys.Escape);
        Browser.Until(() => Browser.Run<long>("return CSS.highlights.get('found').size") == 0, "the lights to go out");
    }

    [Fact]
    public async Task The_transcript_is_taken_out_in_every_form_whole_or_the_selection()
    {
        using var client = new HttpClient();
        var address = demo.Server.Address + "/productions/1/read/1?handler=Take&names=true&times=true&format=";
        foreach (
            var (format, type, part) in new[]
            {
                ("txt", "text/plain", "MAREN OAKHURST: thirty one years"),
                ("csv", "text/csv", "start,end,name,words\r\n"),
                ("srt", "application/x-subrip", " --> "),
                ("vtt", "text/vtt", "WEBVTT\n"),
                ("json", "application/json", "ember-lane.words/1"),
            }
        )
        {
            using var answer = await client.GetAsync(new Uri(address + format), TestContext.Current.CancellationToken);
            Assert.Equal(
                (type, FormattableString.Invariant($"The first crossing.{format}")),
                (answer.Content.Headers.ContentType!.MediaType, answer.Content.Headers.ContentDisposition!.FileName!.Trim('"'))
            );
            Assert.Contains(part, await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken), StringComparison.Ordinal);
        }
        using var word = await client.GetAsync(new Uri(address + "docx"), TestContext.Current.CancellationToken);
        await using (var document = await word.Content.ReadAsStreamAsync(TestContext.Current.CancellationToken))
        {
            Assert.Contains(
                "[00:00:06] Maren Oakhurst: thirty one years",
                Engines.WordDocument.ReadText(document),
                StringComparison.Ordinal
            );
        }
        using var none = await client.GetAsync(new Uri(address + "exe"), TestContext.Current.CancellationToken);
        Assert.Equal(System.Net.HttpStatusCode.NotFound, none.StatusCode);
        var first = demo.WordOf("one thousand people");
        Assert.Equal(
            "one thousand people\n",
            await client.GetStringAsync(
                new Uri(
                    FormattableString.Invariant(
                        $"{demo.Server.Address}/productions/1/read/1?handler=Take&format=txt&first={first}&last={first.Next.Next}"
                    )
                ),
                TestContext.Current.CancellationToken
            )
        );
        demo.OpenReadAt(first);
        demo.SelectWords(3);
        Browser.Click("#text-menu summary");
        Browser.Click("[data-action=take]");
        Browser.UntilText("#take-what", "The 3 selected words.");
        Assert.Equal(FormattableString.Invariant($"{first.Next.Next}"), Browser.Find("#take-dialog [name=last]").GetAttribute("value"));
    }
}
