namespace EmberLane.Application;

/// <summary>What the command line asks of a server.</summary>
public sealed record Options
{
    /// <summary>The port where nobody asks for another.</summary>
    public const int UsualPort = 5080;

    /// <summary>The address that only this machine reaches.</summary>
    public const string ThisMachine = "127.0.0.1";

    /// <summary>The port that the server listens on, 1 to 65535.</summary>
    public int Port { get; init; } = UsualPort;

    /// <summary>The address that it listens on, one of this machine's own.</summary>
    public string Address { get; init; } = ThisMachine;

    /// <summary>The folder that holds the database, uploads and everything that is made.</summary>
    public required string Data { get; init; }

    /// <summary>Where backups of the database are kept; null for a folder of the data folder.</summary>
    public string? Backups { get; init; }

    /// <summary>Folders that footage may be picked from, besides the data folder's own.</summary>
    public IReadOnlyList<string> Footage { get; init; } = [];

    /// <summary>The repository's demo folder, when the demonstration production shall be there.</summary>
    public string? Demo { get; init; }

    /// <summary>A program of the studio's own that recognises speech; null when there is none.</summary>
    public string? RecogniserCommand { get; init; }

    /// <summary>A program of the studio's own that says what a picture shows; null when there is none.</summary>
    public string? TaggerCommand { get; init; }

    /// <summary>How long that may take for a picture; null for as long as is usual.</summary>
    public TimeSpan? TaggerLimit { get; init; }

    /// <summary>The folder with the demonstration's truth, which the simulated recognition service answers from.</summary>
    public string ScriptFolder { get; init; } = "";
}
