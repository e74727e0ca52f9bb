using System.Net;
using System.Text.RegularExpressions;
using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Core.Media;
using EmberLane.Core.Transcripts;
using EmberLane.Engines;
using EmberLane.Engines.Speech;
using EmberLane.Running;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Web.Tests;

/// <summary>What a hostile page, a broken database or a reader without end would do to a running server.</summary>
public sealed partial class AttackTests : IAsyncLifetime
{
    private readonly string data = Directory.CreateTempSubdirectory("ember-attack").FullName,
        footage = Directory.CreateTempSubdirectory("ember-allowed").FullName;
    private readonly HttpClient client = new();
    private RunningServer server = null!;
    private long production;

    public async ValueTask InitializeAsync()
    {
        server = await RunningServer.StartAsync(data, demo: false, null, footage);
        production = Get<Footage>().AddProduction("Under attack");
    }

    public async ValueTask DisposeAsync()
    {
        client.Dispose();
        await server.DisposeAsync();
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Array.ForEach([data, footage], f => Directory.Delete(f, recursive: true));
    }

    private T Get<T>()
        where T : notnull => server.Services.GetRequiredService<T>();

    private string Page(string path) => FormattableString.Invariant($"{server.Address}/productions/{production}/{path}");

    private async Task<HttpResponseMessage> SendAsync(
        HttpMethod method,
        string address,
        HttpContent? content = null,
        params (string Name, string Value)[] headers
    )
    {
        using var request = new HttpRequestMessage(method, address) { Content = content };
        if (method == HttpMethod.Post)
        {
            request.Headers.Add(
                "RequestVerificationToken",
                Token().Match(await client.GetStringAsync(new Uri(Page("gather/new")))).Groups[1].Value
            );
        }
        foreach (var (name, value) in headers)
        {
            request.Headers.Add(name, value);
        }
        return await client.SendAsync(request);
    }

