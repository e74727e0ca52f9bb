using System.Globalization;
using System.Net;
using EmberLane.Application.Rooms;
using EmberLane.Application.Tidying;
using EmberLane.Core.Marks;
using EmberLane.Core.Tidy;
using EmberLane.Core.Transcripts;
using EmberLane.Running;
using EmberLane.Store;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

/// <summary>Tidy: looking at what can be set aside, kind by kind, setting it aside and bringing it back.</summary>
public sealed class TidyPageTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private Store.Transcripts Texts => demo.Get<Store.Transcripts>();

    private long IdOf(int sitting) => demo.Get<Footage>().Sitting(sitting)!.TranscriptId!.Value;

    private Transcript Now(int sitting) => Texts.Get(IdOf(sitting));

    private int Count(int sitting, MarkKind kind) => Now(sitting).Layers.Marks.Values.Count(m => m.Kind == kind);

    private static int Figure(string text) => int.Parse(text.Split(' ')[0], CultureInfo.InvariantCulture);

    private void OpenTidy(int sitting, string look)
    {
        demo.Open(FormattableString.Invariant($"/productions/1/read/{sitting}/tidy/{look}"));
        Browser.UntilText("#look-title", "");
    }

    // Words of 300 ms with 50 ms between them, a stop or a comma making it 400, and “~2.5” so many seconds more; “B:” says who speaks.
    private void Say(int sitting, string talk)
    {
        var words = new List<RecordWord>();
        var names = new Dictionary<int, string>();
        var (at, voice) = (1000m, 0);
        foreach (var word in talk.Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            if (word.StartsWith('~'))
            {
                at += 1000 * decimal.Parse(word[1..], CultureInfo.InvariantCulture);
            }
            else if (word.EndsWith(':'))
            {
                voice = names.FirstOrDefault(n => n.Value == word[..^1], new(names.Count, "")).Key;
                names[voice] = word[..^1];
            }
            else
            {
                var range = new SittingRange(
                    new SittingTime(MediaTime.FromMilliseconds((long)at)),
                    new SittingTime(MediaTime.FromMilliseconds((long)at + 300))
                );
                words.Add(new RecordWord(new WordNumber(words.Count), word, range, null, voice));
                at += word.EndsWith('.') || word.EndsWith(',') || word.EndsWith('?') ? 700 : 350;
            }
        }
        var id = Texts.Add(sitting, "local", "en", words, names);
        if (demo.Get<Footage>().Sitting(sitting)!.TranscriptId != id)
        {
            demo.Get<Store.Texts>().Choose(sitting, id, "test");
        }
        TranscriptEdit Gone(Mark mark) => mark.Kind.IsHeld ? new ReleaseMark(mark, "the next test", "test") : new TakeMark(mark);

        // The marks of the text before come along.
        if (Texts.Get(id).Layers.Marks.Values.ToList() is { Count: > 0 } brought)
        {
            Texts.Apply(id, _ => new Together([.. brought.Select(Gone)]), "test");
        }
    }

    [Fact]
    public void Pauses_are_looked_at_heard_and_set_aside_as_one_change_and_every_room_shows_it()
    {
        OpenTidy(1, "pauses");
        Browser.Empty("[name=From]");
        Browser.Type("[name=From]", "0.8");
        Browser.Until(() => Browser.Text("#pause-look .btn-ember") is var b && b.Contains("Set these", StringComparison.Ordinal), "a look");
        Browser.Until(() => Figure(Browser.Text("#pause-look .look-figures")) > 5, "more of them");
        var planned = Figure(Browser.Text("#pause-look .look-figures"));
        Assert.Equal(planned, Browser.All(".pause-cut").Count);
        Browser.UntilText("#found-pauses", planned.ToString(CultureInfo.InvariantCulture));
        Assert.Equal(5, Browser.All("#pause-look > .finds > .find").Count);
        // By key: to the first, hear how it would be.
        Browser.Press(Keys.Escape);
        Browser.Run<object?>("document.activeElement.blur(); return null");
        Browser.Press(Keys.ArrowDown);
        Browser.Press(Keys.Enter);
        Browser.Until(
            () => Browser.Run<bool>("return [...document.querySelectorAll('audio')].some((a) => !a.paused && a.currentTime > 0)"),
            "the sound"
        );
        Browser.Until(() => Browser.All(".sounding").Count == 0, "the sound to end");
        Browser.Click("#pause-look .look-figures .btn-ember");
        Browser.UntilText(".done-line", "set aside");
        Assert.Equal(planned, Count(1, MarkKind.Pause));
        Assert.Equal(800, demo.Get<TidyWishes>().Pauses(1).From);
        Browser.UntilText(".ledger .here", planned.ToString(CultureInfo.InvariantCulture));
        var aside = AsideStretches.Of(Now(1));
        var saved = aside.Aggregate(MediaTime.Zero, (sum, a) => sum + a.Length);
        Browser.UntilText(".ledger .here", saved.ToString());
        // In Read, with the layer switched off and on.
        demo.OpenRead(1);
        Assert.NotEmpty(Browser.All("#page .cut"));
        Browser.UntilText("#layers", "Pauses");
        Browser.Click("#layers input");
        Browser.Until(() => Browser.All("#page .cut").Count == 0, "the pauses to be in use");
        Browser.UntilText("#layers .off", "Pauses");
        Assert.Empty(AsideStretches.Of(Now(1)));
        Browser.Click("#layers input");
        Browser.Until(() => Browser.All("#page .cut").Count > 0, "the pauses to be aside again");
        // One of them back, by a click.
        Browser.Click("#page .cut");
        Browser.Until(() => Count(1, MarkKind.Pause) == planned - 1, "one pause less");
        Browser.Press("u");
        Browser.Until(() => Count(1, MarkKind.Pause) == planned, "it to be aside again");
        OpenTidy(1, "pauses");
        Browser.Click(".ledger-foot .btn:last-child");
        Browser.UntilText(".done-line", "All of it is back");
        Assert.Equal(0, Count(1, MarkKind.Pause));
    }

    [Fact]
    public void A_pause_that_carries_weight_stays_and_settings_are_kept_under_a_name()
    {
        OpenTidy(1, "pauses");
        Browser.Click(".sets .btn:nth-child(2)");
        Browser.Until(() => Browser.Find("[name=From]").GetAttribute("value") == "0.7", "the settings of the set");
        var before = Figure(Browser.Text("#pause-look .look-figures"));
        Browser.Run<object?>("document.activeElement.blur(); return null");
        Browser.Press(Keys.ArrowDown);
        Browser.Press("k");
        Browser.UntilText(".done-line", "This pause stays");
        Assert.Equal(1, Count(1, MarkKind.LeftPause));
        Browser.Press("u");
        Browser.Until(() => Count(1, MarkKind.LeftPause) == 0, "it to be proposed again");
        Browser.Click(".sets .btn:nth-child(2)");
        Browser.Until(() => Browser.Find("[name=From]").GetAttribute("value") == "0.7", "the settings of the set");
        Browser.Until(() => Figure(Browser.Text("#pause-look .look-figures")) == before, "all of them");
        Browser.Click("#set-menu summary");
        Browser.Type("#set-name", "For the trailer");
        Browser.Click("#set-menu .btn-ember");
        Browser.UntilText(".sets", "For the trailer");
        Assert.Contains(demo.Get<TidyWishes>().Sets(1), s => s.Name == "For the trailer" && s.Wish.From == 700);
        // What can not be is said, and nothing changes.
        Browser.Empty("[name=To]");
        Browser.Type("[name=To]", "9");
        Browser.UntilText("#notice", "Less has to be left");
        Browser.Empty("[name=To]");
        Browser.Type("[name=To]", "much");
        Browser.UntilText("#notice", "number of seconds");
    }

    [Fact]
    public void Hesitations_are_set_aside_kind_by_kind_or_one_by_one_and_words_that_are_none_are_not_proposed_again()
    {
        Say(
            2,
            "Ada: So ~0.4 um, ~0.4 we went to the the harbour. It was, you know, cold. I went, ~0.5 uh, ~0.5 home at the end of the day. "
                + "Ben: And then what did you do?"
        );
        OpenTidy(2, "hesitations");
        Assert.Equal(2, Browser.All("#kind-Filled .find").Count);
        Browser.Click("#kind-Filled .group-head .btn");
        Browser.UntilText(".done-line", "2 hesitations are set aside");
        var text = Now(2);
        Assert.Equal(["um,", "uh,"], text.Words.Where(text.IsAside).Select(text.TextOf));
        // “The the” stays as it is, by key.
        Browser.Run<object?>("document.querySelector('#kind-Twice .find').focus(); return null");
        Browser.Press("k");
        Browser.UntilText(".done-line", "not proposed any more");
        Assert.Empty(Browser.All("#kind-Twice"));
        Browser.Run<object?>("document.querySelector('#kind-Phrase .find').focus(); return null");
        Browser.Press("x");
        Browser.UntilText(".done-line", "Set aside.");
        Assert.Equal(3, Count(2, MarkKind.Hesitation));
        // A phrase of the production.
        Browser.Click(".look-head .chooser summary");
        Browser.Type("#phrases", "at the end of the day");
        Browser.Click(".look-head .chooser .btn-ember");
        Browser.UntilText("#kind-Phrase", "at the end of the day");
        demo.OpenRead(2);
        Assert.Equal(3, Browser.All("#page .aside.slight").Count);
        Browser.UntilText("#layers", "3 places, 4 words");
    }

    [Fact]
    public void A_pause_beside_a_hesitation_that_is_aside_is_still_proposed_and_one_within_a_passage_that_is_aside_is_not()
    {
        Say(2, "Ada: We went home um, ~3 and slept. ~3 It was late. ~3 Nobody came.");
        // By the sound each word ends 0.1 s earlier than by its time, so that a pause reaches into the word before it.
        var words = Now(2).Words;
        var energy = Enumerable.Repeat(100f, 2000).ToArray();
        var chances = new float[2000];
        foreach (var word in words)
        {
            var (from, to) = (
                (int)word.Range.In.FromZero.ToMillisecondsRounded() / 10,
                (int)word.Range.Out.FromZero.ToMillisecondsRounded() / 10
            );
            Array.Fill(energy, 1e6f, from, to - from - 10);
            Array.Fill(chances, 0.95f, from, to - from - 10);
        }
        var sound = new TalkSound(energy, chances, new float[chances.Length], MediaTime.Zero);
        Assert.Equal(3, Pauses().Count);
        Assert.True(Pauses()[0].Pause.In < words[3].Range.Out.FromZero);
        Texts.Apply(IdOf(2), t => new PutMark(Marking.Over(t, MarkKind.Hesitation, new(3), new(3), new Signed("Ada", null))), "test");
        Assert.Equal(3, Pauses().Count);
        Texts.Apply(IdOf(2), t => new PutMark(Marking.Over(t, MarkKind.SetAsideByHand, new(5), new(8), new Signed("Ada", null))), "test");
        Assert.Equal(2, Pauses().Count);

        IReadOnlyList<PlannedCut> Pauses() => new SittingFindings(new TextTalk(Now(2)), sound, [], [], [], []).Pauses(PauseWish.First);
    }

    [Fact]
    public void Attempts_stand_side_by_side_and_taking_one_sets_the_others_aside()
    {
        Say(
            2,
            "Ada: I put the letter under the bench because. ~1.2 I put the letter under the bench because my father kept everything there. "
                + "~2 Nobody ever asked for it again. Ben: Did your sister know about the boat? "
                + "Ada: She knew the boat from the harbour wall."
        );
        OpenTidy(2, "retakes");
        Assert.Single(Browser.All(".retake"));
        Assert.Equal(2, Browser.All(".attempt").Count);
        Browser.UntilText(".attempt.best", "my father kept everything there.");
        Assert.Equal(["my", "father", "kept", "everything", "there."], Browser.Texts(".attempt.best .differs").Where(t => t != "because"));
        Browser.Run<object?>("document.querySelector('.retake').focus(); return null");
        Browser.Press("1");
        Browser.Until(() => Browser.All("[data-attempt='1'].sounding").Count == 1, "the first attempt to be heard");
        Browser.Press(Keys.Escape);
        Browser.Until(() => Browser.All(".sounding").Count == 0, "it to stop");
        Browser.Press("k");
        Browser.UntilText("#tidy", "Nothing else is said twice");
        Assert.Equal(2, Count(2, MarkKind.LeftTry));
        Browser.Press("u");
        Browser.Until(() => Browser.All(".retake").Count == 1, "it to be proposed again");
        Browser.Run<object?>("document.querySelector('.retake').focus(); return null");
        Browser.Press("x");
        Browser.UntilText(".done-line", "Attempt 2 is taken");
        var text = Now(2);
        Assert.Equal("I put the letter under the bench because.", text.Said(text.Words.Where(text.IsAside)));
        Browser.UntilText("#tidy", "Nothing else is said twice");
        demo.OpenRead(2);
        Browser.UntilText("#page .fold", "of another try");
    }

    [Fact]
    public void Cues_keep_set_aside_and_begin_parts_and_a_common_word_is_asked_back()
    {
        Say(
            2,
            "Ada: The ferry was late that day. We waited until noon. Ben: Use that. Ada: My brother sold the boat without asking. "
                + "Cut that out. ~1 Ben: Scene two take three. ~1 Ada: Well, the harbour froze in January."
        );
        var kept = demo.Get<Store.Bites>().Of(1).Count;
        OpenTidy(2, "cues");
        Assert.Equal(3, Browser.All(".cue").Count);
        Browser.Click(".cue:nth-child(1) .btn-ember");
        Browser.Until(() => Browser.All(".cue").Count == 2, "the cue to be settled");
        var bite = demo.Get<Store.Bites>().Of(1).Single(b => b.Note == "Use that.");
        Assert.Equal(kept + 1, demo.Get<Store.Bites>().Of(1).Count);
        Assert.Equal("The ferry was late that day. We waited until noon.", demo.Get<Readings>().Of(bite.Id)!.Said);
        Browser.Click(".cue:nth-child(1) .btn-ember");
        Browser.Until(() => Browser.All(".cue").Count == 1, "the second to be settled");
        var text = Now(2);
        Assert.Equal(
            "My brother sold the boat without asking. Cut that out.",
            text.Said(text.Words.Where(w => text.AsideBy(w) == MarkKind.OffTheRecord))
        );
        Browser.Click(".cue:nth-child(1) .btn-ember");
        Browser.Until(() => Browser.All(".cue").Count == 0, "all to be settled");
        Assert.Equal("Scene two take three.", Now(2).Layers.Marks.Values.Single(m => m.Kind == MarkKind.Part).Note);
        // A word that people say all the time.
        Browser.Type(".cue-list li:last-child input", "well");
        Browser.Click(".cue-list .btn");
        Browser.UntilText(".cue", "Well,");
        Browser.Click(".cue .btn-ember");
        Browser.UntilText("#notice", "say all the time");
        Assert.Equal(kept + 1, demo.Get<Store.Bites>().Of(1).Count);
        demo.Get<TidyWishes>().SetCues(1, SpokenCues.English, "test");
    }

    [Fact]
    public void What_is_left_of_a_part_or_a_person_goes_to_the_story_in_the_order_spoken_and_out_of_it_in_one_step()
    {
        Say(
            2,
            "Ada: The ferry was late um that day. Ben: And the boat? Ada: Sold, long before. Ben: By whom? Ada: By my brother, in June. "
                + "Ben: Thank you. Ada: You are welcome."
        );
        OpenTidy(2, "hesitations");
        Browser.Click("#kind-Filled .group-head .btn");
        Browser.UntilText(".done-line", "Set aside.");
        OpenTidy(2, "parts");
        Browser.Type(".new-part [name=name]", "The sale");
        Browser.Type(".new-part [name=from]", "0:00");
        Browser.Type(".new-part [name=to]", "0:06.5");
        Browser.Click(".new-part .btn");
        Browser.UntilText(".done-line", "The part is made");
        var story = demo.Get<Desk>().StoryOf(demo.Get<Footage>().Production(1)!, "producer");
        var before = story.Story.Cards.Count;
        Browser.Click(".parts-list .btn-ember");
        Browser.UntilText(".done-line", "cards lie at the story’s end");
        var cards = demo.Get<Store.Stories>().Get(story.Id, "producer")!.Story.Cards.Skip(before).ToList();
        var said = cards.Select(c => demo.Get<Readings>().Of(c.BiteId)!).ToList();
        Assert.Equal(["The ferry was late that day.", "And the boat?", "Sold, long before."], said.Select(s => s.Said));
        Assert.Equal(2, said[0].Pieces.Count);
        Assert.All(cards, c => Assert.Equal("The sale", demo.Get<Store.Bites>().Get(c.BiteId)!.Theme));
        // The story grows by what comes back, and that is said.
        OpenTidy(2, "hesitations");
        Browser.Click(".ledger-foot .btn:last-child");
        Browser.UntilText(".done-line", "longer.");
        demo.Open("/productions/1/story");
        Browser.UntilText("#story", "Sold, long before.");
        Browser.Press("u");
        Browser.Until(() => demo.Get<Store.Stories>().Get(story.Id, "producer")!.Story.Cards.Count == before, "all cards to be out");
    }

    [Fact]
    public void What_somebody_says_again_in_another_sitting_stands_beside_it_and_goes_there()
    {
        Say(2, "Ada: I put the letter under the bench because nobody ever looked there. Ben: And then?");
        Say(3, "Ben: Once more please. Ada: I put the letter under the old bench because nobody ever looked there.");
        OpenTidy(2, "retakes");
        Browser.Click("#tidy .tidy-look a[hx-push-url]");
        Browser.UntilText("#look-title", "Retakes across sittings");
        Assert.Single(Browser.All(".retake"));
        Browser.UntilText(".attempt.best", "the old bench");
        Browser.Run<object?>("document.querySelector('.retake').focus(); return null");
        Browser.Press("x");
        Browser.UntilText(".done-line", "Attempt 2 is taken");
        Browser.UntilText("#tidy", "Nobody who is named");
        var (here, there) = (Now(2), Now(3));
        Assert.Equal("I put the letter under the bench because nobody ever looked there.", here.Said(here.Words.Where(here.IsAside)));
        Assert.DoesNotContain(there.Words, there.IsAside);
        Browser.Press("u");
        Browser.Until(() => Browser.All(".retake").Count == 1, "it to be proposed again");
    }

    [Fact]
    public void A_text_without_words_and_one_endless_turn_are_looked_at_without_a_finding_or_an_error()
    {
        foreach (var talk in new[] { "", "Ada: " + string.Concat(Enumerable.Repeat("and the water went round and round the pier ", 600)) })
        {
            Say(3, talk);
            foreach (var look in Pages.Tidying.IndexModel.Looks)
            {
                OpenTidy(3, look.Key);
                Assert.NotEmpty(Browser.Text("#look-title"));
            }
        }
    }

    [Fact]
    public void Setting_words_aside_in_Read_says_which_story_is_shorter_and_bringing_them_back_that_it_is_longer()
    {
        var story = demo.Get<Desk>().StoryOf(demo.Get<Footage>().Production(1)!, "producer");
        var card = story.Story.Cards.First(c => c.SittingId == 1);
        var text = Now(1);
        var place = MarkPlace.In(text, card.Range)!.Value;
        demo.OpenReadAt(text.At(place.First + 1).Number);
        demo.SelectWords(3);
        Browser.Press("x");
        Browser.UntilText("#notice", "shorter.");
        Browser.Press("u");
        Browser.UntilText("#notice", "longer.");
    }

    [Fact]
    public void Selected_words_become_a_part_that_is_listed_by_its_first_words()
    {
        var text = Now(1);
        demo.OpenReadAt(text.At(new TextPlace(20)).Number);
        demo.SelectWords(12);
        Browser.Press("p");
        Browser.UntilText("#notice", "is a part of the sitting.");
        var part = Assert.Single(Now(1).Layers.Marks.Values, m => m.Kind == MarkKind.Part);
        Assert.StartsWith(
            part.Note.TrimEnd('…', ' '),
            text.Said(text.PlaceOf(part.First)!.Value, text.PlaceOf(part.Last)!.Value),
            StringComparison.Ordinal
        );
        OpenTidy(1, "parts");
        Assert.Equal(part.Note, Browser.Find(".parts-list input[name=name]").GetAttribute("value"));
        demo.OpenReadAt(part.First);
        Browser.Press("u");
        Browser.Until(() => Count(1, MarkKind.Part) == 0, "the part to be gone");
    }

    [Theory]
    [InlineData("TakeAcross&attempts=1:1-2 99:4-5&taken=0", "does not name attempts")]
    [InlineData("NoRetakeAcross&attempts=1:1-2", "does not name attempts")]
    [InlineData("Pauses&From=abc&Mode=shorten&To=1", "number of seconds")]
    [InlineData("Pauses&From=700&Mode=shorten&To=1", "number of seconds")]
    [InlineData("Pauses&From=0.01&Mode=shorten&To=0", "from 0.1 to 600 seconds")]
    [InlineData("Pause&From=2&Mode=shorten&To=1&in=5&out=6", "not there any more")]
    [InlineData("KeepSet&From=2&Mode=shorten&To=1&name=Room to breathe", "a name of its own")]
    [InlineData("KeepSet&From=2&Mode=shorten&To=1&name=", "a name of its own")]
    [InlineData("Hesitations&first=1&last=99999", "changed meanwhile")]
    [InlineData("Hesitations&first=abc&last=2", "by something that is no number")]
    [InlineData("NoHesitation&first=9&last=2", "not in the text")]
    [InlineData("Take&attempts=1-2 5-x&taken=0", "does not name attempts")]
    [InlineData("Take&attempts=1-2&taken=0", "does not name attempts")]
    [InlineData("Take&attempts=1-2 4-5&taken=7", "does not name attempts")]
    [InlineData("Take&attempts=1-2 99998-99999&taken=0", "not in the text")]
    [InlineData("Cue&first=0&last=1", "not there any more")]
    [InlineData("Cues&phrase=one two three four five six seven eight nine&use=KeepsBefore", "one to 8 words")]
    [InlineData("Cues&phrase=use that&phrase=cut&use=KeepsBefore", "did not arrive whole")]
    [InlineData("Phrases&phrases=one two three four five six seven", "one to 6 words")]
    [InlineData("Layer&layer=bites&off=true", "no such layer")]
    [InlineData("Part&name=&from=0:00&to=0:10", "needs a name")]
    [InlineData("Part&name=x&from=0:10&to=0:05", "when the part begins and ends")]
    [InlineData("Part&name=x&from=9:00:00&to=9:05:00", "Nothing is said there")]
    [InlineData("NamePart&part=1&name=x", "no longer there")]
    [InlineData("NoPart&part=4711", "no longer there")]
    [InlineData("ToStory&part=4711", "Nothing is left")]
    public async Task A_request_that_does_not_fit_is_refused_with_a_sentence_and_changes_nothing(string handler, string says)
    {
        var before = (Texts.Head(IdOf(1))!.Version, demo.Get<Store.Bites>().Of(1).Count, demo.Get<Changes>().Newest(1));
        var form = handler.Split('&').Skip(1).Select(p => p.Split('=', 2)).Select(p => KeyValuePair.Create(p[0], p[1]));
        using var answer = await demo.PostAsync($"/productions/1/read/1/tidy/pauses?handler={handler.Split('&')[0]}", form);
        Assert.Equal(HttpStatusCode.Conflict, answer.StatusCode);
        Assert.Contains(says, await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken), StringComparison.Ordinal);
        Assert.Equal(before, (Texts.Head(IdOf(1))!.Version, demo.Get<Store.Bites>().Of(1).Count, demo.Get<Changes>().Newest(1)));
    }
}
