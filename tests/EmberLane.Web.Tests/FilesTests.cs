using EmberLane.Application.Gathering;
using EmberLane.Core.Mics;
using EmberLane.Core.Transcripts;
using EmberLane.Running;
using EmberLane.Store;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

public sealed class FilesTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private Footage Footage => demo.Get<Footage>();

    private Source Named(string name) => Footage.Sources(1).Single(s => s.Name == name);

    private void OpenFiles(string query = "")
    {
        demo.Open("/productions/1/gather/files" + query);
        Browser.Until(() => Browser.Run<bool>("return document.readyState === 'complete' && !!window.htmx"), "the page");
    }

    private List<string> Shown() => [.. Browser.Texts("#files tbody .source-name span:last-child")];

    private void Tick(params string[] names)
    {
        foreach (var name in names)
        {
            Browser.Click($"#file-{Named(name).Id} input");
        }
        Browser.UntilText("#ticked", $"{names.Length} ticked");
    }

    private void UndoAll()
    {
        while (
            demo.Get<Grouping>().Step(1, redo: false, "tester") is not null
            || demo.Get<Grouping>().Step(1, redo: false, "producer") is not null
        ) { }
    }

    [Fact]
    public void Labels_are_written_on_many_files_by_keyboard_found_sorted_by_and_taken_back()
    {
        OpenFiles();
        Browser.UntilText("#count", "12 files");
        Tick("F001C001.MP4", "F001C002.MP4");
        Browser.Press(Keys.Escape);
        Browser.Run<object?>("document.activeElement.blur(); return null");
        Browser.Press("e");
        Browser.UntilText("#labels-dialog", "Write on 2 files");
        Browser.Type("#label-description", "Über die Winde <b>");
        Browser.Type("#label-tags", "rope, hands");
        Browser.Empty("#label-day");
        Browser.Type("#label-day", "2026-09-13" + Keys.Enter);
        Browser.UntilText("#said", "Written on 2 files.");
        Browser.UntilText("#files", "Über die Winde <b>");
        Browser.Type("#q", "uber ROPE");
        Browser.UntilText("#count", "2 of 12 files");
        Assert.Equal(["F001C001.MP4", "F001C002.MP4"], Shown());
        Browser.Click("thead a[href*='sort=duration']");
        Browser.Until(() => Shown() is ["F001C002.MP4", "F001C001.MP4"], "the shorter one first");
        Browser.Driver.Navigate().Refresh();
        Browser.UntilText("#count", "2 of 12 files");
        Assert.Equal(["F001C002.MP4", "F001C001.MP4"], Shown());
        // Where the files differ an empty field leaves each as it is.
        demo.Get<Grouping>().Label(1, [Named("F001C001.MP4").Id], l => l.With("note", "mine"), "tester");
        OpenFiles("?q=rope");
        Tick("F001C001.MP4", "F001C002.MP4");
        Browser.Click("[data-action=labels]");
        Browser.Until(
            () => Browser.Find("#label-note").GetAttribute("placeholder")!.Contains("they differ", StringComparison.Ordinal),
            "the form"
        );
        Browser.Empty("#label-tags");
        Browser.Type("#label-tags", Keys.Enter);
        Browser.UntilText("#count", "0 of 12 files");
        Assert.Equal(
            ("mine", "", "Über die Winde <b>"),
            (Named("F001C001.MP4").Labels.Note, Named("F001C001.MP4").Labels.Tags, Named("F001C001.MP4").Labels.Description)
        );
        Browser.Click("#files [data-action=undo]");
        Browser.UntilText("#count", "2 of 12 files");
        UndoAll();
        Assert.Equal("the ramp with nobody on it", Named("F001C002.MP4").Labels.Description);
    }

    [Fact]
    public void A_wrong_day_is_refused_with_a_sentence_and_nothing_is_written()
    {
        OpenFiles();
        Tick("F001C003.MP4");
        Browser.Click("[data-action=labels]");
        Browser.UntilText("#labels-dialog", "F001C003.MP4");
        Browser.Type("#label-note", "kept?");
        Browser.Empty("#label-day");
        Browser.Type("#label-day", "yesterday" + Keys.Enter);
        Browser.UntilText("#said", "Give the day as year, month and day");
        Assert.Equal("for under the opening", Named("F001C003.MP4").Labels.Note);
    }

    [Fact]
    public async Task Files_are_put_into_a_new_sitting_renamed_merged_back_and_every_step_is_undone()
    {
        var before = Footage.Sources(1).Select(s => (s.Name, s.SittingId, s.Place)).ToList();
        OpenFiles("?of=1");
        Browser.UntilText("#count", "5 of 12 files");
        Tick("C003C001_CLOSE_TOBIAS.MOV", "C003C002_CLOSE_TOBIAS.MOV");
        Browser.Choose("#into", "a new sitting …");
        Browser.Type("#title", "Tobias alone");
        Browser.Type("#title", Keys.Enter);
        Browser.UntilText("#said", "2 files put into Tobias alone");
        var made = Footage.Sittings(1).Single(s => s.Title == "Tobias alone");
        Assert.Equal(2, Footage.SourcesOf(made.Id).Count);
        await demo.IdleAsync();
        demo.Open(FormattableString.Invariant($"/productions/1/gather?sitting={made.Id}"));
        Browser.Click("#sitting-menu summary");
        Browser.Empty("#rename");
        Browser.Type("#rename", "Tobias, later" + Keys.Enter);
        Browser.UntilText("#sheet-title", "Tobias, later");
        Browser.Click("#sitting-menu summary");
        Browser.Choose("#merge", "The first crossing");
        Browser.Click("form[action*=Merge] button");
        Browser.UntilText("#sheet-title", "The first crossing");
        await demo.IdleAsync();
        Assert.Equal(3, Footage.Sittings(1).Count);
        Assert.All(Footage.SourcesOf(1), s => Assert.NotNull(s.Place));
        UndoAll();
        Assert.Equal(before, Footage.Sources(1).Select(s => (s.Name, s.SittingId, s.Place)));
    }

    [Fact]
    public void The_sound_that_a_transcript_goes_by_can_not_be_taken_away()
    {
        OpenFiles("?of=1");
        Tick("SND0614_T01.WAV");
        Browser.Choose("#into", "no sitting: loose footage");
        Browser.Click(".files-move button");
        Browser.UntilText("#said", "its texts and bites go by the sound of SND0614_T01.WAV");
        Assert.Equal(1, Named("SND0614_T01.WAV").SittingId);
    }

    [Fact]
    public void All_shown_are_ticked_at_once_a_run_with_shift_and_nothing_can_be_done_without_a_tick()
    {
        OpenFiles();
        Assert.False(Browser.Find(".files-move button").Enabled);
        Browser.Click("#tick-all");
        Browser.UntilText("#ticked", "12 ticked");
        Browser.Click("#tick-all");
        Browser.UntilText("#ticked", "none ticked");
        var boxes = Browser.All("#files tbody input");
        boxes[1].Click();
        new OpenQA.Selenium.Interactions.Actions(Browser.Driver).KeyDown(Keys.Shift).Click(boxes[4]).KeyUp(Keys.Shift).Perform();
        Browser.UntilText("#ticked", "4 ticked");
    }

    [Fact]
    public async Task A_mic_is_guessed_by_name_changed_by_a_person_and_the_mix_is_made_anew()
    {
        var recorder = Named("SND0615_T03.WAV");
        var sitting = Footage.Sitting(recorder.SittingId!.Value)!;
        var first = demo.Get<SittingMics>().Of(sitting);
        Assert.Equal(
            [(MicKind.Lav, "Ilse Varga", true), (MicKind.Boom, "", true), (MicKind.Camera, "", false), (MicKind.Camera, "", false)],
            first.All.Select(m => (m.Kind, m.Person, m.Heard))
        );
        demo.Open(FormattableString.Invariant($"/productions/1/gather/mics/{sitting.Id}"));
        Browser.UntilText("#mics", "2 mics make the sitting's sound");
        Browser.Find("#mix");
        Browser.Click(FormattableString.Invariant($"#heard-{recorder.Id}-1"));
        Browser.UntilText("#mics", "1 mic makes the sitting's sound");
        Browser.Choose(FormattableString.Invariant($"#kind-{recorder.Id}-1"), "lav");
        Browser.UntilText(FormattableString.Invariant($"#mic-{recorder.Id}-1"), "set by hand");
        Browser.Find(FormattableString.Invariant($"#person-{recorder.Id}-1")).SendKeys("Anselm Roe" + Keys.Tab);
        Browser.Until(() => demo.Get<SittingMics>().Of(sitting).All[1].Person == "Anselm Roe", "the name to be kept");
        Browser.Find("#mix");
        var now = demo.Get<SittingMics>().Of(sitting);
        Assert.NotEqual(first.Key, now.Key);
        await RunningServer.UntilAsync(() => File.Exists(demo.Get<MediaCache>().SittingSound(now.Key)), "the mix");
        using var client = new HttpClient();
        using var wave = await client.GetAsync(
            new Uri(
                FormattableString.Invariant(
                    $"{demo.Server.Address}/productions/1/gather/mics/{sitting.Id}?handler=Listen&source={recorder.Id}&channel=1"
                )
            ),
            TestContext.Current.CancellationToken
        );
        Assert.Equal("audio/wav", wave.Content.Headers.ContentType!.MediaType);
        using var none = await client.GetAsync(
            new Uri(
                FormattableString.Invariant(
                    $"{demo.Server.Address}/productions/1/gather/mics/{sitting.Id}?handler=Listen&source={recorder.Id}&channel=2"
                )
            ),
            TestContext.Current.CancellationToken
        );
        Assert.Equal(System.Net.HttpStatusCode.NotFound, none.StatusCode);
        for (var i = 0; i < 3; i++)
        {
            Browser.Press("u");
            Browser.UntilText("#mics", "Taken back: mic 2");
            Browser.Driver.Navigate().Refresh();
        }
        Assert.Equal(first.Key, demo.Get<SittingMics>().Of(sitting).Key);
    }

    [Fact]
    public void A_name_given_to_a_mic_names_the_voice_heard_near_it_and_a_first_name_finds_the_whole_one()
    {
        var recorder = Named("SND0615_T03.WAV");
        var sitting = Footage.Sitting(recorder.SittingId!.Value)!;
        var whole = demo.Get<SittingMics>().People(1).First(p => p.Contains(' ', StringComparison.Ordinal) && p != "Ilse Varga");
        var transcripts = demo.Get<Store.Transcripts>();
        var jobs = demo.Get<Jobs>();
        jobs.Add(1, "read-anew", sitting.Id, "Two words");
        SittingTime At(int n) => new(MediaTime.FromMilliseconds(n * 1_000));
        var text = transcripts.AddFromJob(
            jobs.Newest("read-anew", sitting.Id)!.Id,
            "2 words",
            sitting.Id,
            "local",
            "en",
            [.. Enumerable.Range(0, 2).Select(n => new RecordWord(new(n), "w" + n, new SittingRange(At(n), At(n + 1)), null, n))],
            new Dictionary<int, string> { [1] = "A guest" },
            new Dictionary<int, MicOfFile> { [0] = new(recorder.Id, 1), [1] = new(recorder.Id, 0) }
        );
        demo.Get<Texts>().Choose(sitting.Id, text, "tester");
        try
        {
            demo.Open(FormattableString.Invariant($"/productions/1/gather/mics/{sitting.Id}"));
            Browser.Until(() => Browser.Run<bool>("return document.readyState === 'complete' && !!window.htmx"), "the page");
            var field = FormattableString.Invariant($"#person-{recorder.Id}-1");
            Browser.Find(field).SendKeys(whole.Split(' ')[0].ToLowerInvariant() + Keys.Tab);
            Browser.Until(() => Browser.Find(field).GetAttribute("value") == whole, "the whole name");
            Browser.Until(() => transcripts.VoiceNames(text).GetValueOrDefault(0) == whole, "the voice's name");
            Assert.Equal("A guest", transcripts.VoiceNames(text)[1]);
            demo.Open(FormattableString.Invariant($"/productions/1/read/{sitting.Id}"));
            Browser.UntilText("main", whole);
        }
        finally
        {
            demo.Get<Texts>().Choose(sitting.Id, sitting.TranscriptId, "tester");
            UndoAll();
        }
    }

    [Fact]
    public void What_is_being_typed_stays_while_background_news_come()
    {
        var sitting = Footage.Sittings(1)[0].Id;
        demo.Open(FormattableString.Invariant($"/productions/1/gather/mics/{sitting}"));
        Browser.Until(() => Browser.Run<bool>("return document.readyState === 'complete' && !!window.htmx"), "the page");
        var field = Browser.Find("#mics tbody tr:nth-child(3) input.form-control");
        field.SendKeys("Ansel");
        Browser.Run<object?>(
            "window.field = arguments[0]; window.asked = 0; document.addEventListener('htmx:beforeRequest', () => window.asked++); "
                + "document.body.dispatchEvent(new CustomEvent('work')); return null",
            field
        );
        Browser.Until(() => Browser.Run<long>("return window.asked") > 0, "the news");
        field.SendKeys("m");
        Assert.Equal("Anselm", field.GetAttribute("value"));
        field.SendKeys(Keys.Backspace + Keys.Backspace + Keys.Backspace + Keys.Backspace + Keys.Backspace + Keys.Backspace + Keys.Tab);
        // Once the field is left the fragment asks for itself, and the old field is gone.
        Browser.Until(() => Browser.Run<bool>("return !window.field.isConnected"), "the fragment anew");
    }
}
