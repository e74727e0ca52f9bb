namespace EmberLane.Core.People;

/// <summary>
/// Which passwords are taken: long ones, whatever they are made of, as OWASP ASVS 6.2 asks (length before composition); not the ones that
/// are guessed first.
/// </summary>
public static class Passwords
{
    /// <summary>The shortest and the longest, in characters.</summary>
    public const int Shortest = 10,
        Longest = 128;

    // What people type first when a field asks for ten letters; parts of a password, in small letters.
    private static readonly string[] Guessed =
    [
        "password",
        "passwort",
        "emberlane",
        "ember lane",
        "qwertyuiop",
        "qwertzuiop",
        "1234567890",
        "0123456789",
        "abcdefghij",
        "letmein",
        "iloveyou",
        "producer",
    ];

    /// <summary>Why a password can not be taken for the account of this name; null when it can.</summary>
    public static string? WhyNot(string password, string name)
    {
        var plain = password.ToLowerInvariant();
        return password.Length switch
        {
            < Shortest => $"A password has at least {Shortest} characters. A few words in a row make a good one.",
            > Longest => $"A password has at most {Longest} characters.",
            _ when password.Distinct().Count() < 5 => "That password is guessed at once: it has fewer than five different characters.",
            _ when name.Length > 2 && plain.Contains(name.ToLowerInvariant(), StringComparison.Ordinal) =>
                "A password that holds your name is guessed at once.",
            _ when Guessed.FirstOrDefault(g => plain.Contains(g, StringComparison.Ordinal)) is { } guessed
                    && plain.Length < guessed.Length + 8 => $"A password with “{guessed}” in it is guessed at once.",
            _ when CommonPasswords.Has(password) =>
                "Many people had that password, so it is tried first. A few words in a row make a good one.",
            _ => null,
        };
    }
}
