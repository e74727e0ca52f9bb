using System.Net;
using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Core.Sync;
using EmberLane.Engines;
using EmberLane.Engines.Speech;
using EmberLane.Running;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Web.Tests;

/// <summary>
/// Footage that is none, that lies, or that becomes something else: nothing that nobody chose is read, and nothing fills the disk.
/// </summary>
public sealed class HostileMediaTests : IAsyncLifetime
{
    private sealed class Disk : IDiskSpace
    {
        public long Free { get; set; } = long.MaxValue;

        public long FreeBytes(string folder) => Free;
    }

    private readonly string data = Directory.CreateTempSubdirectory("ember-hostile").FullName,
        footage = Directory.CreateTempSubdirectory("ember-allowed").FullName,
        outside = Directory.CreateTempSubdirectory("ember-outside").FullName;
    private readonly Disk disk = new();
    private readonly HttpClient client = new();
    private RunningServer server = null!;
    private long production;

    public async ValueTask InitializeAsync()
    {
        server = await RunningServer.StartAsync(data, demo: false, s => s.AddSingleton<IDiskSpace>(disk), footage);
        production = Get<Footage>().AddProduction("Hostile");
    }

    public async ValueTask DisposeAsync()
    {
        client.Dispose();
        await server.DisposeAsync();
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Array.ForEach([data, footage, outside], f => Directory.Delete(f, recursive: true));
    }

    private T Get<T>()
        where T : notnull => server.Services.GetRequiredService<T>();

    private string In(string name) => Path.Combine(footage, name);

    private Task<IntakeResult> BringAsync(string? title, params string[] names) =>
        Get<Intake>().BringInAsync(production, title, [.. names.Select(In)], CancellationToken.None);

    private Task IdleAsync() =>
        RunningServer.UntilAsync(() => Get<Upkeep>().IsIdle && Get<Jobs>().Of(production, 200).All(j => !j.IsOpen), "all background work");

    [Fact]
    public async Task Texts_that_name_other_files_are_no_films_and_nothing_that_they_name_is_read()
    {
        var secret = Path.Combine(outside, "secret.mp4");
        MadeMedia.Film(secret, "25", 2);
        var lists = HostileFiles.PlayLists(secret).ToList();
        lists.ForEach(l => File.WriteAllBytes(In(l.Name), l.Content));
        var result = await BringAsync(null, [.. lists.Select(l => l.Name)]);
        Assert.Equal((0, lists.Count), (result.Taken, result.LeftOut.Count));
        Assert.All(result.LeftOut, l => Assert.Contains("not a media file", l.Reason, StringComparison.Ordinal));
        // The same, should one have come in with an earlier version.
        await Assert.ThrowsAsync<ToolException>(() =>
            Ffmpeg.MakeThumbnailAsync(In("holiday.mp4"), MediaTime.Zero, Path.Combine(data, "x.jpg"), CancellationToken.None)
        );
        Assert.False(File.Exists(Path.Combine(data, "x.jpg")));
    }

    [Fact]
    public async Task A_list_that_names_a_pipe_holds_nothing_up()
    {
        System.Diagnostics.Process.Start("mkfifo", [In("pipe")])!.WaitForExit();
        File.WriteAllText(In("waits.mp4"), $"#EXTM3U\n#EXT-X-TARGETDURATION:10\n#EXTINF:10,\nfile://{In("pipe")}\n#EXT-X-ENDLIST\n");
        var result = await BringAsync(null, "waits.mp4", "pipe");
        Assert.Equal((0, 2), (result.Taken, result.LeftOut.Count));
    }

    [Fact]
    public async Task Broken_files_are_left_out_each_with_its_reason_and_notes_nested_without_end_are_passed_over()
    {
        var broken = HostileFiles.BrokenMedia().ToList();
        broken.ForEach(b => File.WriteAllBytes(In(b.Name), b.Content));
        var result = await BringAsync(null, [.. broken.Select(b => b.Name)]);
        Assert.Equal(["nested.wav"], Get<Footage>().Sources(production).Select(s => s.Name));
        Assert.Equal(broken.Count - 1, result.LeftOut.Count);
        Assert.All(result.LeftOut, l => Assert.NotEmpty(l.Reason));
    }

