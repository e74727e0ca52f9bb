namespace EmberLane.Core.People;

/// <summary>
/// Passwords that many people have had, and that are tried first: eleven thousand of those that became known. Whole ones, and shorter ones
/// with digits and signs around them.
/// </summary>
internal static class CommonPasswords
{
    private static readonly Lazy<HashSet<string>> Known = new(Read);

    /// <summary>Whether a password is one of them, or one of them in digits and signs; small and capital letters are the same.</summary>
    public static bool Has(string password)
    {
        var plain = password.ToLowerInvariant();
        return Known.Value.Contains(plain) || Known.Value.Contains(plain.Trim([.. plain.Where(c => !char.IsLetter(c))]));
    }

    private static HashSet<string> Read()
    {
        using var lines = new StreamReader(
            typeof(CommonPasswords).Assembly.GetManifestResourceStream("common-passwords.txt")
                ?? throw new InvalidOperationException("The list of common passwords is missing from the build.")
        );
        return lines
            .ReadToEnd()
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Where(l => l[0] != '#')
            .ToHashSet(StringComparer.Ordinal);
    }
}
