using System.CommandLine;
using System.CommandLine.Parsing;
using EmberLane.Queue;

namespace EmberLane.Web.Commands;

/// <summary>The options by which <c>serve</c> and <c>work</c> find the queue.</summary>
internal sealed class QueueOptions
{
    private readonly Option<Uri?> address = new("--nats")
    {
        Description = "The queue that heavy work goes over: nats://HOST:4222, or tls://HOST:4222.",
        HelpName = "URL",
        CustomParser = AddressOf,
    };

    private readonly Option<string?> token = File("--nats-token-file", "A file that holds the queue's token."),
        authority = File("--nats-authority", "The certificate of who signed the queue's, in PEM."),
        certificate = File("--nats-certificate", "This machine's own certificate for the queue, in PEM."),
        key = File("--nats-key", "The key of that certificate, in PEM.");

    /// <summary>Adds them to a command.</summary>
    public Command AddTo(Command command)
    {
        foreach (var option in new Option[] { address, token, authority, certificate, key })
        {
            command.Add(option);
        }
        return command;
    }

    /// <summary>
    /// The queue that is asked for; null where none is. Throws <see cref="ArgumentException"/> where it can not be used so.
    /// </summary>
    public QueueWish? Read(ParseResult asked)
    {
        if (asked.GetValue(address) is not { } uri)
        {
            return null;
        }
        var wish = new QueueWish(uri)
        {
            TokenFile = asked.GetValue(token),
            Authority = asked.GetValue(authority),
            Certificate = asked.GetValue(certificate),
            Key = asked.GetValue(key),
        };
        return wish.WhyNot() is { } reason ? throw new ArgumentException(reason) : wish;
    }

    private static Option<string?> File(string name, string description) => new(name) { Description = description, HelpName = "FILE" };

    private static Uri? AddressOf(ArgumentResult asked)
    {
        var text = asked.Tokens[0].Value;
        if (Uri.TryCreate(text, UriKind.Absolute, out var uri))
        {
            return uri;
        }
        asked.AddError($"--nats {text}: the address of a queue is written nats://HOST:4222, or tls://HOST:4222.");
        return null;
    }
}
