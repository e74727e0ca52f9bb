using EmberLane.Application.Rooms;
using EmberLane.Core.Bites;
using EmberLane.Core.Marks;
using EmberLane.Core.Stories;
using EmberLane.Core.Transcripts;
using EmberLane.Running;
using EmberLane.Store;
using EmberLane.Web.Rooms;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

/// <summary>
/// What a first user meets: productions by name, several stories, what is set aside, the chosen angle, keys in Bites, and pages that decide
/// nothing by being looked at.
/// </summary>
public sealed class FirstUseTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private Production Production => demo.Get<Footage>().Production(1)!;

    private StoredStory Story => demo.Get<Desk>().StoryOf(Production, "producer");

    [Fact]
    public void No_page_that_is_looked_at_changes_anything()
    {
        var fresh = demo.Get<Footage>().AddProduction("Never looked at");
        var before = DatabaseFile.Everything(Path.Combine(demo.Data, "ember.sqlite"));
        foreach (
            var page in new[]
            {
                "/",
                "/settings",
                "/productions/1/gather",
                "/productions/1/gather?sitting=2",
                "/productions/1/gather/new",
                "/productions/1/gather/files",
                "/productions/1/gather/sittings",
                "/productions/1/gather/mics/1",
                "/productions/1/gather/watch/1",
                "/productions/1/gather/check/2",
                "/productions/1/read/1",
                "/productions/1/read/2",
                "/productions/1/read/3",
                "/productions/1/read/1/texts",
                "/productions/1/read/1/mends",
                "/productions/1/read/1/changes",
                "/productions/1/bites",
                "/productions/1/story",
                "/productions/1/handoff",
                "/productions/1/handoff?handler=List",
                "/productions/1/handoff?handler=Package&part=txt&alone=true",
                "/productions/1/work",
                "/productions/1/changes",
            }.Concat(
                new[] { "gather", "read", "bites", "story", "handoff", "work" }.Select(r =>
                    FormattableString.Invariant($"/productions/{fresh}/{r}")
                )
            )
        )
        {
            demo.Open(page);
        }
        Assert.Equal(before, DatabaseFile.Everything(Path.Combine(demo.Data, "ember.sqlite")));
        // The rate of a story is that of the footage which is there when it is made, not of the first look.
        Assert.Equal(Desk.NoStory, demo.Get<Desk>().StoryOf(demo.Get<Footage>().Production(fresh)!, "producer").Id);
        demo.Get<Productions>().PutAway(fresh, true, "producer");
    }

    [Fact]
    public void A_story_runs_at_the_rate_of_the_footage_that_is_there_when_it_is_made()
    {
        var (footage, desk) = (demo.Get<Footage>(), demo.Get<Desk>());
        var id = footage.AddProduction("Looked at too early");
        demo.Open(FormattableString.Invariant($"/productions/{id}/story"));
        demo.Open(FormattableString.Invariant($"/productions/{id}/handoff"));
        footage.BringIn(
            id,
            "Evening",
            [
                new NewSource(
                    "/nowhere/evening.mov",
                    "evening.mov",
                    5,
                    "too-early",
                    new Core.Media.SourceFacts(
                        "mov",
                        MediaTime.FromMilliseconds(9000),
                        new Core.Media.PictureFacts("h264", "yuv420p", 960, 540, FrameRate.R2997, false),
                        [],
                        Core.Media.StartOfFile.Unknown,
                        null,
                        null,
                        null
                    )
                ),
            ]
        );
        Assert.Equal(FrameRate.R2997, desk.StoryToChange(footage.Production(id)!, "producer").Start.Count.Rate);
        demo.Get<Productions>().PutAway(id, true, "producer");
    }

    [Fact]
    public void A_production_is_renamed_put_away_and_brought_back()
    {
        var id = demo.Get<Footage>().AddProduction("Dry run");
        demo.Open("/");
        Browser.UntilText("#production-1 .production-people", "Maren Oakhurst");
        Browser.UntilText("#production-1 .production-about", "last worked on");
        Browser.Click(FormattableString.Invariant($"#menu-{id} summary"));
        Browser.Find(FormattableString.Invariant($"#rename-{id}")).Clear();
        Browser.Find(FormattableString.Invariant($"#rename-{id}")).SendKeys("Wet run" + Keys.Enter);
        Browser.UntilText(FormattableString.Invariant($"#production-{id}"), "Wet run");
        Browser.Click(FormattableString.Invariant($"#menu-{id} summary"));
        Browser.Click(FormattableString.Invariant($"#menu-{id} form:last-of-type button"));
        Browser.Until(() => Browser.All(FormattableString.Invariant($"#production-{id}")).Count == 0, "it to be away");
        Browser.Click("#put-away summary");
        Browser.Click(FormattableString.Invariant($"#put-away form[action*='id={id}'] button"));
        Browser.UntilText(FormattableString.Invariant($"#production-{id}"), "Wet run");
        demo.Get<Productions>().PutAway(id, true, "producer");
    }

    [Fact]
    public void A_story_is_named_and_given_a_target_another_is_begun_and_the_first_taken_in_hand_again()
    {
        demo.Open("/productions/1/story");
        Browser.Click("#story-menu summary");
        Browser.Empty("#story-target");
        Browser.Type("#story-target", "x" + Keys.Enter);
        Browser.UntilText("#story .alert-line", "Type the target as minutes and seconds");
        Browser.Click("#story-menu summary");
        Browser.Empty("#story-title");
        Browser.Type("#story-title", "High & <low> water");
        Browser.Empty("#story-target");
        Browser.Type("#story-target", "2:15" + Keys.Enter);
        Browser.UntilText("#story h1", "High & <low> water");
        Browser.UntilText("#lane", "of 2:15.0");
        demo.Open("/productions/1/handoff");
        Browser.UntilText(".list", "TITLE: HIGH AND (LOW) WATER");
        demo.Open("/productions/1/story");
        Browser.Click("#story-menu summary");
        Browser.Type("#new-story", "Second order" + Keys.Enter);
        Browser.UntilText("#story h1", "Second order");
        Assert.Empty(Browser.All(".card-piece"));
        Browser.Click("#story-menu summary");
        Browser.UntilText(".story-list", "High & <low> water 7 cards");
        Browser.Click(".story-list button");
        Browser.UntilText("#story h1", "High & <low> water");
        Assert.Equal(7, Browser.All(".card-piece").Count);
        demo.Get<Stories>().Apply(Story.Id, new DescribeStory("Low water, first order", MediaTime.FromMilliseconds(90_000)), "producer");
    }

    [Fact]
    public void Words_set_aside_leave_the_bite_the_card_and_the_list_and_come_back_with_undo()
    {
        var text = demo.Get<Footage>().Sitting(1)!.TranscriptId!.Value;
        var (before, events) = (demo.Get<Desk>().CutOf(Story).RunningTime(FrameRate.R25), demo.Get<Desk>().EventsOf(Story).Events.Count);
        var card = Story.Story.Cards[0];
        var shown = demo.Get<Desk>().Shown(1, demo.Get<Store.Bites>().Of(1)).Single(b => b.Bite.Id == card.BiteId);
        var place = MarkPlace.In(demo.Crossing, card.Range)!.Value;
        var middle = demo.Crossing.At(place.First + ((place.Last - place.First) / 2)).Number;
        demo.Get<Store.Transcripts>()
            .Apply(
                text,
                t => Marking.TurnAside(t, t.PlaceOf(middle)!.Value, t.PlaceOf(middle)!.Value + 1, new Signed("producer", null)),
                "producer"
            );
        var (less, listed) = (demo.Get<Desk>().CutOf(Story).RunningTime(FrameRate.R25), demo.Get<Desk>().EventsOf(Story).Events);
        Assert.True(less < before);
        Assert.True(listed.Count > events);
        Assert.Equal(FrameRate.R25.TimeOf(listed[^1].RecordOut.Frame - listed[0].RecordIn.Frame), less);
        demo.Open("/productions/1/story");
        Assert.DoesNotContain(shown.Said, Browser.Text("#cards"), StringComparison.Ordinal);
        demo.Open("/productions/1/bites");
        Browser.Until(
            () =>
                Browser
                    .Run<string>(
                        "return document.getElementById(arguments[0]).dataset.pieces",
                        FormattableString.Invariant($"bite-{card.BiteId}")
                    )
                    .Split(' ')
                    .Length == 2,
            "two parts to hear"
        );
        demo.Get<Store.Transcripts>().Step(text, redo: false, "producer");
        Assert.Equal(before, demo.Get<Desk>().CutOf(Story).RunningTime(FrameRate.R25));
        demo.Open("/productions/1/story");
        Assert.Contains(shown.Said, Browser.Text("#cards"), StringComparison.Ordinal);
    }

    [Fact]
    public void An_angle_that_does_not_roll_is_told_of_on_the_card_and_in_the_hand_off()
    {
        // A clip of the third camera that ended long before this card.
        var (card, place) = Story
            .Story.Cards.Select((c, i) => (c, i))
            .First(c => c.c.SittingId == 1 && c.c.Range.In.FromZero > MediaTime.FromMilliseconds(70_000));
        var clip = demo.Get<Footage>().SourcesOf(1).Single(s => s.Name == "C003C001_CLOSE_TOBIAS.MOV");
        demo.Get<Stories>().Apply(Story.Id, Story.Version, new ShowAngle(card.Id, clip.Id), "producer");
        demo.Open("/productions/1/story");
        Browser.UntilText(
            FormattableString.Invariant($"#card-{card.Id}"),
            "The chosen angle does not roll all along. Shown instead: A001C002_FERRY_WIDE"
        );
        demo.Open("/productions/1/handoff");
        Browser.UntilText(".checks", FormattableString.Invariant($"Card {place + 1}: the angle that was chosen does not roll all along"));
        demo.Get<Stories>().Step(Story.Id, redo: false, "producer");
    }

    [Fact]
    public void Keys_in_Bites_write_a_theme_take_it_back_and_do_not_lay_twice_without_a_word()
    {
        var unused = demo.Get<Desk>()
            .Shown(1, demo.Get<Store.Bites>().Of(1))
            .First(b => Story.Story.Cards.All(c => c.BiteId != b.Bite.Id))
            .Bite;
        var row = FormattableString.Invariant($"#bite-{unused.Id}");
        demo.Open("/productions/1/bites");
        Browser.Run<object?>("document.querySelector(arguments[0]).focus(); return null", row);
        Browser.Press("t");
        Browser.Until(() => Browser.Run<bool>("return document.activeElement.name === 'theme'"), "the field of the theme");
        Browser.Driver.SwitchTo().ActiveElement().SendKeys(Keys.Control + "a");
        Browser.Driver.SwitchTo().ActiveElement().SendKeys("by key" + Keys.Enter);
        Browser.UntilText(row + " .theme", "by key");
        Browser.Run<object?>("document.querySelector(arguments[0]).focus(); return null", row);
        Browser.Press("u");
        Browser.Until(() => demo.Get<Store.Bites>().Get(unused.Id)!.Theme == unused.Theme, "the theme as it was");
        Browser.Until(() => !Browser.Text(row).Contains("by key", StringComparison.Ordinal), "the row as it was");
        Browser.Run<object?>("document.querySelector(arguments[0]).focus(); return null", row);
        Browser.Press("s");
        Browser.UntilText(row + " .bite-figures", "in the story");
        Browser.Run<object?>("document.querySelector(arguments[0]).focus(); return null", row);
        Browser.Press("s");
        Browser.UntilText("#notice", "It is in the story already. Shift S lays it once more.");
        Assert.Equal(8, Story.Story.Cards.Count);
        Browser.PressWithShift("S");
        Browser.Until(() => Story.Story.Cards.Count == 9, "it to be there twice");
        demo.Get<Store.Bites>().SetAside(unused.Id, true, "producer");
        demo.Open("/productions/1/story");
        Browser.UntilText("#cards", "Its bite was set aside; the card is still in the story.");
        demo.Get<Store.Bites>().SetAside(unused.Id, false, "producer");
        demo.Get<Stories>().Step(Story.Id, redo: false, "producer");
        demo.Get<Stories>().Step(Story.Id, redo: false, "producer");
    }

    [Fact]
    public void A_wrong_start_time_leaves_the_chosen_rate_and_the_typed_time()
    {
        demo.Open("/productions/1/handoff");
        Browser.Choose("#count", "29.97 drop frame");
        Browser.Empty("#start");
        Browser.Type("#start", "99:00:00:00" + Keys.Enter);
        Browser.UntilText(".alert-line", "99");
        Assert.Equal("29.97 drop frame", Browser.Run<string>("return document.getElementById('count').selectedOptions[0].text"));
        Assert.Equal("99:00:00:00", Browser.Find("#start").GetAttribute("value"));
        Assert.Equal("25", Story.Start.Count.ToString());
    }

    [Fact]
    public void Letters_act_in_Files_while_a_ticked_box_has_the_keyboard()
    {
        demo.Open("/productions/1/gather/files");
        Browser.Click("#files tbody input");
        Browser.Press("e");
        Browser.Until(() => Browser.Find("#labels-dialog").Displayed, "the labels");
        Browser.Press(Keys.Escape);
    }

    [Fact]
    public void A_sitting_is_found_by_a_part_of_its_title_where_there_are_many()
    {
        var footage = demo.Get<Footage>();
        var production = footage.AddProduction("Many sittings");
        for (var n = 1; n <= 30; n++)
        {
            footage.BringIn(
                production,
                FormattableString.Invariant($"Evening {n} · Äußere Mole"),
                [
                    new NewSource(
                        FormattableString.Invariant($"/nowhere/{n}.wav"),
                        FormattableString.Invariant($"{n}.wav"),
                        5,
                        FormattableString.Invariant($"many-{n}"),
                        new Core.Media.SourceFacts(
                            "wav",
                            MediaTime.FromMilliseconds(9000),
                            null,
                            [new Core.Media.SoundTrack(0, "pcm_s16le", 48_000, 1)],
                            Core.Media.StartOfFile.Unknown,
                            null,
                            null,
                            null
                        )
                    ),
                ]
            );
        }
        demo.Open(FormattableString.Invariant($"/productions/{production}/gather"));
        Browser.Type(".gather-side [data-narrow]", "17 · au");
        Browser.Until(
            () => Browser.Run<long>("return [...document.querySelectorAll('#sitting-list a')].filter((a) => !a.hidden).length") == 1,
            "one sitting"
        );
        Browser.Type(".gather-side [data-narrow]", Keys.Enter);
        Browser.UntilText("#sheet-title", "Evening 17");
        demo.Open(FormattableString.Invariant($"/productions/{production}/gather/files"));
        Browser.Type("[data-narrow='#of']", "evening 30" + Keys.Enter);
        Browser.Until(() => Browser.Text("#count").StartsWith("1 of 30", StringComparison.Ordinal), "the files of one sitting");
        demo.Get<Productions>().PutAway(production, true, "producer");
    }
}
