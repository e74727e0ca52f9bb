using System.Globalization;
using EmberLane.Application.Rooms;
using EmberLane.Running;
using EmberLane.Store;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace EmberLane.Web.Tests;

/// <summary>The cameras of a sitting: the plan on the stave, angles chosen and given back, cuts moved, rules and who is where.</summary>
public sealed class CamerasPageTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private SittingCameras Plan => demo.Get<CameraDesk>().Of(demo.Get<Footage>().Sitting(1)!);

    private void Open()
    {
        demo.Open("/productions/1/cameras/1");
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('watch')?.dataset.ready === 'true'"), "the page");
    }

    private void Settled() =>
        Browser.Until(() => Browser.All(".htmx-request, .htmx-settling, .htmx-added").Count == 0, "the page to settle");

    private string Large => Browser.Run<string>("return document.querySelector('.angle.large').dataset.angle");

    private void Undo()
    {
        var before = Plan.Setup.Choices;
        Browser.Press("u");
        Browser.Until(() => !Plan.Setup.Choices.SequenceEqual(before), "the change taken back");
        Settled();
    }

    [Fact]
    public void Gather_leads_to_the_plan_which_follows_who_speaks_and_says_why()
    {
        demo.Open("/productions/1/gather?sitting=1");
        Browser.Find("#cameras-link").Click();
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('watch')?.dataset.ready === 'true'"), "the page");
        var plan = Plan;
        Assert.Equal(plan.Shots.Count, Browser.All("#stave .shown").Count);
        Assert.Equal(3, Browser.All(".cover-table tr th[scope=row]").Count);
        Browser.Until(() => Browser.Text("#mic-figures").StartsWith("With all mics open, ", StringComparison.Ordinal), "what the mics do");
        Assert.Contains(" dB under it ", Browser.Text("#mic-figures"), StringComparison.Ordinal);
        // The next cut, by key: the angle that is shown is the large one, and the reason is the shot's.
        Browser.Press("]");
        Browser.Until(() => Browser.Text("#shot-number") == $"shot 2 of {plan.Shots.Count}", "the second shot");
        Assert.Equal(plan.Shots[1].Reason, Browser.Text("#shot-reason"));
        Assert.Equal($"{plan.Shots[1].Angle + 1}", Large);
        Browser.Press("[");
        Browser.Until(() => Browser.Text("#shot-number").StartsWith("shot 1 ", StringComparison.Ordinal), "the first shot");
    }

    [Fact]
    public void An_angle_chosen_by_its_number_stays_when_the_plan_is_made_again_and_is_given_back()
    {
        Open();
        Browser.Press("]");
        Browser.Until(() => Browser.Text("#shot-number").StartsWith("shot 2 ", StringComparison.Ordinal), "the second shot");
        var shot = Plan.Shots[1];
        var other = Plan
            .Angles.Index()
            .First(a => a.Index != shot.Angle && a.Item.Rolls.Any(r => r.In <= shot.Range.In && shot.Range.Out <= r.Out))
            .Index;
        Browser.Press($"{other + 1}");
        Browser.Until(() => Plan.Setup.Locks.Count == 1, "the choice kept");
        Browser.Until(() => Browser.All("#stave .chosen").Count > 0, "the choice on the stave");
        Settled();
        Assert.Contains("chosen by hand", Browser.Text("#shot-reason"), StringComparison.Ordinal);
        Browser.Find("input[name=pace][value=lively]").Click();
        Browser.Until(() => Plan.Setup.Pace == "lively", "another pace");
        Settled();
        Assert.Contains(Plan.Shots, s => s.IsChosen && s.Angle == other && s.Range.In <= shot.Range.In && shot.Range.Out <= s.Range.Out);
        Undo();
        Browser.Press("x");
        Browser.Until(() => Plan.Setup.Locks.Count == 0, "the plan choosing again");
        Settled();
        Assert.Empty(Browser.All("#stave .chosen"));
        Undo();
        Undo();
    }

    [Fact]
    public void A_cut_is_moved_by_a_frame_and_dragged()
    {
        Open();
        Browser.Press("]");
        Browser.Until(() => Browser.Text("#shot-number").StartsWith("shot 2 ", StringComparison.Ordinal), "the second shot");
        var cut = Plan.Shots[1].Range.In;
        Browser.Press(".");
        Browser.Until(() => Plan.Setup.Locks.Count == 2, "both shots kept");
        var moved = Plan.Shots.Select(s => s.Range.In).Single(at => at > cut && at - cut < MediaTime.FromMilliseconds(60));
        Settled();
        new Actions(Browser.Driver)
            .MoveToElement(Browser.All(".cut-handle").First(h => h.GetAttribute("data-at") == moved.FromZero.ToSecondsText()))
            .ClickAndHold()
            .MoveByOffset(8, 0)
            .Release()
            .Perform();
        Browser.Until(
            () => Plan.Shots.Any(s => s.Range.In > moved + MediaTime.FromMilliseconds(800) && s.IsChosen),
            "the cut a second later"
        );
        Settled();
        Undo();
        Undo();
        Assert.Equal(cut, Plan.Shots[1].Range.In);
    }

    [Fact]
    public void Who_is_where_laughter_and_rules_change_the_plan_and_what_contradicts_is_refused()
    {
        Open();
        var box = "[data-covers][value='Interviewer']";
        Browser.Find(box).Click();
        Browser.Until(() => Plan.Angles.Any(a => a.Covers.Contains("Interviewer")), "the interviewer in view");
        Settled();
        Assert.Single(Browser.All(".cover-table [hx-post*=Covers]"));
        Browser.Find(".cover-table [hx-post*=Covers]").Click();
        Browser.Until(() => Plan.Angles.All(a => a.IsGuess), "as proposed");
        Settled();
        Browser.Press("a");
        Browser.Press(Keys.ArrowRight, Keys.ArrowRight, "a");
        Browser.Until(() => Plan.Crowd.Count == 1, "laughter");
        Browser.Until(() => Browser.All("#stave .crowd").Count == 1, "laughter on the stave");
        Settled();
        // Within it the same key says that there is none.
        Browser.Press(Keys.ArrowLeft);
        Browser.Until(() => Browser.Text("#crowd-says") == "There is no laughter here", "that it would be taken away");
        Browser.Press("a");
        Browser.Until(() => Plan.Crowd.Count == 0, "no laughter");
        Settled();
        Undo();
        Browser.Find("#own-rules summary").Click();
        var longest = Browser.Find("input[name=longest]");
        longest.Clear();
        longest.SendKeys("1" + Keys.Enter);
        Browser.Until(() => Browser.Text("#notice").Contains("shortest", StringComparison.Ordinal), "why it is refused");
        Assert.Equal(EmberLane.Core.Cameras.CameraRules.Even, Plan.Setup.Rules);
        Browser.Driver.Navigate().Refresh();
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('watch')?.dataset.ready === 'true'"), "the page");
        Assert.Equal("25", Browser.Find("input[name=longest]").GetAttribute("value"));
        Undo();
        Assert.Empty(Plan.Crowd);
    }

    [Fact]
    public void A_camera_that_goes_to_and_fro_is_marked_where_it_turns()
    {
        Open();
        var before = Plan.Shots;
        Browser.Press("]");
        Browser.Until(() => Browser.Text("#shot-number").StartsWith("shot 2 ", StringComparison.Ordinal), "the second shot");
        var turned = Plan.Angles[int.Parse(Large, CultureInfo.InvariantCulture) - 1];
        Browser.Press("t");
        Browser.Until(() => Browser.All(".turn-row").Count == 1, "the mark in the chart");
        Settled();
        // As before at first: the plan is the same until it is said whom it shows.
        Assert.Equal(before.Select(s => (s.Angle, s.Range)), Plan.Shots.Select(s => (s.Angle, s.Range)));
        Assert.Single(Browser.All("#stave .turns"));
        foreach (var person in turned.Covers)
        {
            Browser.Find($".turn-row input[value='{person}']").Click();
            Browser.Until(() => Browser.All($".turn-row input[value='{person}']:checked").Count == 0, "not shown from there on");
            Settled();
        }
        Assert.Empty(Plan.Angles.Single(a => a.Id == turned.Id).Marks[0].People);
        Assert.NotEqual(before.Select(s => (s.Angle, s.Range)), Plan.Shots.Select(s => (s.Angle, s.Range)));
        Assert.StartsWith("Take the mark at ", Browser.Find(".turn-row [hx-post]").GetAttribute("aria-label"), StringComparison.Ordinal);
        Browser.Find(".turn-row [hx-post]").Click();
        Browser.Until(() => Browser.All(".turn-row").Count == 0, "no mark");
        Settled();
        Assert.Equal(before.Select(s => (s.Angle, s.Range)), Plan.Shots.Select(s => (s.Angle, s.Range)));
    }

    [Fact]
    public void Where_a_person_is_called_otherwise_than_when_an_angle_was_given_to_them_the_angle_is_proposed_anew()
    {
        var (cameras, angle) = (demo.Get<Store.Cameras>(), Plan.Angles[1].Id);
        var guessed = Plan.Angles[1].Covers;
        cameras.Change(1, _ => EmberLane.Core.Cameras.CameraSetup.Covers(angle, ["Marrin"]), "test", "producer");
        Assert.True(Plan.Angles[1].IsGuess);
        Assert.Equal(guessed, Plan.Angles[1].Covers);
        cameras.Change(1, _ => EmberLane.Core.Cameras.CameraSetup.Covers(angle, []), "test", "producer");
        Assert.Equal((false, 0), (Plan.Angles[1].IsGuess, Plan.Angles[1].Covers.Count));
        Assert.True(cameras.Step(1, redo: false, "producer"));
        Assert.True(cameras.Step(1, redo: false, "producer"));
        Assert.Empty(Plan.Setup.Choices);
    }

    [Fact]
    public void What_is_kept_of_who_speaks_is_that_of_the_text_as_it_is_now()
    {
        var (texts, kept) = (demo.Get<Store.Transcripts>(), demo.Get<KeptTurns>());
        var id = demo.Get<Footage>().Sitting(1)!.TranscriptId!.Value;
        var (before, people) = (kept.Of(id), Plan.People);
        Assert.Same(before, kept.Of(id));
        var voice = demo.Crossing.VoiceOf(demo.Crossing.Words[0]);
        texts.Apply(id, new EmberLane.Core.Transcripts.NameVoice(voice, "Somebody Else"), "producer");
        Assert.Equal("Somebody Else", kept.Of(id)[0].Who);
        Assert.Contains("Somebody Else", Plan.People);
        Assert.NotNull(texts.Step(id, redo: false, "producer"));
        Assert.Equal(before, kept.Of(id));
        Assert.Equal(people, Plan.People);
        Assert.Empty(kept.Of(null));
        Assert.Empty(kept.Of(987_654));
    }

    [Fact]
    public void Stories_and_lists_follow_the_plan_where_that_is_wanted()
    {
        var (desk, footage) = (demo.Get<Desk>(), demo.Get<Footage>());
        StoredStory Story() => desk.StoryOf(footage.Production(1)!, "producer");
        var before = Pictures();
        Assert.Empty(desk.ShotsOf(Story(), desk.CutOf(Story())));
        Open();
        Browser.Find("input[name=follow]").Click();
        Browser.Until(() => Plan.Setup.IsFollowed, "the plan followed");
        Settled();
        var shots = desk.ShotsOf(Story(), desk.CutOf(Story()));
        var cards = Story().Story.Cards.Where(c => c.SittingId == 1).ToList();
        Assert.Equal(cards.Select(c => c.Id).Order(), shots.Keys.Order());
        // The sitting's close views come into the list, where the first angle was shown before; the running time stays.
        Assert.NotEqual(before, Pictures());
        Assert.True(Pictures().Distinct().Count() > before.Distinct().Count());
        demo.OpenStory();
        var seen = Browser.Run<string>("return [...document.querySelectorAll('[data-play]')].map(c => c.dataset.play).join('')");
        Assert.All(
            shots.Where(s => cards.Single(c => c.Id == s.Key) is { Angle: null, Over: null }).SelectMany(s => s.Value),
            s => Assert.Contains(s.Clips, c => seen.Contains($"/media/{c}/play", StringComparison.Ordinal))
        );
        Open();
        Undo();
        Assert.Equal(before, Pictures());

        List<string> Pictures() =>
            [.. desk.EventsOf(Story()).Events.Where(e => e.Track == EmberLane.Core.Handoff.EdlTrack.Video).Select(e => e.Reel)];
    }

    [Fact]
    public void A_punch_in_is_a_view_of_its_own_that_the_plan_the_player_and_the_lists_know()
    {
        var (desk, footage) = (demo.Get<Desk>(), demo.Get<Footage>());
        var angles = Plan.Angles.Count;
        Open();
        Browser.Find(".cover-table [hx-post*=Closer]").Click();
        Browser.Until(() => Plan.Angles.Count == angles + 1, "the tighter view");
        Settled();
        Assert.Equal(angles + 1, Browser.All(".cover-table tr th[scope=row]").Count);
        Assert.Contains("pixels of 960 × 540", Browser.Text(".closer-pixels"), StringComparison.Ordinal);
        // Chosen by its number it is seen: the picture of its camera is enlarged.
        Browser.Press("]");
        Browser.Until(() => Browser.Text("#shot-number").StartsWith("shot 2 ", StringComparison.Ordinal), "the second shot");
        Browser.Press($"{angles + 1}");
        Browser.Until(() => Plan.Setup.Locks.Count == 1, "the view chosen");
        Settled();
        Assert.Equal("1", Large);
        Assert.StartsWith("scale(1.3", Scale, StringComparison.Ordinal);
        Browser.Find(".closer input[name=percent]").SendKeys(Keys.Control + "a" + Keys.Null + "150" + Keys.Tab);
        Browser.Until(() => Plan.Angles[^1].Closer!.Percent == 150, "more of it");
        Settled();
        Assert.StartsWith("scale(1.499", Scale, StringComparison.Ordinal);
        // One that can not be is refused, and what was there stays.
        Browser.Run<object?>("document.querySelector('.closer').noValidate = true; return null");
        Browser.Find(".closer input[name=across]").SendKeys(Keys.Control + "a" + Keys.Null + "400" + Keys.Tab);
        Browser.Until(() => Browser.Run<string>("return document.body.textContent").Contains("0 to 100 % across"), "the reason");
        Assert.Equal(150, Plan.Angles[^1].Closer!.Percent);
        Open();
        Browser.Find("input[name=follow]").Click();
        Browser.Until(() => Plan.Setup.IsFollowed, "the plan followed");
        Settled();
        var cameras = demo.Get<Cameras>();
        cameras.Change(1, _ => EmberLane.Core.Cameras.CameraSetup.Covers(Plan.Angles[0].Id, []), "test", "producer");
        var story = desk.StoryOf(footage.Production(1)!, "producer");
        Assert.Contains(desk.ShotsOf(story, desk.CutOf(story)).Values.SelectMany(s => s), s => s.Closer?.Percent == 150);
        Assert.Contains(
            desk.EventsOf(story).Events.SelectMany(e => e.Comments),
            c => c.StartsWith("PUNCH-IN: 150 % AT ", StringComparison.Ordinal)
        );
        demo.OpenStory();
        Assert.Contains(
            "\"framed\":[",
            Browser.Run<string>("return [...document.querySelectorAll('[data-play]')].map(c => c.dataset.play).join('')"),
            StringComparison.Ordinal
        );
        while (Plan.Setup.Choices.Count > 0)
        {
            Assert.True(cameras.Step(1, redo: false, "producer"));
        }
    }

    [Fact]
    public void Where_people_are_in_a_picture_is_said_for_narrower_copies_and_kept_while_it_is_changed()
    {
        Open();
        var wide = Plan.Angles[0];
        Browser.Find("#places summary").Click();
        Browser.Find($"#place-{wide.Id}-0").SendKeys("36" + Keys.Tab);
        Browser.Until(() => Plan.Setup.PlacesOf(wide.Id).GetValueOrDefault(wide.Covers[0]) == 36, "the place");
        Settled();
        // The fold stays open, and the keys go on to the next person.
        Assert.Equal("36", Browser.Find($"#place-{wide.Id}-0").GetAttribute("value"));
        Assert.Single(Browser.All("#places .closer-seen"));
        Assert.Equal($"place-{wide.Id}-1", Browser.Run<string>("return document.activeElement.id"));
        Browser.Run<object?>("document.activeElement.form.noValidate = true; return null");
        Browser.Driver.SwitchTo().ActiveElement().SendKeys("160" + Keys.Tab);
        Browser.Until(() => Browser.Run<string>("return document.body.textContent").Contains("0 to 100 % of the picture"), "the reason");
        Assert.Single(Plan.Setup.PlacesOf(wide.Id));
        Open();
        Undo();
        Assert.Empty(Plan.Setup.Choices);
    }

    private string Scale => Browser.Run<string>("return document.querySelector('.angle.large video').style.transform");

    [Fact]
    public async Task Lists_open_the_mics_of_who_speaks_where_that_is_wanted()
    {
        var (desk, footage) = (demo.Get<Desk>(), demo.Get<Footage>());
        List<(string Reel, string Channels)> Sounds() =>
            [
                .. desk.EventsOf(desk.StoryOf(footage.Production(1)!, "producer"))
                    .Events.Select(e =>
                        (e.Reel, string.Join(' ', [.. EmberLane.Core.Handoff.EdlTracks.Channels(e.Track), .. e.ExtraChannels]))
                    )
                    .Where(e => e.Item2.Length > 0),
            ];
        var before = Sounds();
        await demo.PostAsync("/productions/1/cameras/1?handler=FollowMics", [new("follow", "true")]);
        Assert.True(Plan.Setup.MicsAreFollowed);
        var mics = Sounds();
        Assert.NotEqual(before, mics);
        Assert.True(mics.Select(m => m.Channels).Distinct().Count() > before.Select(m => m.Channels).Distinct().Count());
        Assert.Equal(before.Select(m => m.Reel).Distinct().Order(), mics.Select(m => m.Reel).Distinct().Order());
        Open();
        Assert.True(Browser.Find("input[name=follow][hx-post*=FollowMics]").Selected);
        Undo();
        Assert.Equal(before, Sounds());
    }

    [Fact]
    public async Task What_is_no_place_is_refused_with_a_sentence()
    {
        foreach (
            var (handler, fields) in new[]
            {
                ("Show", "at=99999&angle=1"),
                ("Show", "at=20&angle=77"),
                ("Show", "at=x&angle=1"),
                ("Cut", "at=20&to=-5000"),
                ("Crowd", "from=9&to=3"),
                ("Covers", "angle=999999&said=true"),
                ("Pace", "pace=hasty"),
                ("Rules", "shortest=1e99"),
            }
        )
        {
            var answer = await demo.PostAsync($"/productions/1/cameras/1?handler={handler}", Fields(fields));
            Assert.Equal(System.Net.HttpStatusCode.Conflict, answer.StatusCode);
            Assert.EndsWith(".", await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken), StringComparison.Ordinal);
        }
        Assert.Equal(
            System.Net.HttpStatusCode.NotFound,
            (await demo.PostAsync("/productions/1/cameras/4711?handler=Lock", Fields("at=1"))).StatusCode
        );
        Assert.Empty(Plan.Setup.Choices);
    }

    private static IEnumerable<KeyValuePair<string, string>> Fields(string typed) =>
        typed.Split('&').Select(f => KeyValuePair.Create(f.Split('=')[0], f.Split('=')[1]));
}
