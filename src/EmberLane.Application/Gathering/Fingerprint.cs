using System.Globalization;
using System.Security.Cryptography;

namespace EmberLane.Application.Gathering;

/// <summary>Recognises a file by its content: SHA-256 of its size and its first and last 4 MiB, or of those alone.</summary>
public static class Fingerprint
{
    private const int Part = 4 << 20;

    /// <summary>Of its size and its ends.</summary>
    public static Task<string> OfAsync(string path, CancellationToken cancel) => OfAsync(path, withSize: true, cancel);

    /// <summary>Of its first and last 4 MiB alone, one behind the other; of a shorter file all of it, twice.</summary>
    public static Task<string> OfEndsAsync(string path, CancellationToken cancel) => OfAsync(path, withSize: false, cancel);

    private static async Task<string> OfAsync(string path, bool withSize, CancellationToken cancel)
    {
        await using var file = File.OpenRead(path);
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        if (withSize)
        {
            hash.AppendData(System.Text.Encoding.ASCII.GetBytes(file.Length.ToString(CultureInfo.InvariantCulture)));
        }
        var buffer = new byte[(int)Math.Min(Part, file.Length)];
        await file.ReadExactlyAsync(buffer, cancel);
        hash.AppendData(buffer);
        file.Position = file.Length - buffer.Length;
        await file.ReadExactlyAsync(buffer, cancel);
        hash.AppendData(buffer);
        return Convert.ToHexStringLower(hash.GetHashAndReset());
    }
}