    [Fact]
    public async Task A_source_that_was_replaced_by_a_link_out_of_the_folder_is_not_sent()
    {
        MadeMedia.Make(
            "-f",
            "lavfi",
            "-i",
            "testsrc2=size=320x180:rate=25:duration=2",
            "-c:v",
            "libx264",
            "-pix_fmt",
            "yuv420p",
            In("plain.mp4")
        );
        await BringAsync(null, "plain.mp4");
        var source = Get<Footage>().Sources(production).Single();
        Assert.True(source.Facts.PlaysAsItIs);
        var address = new Uri(FormattableString.Invariant($"{server.Address}/media/{source.Id}/play"));
        Assert.Equal(File.ReadAllBytes(In("plain.mp4")), await client.GetByteArrayAsync(address));
        // As long as the source, so that only the place tells.
        File.WriteAllBytes(Path.Combine(outside, "private"), new byte[source.Size]);
        File.Delete(In("plain.mp4"));
        File.CreateSymbolicLink(In("plain.mp4"), Path.Combine(outside, "private"));
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync(address)).StatusCode);
        // Nor is it read to look whether it is still the same.
        await Get<FilesCheck>().RunAsync(production, (_, _, _) => { }, CancellationToken.None);
        Assert.Equal(FileState.Missing, Get<Footage>().Source(source.Id)!.State);
        Assert.Contains(
            "does not lie in a footage folder",
            Assert.Throws<FileNotFoundException>(() => Get<SourceFiles>().Open(source)).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_file_that_claims_fifty_days_is_refused_and_one_that_claims_ten_minutes_is_read_to_its_end()
    {
        MadeMedia.Make("-f", "lavfi", "-i", "anoisesrc=duration=5:seed=4", "-ar", "16000", "-ac", "1", In("true.flac"));
        var flac = File.ReadAllBytes(In("true.flac"));
        File.WriteAllBytes(In("days.flac"), HostileFiles.ClaimingFlac(flac, 50L * 86_400 * 16_000));
        File.WriteAllBytes(In("minutes.flac"), HostileFiles.ClaimingFlac(flac, 600 * 16_000));
        var result = await BringAsync("A sitting", "days.flac", "minutes.flac");
        Assert.Contains("too few for that", Assert.Single(result.LeftOut).Reason, StringComparison.Ordinal);
        var source = Get<Footage>().Sources(production).Single();
        Assert.Equal(MediaTime.FromMilliseconds(600_000), source.Facts.Duration);
        var pcm = Path.Combine(data, "heard.pcm");
        var levels = await SittingSound.MakeAsync(SittingSound.AllOf(source.Path, source.Facts), pcm, CancellationToken.None);
        Assert.InRange(new FileInfo(pcm).Length / 32_000, 5, 7);
        Assert.InRange(levels[0].Length, 500, 700);
    }

    [Fact]
    public async Task Work_stops_before_the_disk_is_full_says_so_and_goes_on_when_there_is_room()
    {
        MadeMedia.Film(In("long.mov"), "25", 20);
        disk.Free = 100_000_000;
        await BringAsync("A sitting", "long.mov");
        await IdleAsync();
        var failed = Get<Jobs>().Of(production, 10).Where(j => j.State == "failed").ToList();
        Assert.NotEmpty(failed);
        Assert.All(failed, j => Assert.Contains("are kept for what people do", j.Error, StringComparison.Ordinal));
        Assert.DoesNotContain(Directory.EnumerateFiles(Path.Combine(data, "cache")), f => f.EndsWith(".part", StringComparison.Ordinal));
        disk.Free = long.MaxValue;
        Get<Jobs>().TryAllAgain(production);
        Get<News>().Tell();
        await IdleAsync();
        Assert.All(Get<Jobs>().Of(production, 10), j => Assert.Equal("done", j.State));
    }

    [Fact]
    public async Task What_is_deleted_from_the_cache_is_made_again_and_a_cut_file_in_it_is_not_trusted()
    {
        MadeMedia.Film(In("a.mov"), "25", 8);
        await BringAsync("A sitting", "a.mov");
        await IdleAsync();
        var (cache, source) = (Get<MediaCache>(), Get<Footage>().Sources(production).Single());
        Assert.True(cache.IsComplete(source));
        Directory.Delete(Path.Combine(data, "cache"), recursive: true);
        Assert.False(cache.IsComplete(source));
        Get<Upkeep>().Ask(production);
        await IdleAsync();
        Assert.True(cache.IsComplete(source));
        Assert.Equal(
            HttpStatusCode.OK,
            (await client.GetAsync(new Uri(FormattableString.Invariant($"{server.Address}/media/{source.Id}/play")))).StatusCode
        );
        var copy = cache.Playing(source);
        using (var file = File.OpenWrite(copy))
        {
            file.SetLength(file.Length / 2);
        }
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await client.GetAsync(new Uri(FormattableString.Invariant($"{server.Address}/media/{source.Id}/play")))).StatusCode
        );
        Get<Upkeep>().Ask(production);
        await IdleAsync();
        Assert.True(cache.IsWhole(copy));
    }

    [Fact]
    public async Task Sync_takes_nothing_off_its_place_because_the_sound_can_not_be_found_this_time()
    {
        MadeMedia.Make("-f", "lavfi", "-i", "anoisesrc=duration=30:seed=4", "-ar", "16000", In("rec.wav"));
        MadeMedia.Make("-f", "lavfi", "-i", "anoisesrc=duration=20:seed=9", "-ar", "16000", In("other.wav"));
        var sitting = (await BringAsync("A sitting", "rec.wav", "other.wav")).SittingId!.Value;
        await IdleAsync();
        var other = Get<Footage>().SourcesOf(sitting).Single(s => s.Name == "other.wav");
        Assert.Null(other.Place);
        // As an earlier sync had found it, on a sound that is not there any more.
        var place = new ClockMap(new SittingTime(MediaTime.FromMilliseconds(4_000)), 0);
        Get<Footage>().Place(other.Id, Placement.BySound(place, "same sound"));
        Get<Jobs>().Add(production, WorkKinds.Sync, sitting, "Sync again");
        Get<News>().Tell();
        await IdleAsync();
        var after = Get<Footage>().Source(other.Id)!;
        Assert.Equal(place, after.Place);
        Assert.EndsWith("left where it was", after.Placement.Evidence, StringComparison.Ordinal);
        Assert.False(after.Placement.IsSure);
    }
}
