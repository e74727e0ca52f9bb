using System.CommandLine;
using System.CommandLine.Parsing;
using System.Globalization;
using System.Net;
using EmberLane.Application.Demo;

namespace EmberLane.Web.Commands;

/// <summary><c>ember serve</c>: the server, until it is stopped.</summary>
internal static class ServeCommand
{
    public static Command Make()
    {
        var port = new Option<int>("--port")
        {
            Description = "Where it listens.",
            HelpName = "N",
            DefaultValueFactory = _ => Options.UsualPort,
            CustomParser = PortOf,
        };
        var address = new Option<string>("--address")
        {
            Description = "On which of this machine's own addresses.",
            HelpName = "ADDRESS",
            DefaultValueFactory = _ => Options.ThisMachine,
        };
        address.Validators.Add(asked =>
        {
            if (!IPAddress.TryParse(asked.GetValue(address), out var own) || !IPAddress.IsLoopback(own))
            {
                asked.AddError(
                    $"--address {asked.GetValue(address)} is refused: Ember Lane has no accounts yet, so it listens only to this machine "
                        + $"({Options.ThisMachine})."
                );
            }
        });
        var data = CommandLine.Data();
        var footage = new Option<string[]>("--footage")
        {
            Description = "A folder that footage may be picked from. May come again.",
            HelpName = "DIR",
        };
        footage.Validators.Add(asked =>
        {
            foreach (var folder in (asked.GetValue(footage) ?? []).Where(f => !Directory.Exists(f)))
            {
                asked.AddError($"--footage {folder}: there is no such folder.");
            }
        });
        var backups = CommandLine.Backups();
        var recogniser = new Option<string?>("--recogniser-command")
        {
            Description = "A recogniser of your own: it gets the path of a WAV file and answers with words JSON or WebVTT.",
            HelpName = "PROGRAM",
        };
        var tagger = new Option<string?>("--tagger-command")
        {
            Description = "A picture tagger of your own: it gets the path of a JPEG file and answers with tags as JSON.",
            HelpName = "PROGRAM",
        };
        var demo = new Option<string?>("--demo") { Hidden = true };
        var script = new Option<string?>("--script") { Hidden = true };
        var command = new Command("serve", "The server. Open the address that it tells in a browser.")
        {
            port,
            address,
            data,
            footage,
            backups,
            recogniser,
            tagger,
            demo,
            script,
        };
        command.SetAction(
            (asked, cancel) =>
                RunAsync(
                    new Options
                    {
                        Port = asked.GetValue(port),
                        Address = asked.GetValue(address)!,
                        Data = asked.GetValue(data)!,
                        Backups = asked.GetValue(backups),
                        Footage = [.. (asked.GetValue(footage) ?? []).Select(Path.GetFullPath)],
                        RecogniserCommand = asked.GetValue(recogniser),
                        TaggerCommand = asked.GetValue(tagger),
                        Demo = asked.GetValue(demo) is { } folder ? Path.GetFullPath(folder) : null,
                        ScriptFolder = asked.GetValue(script) is { } truth ? Path.GetFullPath(truth) : "",
                    },
                    cancel
                )
        );
        return command;
    }

    private static int PortOf(ArgumentResult asked)
    {
        var text = asked.Tokens[0].Value;
        if (int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var port) && port is > 0 and < 65536)
        {
            return port;
        }
        asked.AddError($"--port {text}: a port is a number from 1 to 65535.");
        return 0;
    }

    private static async Task<int> RunAsync(Options options, CancellationToken cancel)
    {
        var app = Server.Build(options);
        if (options.Demo is { } demo)
        {
            await app.Services.GetRequiredService<DemoProduction>().PrepareAsync(demo, Console.Out, cancel);
        }
        await app.StartAsync(cancel);
        await Console.Out.WriteLineAsync($"Ember Lane is ready: http://{options.Address}:{options.Port}");
        await app.WaitForShutdownAsync(cancel);
        return 0;
    }
}
