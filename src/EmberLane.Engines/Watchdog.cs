using System.Diagnostics;

namespace EmberLane.Engines;

/// <summary>
/// Ends the programs that this one started when this one ends, however it ends: a small shell holds the other end of a pipe, and when it
/// closes ends all that carries <see cref="Mark"/> in its environment. That is there from the first moment of a program on and in all that
/// it starts, so nothing slips through that was started just before the end. The system's own signal for a parent's death is not used: it
/// goes by thread, and the threads that start programs here come and go.
/// </summary>
internal static class Watchdog
{
    // Three rounds: what was being started, or was starting something, is there in the next.
    private const string Script = """
        trap '' INT TERM HUP
        while read -r _; do :; done
        for round in 1 2 3; do
          for environment in /proc/[0-9]*/environ; do
            mapfile -d '' -t pairs < "$environment" || continue
            for pair in "${pairs[@]}"; do
              if [ "$pair" = "$1" ]; then
                id=${environment#/proc/}
                kill -KILL "${id%/environ}"
                break
              fi
            done
          done
          sleep 0.3
        done
        """;

    private static readonly Lock Guard = new();
    private static Process? shell;

    /// <summary>Programs begin in a group of their own, so that what they start themselves ends with them.</summary>
    public const string OwnGroup = "setsid";

    /// <summary>What tells the programs of this server from all others: a variable of their environment, by name and value.</summary>
    public static (string Name, string Value) Mark { get; } = ("EMBER_LANE_STARTED_BY", Guid.NewGuid().ToString("N"));

    /// <summary>Has the shell run, before a program is started: a server killed in between would leave the program behind.</summary>
    public static void Ready()
    {
        lock (Guard)
        {
            try
            {
                if (shell is null or { HasExited: true })
                {
                    shell?.Dispose();
                    shell = Process.Start(
                        new ProcessStartInfo(OwnGroup, ["bash", "-c", Script, "bash", $"{Mark.Name}={Mark.Value}"])
                        {
                            RedirectStandardInput = true,
                            RedirectStandardOutput = true,
                            RedirectStandardError = true,
                        }
                    );
                }
            }
            catch (Exception e) when (e is IOException or System.ComponentModel.Win32Exception or InvalidOperationException)
            {
                // Without it programs still end when they are cancelled; only a killed server leaves them behind.
                shell = null;
            }
        }
    }
}
