using System.Net;
using System.Net.Http.Headers;
using System.Text.RegularExpressions;
using EmberLane.Application.Gathering;
using EmberLane.Engines;
using EmberLane.Engines.Speech;
using EmberLane.Running;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Web.Tests;

public sealed partial class BadInputTests : IAsyncLifetime
{
    private sealed class SmallDisk : IDiskSpace
    {
        public long Free { get; set; } = long.MaxValue;

        public long FreeBytes(string folder) => Free;
    }

    private readonly string data = Directory.CreateTempSubdirectory("ember-bad").FullName;
    private readonly string allowed = Directory.CreateTempSubdirectory("ember-allowed").FullName;
    private readonly string outside = Directory.CreateTempSubdirectory("ember-outside").FullName;
    private readonly SmallDisk disk = new();
    private readonly HttpClient client = new();
    private RunningServer server = null!;
    private long production;

    public async ValueTask InitializeAsync()
    {
        server = await RunningServer.StartAsync(data, demo: false, s => s.AddSingleton<IDiskSpace>(disk), allowed);
        production = server.Services.GetRequiredService<Footage>().AddProduction("Bad day");
    }

    public async ValueTask DisposeAsync()
    {
        client.Dispose();
        await server.DisposeAsync();
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        foreach (var folder in new[] { data, allowed, outside })
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private string New => FormattableString.Invariant($"{server.Address}/productions/{production}/gather/new");

    private string Uploads => Path.Combine(data, "footage");

    private async Task<(HttpStatusCode Status, string Text)> UploadAsync(string name, byte[] content)
    {
        using var form = new MultipartFormDataContent { { new StringContent("A sitting"), "title" } };
        using var file = new ByteArrayContent(content);
        file.Headers.ContentDisposition = new ContentDispositionHeaderValue("form-data") { Name = "\"files\"" };
        file.Headers.ContentDisposition.Parameters.Add(new NameValueHeaderValue("filename*", "UTF-8''" + Uri.EscapeDataString(name)));
        form.Add(file);
        return await PostAsync(New + "?handler=Upload", form);
    }

    private async Task<(HttpStatusCode Status, string Text)> PostAsync(string address, HttpContent content, bool withToken = true)
    {
        var page = await client.GetStringAsync(new Uri(New));
        using var request = new HttpRequestMessage(HttpMethod.Post, address) { Content = content };
        if (withToken)
        {
            request.Headers.Add("RequestVerificationToken", Token().Match(page).Groups[1].Value);
        }
        request.Headers.Add("HX-Request", "true");
        using var answer = await client.SendAsync(request);
        return (answer.StatusCode, WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()));
    }

    private void NothingWasMade()
    {
        var footage = server.Services.GetRequiredService<Footage>();
        Assert.Empty(footage.Sittings(production));
        Assert.Empty(footage.Sources(production));
        Assert.Empty(Directory.EnumerateFiles(Uploads, "*", SearchOption.AllDirectories));
    }

    private static byte[] Made(Action<string> make, string ending)
    {
        var path = Path.Combine(Path.GetTempPath(), Guid.NewGuid().ToString("N") + ending);
        make(path);
        var bytes = File.ReadAllBytes(path);
        File.Delete(path);
        return bytes;
    }

    [Fact]
    public async Task A_text_named_mov_an_empty_file_and_a_film_cut_short_are_left_out_with_the_reason_and_not_kept()
    {
        Assert.Contains(
            "not a media file",
            (await UploadAsync("notes.mov", "not a film at all"u8.ToArray())).Text,
            StringComparison.Ordinal
        );
        Assert.Contains("0 bytes", (await UploadAsync("empty.mov", [])).Text, StringComparison.Ordinal);
        var film = Made(p => MadeMedia.Film(p, "25", 2), ".mp4");
        Assert.Contains("cut short", (await UploadAsync("cut.mp4", film[..(film.Length / 2)])).Text, StringComparison.Ordinal);
        NothingWasMade();
    }

    [Fact]
    public async Task A_WAV_whose_header_lies_about_its_size_is_measured_by_what_is_there()
    {
        var wav = Made(p => MadeMedia.Sound(p, 2), ".wav");
        BitConverter.GetBytes(uint.MaxValue).CopyTo(wav, 4);
        var chunk = wav.AsSpan().IndexOf("data"u8);
        BitConverter.GetBytes(2_000_000_000).CopyTo(wav, chunk + 4);
        var (_, text) = await UploadAsync("lies.wav", wav);
        Assert.Contains("1 file brought in", text, StringComparison.Ordinal);
        var source = Assert.Single(server.Services.GetRequiredService<Footage>().Sources(production));
        Assert.InRange(source.Facts.Duration.ToMillisecondsRounded(), 1990, 2010);
    }

