using System.Diagnostics;
using EmberLane.Application.Work;
using EmberLane.Running;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Web.Tests;

/// <summary>Starts that can not be, and what a former life left behind.</summary>
public sealed class StartingTests : IDisposable
{
    private readonly string data = Directory.CreateTempSubdirectory("ember-starting").FullName;

    public void Dispose()
    {
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(data, recursive: true);
    }

    // The real program: what it says, and how it ends.
    private static async Task<(int Code, string Said)> StartAsync(string folder)
    {
        using var process = Process.Start(
            new ProcessStartInfo(
                "dotnet",
                [
                    Path.Combine(AppContext.BaseDirectory, "EmberLane.Web.dll"),
                    "serve",
                    "--port",
                    FormattableString.Invariant($"{RunningServer.FreePort()}"),
                    "--data",
                    folder,
                ]
            )
            {
                RedirectStandardOutput = true,
                RedirectStandardError = true,
            }
        )!;
        using var limit = new CancellationTokenSource(Patience.Of(60));
        var said = process.StandardError.ReadToEndAsync(limit.Token);
        try
        {
            await process.WaitForExitAsync(limit.Token);
        }
        finally
        {
            process.Kill(entireProcessTree: true);
        }
        return (process.ExitCode, (await said).Trim());
    }

    private static void IsASentence((int Code, string Said) end, string part)
    {
        Assert.Equal(2, end.Code);
        Assert.Contains(part, end.Said, StringComparison.Ordinal);
        Assert.DoesNotContain("   at ", end.Said, StringComparison.Ordinal);
        Assert.DoesNotContain("Unhandled", end.Said, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_start_that_can_not_be_ends_with_a_sentence_and_the_code_2()
    {
        Directory.CreateDirectory(Path.Combine(data, "a", "ember.sqlite"));
        IsASentence(await StartAsync(Path.Combine(data, "a")), "is a folder");
        Directory.CreateDirectory(Path.Combine(data, "b"));
        File.WriteAllBytes(Path.Combine(data, "b", "ember.sqlite"), []);
        IsASentence(await StartAsync(Path.Combine(data, "b")), "empty (0 bytes)");
        Directory.CreateDirectory(Path.Combine(data, "c", "keys"));
        File.WriteAllText(Path.Combine(data, "c", "keys", "key-1.xml"), "not a key");
        IsASentence(await StartAsync(Path.Combine(data, "c")), "holds a file that is not a key");
        File.WriteAllText(Path.Combine(data, "d"), "a file");
        IsASentence(await StartAsync(Path.Combine(data, "d")), "can not be used as data folder");
        IsASentence(await StartAsync(Path.Combine(data, new string('n', 300))), "longer than the 255 bytes");
        IsASentence(await StartAsync("/proc/ember"), "can not be used as data folder");
    }

    [Fact]
    public async Task Two_servers_do_not_share_a_folder_and_a_killed_one_does_not_hold_it()
    {
        using (var first = ServerProcess.Start(data))
        {
            await first.ReadyAsync();
            IsASentence(await StartAsync(data), "in use by another Ember Lane");
            await first.KillAsync();
        }
        await using var next = await RunningServer.StartAsync(data, demo: false);
        Assert.Empty(next.Services.GetRequiredService<Footage>().Productions());
    }

    [Fact]
    public async Task What_a_killed_server_left_half_made_is_cleared_and_what_is_whole_stays()
    {
        var (cache, uploads) = (Path.Combine(data, "cache"), Path.Combine(data, "footage"));
        string[] gone = ["a.play.mp4.0123.part", "a.pcm.both", "piece.wav", "b.voices", "c.part-of-it"];
        Directory.CreateDirectory(cache);
        Array.ForEach(gone, g => File.WriteAllText(Path.Combine(cache, g), "half"));
        Directory.CreateDirectory(Path.Combine(cache, "piece.wav.speech"));
        File.WriteAllText(Path.Combine(cache, "piece.wav.speech", "u000001.raw"), "half");
        File.WriteAllText(Path.Combine(cache, "whole.peaks"), "whole");
        foreach (var folder in new[] { "broken", "kept" })
        {
            Directory.CreateDirectory(Path.Combine(uploads, folder));
            File.WriteAllText(Path.Combine(uploads, folder, "a.wav"), "sound");
        }
        File.WriteAllBytes(Path.Combine(uploads, "broken", DataFolder.Uploading), []);
        await using var server = await RunningServer.StartAsync(data, demo: false);
        Assert.Equal(
            [".marked", "whole.peaks", "whole.peaks.whole"],
            Directory.EnumerateFileSystemEntries(cache).Select(Path.GetFileName).Order(StringComparer.Ordinal)
        );
        Assert.Equal(["kept"], Directory.EnumerateDirectories(uploads).Select(Path.GetFileName));
        Assert.True(File.Exists(Path.Combine(uploads, "kept", "a.wav")));
    }

    [Fact]
    public async Task Programs_that_a_killed_server_had_started_end_with_it_and_so_do_those_that_they_started()
    {
        var (program, note) = (Path.Combine(data, "slow"), Path.Combine(data, "pids"));
        File.WriteAllText(program, $"#!/bin/bash\nsetsid sleep 3600 &\necho $$ $! > {note}.part && mv {note}.part {note}\nwait\n");
        File.SetUnixFileMode(program, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
        using var server = ServerProcess.Start(
            data,
            "--demo",
            Path.Combine(RunningServer.Repository, "demo"),
            "--recogniser-command",
            program
        );
        await server.ReadyAsync();
        new Jobs(new Database(Path.Combine(data, "ember.sqlite"))).Add(1, WorkKinds.Transcribe, 3, "Transcript", "command");
        await RunningServer.UntilAsync(() => File.Exists(note), "the recogniser to run");
        var ids = File.ReadAllText(note).Split(' ').Select(p => int.Parse(p, System.Globalization.CultureInfo.InvariantCulture)).ToList();
        Assert.All(ids, id => Assert.True(IsRunning(id)));
        await server.KillAloneAsync();
        await RunningServer.UntilAsync(() => !ids.Any(IsRunning), "its programs to end", 20);
    }

    private static bool IsRunning(int id)
    {
        try
        {
            return !File.ReadAllText(FormattableString.Invariant($"/proc/{id}/stat")).Contains(") Z ", StringComparison.Ordinal);
        }
        catch (IOException)
        {
            return false;
        }
    }
}
