using System.Net;

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

    /// <summary>
    /// Whether everybody must sign in. Always so where others than this machine's can reach the server: see <see cref="HasDoor"/>.
    /// </summary>
    public bool Accounts { get; init; }

    /// <summary>A certificate chain in PEM, and its key (null: in the same file), by which the server speaks TLS itself.</summary>
    public string? Certificate { get; init; }

    /// <inheritdoc cref="Certificate"/>
    public string? CertificateKey { get; init; }

    /// <summary>The https address that people open, where a proxy stands before the server and speaks TLS; null where none does.</summary>
    public Uri? Behind { get; init; }

    /// <summary>The address that this proxy asks from; null for this machine itself.</summary>
    public IPAddress? Proxy { get; init; }

    /// <summary>Whether only this machine itself reaches the server's address.</summary>
    public bool IsAlone => IPAddress.TryParse(Address, out var own) && IPAddress.IsLoopback(own);

    /// <summary>Whether what browsers send and get is encrypted: here, or by the proxy before.</summary>
    public bool IsTls => Certificate is not null || Behind is not null;

    /// <summary>Whether people must sign in.</summary>
    public bool HasDoor => Accounts || Certificate is not null || Behind is not null || !IsAlone;

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