    [Theory]
    [InlineData("../../../etc/passwd.wav")]
    [InlineData("..\\..\\evil.wav")]
    [InlineData("a\"b'c\nd.wav")]
    [InlineData(".hidden.wav")]
    [InlineData("名前 שם.wav")]
    [InlineData("<script>alert(1)<∕script>.wav")]
    public async Task A_hostile_file_name_stays_in_its_folder_and_is_shown_as_text(string name)
    {
        var (status, text) = await UploadAsync(name, Made(p => MadeMedia.Sound(p, 1), ".wav"));
        Assert.Equal(HttpStatusCode.OK, status);
        Assert.Contains("1 file brought in", text, StringComparison.Ordinal);
        var source = Assert.Single(server.Services.GetRequiredService<Footage>().Sources(production));
        Assert.StartsWith(Uploads + "/", source.Path, StringComparison.Ordinal);
        Assert.Equal(source.Path, Path.GetFullPath(source.Path));
        Assert.DoesNotContain(
            "<script>alert",
            await client.GetStringAsync(new Uri(FormattableString.Invariant($"{server.Address}/productions/{production}/gather"))),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task An_upload_that_the_disk_has_no_room_for_is_refused_before_it_is_read()
    {
        disk.Free = 600L << 20;
        var (status, text) = await UploadAsync("big.mov", new byte[100 << 20]);
        Assert.Equal(HttpStatusCode.InsufficientStorage, status);
        Assert.Contains("Nothing was copied", text, StringComparison.Ordinal);
        NothingWasMade();
    }

    [Fact]
    public async Task Paths_outside_the_footage_folders_are_refused_also_through_a_link()
    {
        var film = Path.Combine(outside, "secret.mp4");
        MadeMedia.Film(film, "25", 1);
        File.CreateSymbolicLink(Path.Combine(allowed, "link.mp4"), film);
        Directory.CreateSymbolicLink(Path.Combine(allowed, "linked"), outside);
        foreach (
            var path in new[]
            {
                film,
                Path.Combine(allowed, "../" + Path.GetFileName(outside) + "/secret.mp4"),
                Path.Combine(allowed, "link.mp4"),
                Path.Combine(allowed, "linked", "secret.mp4"),
                "/etc/passwd",
            }
        )
        {
            using var form = new FormUrlEncodedContent([KeyValuePair.Create("paths", path), KeyValuePair.Create("title", "x")]);
            var (_, text) = await PostAsync(New + "?handler=Pick", form);
            Assert.True(text.Contains("outside the footage folders", StringComparison.Ordinal), path + " gave: " + text);
        }
        Assert.Contains(
            "not one that footage may be read from",
            WebUtility.HtmlDecode(await client.GetStringAsync(new Uri(New + "?folder=" + Uri.EscapeDataString(outside)))),
            StringComparison.Ordinal
        );
        using var broken = new StringContent("paths=%00&title=x", null, "application/x-www-form-urlencoded");
        Assert.Equal(HttpStatusCode.BadRequest, (await PostAsync(New + "?handler=Pick", broken)).Status);
        NothingWasMade();
    }

    [Fact]
    public async Task A_film_in_an_allowed_folder_is_picked_and_a_second_time_recognised_by_its_content()
    {
        var film = Path.Combine(allowed, "day one.mp4");
        MadeMedia.Film(film, "30000/1001", 1);
        File.Copy(film, Path.Combine(allowed, "renamed.mp4"));
        foreach (
            var (name, said) in new[]
            {
                ("day one.mp4", "1 file brought in"),
                ("renamed.mp4", "in this production already, as day one.mp4"),
            }
        )
        {
            using var form = new FormUrlEncodedContent([
                KeyValuePair.Create("paths", Path.Combine(allowed, name)),
                KeyValuePair.Create("title", "x"),
            ]);
            Assert.Contains(said, (await PostAsync(New + "?handler=Pick", form)).Text, StringComparison.Ordinal);
        }
        Assert.Single(server.Services.GetRequiredService<Footage>().Sources(production));
    }

    [Fact]
    public async Task A_request_without_its_token_or_under_another_name_is_refused()
    {
        using var form = new FormUrlEncodedContent([KeyValuePair.Create("title", "x")]);
        Assert.Equal(HttpStatusCode.BadRequest, (await PostAsync(New + "?handler=Pick", form, withToken: false)).Status);
        using var request = new HttpRequestMessage(HttpMethod.Get, server.Address + "/");
        request.Headers.Host = "evil.example";
        Assert.Equal(HttpStatusCode.MisdirectedRequest, (await client.SendAsync(request)).StatusCode);
    }

    [Fact]
    public async Task The_strict_policy_is_on_every_page_and_the_server_says_when_it_is_ready()
    {
        using var answer = await client.GetAsync(new Uri(server.Address + "/"));
        var policy = Assert.Single(answer.Headers.GetValues("Content-Security-Policy"));
        Assert.Contains("script-src 'self';", policy, StringComparison.Ordinal);
        Assert.DoesNotContain("unsafe", policy, StringComparison.Ordinal);
        Assert.Equal("ready", await client.GetStringAsync(new Uri(server.Address + "/healthz")));
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync(new Uri(server.Address + "/productions/77/read"))).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync(new Uri(server.Address + "/media/77/play"))).StatusCode);
    }

    [Fact]
    public async Task A_recogniser_that_is_missing_fails_or_talks_nonsense_says_so()
    {
        var wav = Path.Combine(outside, "a.wav");
        MadeMedia.Sound(wav, 1);
        var missing = await Assert.ThrowsAsync<ToolException>(() =>
            new PocketSphinx("no-such-program").RecogniseAsync(new ToRecognise(wav, "", "en", []), CancellationToken.None)
        );
        Assert.Contains("not installed", missing.Message, StringComparison.Ordinal);
        var failing = await Assert.ThrowsAsync<ToolException>(() =>
            new CommandRecogniser("/bin/false").RecogniseAsync(new ToRecognise(wav, "", "en", []), CancellationToken.None)
        );
        Assert.Contains("exit code 1", failing.Message, StringComparison.Ordinal);
        var nonsense = await Assert.ThrowsAsync<ToolException>(() =>
            new CommandRecogniser("/bin/echo").RecogniseAsync(new ToRecognise(wav, "", "en", []), CancellationToken.None)
        );
        Assert.Contains("can not be read", nonsense.Message, StringComparison.Ordinal);
    }

    [GeneratedRegex("RequestVerificationToken\":\"([^\"]+)\"")]
    private static partial Regex Token();
}
