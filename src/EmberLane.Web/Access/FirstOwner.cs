using System.Security.Cryptography;
using System.Text;
using EmberLane.Store;

namespace EmberLane.Web.Access;

/// <summary>
/// The word by which the first owner's account is made: told in the terminal when the server starts, another one each time, until there is
/// an owner. So whoever reaches the server first can not take it.
/// </summary>
internal sealed class FirstOwner(Accounts accounts)
{
    // Without letters that are taken for each other; 16 of them are 78 bits.
    private const string Letters = "abcdefghkmnpqrstuvwxyz23456789";

    /// <summary>The word, as it is told: four groups of four.</summary>
    public string Word { get; } = string.Join('-', RandomNumberGenerator.GetString(Letters, 16).Chunk(4).Select(c => new string(c)));

    /// <summary>Whether an owner is still to be made.</summary>
    public bool IsWanted => !accounts.HasOwner();

    /// <summary>Whether this is the word, however it was set apart.</summary>
    public bool Is(string? typed) => CryptographicOperations.FixedTimeEquals(Plain(typed ?? ""), Plain(Word));

    private static byte[] Plain(string word) =>
        SHA256.HashData(Encoding.UTF8.GetBytes([.. word.ToLowerInvariant().Where(char.IsLetterOrDigit)]));
}
