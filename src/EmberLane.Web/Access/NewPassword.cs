using EmberLane.Core.People;

namespace EmberLane.Web.Access;

/// <summary>A password typed twice.</summary>
internal static class NewPassword
{
    /// <summary>Why it can not be taken for the account of this name; null when it can.</summary>
    public static string? WhyNot(string? password, string? again, string name) =>
        password != again ? "The two passwords are not the same. Type both once more." : Passwords.WhyNot(password ?? "", name);

    /// <summary>A stamp that no session has.</summary>
    public static string Stamp() => Guid.NewGuid().ToString("N");
}
