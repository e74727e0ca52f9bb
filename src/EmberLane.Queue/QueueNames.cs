namespace EmberLane.Queue;

/// <summary>
/// Names of what lies in the queue, with the protocol's number in them: workers and servers of different kinds do not meet there, only
/// where they say that they are there.
/// </summary>
internal static class QueueNames
{
    private const string Stem = "ember1";

    /// <summary>The streams of errands and of answers, and the store of sounds and made files.</summary>
    public const string Work = "EMBER1_WORK",
        Answers = "EMBER1_ANSWERS",
        Store = "ember1";

    public const string AllWork = Stem + ".work.>",
        AllAnswers = Stem + ".answer.>";

    /// <summary>Where workers and servers say that they are there, whatever they speak.</summary>
    public const string Here = "ember.here",
        Servers = "ember.servers";

    public static string WorkOf(string kind) => $"{Stem}.work.{kind}.>";

    public static string WorkOfServer(string server) => $"{Stem}.work.*.{server}.>";

    public static string Work1(string kind, string server, string id) => $"{Stem}.work.{kind}.{server}.{id}";

    public static string AnswersOf(string server) => $"{Stem}.answer.{server}.>";

    public static string Answer(string server, string id) => $"{Stem}.answer.{server}.{id}";

    public static string Progress(string server) => $"{Stem}.progress.{server}";

    public static string Cancel(string server) => $"{Stem}.cancel.{server}";

    public static string Cancels => $"{Stem}.cancel.*";

    /// <summary>Where a server answers who has its name.</summary>
    public static string Who(string server) => $"{Stem}.who.{server}";

    public static string Sound(string server, string id) => $"{server}.{id}.sound";

    public static string Made(string server, string id, string worker) => $"{server}.{id}.{worker}.made";

    /// <summary>The server whose something in the store is.</summary>
    public static string ServerOf(string stored) => stored.Split('.')[0];
}
