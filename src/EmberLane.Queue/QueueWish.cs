using System.Net;
using EmberLane.Application;
using NATS.Client.Core;

namespace EmberLane.Queue;

/// <summary>
/// Which queue is used and how one comes in: its address, the file of a token, the file of the authority that signed its certificate, and
/// a certificate of one's own with its key. Files are PEM; null where there is none.
/// </summary>
public sealed record QueueWish(Uri Address)
{
    /// <summary>The file that holds the token, so that it stands in no list of processes.</summary>
    public string? TokenFile { get; init; }

    /// <summary>Who signed the queue's certificate, where that is not an authority that this machine knows.</summary>
    public string? Authority { get; init; }

    /// <summary>One's own certificate.</summary>
    public string? Certificate { get; init; }

    /// <summary>The key of that certificate.</summary>
    public string? Key { get; init; }

    /// <summary>How long things take; the usual times outside of tests.</summary>
    public QueueTimes Times { get; init; } = new();

    private bool IsTls => Address.Scheme == "tls" || Certificate is not null || Authority is not null;

    /// <summary>Why it can not be used so, and what to do; null when it can.</summary>
    public string? WhyNot()
    {
        if (Address.Scheme is not ("nats" or "tls") || Address.Host.Length == 0)
        {
            return $"--nats {Address}: the address of a queue is written nats://HOST:4222, or tls://HOST:4222.";
        }
        if (Address.UserInfo.Length > 0)
        {
            return "--nats: a token in the address can be read by everybody on this machine. Write it into a file of your own and name "
                + "that with --nats-token-file.";
        }
        if ((Certificate is null) != (Key is null))
        {
            return "--nats-certificate and --nats-key belong together: name both.";
        }
        if (!IsHere(Address.Host) && TokenFile is null && Certificate is null)
        {
            return $"--nats {Address}: a queue on another machine is used with --nats-token-file or with --nats-certificate and --nats-key "
                + "only. Otherwise whoever reaches it hears your speakers and answers in your workers' place.";
        }
        return new[] { TokenFile, Authority, Certificate, Key }.OfType<string>().FirstOrDefault(f => !File.Exists(f)) is { } missing
            ? $"{missing}: there is no such file."
            : null;
    }

    /// <summary>How NATS.Net connects. Throws <see cref="IOException"/> where a file can not be read.</summary>
    internal NatsOpts Opts(string name) =>
        NatsOpts.Default with
        {
            Url = Address.ToString(),
            Name = name,
            // It comes back by itself, however long it is away.
            MaxReconnectRetry = -1,
            IgnoreAuthErrorAbort = true,
            ReconnectWaitMin = Times.Again,
            ReconnectWaitMax = Times.Again,
            ConnectTimeout = TimeSpan.FromSeconds(5),
            RequestTimeout = TimeSpan.FromSeconds(10),
            AuthOpts = TokenFile is { } file ? new NatsAuthOpts { Token = File.ReadAllText(file).Trim() } : NatsAuthOpts.Default,
            TlsOpts = IsTls
                ? new NatsTlsOpts
                {
                    Mode = TlsMode.Require,
                    CaFile = Authority,
                    CertFile = Certificate,
                    KeyFile = Key,
                }
                : NatsTlsOpts.Default,
        };

    private static bool IsHere(string host) =>
        host == "localhost" || (IPAddress.TryParse(host.Trim('[', ']'), out var address) && IPAddress.IsLoopback(address));
}

/// <summary>
/// How long a worker may be silent before its work is given out again; how often it says what it does; how long one waits before something
/// is tried again; how long work may be out without a word before it is looked for in the queue; and when a worker is taken to be gone.
/// </summary>
public sealed record QueueTimes
{
    /// <inheritdoc cref="QueueTimes"/>
    public TimeSpan Silence { get; init; } = TimeSpan.FromSeconds(30);

    /// <inheritdoc cref="QueueTimes"/>
    public TimeSpan Beat { get; init; } = TimeSpan.FromSeconds(2);

    /// <inheritdoc cref="QueueTimes"/>
    public TimeSpan Again { get; init; } = TimeSpan.FromSeconds(2);

    /// <inheritdoc cref="QueueTimes"/>
    public TimeSpan Unheard { get; init; } = TimeSpan.FromSeconds(60);

    /// <inheritdoc cref="QueueTimes"/>
    public TimeSpan Gone { get; init; } = TimeSpan.FromSeconds(10);

    /// <summary>How long an errand may show no progress before it counts as hung, beside thirty times the length of its media.</summary>
    public TimeSpan Hung { get; init; } = TimeSpan.FromMinutes(10);
}
