using System.CommandLine;
using System.CommandLine.Parsing;
using System.Globalization;
using System.Net;
using EmberLane.Application.Demo;
using EmberLane.Queue;
using EmberLane.Web.Access;

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
            Description = "On which of this machine's own addresses; on others than its own loopback with --certificate or --behind only.",
            HelpName = "ADDRESS",
            DefaultValueFactory = _ => Options.ThisMachine,
        };
        var accounts = new Option<bool>("--accounts") { Description = "Everybody must sign in, also at this machine itself." };
        var certificate = PemFile("--certificate", "The certificate chain to speak TLS by, in PEM.");
        var key = PemFile("--key", "The key of the certificate, in PEM, where it is not in the same file.");
        var behind = new Option<Uri?>("--behind")
        {
            Description = "The https address that people open, where a proxy before the server speaks TLS.",
            HelpName = "https://NAME",
            CustomParser = UriOf,
        };
        var proxy = new Option<IPAddress?>("--proxy")
        {
            Description = "The address that this proxy asks from. Usually this machine's own.",
            HelpName = "ADDRESS",
            CustomParser = ProxyOf,
        };
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
        var queue = new QueueOptions();
        var demo = new Option<string?>("--demo") { Hidden = true };
        var script = new Option<string?>("--script") { Hidden = true };
        var command = new Command("serve", "The server. Open the address that it tells in a browser.")
        {
            port,
            address,
            accounts,
            certificate,
            key,
            behind,
            proxy,
            data,
            footage,
            backups,
            recogniser,
            tagger,
            demo,
            script,
        };
        queue.AddTo(command);
        command.SetAction(
            (asked, cancel) =>
                RunAsync(
                    new Options
                    {
                        Port = asked.GetValue(port),
                        Address = asked.GetValue(address)!,
                        Accounts = asked.GetValue(accounts),
                        Certificate = asked.GetValue(certificate),
                        CertificateKey = asked.GetValue(key),
                        Behind = asked.GetValue(behind),
                        Proxy = asked.GetValue(proxy),
                        Data = asked.GetValue(data)!,
                        Backups = asked.GetValue(backups),
                        Footage = [.. (asked.GetValue(footage) ?? []).Select(Path.GetFullPath)],
                        RecogniserCommand = asked.GetValue(recogniser),
                        TaggerCommand = asked.GetValue(tagger),
                        Demo = asked.GetValue(demo) is { } folder ? Path.GetFullPath(folder) : null,
                        ScriptFolder = asked.GetValue(script) is { } truth ? Path.GetFullPath(truth) : "",
                    },
                    queue.Read(asked),
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

    private static Option<string?> PemFile(string name, string description)
    {
        var option = new Option<string?>(name) { Description = description, HelpName = "FILE" };
        option.Validators.Add(asked =>
        {
            if (asked.GetValue(option) is { } file && !File.Exists(file))
            {
                asked.AddError($"{name} {file}: there is no such file.");
            }
        });
        return option;
    }

    private static Uri? UriOf(ArgumentResult asked)
    {
        var text = asked.Tokens[0].Value;
        if (Uri.TryCreate(text, UriKind.Absolute, out var uri))
        {
            return uri;
        }
        asked.AddError($"--behind {text}: that is the address that people open, as https://ember.example.org.");
        return null;
    }

    private static IPAddress? ProxyOf(ArgumentResult asked)
    {
        var text = asked.Tokens[0].Value;
        if (IPAddress.TryParse(text, out var own))
        {
            return own;
        }
        asked.AddError($"--proxy {text}: that is the number of the address that the proxy asks from, as 192.168.1.2.");
        return null;
    }

    private static async Task<int> RunAsync(Options options, QueueWish? queue, CancellationToken cancel)
    {
        if (Reach.WhyNot(options) is { } refused)
        {
            throw new ArgumentException(refused);
        }
        var app = Server.Build(options, queue is null ? null : services => services.AddQueue(queue));
        if (options.Demo is { } demo)
        {
            await app.Services.GetRequiredService<DemoProduction>().PrepareAsync(demo, Console.Out, cancel);
        }
        await app.StartAsync(cancel);
        var opened = Reach.Opened(options);
        await Console.Out.WriteLineAsync($"Ember Lane is ready: {opened}");
        if (options.HasDoor && app.Services.GetRequiredService<FirstOwner>() is { IsWanted: true } first)
        {
            await Console.Out.WriteLineAsync(
                $"Nobody has an account yet. Open {opened}/first and make the owner's with this word: {first.Word}"
            );
        }
        await app.WaitForShutdownAsync(cancel);
        return 0;
    }
}
