namespace EmberLane.Core.People;

/// <summary>What happened at the door. The numbers are kept; they never change.</summary>
public enum DoorEvent
{
    /// <summary>Somebody signed in.</summary>
    SignedIn = 0,

    /// <summary>They left.</summary>
    SignedOut = 1,

    /// <summary>A wrong name or password.</summary>
    Refused = 2,

    /// <summary>So many wrong passwords in a row that none is tried for a while.</summary>
    LockedOut = 3,

    /// <summary>Something was asked for that they may not do.</summary>
    Forbidden = 4,

    /// <summary>An account was made.</summary>
    AccountMade = 5,

    /// <summary>An account was closed.</summary>
    AccountClosed = 6,

    /// <summary>Somebody became an owner, or is one no more.</summary>
    OwnerChanged = 7,

    /// <summary>A password or a passkey was changed.</summary>
    KeysChanged = 8,

    /// <summary>All sessions of an account were ended.</summary>
    SessionsEnded = 9,

    /// <summary>An invitation, a link or a way to a new password was made.</summary>
    AdmissionMade = 10,

    /// <summary>One was used.</summary>
    AdmissionUsed = 11,

    /// <summary>One was withdrawn.</summary>
    AdmissionWithdrawn = 12,

    /// <summary>One was tried that lets nobody in.</summary>
    AdmissionRefused = 13,

    /// <summary>What somebody is in a production was changed.</summary>
    RoleChanged = 14,

    /// <summary>A production was taken out whole.</summary>
    TakenOut = 15,
}
