using System.Text.Json;
using EmberLane.Application.Hands;

namespace EmberLane.Queue;

/// <summary>
/// An errand as it lies in the queue: whose it is and its name, the name of its sound in the store, and who could not do it.
/// </summary>
internal sealed record ErrandMessage(
    string Server,
    string Id,
    string Kind,
    string Title,
    string Asked,
    long Length,
    string? Sound,
    string? Footage,
    long Bytes,
    bool Makes,
    IReadOnlyList<string> Not
);

/// <summary>How an errand ended, as a worker says.</summary>
internal enum Ended
{
    Done,

    /// <summary>It was tried and failed.</summary>
    Failed,

    /// <summary>This worker does not see the file, or lacks what it needs: another may do it.</summary>
    Elsewhere,

    /// <summary>Its sound was not in the store.</summary>
    Lost,

    /// <summary>Never said by a worker: too many of them began it and are gone.</summary>
    Deadly,
}

/// <summary>What a worker answers: the answer or the reason, and the name in the store of what it made.</summary>
internal sealed record AnswerMessage(string Id, string Worker, Ended Ended, string Text, string? Made);

/// <summary>A worker has begun, or got further.</summary>
internal sealed record ProgressMessage(string Id, string Worker, bool Begun, long At);

/// <summary>A worker says that it is there. <see cref="Pace"/> is thousandths of real time, of one errand.</summary>
internal sealed record HereMessage(
    int Protocol,
    string Version,
    string Worker,
    IReadOnlyList<string> Kinds,
    int AtOnce,
    IReadOnlyList<string> Doing,
    long Pace,
    DateTime Clock
);

/// <summary>A server says that it is there.</summary>
internal sealed record ServerMessage(int Protocol, string Version, string Server);

/// <summary>Messages as they travel: JSON.</summary>
internal static class QueueMessages
{
    /// <summary>What workers and servers of one kind understand of each other: raised when messages change.</summary>
    public const int Protocol = 1;

    private static readonly JsonSerializerOptions Strict = new()
    {
        RespectNullableAnnotations = true,
        RespectRequiredConstructorParameters = true,
    };

    public static string Version { get; } = typeof(Errand).Assembly.GetName().Version!.ToString(3);

    public static byte[] Write<T>(T message) => JsonSerializer.SerializeToUtf8Bytes(message, Strict);

    /// <summary>The message; null where it is none of these, whoever sent it.</summary>
    public static T? Read<T>(byte[]? data)
        where T : class
    {
        try
        {
            return data is null ? null : JsonSerializer.Deserialize<T>(data, Strict);
        }
        catch (JsonException)
        {
            return null;
        }
    }
}
