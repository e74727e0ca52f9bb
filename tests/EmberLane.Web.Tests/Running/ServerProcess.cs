using System.Diagnostics;

namespace EmberLane.Running;

/// <summary>The real server in a process of its own, which can be killed as a power cut would.</summary>
public sealed class ServerProcess : IDisposable
{
    private readonly Process process;

    private ServerProcess(Process process, int port) =>
        (this.process, Address) = (process, FormattableString.Invariant($"http://127.0.0.1:{port}"));

    public string Address { get; }

    public static ServerProcess Start(string data, params IReadOnlyList<string> more)
    {
        var port = RunningServer.FreePort();
        return new ServerProcess(
            Process.Start(
                new ProcessStartInfo(
                    "dotnet",
                    [
                        Path.Combine(AppContext.BaseDirectory, "EmberLane.Web.dll"),
                        "serve",
                        "--port",
                        FormattableString.Invariant($"{port}"),
                        "--data",
                        data,
                        .. more,
                    ]
                )
                {
                    RedirectStandardOutput = true,
                }
            )!,
            port
        );
    }

    /// <summary>Waits until it answers that it is ready.</summary>
    public async Task ReadyAsync()
    {
        using var client = new HttpClient();
        await RunningServer.UntilAsync(() => Answers(client), "the server to be ready");
    }

    /// <summary>Bytes of memory that it holds now.</summary>
    public long Memory => Status("VmRSS");

    /// <summary>The most that it ever held.</summary>
    public long MostMemory => Status("VmHWM");

    /// <summary>Ends it at once, with no word to it (SIGKILL).</summary>
    public async Task KillAsync()
    {
        process.Kill(entireProcessTree: true);
        await process.WaitForExitAsync();
    }

    /// <summary>As <see cref="KillAsync"/>, the server alone: the programs that it started are not told.</summary>
    public async Task KillAloneAsync()
    {
        process.Kill();
        await process.WaitForExitAsync();
    }

    public void Dispose()
    {
        if (!process.HasExited)
        {
            process.Kill(entireProcessTree: true);
            process.WaitForExit();
        }
        process.Dispose();
    }

    // In kB, as the kernel tells.
    private long Status(string name) =>
        1024
        * long.Parse(
            File.ReadLines($"/proc/{process.Id}/status")
                .First(l => l.StartsWith(name + ":", StringComparison.Ordinal))
                .Split(' ', StringSplitOptions.RemoveEmptyEntries)[^2]
                .Split('\t')[^1],
            System.Globalization.CultureInfo.InvariantCulture
        );

    private bool Answers(HttpClient client)
    {
        try
        {
            return client.GetAsync(new Uri(Address + "/healthz")).GetAwaiter().GetResult().IsSuccessStatusCode;
        }
        catch (HttpRequestException)
        {
            return false;
        }
    }
}
