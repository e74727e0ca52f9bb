using EmberLane.Running;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

public sealed class RoomsTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    public static TheoryData<string> Views =>
        [
            "/",
            "/productions/1/gather",
            "/productions/1/gather/new",
            "/productions/1/gather/sittings",
            "/productions/1/gather/files",
            "/productions/1/gather/mics/1",
            "/productions/1/gather/watch/1",
            "/productions/1/work",
            "/productions/1/gather/check/2",
            "/productions/1/gather/check/1?zoom=20",
            "/productions/1/read/1",
            "/productions/1/read/2",
            "/productions/1/read/3",
            "/productions/1/read/1/texts",
            "/productions/1/read/1/mends",
            "/productions/1/read/1/changes",
            "/productions/1/bites",
            "/productions/1/cutaways?of=all&shot=2/1",
            "/productions/1/find?q=water",
            "/productions/1/story",
            "/productions/1/shown",
            "/productions/1/shown/sitting/1",
            "/productions/1/shown/story/1",
            "/productions/1/handoff",
            "/productions/1/handoff/back",
            "/productions/1/work",
            "/settings",
            "/nowhere",
        ];

    [Theory]
    [MemberData(nameof(Views))]
    public void Nothing_serious_or_critical_is_wrong_for_a_screen_reader_in_either_theme_and_no_script_fails(string path)
    {
        foreach (var theme in new[] { "paper", "night" })
        {
            demo.Open("/");
            Browser.Driver.Manage().Cookies.AddCookie(new Cookie("theme", theme));
            demo.Open(path);
            Browser.Until(() => Browser.Run<bool>("return document.readyState === 'complete'"), "the page");
            Assert.Equal("", ScreenReader.Trouble(Browser));
        }
        Browser.Driver.Manage().Cookies.DeleteAllCookies();
        var failed = Browser
            .Driver.Manage()
            .Logs.GetLog(LogType.Browser)
            .Select(e => e.Message)
            .Where(m => !m.Contains("/nowhere", StringComparison.Ordinal) && !m.Contains("axe", StringComparison.OrdinalIgnoreCase))
            .ToList();
        Assert.DoesNotContain(
            failed,
            m =>
                m.Contains("Content Security Policy", StringComparison.Ordinal)
                || m.Contains("Uncaught", StringComparison.Ordinal)
                || m.Contains("404", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void The_list_of_sittings_tells_of_a_transcript_as_soon_as_there_is_one()
    {
        var texts = demo.Get<Store.Texts>();
        texts.Choose(1, null, "producer");
        demo.Open("/productions/1/gather?sitting=1");
        Browser.UntilText("#sitting-list .open", "in step · not transcribed");
        Assert.True(texts.Step(1, redo: false, "producer"));
        demo.Get<Application.Work.News>().Tell();
        Browser.UntilText("#sitting-list .open", "in step · transcribed");
    }

    [Fact]
    public void The_rooms_are_reached_by_the_lane_and_by_G_and_a_letter()
    {
        demo.Open("/");
        Browser.UntilText("main", "Slack Water");
        Browser.Click(".production");
        Browser.UntilText("#sheet-title", "The first crossing");
        foreach (var (key, room) in new[] { ("r", "read/1"), ("b", "bites"), ("s", "story"), ("h", "handoff"), ("g", "gather") })
        {
            Browser.Until(() => Browser.Run<bool>("return document.readyState === 'complete'"), "the page");
            Browser.Press("g", key);
            Browser.Until(() => Browser.Driver.Url.EndsWith("/" + room, StringComparison.Ordinal), "the room " + room);
        }
        Browser.Driver.Navigate().Back();
        Browser.Until(() => Browser.Driver.Url.EndsWith("/handoff", StringComparison.Ordinal), "the room before");
        Browser.Press("?");
        Browser.UntilText("#keys", "take the last change back");
        Browser.Press(Keys.Escape);
    }

    [Fact]
    public void Gather_shows_what_was_measured_and_every_source_lies_where_it_truly_lies()
    {
        demo.Open("/productions/1/gather?sitting=1");
        var table = Browser.Text(".sources");
        foreach (
            var part in new[]
            {
                "SND0614_T01.WAV",
                "07:42:05",
                "3 channels",
                "00:59:58;12",
                "29.97",
                "01:02:10:05",
                "960 × 540",
                "same sound",
            }
        )
        {
            Assert.Contains(part, table, StringComparison.Ordinal);
        }
        // True offsets as the generator made them, within a frame of 25; sound also takes a few ms to reach a camera.
        var places = demo.Get<Store.Footage>()
            .SourcesOf(1)
            .ToDictionary(s => s.Name, s => s.Place!.Value.Start.FromZero.ToSecondsInexact());
        Assert.InRange(places["A001C002_FERRY_WIDE.MOV"], 3.36, 3.44);
        Assert.InRange(places["B001C002_CLOSE_MAREN.MOV"], 8.085, 8.165);
        Assert.InRange(places["C003C001_CLOSE_TOBIAS.MOV"], 1.67, 1.75);
        Assert.InRange(places["C003C002_CLOSE_TOBIAS.MOV"], 75.26, 75.34);
    }

    [Fact]
    public void A_sitting_is_made_by_upload_and_another_from_a_footage_folder_of_files_that_the_demo_does_not_hold()
    {
        var folder = Directory.CreateTempSubdirectory("ember-upload").FullName;
        try
        {
            var film = Path.Combine(folder, "new clip.mkv");
            MadeMedia.Film(film, "50", 3);
            MadeMedia.Film(Path.Combine(demo.Data, "footage", "picked.mkv"), "24", 2);
            demo.Open("/");
            Browser.Type("#name", "Second film");
            Browser.Click("main .btn-ember");
            Browser.Click("main .btn-ember");
            Browser.Type("#upload-title", "A made sitting");
            Browser.Type("#files", film);
            Browser.Click("[data-upload] .btn");
            Browser.UntilText("#outcome", "1 file brought in");
            Browser.Click("#outcome a");
            Browser.UntilText("#sheet-title", "A made sitting");
            Browser.UntilText(".sources", "50");
            // The browser can not play Matroska: a playing copy is made in the background and the page shows it by itself.
            Browser.Until(() => !Browser.Text(".sources").Contains("is being made", StringComparison.Ordinal), "the playing copy");
            Browser.Click("#bring-in");
            Browser.Until(
                () =>
                {
                    Browser.Driver.FindElement(By.XPath("//label[contains(., 'picked.mkv')]/input")).Click();
                    return true;
                },
                "the file in the folder"
            );
            Browser.Type("#title", "A picked sitting" + Keys.Enter);
            Browser.UntilText("#outcome", "1 file brought in");
            Browser.Click("#outcome a");
            Browser.UntilText("#sheet-title", "A picked sitting");
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }
}
