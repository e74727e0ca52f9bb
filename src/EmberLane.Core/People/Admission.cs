namespace EmberLane.Core.People;

/// <summary>What an address with a secret in it lets somebody do. The numbers are kept; they never change.</summary>
public enum AdmissionKind
{
    /// <summary>Once: make an account, or take the role into the one they have.</summary>
    Invitation = 0,

    /// <summary>As often as wanted, without an account: see a production with few rights.</summary>
    Link = 1,

    /// <summary>Once: choose a new password for an account.</summary>
    NewPassword = 2,
}

/// <summary>Until when an admission lets in, and what became of it. Moments are of the wall clock.</summary>
public readonly record struct AdmissionTerms(
    DateTimeOffset MadeAt,
    DateTimeOffset ExpiresAt,
    DateTimeOffset? WithdrawnAt,
    DateTimeOffset? UsedAt
)
{
    /// <summary>
    /// Why it does not let in at <paramref name="now"/>; null when it does. A clock that was set back to before it was made does not bring
    /// an admission back to life for longer than it was meant to be: what is from the future lets nobody in.
    /// </summary>
    public string? WhyNot(AdmissionKind kind, DateTimeOffset now) =>
        WithdrawnAt is not null ? "It was withdrawn by who made it. Ask them for another."
        : UsedAt is not null && kind != AdmissionKind.Link ? "It was used already, and it works once. Ask for another if that was not you."
        : now >= ExpiresAt ? "It has expired. Ask who sent it for another."
        : now < MadeAt - ClockPlay ? "This machine's clock is set to before it was made. Ask who runs Ember Lane to set the clock right."
        : null;

    /// <summary>So much may a clock be set back before what was made counts as from the future.</summary>
    public static readonly TimeSpan ClockPlay = TimeSpan.FromMinutes(10);
}
