using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using EmberLane.Application.Hands;

namespace EmberLane.Queue;

/// <summary>The name of an errand by what it covers: the same work has the same name also after a restart of the server.</summary>
internal static class ErrandId
{
    private const int Letters = 32;

    public static string Of(Errand errand)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        foreach (var part in new[] { errand.Kind, errand.Asked, errand.Footage ?? "", errand.Output ?? "", Stamp(errand.Footage) })
        {
            hash.AppendData(Encoding.UTF8.GetBytes(part.Length.ToString(CultureInfo.InvariantCulture) + ":" + part));
        }
        if (errand.Sound is { } sound)
        {
            using var file = File.OpenRead(sound);
            var block = new byte[1 << 16];
            int got;
            while ((got = file.Read(block)) > 0)
            {
                hash.AppendData(block, 0, got);
            }
        }
        return Convert.ToHexStringLower(hash.GetHashAndReset())[..Letters];
    }

    // A file that was written anew is other work.
    private static string Stamp(string? path) =>
        path is null
            ? ""
            : string.Create(CultureInfo.InvariantCulture, $"{new FileInfo(path).Length} {File.GetLastWriteTimeUtc(path).Ticks}");
}
