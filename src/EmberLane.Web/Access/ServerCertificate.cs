using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using EmberLane.Store;

namespace EmberLane.Web.Access;

/// <summary>
/// The certificate that the server speaks TLS by, read from PEM files, and read again when they change: certificates are renewed while a
/// server runs.
/// </summary>
internal sealed class ServerCertificate
{
    private static readonly TimeSpan Look = TimeSpan.FromMinutes(1);

    private readonly string chain,
        key;
    private readonly TimeProvider time;
    private readonly Lock looking = new();
    private (DateTime Written, DateTimeOffset LookedAt) last;

    /// <summary>Reads it. Throws <see cref="StoreException"/> with a sentence when it can not be used.</summary>
    public ServerCertificate(string chain, string? key, TimeProvider time)
    {
        (this.chain, this.key, this.time) = (chain, key ?? chain, time);
        Current = Read();
        last = (Written(), time.GetUtcNow());
    }

    /// <summary>The certificate with its key, the certificates that stand between it and its root, and the names that it is for.</summary>
    public (X509Certificate2 Own, X509Certificate2Collection Between, IReadOnlyList<string> Names) Current { get; private set; }

    /// <summary>The certificate as it is now; a renewed one that can not be read leaves the one there was.</summary>
    public X509Certificate2 Now()
    {
        lock (looking)
        {
            var now = time.GetUtcNow();
            if (now - last.LookedAt >= Look)
            {
                var written = Written();
                if (written != last.Written)
                {
                    try
                    {
                        Current = Read();
                        last.Written = written;
                    }
                    catch (StoreException)
                    {
                        // Half written: looked at again a minute later.
                    }
                }
                last.LookedAt = now;
            }
            return Current.Own;
        }
    }

    private DateTime Written() => new[] { chain, key }.Max(File.GetLastWriteTimeUtc);

    private (X509Certificate2, X509Certificate2Collection, IReadOnlyList<string>) Read()
    {
        try
        {
            var own = X509Certificate2.CreateFromPemFile(chain, key);
            var all = new X509Certificate2Collection();
            all.ImportFromPemFile(chain);
            if (own.NotAfter.ToUniversalTime() <= time.GetUtcNow().UtcDateTime)
            {
                throw new StoreException($"The certificate {chain} has expired on {own.NotAfter:yyyy-MM-dd}. Renew it, then start again.");
            }
            var names = own.Extensions.OfType<X509SubjectAlternativeNameExtension>().ToList();
            List<string> named =
            [
                .. names.SelectMany(n => n.EnumerateDnsNames()),
                .. names.SelectMany(n => n.EnumerateIPAddresses()).Select(a => a.ToString()),
            ];
            return named.Count > 0
                ? (own, [.. all.Where(c => c.Thumbprint != own.Thumbprint)], named)
                : throw new StoreException(
                    $"The certificate {chain} names no host (subjectAltName), so no browser takes it. Make one that does."
                );
        }
        catch (Exception e) when (e is CryptographicException or IOException or UnauthorizedAccessException or ArgumentException)
        {
            throw new StoreException(
                $"The certificate {chain} with the key {key} can not be read: {e.Message} Both are PEM files, the key without a password."
            );
        }
    }
}
