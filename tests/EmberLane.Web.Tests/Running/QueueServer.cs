using System.Diagnostics;
using System.Net.Sockets;

namespace EmberLane.Running;

/// <summary>Debian's nats-server on a free port of this machine, with a store of its own; it can be killed and come back.</summary>
public sealed class QueueServer : IDisposable
{
    private readonly string folder;
    private readonly int port = RunningServer.FreePort();
    private readonly IReadOnlyList<string> more;
    private Process process;

    /// <summary>Starts it; <paramref name="more"/> are further arguments, as a token.</summary>
    public QueueServer(string folder, params IReadOnlyList<string> more)
    {
        (this.folder, this.more) = (folder, more);
        process = Start();
    }

    public Uri Address => new(FormattableString.Invariant($"nats://127.0.0.1:{port}"));

    /// <summary>Ends it at once, with no word to it (SIGKILL).</summary>
    public void Kill()
    {
        process.Kill();
        process.WaitForExit();
    }

    /// <summary>Starts it again, with what it has kept.</summary>
    public void ComeBack()
    {
        process.Dispose();
        process = Start();
    }

    /// <summary>As <see cref="ComeBack"/>, with nothing: somebody has cleared its store.</summary>
    public void ComeBackEmpty()
    {
        Directory.Delete(folder, recursive: true);
        ComeBack();
    }

    public async Task ReadyAsync() => await RunningServer.UntilAsync(Answers, "the queue to be ready");

    public void Dispose()
    {
        if (!process.HasExited)
        {
            Kill();
        }
        process.Dispose();
    }

    private Process Start() =>
        Process.Start(
            new ProcessStartInfo(
                "/usr/sbin/nats-server",
                ["-js", "-sd", folder, "-a", "127.0.0.1", "-p", FormattableString.Invariant($"{port}"), "-l", folder + ".log", .. more]
            )
        )!;

    private bool Answers()
    {
        try
        {
            using var client = new TcpClient("127.0.0.1", port);
            return client.Connected;
        }
        catch (SocketException)
        {
            return false;
        }
    }
}
