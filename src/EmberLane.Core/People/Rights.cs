namespace EmberLane.Core.People;

/// <summary>What somebody may do in a production. Each is by itself; a role or a link has several.</summary>
[Flags]
public enum Rights
{
    /// <summary>Nothing: the production is not even named to them.</summary>
    None = 0,

    /// <summary>See the rooms: texts, bites, stories, charts.</summary>
    Read = 1,

    /// <summary>Hear and see what was recorded.</summary>
    Listen = 2,

    /// <summary>Say something beside words, bites and cards.</summary>
    Comment = 4,

    /// <summary>Keep bites, grade them, flag, set aside.</summary>
    Mark = 8,

    /// <summary>Bring footage in, label it, mend texts, name voices.</summary>
    Log = 16,

    /// <summary>Lay stories, cameras and captions.</summary>
    Order = 32,

    /// <summary>Make and take away lists, packages and copies, and bring lists back.</summary>
    HandOff = 64,

    /// <summary>Name the production, let people in, release what is off the record.</summary>
    Run = 128,

    /// <summary>All of them.</summary>
    All = Read | Listen | Comment | Mark | Log | Order | HandOff | Run,
}

/// <summary>What rights come to.</summary>
public static class RightsRules
{
    /// <summary>What a link may give at most: nothing that changes the work of others.</summary>
    public const Rights OfLinks = Rights.Read | Rights.Listen | Rights.Comment | Rights.Mark;

    private static readonly (Rights Right, string Says)[] Words =
    [
        (Rights.Read, "read"),
        (Rights.Listen, "listen"),
        (Rights.Comment, "comment"),
        (Rights.Mark, "mark"),
        (Rights.Log, "log"),
        (Rights.Order, "lay stories"),
        (Rights.HandOff, "hand off"),
        (Rights.Run, "run the production"),
    ];

    /// <summary>Whether somebody with <paramref name="rights"/> has at least one of <paramref name="needed"/>.</summary>
    public static bool HasAny(this Rights rights, Rights needed) => (rights & needed) != Rights.None;

    /// <summary>
    /// What a link gives when it was asked for <paramref name="asked"/>: reading always, and never more than <see cref="OfLinks"/>.
    /// </summary>
    public static Rights ForLink(Rights asked) => (asked & OfLinks) | Rights.Read;

    /// <summary>They in words, as “read, listen and comment”; “nothing” for none.</summary>
    public static string Said(this Rights rights) =>
        Words.Where(w => rights.HasFlag(w.Right)).Select(w => w.Says).ToList() switch
        {
            [] => "nothing",
            [var one] => one,
            [.. var some, var last] => $"{string.Join(", ", some)} and {last}",
        };
}
