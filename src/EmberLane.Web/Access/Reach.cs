using System.Net;

namespace EmberLane.Web.Access;

/// <summary>From where the server may be reached, by which names, and what it must have for that.</summary>
internal static class Reach
{
    /// <summary>Why a server can not be started so, with what to do; null when it can.</summary>
    public static string? WhyNot(Options options)
    {
        if (!IPAddress.TryParse(options.Address, out _))
        {
            return $"--address {options.Address} is no address of this machine: give its number, as 192.168.1.20, or 0.0.0.0 for "
                + "all it has.";
        }
        if (options is { IsAlone: false, Certificate: null, Behind: null })
        {
            return $"--address {options.Address} is refused: others could read what is sent, and passwords with it. Give --certificate "
                + "FILE (with --key FILE) to have it encrypted here, or --behind https://NAME when a proxy before it does that.";
        }
        if (options is { CertificateKey: not null, Certificate: null })
        {
            return "--key goes with --certificate FILE.";
        }
        if (options is { Certificate: not null, Behind: not null })
        {
            return "Either --certificate or --behind: what speaks TLS with the browsers is one of the two.";
        }
        if (options.Behind is { } behind && (behind.Scheme != Uri.UriSchemeHttps || behind.PathAndQuery != "/"))
        {
            return $"--behind {behind.OriginalString} is refused: it is the address that people open, https://NAME, without a path.";
        }
        if (options is { Proxy: not null, Behind: null })
        {
            return "--proxy goes with --behind https://NAME.";
        }
        return options is { IsAlone: false, Behind: not null, Proxy: null }
            ? $"--address {options.Address} behind a proxy needs --proxy ADDRESS, the one address that the proxy asks from: "
                + "from others nothing is answered."
            : null;
    }

    /// <summary>The address that people open.</summary>
    public static string Opened(Options options) =>
        options.Behind?.GetLeftPart(UriPartial.Authority)
        ?? (options.Certificate is null ? "http" : "https")
            + $"://{(IsAny(options) ? "THIS-MACHINE" : Bracketed(options.Address))}:{options.Port}";

    /// <summary>
    /// The address that people open, as the request that is answered came by it: where there are several names, the one in use.
    /// </summary>
    public static string Opened(Options options, HttpRequest request) =>
        options.Behind is null ? $"{request.Scheme}://{request.Host}" : Opened(options);

    /// <summary>
    /// Whether it answers to this name: another site must not reach it by giving its address a name of its own.
    /// </summary>
    /// <param name="certified">The names and addresses of the certificate; empty without one.</param>
    public static bool AnswersTo(string host, Options options, IReadOnlyList<string> certified) =>
        IsLoopback(host)
        || (options.Behind is { } behind && string.Equals(host, behind.Host, StringComparison.OrdinalIgnoreCase))
        || certified.Any(name => Fits(host, name));

    private static bool IsLoopback(string host) => host is "127.0.0.1" or "localhost" or "::1" or "[::1]";

    private static bool Fits(string host, string name) =>
        string.Equals(host.Trim('[', ']'), name, StringComparison.OrdinalIgnoreCase)
        || (
            name.StartsWith("*.", StringComparison.Ordinal)
            && host.IndexOf('.', StringComparison.Ordinal) is > 0 and var dot
            && string.Equals(host[dot..], name[1..], StringComparison.OrdinalIgnoreCase)
        );

    private static bool IsAny(Options options) => options.Address is "0.0.0.0" or "::";

    private static string Bracketed(string address) => address.Contains(':', StringComparison.Ordinal) ? $"[{address}]" : address;
}