    [Theory]
    [InlineData("Hide&first=abc&last=xyz")]
    [InlineData("Hide&first=0&last=99999999999")]
    [InlineData("Aside&first=1.5&last=2")]
    [InlineData("Retype&first=&last=2&text=so")]
    [InlineData("Mark&word=one")]
    [InlineData("Insert&after=one&text=so")]
    [InlineData("Keep&first=abc&last=1")]
    public async Task A_word_that_is_named_by_no_number_is_not_taken_for_the_first(string query)
    {
        var facts = new SourceFacts("wav", MediaTime.FromMilliseconds(9_000), null, [], StartOfFile.Unknown, null, null, null);
        var sitting = Get<Footage>().BringIn(production, "Words", [new NewSource("/nowhere/a.wav", "a.wav", 1, "a", facts)])!.Value;
        SittingTime At(int n) => new(MediaTime.FromMilliseconds(n * 1000));
        var text = Get<Transcripts>()
            .Add(
                sitting,
                "local",
                "en",
                [.. Enumerable.Range(0, 4).Select(n => new RecordWord(new(n), "w" + n, new SittingRange(At(n), At(n + 1)), null, 0))],
                new Dictionary<int, string>()
            );
        using var answer = await SendAsync(HttpMethod.Post, Page(FormattableString.Invariant($"read/{sitting}?handler={query}")));
        Assert.Equal(HttpStatusCode.Conflict, answer.StatusCode);
        Assert.Contains("no number", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.True(Get<Transcripts>().Get(text).Layers.SameAs(Layers.None));
        Assert.Empty(Get<Bites>().Of(production));
    }

    [Theory]
    [InlineData("cross-site", "no-cors", "image", "gather/files", HttpStatusCode.Forbidden)]
    [InlineData("same-site", "no-cors", "audio", "gather/files", HttpStatusCode.Forbidden)]
    [InlineData("cross-site", "navigate", "iframe", "gather/files", HttpStatusCode.Forbidden)]
    [InlineData("cross-site", "navigate", "document", "gather/files?handler=Labels", HttpStatusCode.Forbidden)]
    [InlineData("cross-site", "navigate", "document", "gather/files", HttpStatusCode.OK)]
    [InlineData("same-origin", "cors", "empty", "gather/files?handler=Labels", HttpStatusCode.OK)]
    [InlineData("none", "navigate", "document", "gather/files", HttpStatusCode.OK)]
    public async Task What_a_page_of_another_site_has_the_browser_ask_for_is_not_answered(
        string site,
        string mode,
        string destination,
        string path,
        HttpStatusCode expected
    )
    {
        using var answer = await SendAsync(
            HttpMethod.Get,
            Page(path),
            null,
            ("Sec-Fetch-Site", site),
            ("Sec-Fetch-Mode", mode),
            ("Sec-Fetch-Dest", destination)
        );
        Assert.Equal(expected, answer.StatusCode);
    }

    [Fact]
    public async Task Every_answer_forbids_other_sites_to_embed_it()
    {
        foreach (var path in new[] { "/", "/css/ground.css", "/no-such-page", "/media/1/play", "/healthz" })
        {
            using var answer = await SendAsync(HttpMethod.Get, server.Address + path);
            Assert.Equal("same-origin", Assert.Single(answer.Headers.GetValues("Cross-Origin-Resource-Policy")));
        }
    }

    [Fact]
    public void A_few_stretches_are_decoded_for_listening_at_once_and_no_more()
    {
        using var listening = new Listening();
        var turns = Enumerable.Range(0, Listening.Most).Select(_ => listening.Take()).ToList();
        Assert.All(turns, Assert.NotNull);
        Assert.Null(listening.Take());
        turns[0]!.Dispose();
        turns[0]!.Dispose();
        Assert.NotNull(listening.Take());
        Assert.Null(listening.Take());
    }

    [Fact]
    public async Task A_field_of_an_upload_that_is_no_title_is_refused_and_nothing_is_kept()
    {
        using var form = new MultipartFormDataContent { { new StringContent(new string('a', 5_000_000)), "title" } };
        using var file = new ByteArrayContent(new byte[1000]);
        form.Add(file, "files", "a.wav");
        using var answer = await SendAsync(HttpMethod.Post, Page("gather/new?handler=Upload"), form, ("HX-Request", "true"));
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains("more than 4000 letters", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Empty(Directory.EnumerateFileSystemEntries(Path.Combine(data, "footage")));
    }

    [Fact]
    public async Task Thousands_of_ticked_files_are_taken_at_once()
    {
        using var form = new FormUrlEncodedContent([
            .. Enumerable.Range(1, 3_000).Select(i => KeyValuePair.Create("files", FormattableString.Invariant($"{i}"))),
            KeyValuePair.Create("note", "all"),
        ]);
        using var answer = await SendAsync(HttpMethod.Post, Page("gather/files?handler=Label"), form, ("HX-Request", "true"));
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        Assert.Contains("no longer in the production", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("at=9223372036854775807")]
    [InlineData("at=-9223372036854775808&zoom=9223372036854775807")]
    [InlineData("at=٣")]
    public async Task A_moment_that_no_sitting_has_is_shown_as_the_nearest_that_it_has(string query)
    {
        MadeMedia.Sound(Path.Combine(footage, "a.wav"), 3);
        MadeMedia.Make("-f", "lavfi", "-i", "anoisesrc=duration=2:seed=9", Path.Combine(footage, "b.wav"));
        await Get<Intake>()
            .BringInAsync(
                production,
                "A sitting",
                [Path.Combine(footage, "a.wav"), Path.Combine(footage, "b.wav")],
                CancellationToken.None
            );
        var source = Get<Footage>().Sources(production).Single(s => s.Name == "b.wav").Id;
        using var answer = await SendAsync(HttpMethod.Get, Page(FormattableString.Invariant($"gather/check/{source}?{query}")));
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        using var heard = await SendAsync(
            HttpMethod.Get,
            Page(FormattableString.Invariant($"gather/check/{source}?handler=Listen&at=9223372036854775807"))
        );
        Assert.Equal(HttpStatusCode.OK, heard.StatusCode);
    }

    [Fact]
    public async Task A_recogniser_that_prints_without_end_is_stopped_with_the_reason()
    {
        var program = Path.Combine(data, "endless");
        File.WriteAllText(program, "#!/bin/sh\nexec yes '{\"schema\":'\n");
        File.SetUnixFileMode(program, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
        var failed = await Assert.ThrowsAsync<ToolException>(() =>
            new CommandRecogniser(program).RecogniseAsync(new ToRecognise("/dev/null", "x", "en", []), CancellationToken.None)
        );
        Assert.Contains("printed more than 64 MB", failed.Message, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_sound_of_hours_is_written_for_a_recogniser_in_memory_that_does_not_grow()
    {
        var (pcm, wav) = (Path.Combine(data, "long.pcm"), Path.Combine(data, "long.wav"));
        await using (var file = File.Create(pcm))
        {
            file.SetLength(2L * 3600 * 32_000);
        }
        var before = GC.GetTotalAllocatedBytes();
        await PcmFile.WriteWavAsync(pcm, 0, long.MaxValue / 4, wav, CancellationToken.None);
        Assert.InRange(GC.GetTotalAllocatedBytes() - before, 0, 64 << 20);
        Assert.Equal(new FileInfo(pcm).Length + 44, new FileInfo(wav).Length);
        Assert.Equal(MediaTime.FromMilliseconds(7_200_000), (await MediaProbe.MeasureAsync(wav, CancellationToken.None)).Duration);
    }

    [Fact]
    public async Task Work_goes_on_after_the_database_failed_and_the_page_of_work_tells_of_it_meanwhile()
    {
        Sql("ALTER TABLE job RENAME TO job_away");
        Get<News>().Tell();
        await RunningServer.UntilAsync(() => Get<WorkLoop>().Trouble is not null, "the trouble to be told");
        Assert.Contains("Work can not go on just now", Get<WorkLoop>().Trouble, StringComparison.Ordinal);
        Sql("ALTER TABLE job_away RENAME TO job");
        MadeMedia.Sound(Path.Combine(footage, "a.wav"), 2);
        var id = Get<Jobs>().Add(production, WorkKinds.Folder, 1, "Files of a day", footage);
        await RunningServer.UntilAsync(
            () => Get<Jobs>().Get(id) is { State: "done" } && Get<WorkLoop>().Trouble is null,
            "the work to be done"
        );
        Assert.Single(Get<Footage>().Sources(production));

        void Sql(string text) => DatabaseFile.Run(Path.Combine(data, "ember.sqlite"), text);
    }

    [Fact]
    public async Task A_change_that_the_database_refuses_is_answered_with_a_sentence_and_nothing_is_half_done()
    {
        DatabaseFile.Run(
            Path.Combine(data, "ember.sqlite"),
            "CREATE TRIGGER full BEFORE INSERT ON production BEGIN SELECT RAISE(ABORT, 'as if the disk were full'); END"
        );
        using var form = new FormUrlEncodedContent([KeyValuePair.Create("name", "Another")]);
        using var answer = await SendAsync(HttpMethod.Post, server.Address + "/", form);
        Assert.Equal(HttpStatusCode.InsufficientStorage, answer.StatusCode);
        Assert.Contains("Nothing of this was saved", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Single(Get<Footage>().Productions());
    }

    [Fact]
    public async Task A_second_server_on_the_folder_is_refused_with_a_sentence()
    {
        var refused = await Assert.ThrowsAsync<StoreException>(() => RunningServer.StartAsync(data, demo: false));
        Assert.Contains($"in use by another Ember Lane (process {Environment.ProcessId})", refused.Message, StringComparison.Ordinal);
    }

    [GeneratedRegex("RequestVerificationToken\":\"([^\"]+)\"")]
    private static partial Regex Token();
}
