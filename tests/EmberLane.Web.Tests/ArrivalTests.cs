using EmberLane.Application.Work;
using EmberLane.Running;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

/// <summary>
/// Footage arrives: it is found where it lies, ticked at once, made sittings of, and transcribed by itself when that was chosen.
/// </summary>
public sealed class ArrivalTests : IAsyncLifetime
{
    private readonly string data = Directory.CreateTempSubdirectory("ember-arrival").FullName,
        day = Directory.CreateTempSubdirectory("ember-day").FullName;
    private readonly Browser browser = new();
    private RunningServer server = null!;
    private long production;

    public async ValueTask InitializeAsync()
    {
        server = await RunningServer.StartAsync(data, demo: false, null, day);
        production = Get<Footage>().AddProduction("Arriving");
    }

    public async ValueTask DisposeAsync()
    {
        browser.Dispose();
        await server.DisposeAsync();
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Array.ForEach([data, day], f => Directory.Delete(f, recursive: true));
    }

    private T Get<T>()
        where T : notnull => server.Services.GetRequiredService<T>();

    private void Open(string path) => browser.Open(FormattableString.Invariant($"{server.Address}/productions/{production}/{path}"));

    private void Bring(string name) => File.Copy(Path.Combine(RunningServer.Repository, "demo", "footage", name), Path.Combine(day, name));

    [Fact]
    public async Task A_sitting_is_synced_and_transcribed_as_soon_as_it_is_made_where_that_was_chosen_and_an_older_one_is_not()
    {
        Bring("F001C001.MP4");
        await Get<Application.Gathering.Intake>()
            .BringInAsync(production, "Before the choice", [Path.Combine(day, "F001C001.MP4")], CancellationToken.None);
        Bring("E007C001_BRIDGE_WALK.MP4");
        // The folder that was named at the start is open at once.
        Open("gather/new");
        browser.UntilText("#pick-list", "E007C001_BRIDGE_WALK.MP4");
        browser.Type("#title", "The bridge walk");
        browser.Run<object?>(
            "document.querySelector('#pick-list input[value$=\"E007C001_BRIDGE_WALK.MP4\"]').click(); "
                + "document.querySelector('form[action*=Pick] [name=transcribe]').click(); document.querySelector('form[action*=Pick] "
                + "[name=recogniser]').value = 'simulated'; return null"
        );
        browser.Click("form[action*=Pick] .btn-ember");
        browser.UntilText("#outcome", "1 file brought in");
        var footage = Get<Footage>();
        await RunningServer.UntilAsync(
            () => footage.Sittings(production).Single(s => s.Title == "The bridge walk").TranscriptId is not null,
            "the transcript"
        );
        Assert.Equal(
            "simulated",
            Get<Store.Transcripts>()
                .Head(footage.Sittings(production).Single(s => s.Title == "The bridge walk").TranscriptId!.Value)!
                .Recogniser
        );
        Assert.Null(footage.Sittings(production).Single(s => s.Title == "Before the choice").TranscriptId);
        Assert.Null(Get<Jobs>().Newest(WorkKinds.Transcribe, footage.Sittings(production).Single(s => s.Title == "Before the choice").Id));
        // The choice stays with the production.
        Open("gather/new");
        Assert.True(browser.Find("form[action*=Pick] [name=transcribe]").Selected);
        Assert.Equal("simulated", browser.Find("form[action*=Pick] [name=recogniser]").GetAttribute("value"));
    }

    [Fact]
    public void A_language_that_the_recogniser_does_not_know_is_refused_before_anything_is_brought_in_and_what_was_typed_stays()
    {
        Bring("F001C001.MP4");
        Bring("F001C002.MP4");
        Open("gather/new");
        browser.Click("#tick-all");
        browser.Type("#title", "Cutaways");
        browser.Click("form[action*=Pick] [name=transcribe]");
        browser.Choose("form[action*=Pick] [name=recogniser]", "A command of yours");
        browser.Choose("form[action*=Pick] [name=language]", "German");
        browser.Choose("form[action*=Pick] [name=recogniser]", "On this machine");
        browser.UntilText("form[action*=Pick] [name=language]", "German (not known to this recogniser)");
        browser.Click("form[action*=Pick] .btn-ember");
        browser.UntilText("#outcome", "knows English only");
        Assert.Empty(Get<Footage>().Sources(production));
        Assert.Equal("Cutaways", browser.Find("#title").GetAttribute("value"));
        Assert.All(browser.All("#pick-list input"), box => Assert.True(box.Selected));
    }

    [Fact]
    public void With_nothing_ticked_the_folder_stays_and_loose_files_lead_on_to_making_sittings()
    {
        Directory.CreateDirectory(Path.Combine(day, "card 1"));
        Bring("F001C001.MP4");
        File.Move(Path.Combine(day, "F001C001.MP4"), Path.Combine(day, "card 1", "F001C001.MP4"));
        Open("gather/new");
        browser.Click("#pick-list a");
        browser.UntilText("#pick-list", "F001C001.MP4");
        browser.Click("form[action*=Pick] .btn-ember");
        browser.UntilText("#outcome", "Tick the files");
        browser.UntilText("#pick-list", "F001C001.MP4");
        browser.Click("#pick-list input");
        browser.Click("form[action*=Pick] .btn-ember");
        browser.UntilText("#outcome", "1 file brought in");
        browser.Click("#make-sittings");
        browser.UntilText("h1", "Make sittings");
        browser.UntilText("#others", "F001C001.MP4");
    }

    [Fact]
    public async Task Files_of_one_name_show_their_folders()
    {
        foreach (var (folder, seed) in new[] { ("card 1", 1), ("card 2", 2) })
        {
            Directory.CreateDirectory(Path.Combine(day, folder));
            MadeMedia.Make(
                "-f",
                "lavfi",
                "-i",
                FormattableString.Invariant($"anoisesrc=duration=2:seed={seed}"),
                Path.Combine(day, folder, "CLIP0001.wav")
            );
        }
        await Get<Application.Gathering.Intake>().BringFolderInAsync(production, day, (_, _) => { }, CancellationToken.None);
        Open("gather/files");
        browser.UntilText("#files", "in card 1");
        browser.UntilText("#files", "in card 2");
        Open("gather/sittings");
        browser.UntilText("#others", "in card 1");
    }
}
