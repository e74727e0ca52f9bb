using System.CommandLine;
using System.CommandLine.Parsing;
using System.Globalization;
using System.Runtime.InteropServices;
using EmberLane.Application.Hands;
using EmberLane.Queue;

namespace EmberLane.Web.Commands;

/// <summary><c>ember work</c>: a worker, until it is stopped. It has no database and no data folder.</summary>
internal static class WorkCommand
{
    private const int MostAtOnce = 256,
        MostLetters = 60;

    public static Command Make(TextWriter output)
    {
        var queue = new QueueOptions();
        var kinds = new Option<IReadOnlyList<string>>("--kinds")
        {
            Description = $"Which work it takes, with commas between: {string.Join(", ", ErrandKinds.All)}. Usually all.",
            HelpName = "KINDS",
            CustomParser = KindsOf,
            DefaultValueFactory = _ => ErrandKinds.All,
        };
        var atOnce = new Option<int>("--at-once")
        {
            Description = "How many pieces of work at once. Usually as many as this machine has cores.",
            HelpName = "N",
            CustomParser = AtOnceOf,
            DefaultValueFactory = _ => Environment.ProcessorCount,
        };
        var map = new Option<string[]>("--map")
        {
            Description = "Where the server's footage lies here, as /media=/mnt/media. May come again; with one, nothing else is opened.",
            HelpName = "THERE=HERE",
        };
        var name = new Option<string?>("--name")
        {
            Description = "What this worker is called on the page Work in hand. Usually this machine's name.",
            HelpName = "NAME",
        };
        var command = new Option<string?>("--recogniser-command")
        {
            Description = "A recogniser of your own, as the server's.",
            HelpName = "PROGRAM",
        };
        var models = new Option<string?>("--models")
        {
            Description = "A folder with the speech models that this worker can use.",
            HelpName = "DIR",
        };
        var script = new Option<string?>("--script") { Hidden = true };
        var work = queue.AddTo(
            new Command("work", "A worker: does heavy work of a server that was started with --nats, on this machine.")
            {
                kinds,
                atOnce,
                map,
                name,
                command,
                models,
                script,
            }
        );
        work.SetAction(
            (asked, cancel) =>
                RunAsync(
                    new WorkerWish(
                        queue.Read(asked)
                            ?? throw new ArgumentException("--nats URL says at which queue there is work. See: ember work --help"),
                        asked.GetValue(kinds)!,
                        asked.GetValue(atOnce),
                        PathMap.Read(asked.GetValue(map) ?? []),
                        NameOf(asked.GetValue(name)),
                        Path.Combine(Path.GetTempPath(), string.Create(CultureInfo.InvariantCulture, $"ember-work-{Environment.ProcessId}"))
                    ),
                    new WorkerRecognisers(asked.GetValue(command), asked.GetValue(models), asked.GetValue(script)),
                    output,
                    cancel
                )
        );
        return work;
    }

    private static async Task<int> RunAsync(WorkerWish wish, WorkerRecognisers recognisers, TextWriter output, CancellationToken cancel)
    {
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        void Stop(PosixSignalContext signal)
        {
            signal.Cancel = true;
            _ = stop.CancelAsync();
        }
        using var terminated = PosixSignalRegistration.Create(PosixSignal.SIGTERM, Stop);
        using var interrupted = PosixSignalRegistration.Create(PosixSignal.SIGINT, Stop);
        WorkerScratch.ClearOthers(wish.Scratch);
        try
        {
            await using var worker = new Worker(
                wish,
                new ErrandDesk(recognisers.Find),
                said =>
                {
                    output.WriteLine(said);
                    output.Flush();
                }
            );
            await worker.RunAsync(stop.Token);
        }
        finally
        {
            WorkerScratch.Clear(wish.Scratch);
        }
        return 0;
    }

    // Two on one machine, and one that was started anew, are told apart.
    private static string NameOf(string? asked)
    {
        var name = (asked ?? Environment.MachineName).Trim();
        return name.Length is > 0 and <= MostLetters && name.All(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '_')
            ? string.Create(CultureInfo.InvariantCulture, $"{name}-{Environment.ProcessId}-{Guid.NewGuid().ToString("N")[..4]}")
            : throw new ArgumentException(
                $"--name {name}: a worker's name has up to {MostLetters} letters of a to z, digits, - and _. Name it with --name."
            );
    }

    private static IReadOnlyList<string>? KindsOf(ArgumentResult asked)
    {
        var kinds = asked.Tokens[0].Value.Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
        if (kinds.Length > 0 && kinds.All(ErrandKinds.All.Contains))
        {
            // In the order in which they are looked for.
            return [.. ErrandKinds.All.Where(kinds.Contains)];
        }
        asked.AddError($"--kinds {asked.Tokens[0].Value}: known are {string.Join(", ", ErrandKinds.All)}, with commas between.");
        return null;
    }

    private static int AtOnceOf(ArgumentResult asked)
    {
        var text = asked.Tokens[0].Value;
        if (int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var n) && n is >= 1 and <= MostAtOnce)
        {
            return n;
        }
        asked.AddError($"--at-once {text}: that is a number from 1 to {MostAtOnce}.");
        return 0;
    }
}
