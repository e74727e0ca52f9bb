using System.Globalization;
using System.Net;

namespace EmberLane.Application;

/// <summary>What the command line asks for.</summary>
public sealed record Options
{
    public int Port { get; init; } = 5080;

    public string Address { get; init; } = "127.0.0.1";

    public required string Data { get; init; }

    /// <summary>Folders that footage may be picked from, besides the data folder's own.</summary>
    public IReadOnlyList<string> Footage { get; init; } = [];

    /// <summary>The repository's demo folder, when the demonstration production shall be there.</summary>
    public string? Demo { get; init; }

    public string? RecogniserCommand { get; init; }

    /// <summary>The folder with the demonstration's truth, which the simulated recognition service answers from.</summary>
    public string ScriptFolder { get; init; } = "";

    /// <summary>Reads options. Throws <see cref="ArgumentException"/> with a sentence for the person at the terminal.</summary>
    public static Options Parse(IReadOnlyList<string> arguments)
    {
        var footage = new List<string>();
        var options = new Options { Data = Path.Combine(Environment.CurrentDirectory, "data") };
        for (var i = 0; i < arguments.Count; i += 2)
        {
            var name = arguments[i];
            var value = i + 1 < arguments.Count ? arguments[i + 1] : throw new ArgumentException($"{name} needs a value after it.");
            switch (name)
            {
                case "--port":
                    options =
                        int.TryParse(value, NumberStyles.None, CultureInfo.InvariantCulture, out var port) && port is > 0 and < 65536
                            ? options with
                            {
                                Port = port,
                            }
                            : throw new ArgumentException($"--port {value}: a port is a number from 1 to 65535.");
                    break;
                case "--address":
                    options =
                        IPAddress.TryParse(value, out var address) && IPAddress.IsLoopback(address)
                            ? options with
                            {
                                Address = value,
                            }
                            : throw new ArgumentException(
                                $"--address {value} is refused: Ember Lane has no accounts yet, so it listens only to this machine "
                                    + "(127.0.0.1)."
                            );
                    break;
                case "--data":
                    options = options with { Data = Path.GetFullPath(value) };
                    break;
                case "--footage":
                    footage.Add(
                        Directory.Exists(value)
                            ? Path.GetFullPath(value)
                            : throw new ArgumentException($"--footage {value}: there is no such folder.")
                    );
                    break;
                case "--demo":
                    options = options with { Demo = Path.GetFullPath(value) };
                    break;
                case "--script":
                    options = options with { ScriptFolder = Path.GetFullPath(value) };
                    break;
                case "--recogniser-command":
                    options = options with { RecogniserCommand = value };
                    break;
                default:
                    throw new ArgumentException(
                        $"{name} is not an option here. Known are --port, --data, --footage, --recogniser-command and --address."
                    );
            }
        }
        return options with { Footage = footage };
    }
}
