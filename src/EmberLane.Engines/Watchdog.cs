using System.Diagnostics;
using System.Globalization;

namespace EmberLane.Engines;

/// <summary>
/// Ends the programs that this one started when this one ends, however it ends: a small shell holds the other end of a pipe, is told of
/// each program, and ends their process groups when the pipe closes. The system's own signal for a parent's death is not used: it goes by
/// thread, and the threads that start programs here come and go.
/// </summary>
internal static class Watchdog
{
    // Only what the shell has built in, so that nothing is started at the end. A number with a minus is a whole process group.
    private const string Script = """
        declare -A kept
        trap '' INT TERM HUP
        while read -r sign id; do
          if [ "$sign" = + ]; then kept[$id]=1; else unset "kept[$id]"; fi
        done
        for id in "${!kept[@]}"; do kill -KILL -- "-$id" "$id" 2>/dev/null; done
        """;

    private static readonly Lock Guard = new();
    private static Process? shell;

    /// <summary>Programs begin in a group of their own, so that what they start themselves ends with them.</summary>
    public const string OwnGroup = "setsid";

    /// <summary>
    /// Has the shell run before a program is started: a server that is killed in between would leave the program behind, and starting the
    /// shell takes longest.
    /// </summary>
    public static void Ready() => WithShell(_ => { });

    /// <summary>Notes a running program; disposing the answer says that it has ended.</summary>
    public static IDisposable Watch(int processId)
    {
        Say('+', processId);
        return new Noted(processId);
    }

    private static void Say(char sign, int processId) =>
        WithShell(running =>
        {
            running.StandardInput.WriteLine(string.Create(CultureInfo.InvariantCulture, $"{sign} {processId}"));
            running.StandardInput.Flush();
        });

    private static void WithShell(Action<Process> tell)
    {
        lock (Guard)
        {
            try
            {
                if (shell is null or { HasExited: true })
                {
                    shell?.Dispose();
                    shell = Process.Start(
                        new ProcessStartInfo(OwnGroup, ["bash", "-c", Script])
                        {
                            RedirectStandardInput = true,
                            RedirectStandardOutput = true,
                            RedirectStandardError = true,
                        }
                    );
                }
                if (shell is { } running)
                {
                    tell(running);
                }
            }
            catch (Exception e) when (e is IOException or System.ComponentModel.Win32Exception or InvalidOperationException)
            {
                // Without it programs still end when they are cancelled; only a killed server leaves them behind.
                shell = null;
            }
        }
    }

    private sealed class Noted(int processId) : IDisposable
    {
        public void Dispose() => Say('-', processId);
    }
}
