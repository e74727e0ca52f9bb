using System.Diagnostics;
using EmberLane.Running;
using EmberLane.Store;
using EmberLane.Web.Work;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Web.Tests;

public sealed class RestartTests : IDisposable
{
    private readonly string data = Directory.CreateTempSubdirectory("ember-restart").FullName;

    public void Dispose()
    {
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(data, recursive: true);
    }

    [Fact]
    public async Task A_server_killed_during_a_transcription_takes_it_up_again_with_the_pieces_it_had()
    {
        using (var process = await StartProcessAsync())
        {
            // Another process on the same database: the queue is in the file, not in memory.
            var jobs = new Jobs(new Database(Path.Combine(data, "ember.sqlite")));
            var id = jobs.Add(1, "transcribe", 3, "Transcript of The bridge walk", "local");
            await RunningServer.UntilAsync(() => jobs.Pieces(id).Count > 0, "the first piece");
            process.Kill(entireProcessTree: true);
            await process.WaitForExitAsync();
            Assert.Equal("running", jobs.Get(id)!.State);
            Assert.Null(new Footage(new Database(Path.Combine(data, "ember.sqlite"))).Sitting(3)!.TranscriptId);
            var kept = jobs.Pieces(id);
            await using var server = await RunningServer.StartAsync(data, demo: false);
            await RunningServer.UntilAsync(() => !jobs.Get(id)!.IsOpen, "the rest", 240);
            Assert.Equal(("done", ""), (jobs.Get(id)!.State, jobs.Get(id)!.Error));
            var words = server.Services.GetRequiredService<Store.Transcripts>().Get(server.Services.GetRequiredService<Footage>().Sitting(3)!.TranscriptId!.Value).Words;
            var known = kept.Values.SelectMany(p => Core.Speech.WordsJson.Read(p).Words).Select(w => (w.Text, w.Range.In.FromZero.ToMillisecondsRounded())).ToList();
            Assert.NotEmpty(known);
            var found = words.Select(w => (w.Text, w.Range.In.FromZero.ToMillisecondsRounded())).ToHashSet();
            Assert.All(known, w => Assert.Contains(w, found));
        }
    }

    [Fact]
    public async Task A_transcription_is_cancelled_and_tried_again_with_a_recogniser_that_is_simulated()
    {
        await using var server = await RunningServer.StartAsync(data, demo: true);
        var jobs = server.Services.GetRequiredService<Jobs>();
        var loop = server.Services.GetRequiredService<WorkLoop>();
        var id = jobs.Add(1, "transcribe", 3, "Transcript", "simulated");
        server.Services.GetRequiredService<WorkNews>().Tell();
        await RunningServer.UntilAsync(() => jobs.Get(id)!.State == "running", "the start");
        loop.Cancel(id);
        Assert.Equal("cancelled", jobs.Get(id)!.State);
        Assert.Null(server.Services.GetRequiredService<Footage>().Sitting(3)!.TranscriptId);
        jobs.TryAgain(id);
        server.Services.GetRequiredService<WorkNews>().Tell();
        await RunningServer.UntilAsync(() => jobs.Get(id)!.State is "done" or "failed", "the end");
        Assert.Equal("", jobs.Get(id)!.Error);
        Assert.NotNull(server.Services.GetRequiredService<Footage>().Sitting(3)!.TranscriptId);
    }

    private async Task<Process> StartProcessAsync()
    {
        var port = FormattableString.Invariant($"{21000 + (Environment.ProcessId % 9000)}");
        var process = Process.Start(new ProcessStartInfo("dotnet",
            [Path.Combine(AppContext.BaseDirectory, "EmberLane.Web.dll"), "serve", "--port", port, "--data", data, "--demo", Path.Combine(RunningServer.Repository, "demo")]) { RedirectStandardOutput = true })!;
        using var client = new HttpClient();
        await RunningServer.UntilAsync(() => Answers(client, port), "the server to be ready");
        return process;
    }

    private static bool Answers(HttpClient client, string port)
    {
        try
        {
            return client.GetAsync(new Uri($"http://127.0.0.1:{port}/healthz")).GetAwaiter().GetResult().IsSuccessStatusCode;
        }
        catch (HttpRequestException)
        {
            return false;
        }
    }
}
