namespace EmberLane.Core.People;

/// <summary>What somebody is in a production. The numbers are kept; they never change.</summary>
public enum Role
{
    /// <summary>Looks on and comments.</summary>
    Guest = 0,

    /// <summary>Reads, marks passages of their own, comments.</summary>
    Director = 1,

    /// <summary>Brings footage in, labels it, mends the text.</summary>
    Logger = 2,

    /// <summary>Takes the hand-off, and lays the story with the producer.</summary>
    Editor = 3,

    /// <summary>Has the production.</summary>
    Producer = 4,
}

/// <summary>What roles may do.</summary>
public static class RoleRules
{
    private const Rights Looking = Rights.Read | Rights.Listen | Rights.Comment;

    /// <summary>All roles, the one with the most rights first.</summary>
    public static IReadOnlyList<Role> All { get; } = [Role.Producer, Role.Editor, Role.Logger, Role.Director, Role.Guest];

    /// <summary>The rights of a role; of a number that is none, nothing.</summary>
    public static Rights Of(Role role) =>
        role switch
        {
            Role.Producer => Rights.All,
            Role.Editor => Looking | Rights.Mark | Rights.Order | Rights.HandOff,
            Role.Logger => Looking | Rights.Mark | Rights.Log,
            Role.Director => Looking | Rights.Mark,
            Role.Guest => Looking,
            _ => Rights.None,
        };

    /// <summary>Its name, as it stands on a page.</summary>
    public static string Name(Role role) =>
        role switch
        {
            Role.Producer => "producer",
            Role.Editor => "editor",
            Role.Logger => "logger",
            Role.Director => "director",
            _ => "guest",
        };
}
