using System.Collections.Concurrent;
using System.Diagnostics;

namespace EmberLane.Running;

/// <summary>The real worker in a process of its own.</summary>
public sealed class WorkerProcess : IDisposable
{
    private readonly Process process;
    private readonly ConcurrentQueue<string> said = new();

    public WorkerProcess(Uri queue, params IReadOnlyList<string> more)
    {
        process = Process.Start(
            new ProcessStartInfo(
                "dotnet",
                [Path.Combine(AppContext.BaseDirectory, "EmberLane.Web.dll"), "work", "--nats", queue.ToString(), .. more]
            )
            {
                RedirectStandardOutput = true,
                RedirectStandardError = true,
            }
        )!;
        process.OutputDataReceived += (_, line) => said.Enqueue(line.Data ?? "");
        process.ErrorDataReceived += (_, line) => said.Enqueue(line.Data ?? "");
        process.BeginOutputReadLine();
        process.BeginErrorReadLine();
    }

    /// <summary>What it has said so far.</summary>
    public string Said => string.Join('\n', said);

    public int Id => process.Id;

    public bool IsRunning => !process.HasExited;

    /// <summary>Waits until it is at the queue.</summary>
    public async Task ReadyAsync() =>
        await RunningServer.UntilAsync(() => Said.Contains(" is there for ", StringComparison.Ordinal), "the worker to be at the queue");

    /// <summary>Ends it at once, with no word to it (SIGKILL).</summary>
    public void Kill()
    {
        process.Kill();
        process.WaitForExit();
    }

    /// <summary>Asks it to end (SIGTERM), and waits; its exit code.</summary>
    public async Task<int> StopAsync()
    {
        using (Process.Start("kill", ["-TERM", FormattableString.Invariant($"{process.Id}")])) { }
        await process.WaitForExitAsync();
        return process.ExitCode;
    }

    /// <summary>Holds it still (SIGSTOP): it lives and does nothing.</summary>
    public void Freeze()
    {
        using var stop = Process.Start("kill", ["-STOP", FormattableString.Invariant($"{process.Id}")]);
        stop.WaitForExit();
    }

    public void Dispose()
    {
        if (!process.HasExited)
        {
            Kill();
        }
        process.Dispose();
    }
}
