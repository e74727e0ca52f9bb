using System.Text.RegularExpressions;
using EmberLane.Application.Work;
using EmberLane.Running;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Web.Tests;

public sealed partial class RestartTests : IDisposable
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
        using (var process = ServerProcess.Start(data, "--demo", Path.Combine(RunningServer.Repository, "demo")))
        {
            await process.ReadyAsync();
            // Another process on the same database: the queue is in the file, not in memory.
            var jobs = new Jobs(new Database(Path.Combine(data, "ember.sqlite")));
            var id = jobs.Add(1, "transcribe", 3, "Transcript of The bridge walk", "local");
            await RunningServer.UntilAsync(() => jobs.Pieces(id).Count > 0, "the first piece");
            await process.KillAsync();
            Assert.Equal("running", jobs.Get(id)!.State);
            Assert.Null(new Footage(new Database(Path.Combine(data, "ember.sqlite")), TimeProvider.System).Sitting(3)!.TranscriptId);
            var kept = jobs.Pieces(id);
            await using var server = await RunningServer.StartAsync(data, demo: false);
            await RunningServer.UntilAsync(() => !jobs.Get(id)!.IsOpen, "the rest", 240);
            Assert.Equal(("done", ""), (jobs.Get(id)!.State, jobs.Get(id)!.Error));
            var words = server
                .Services.GetRequiredService<Store.Transcripts>()
                .Get(server.Services.GetRequiredService<Footage>().Sitting(3)!.TranscriptId!.Value)
                .Words;
            var known = kept.SelectMany(p => Core.Speech.WordsJson.Read(p.Words).Words)
                .Select(w => (w.Text, w.Range.In.FromZero.ToMillisecondsRounded()))
                .ToList();
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
        server.Services.GetRequiredService<News>().Tell();
        await RunningServer.UntilAsync(() => jobs.Get(id)!.State == "running", "the start");
        loop.Cancel(id);
        Assert.Equal("cancelled", jobs.Get(id)!.State);
        Assert.Null(server.Services.GetRequiredService<Footage>().Sitting(3)!.TranscriptId);
        jobs.TryAgain(id);
        server.Services.GetRequiredService<News>().Tell();
        await RunningServer.UntilAsync(() => jobs.Get(id)!.State is "done" or "failed", "the end");
        Assert.Equal("", jobs.Get(id)!.Error);
        Assert.NotNull(server.Services.GetRequiredService<Footage>().Sitting(3)!.TranscriptId);
    }

    [Fact]
    public async Task A_server_killed_during_edits_has_every_edit_that_it_answered_and_none_half()
    {
        const int sitting = 1;
        var answered = 0;
        using (var process = ServerProcess.Start(data, "--demo", Path.Combine(RunningServer.Repository, "demo")))
        {
            await process.ReadyAsync();
            using var client = new HttpClient();
            var page = FormattableString.Invariant($"{process.Address}/productions/1/read/{sitting}");
            var token = Token().Match(await client.GetStringAsync(new Uri(page))).Groups[1].Value;
            var editing = Task.Run(async () =>
            {
                while (true)
                {
                    using var form = new FormUrlEncodedContent(
                        new Dictionary<string, string>
                        {
                            ["first"] = "3",
                            ["last"] = "3",
                            ["text"] = FormattableString.Invariant($"Word{answered}"),
                            ["__RequestVerificationToken"] = token,
                        }
                    );
                    using var answer = await client.PostAsync(new Uri(page + "?handler=Retype"), form);
                    Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
                    Interlocked.Increment(ref answered);
                }
            });
            await RunningServer.UntilAsync(() => Volatile.Read(ref answered) >= 20 || editing.IsCompleted, "twenty edits");
            await process.KillAsync();
            await Assert.ThrowsAnyAsync<HttpRequestException>(() => editing);
        }
        var database = new Database(Path.Combine(data, "ember.sqlite"));
        Assert.Equal(
            "ok",
            database.Read(c =>
            {
                using var check = c.CreateCommand();
                check.CommandText = "PRAGMA integrity_check";
                return (string)check.ExecuteScalar()!;
            })
        );
        var transcripts = new Store.Transcripts(database, TimeProvider.System);
        var id = new Footage(database, TimeProvider.System).Sitting(sitting)!.TranscriptId!.Value;
        // The one that was under way when it was killed is there whole or not at all.
        var after = transcripts.Get(id).Said(new(3), new(3));
        Assert.Contains(
            after,
            new[] { FormattableString.Invariant($"Word{answered - 1}"), FormattableString.Invariant($"Word{answered}") }
        );
        for (var left = after == FormattableString.Invariant($"Word{answered}") ? answered + 1 : answered; left > 0; left--)
        {
            Assert.NotNull(transcripts.Step(id, redo: false, "producer"));
        }
        Assert.Null(transcripts.Step(id, redo: false, "producer"));
    }

    [GeneratedRegex("RequestVerificationToken\":\"([^\"]+)\"")]
    private static partial Regex Token();
}
