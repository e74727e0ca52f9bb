using EmberLane.Application.Hands;
using EmberLane.Core.Speech;
using EmberLane.Engines;
using EmberLane.Engines.Speech;
using EmberLane.Queue;
using EmberLane.Running;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Web.Tests.Workers;

/// <summary>A folder, a real queue and a server at it, for a test of its own.</summary>
public abstract class QueueTests : IAsyncLifetime
{
    /// <summary>Short, so that a test need not wait half a minute for what is lost.</summary>
    private static readonly QueueTimes Soon = new()
    {
        Silence = TimeSpan.FromSeconds(3),
        Beat = TimeSpan.FromMilliseconds(300),
        Again = TimeSpan.FromMilliseconds(300),
        Unheard = TimeSpan.FromSeconds(2),
        Gone = TimeSpan.FromSeconds(5),
    };

    private readonly List<IDisposable> workers = [];
    private readonly List<RunningServer> servers = [];

    protected string Folder { get; } = Directory.CreateTempSubdirectory("ember-queue").FullName;

    protected QueueServer Queue { get; private set; } = null!;

    protected static CancellationToken Stop => TestContext.Current.CancellationToken;

    public async ValueTask InitializeAsync()
    {
        Queue = new QueueServer(Path.Combine(Folder, "queue"), QueueArguments());
        await Queue.ReadyAsync();
    }

    public async ValueTask DisposeAsync()
    {
        workers.ForEach(w => w.Dispose());
        foreach (var server in servers)
        {
            await server.DisposeAsync();
        }
        Queue.Dispose();
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(Folder, recursive: true);
        GC.SuppressFinalize(this);
    }

    protected virtual IReadOnlyList<string> QueueArguments() => [];

    protected QueueWish Wish => new(Queue.Address) { Times = Soon };

    /// <summary>A server at the queue, with a data folder of this name.</summary>
    protected async Task<RunningServer> ServerAsync(string data = "data", Func<QueueWish, QueueWish>? asked = null)
    {
        var server = await RunningServer.StartAsync(
            Path.Combine(Folder, data),
            demo: false,
            services => services.AddQueue((asked ?? (w => w))(Wish)),
            Folder
        );
        servers.Add(server);
        return server;
    }

    protected static IHands HandsOf(RunningServer server) => server.Services.GetRequiredService<IHands>();

    /// <summary>A worker in a process of its own.</summary>
    protected async Task<WorkerProcess> WorkerAsync(params IReadOnlyList<string> more)
    {
        var worker = new WorkerProcess(Queue.Address, more);
        workers.Add(worker);
        await worker.ReadyAsync();
        return worker;
    }

    /// <summary>A recogniser of the studio's own that does what a script says; <c>$1</c> is the sound.</summary>
    protected string Command(string name, string script)
    {
        var path = Path.Combine(Folder, name);
        File.WriteAllText(path, "#!/bin/bash\n" + script);
        File.SetUnixFileMode(path, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
        return path;
    }

    /// <summary>A piece of sound for a recogniser of this key: so many seconds of noise, another for each seed.</summary>
    protected Errand Piece(int seed, string recogniser = "command", int seconds = 2)
    {
        var path = Path.Combine(Folder, FormattableString.Invariant($"piece{seed}.wav"));
        MadeMedia.Make(
            "-f",
            "lavfi",
            "-i",
            FormattableString.Invariant($"anoisesrc=duration={seconds}:seed={seed}:sample_rate=16000"),
            "-c:a",
            "pcm_s16le",
            "-bitexact",
            "-map_metadata",
            "-1",
            path
        );
        return SpeechErrand.Of(recogniser, new ToRecognise(path, "Made", "en", []), MediaTime.FromMilliseconds(1000 * seconds));
    }

    protected static string Words(params IReadOnlyList<(string Text, int From)> words) =>
        WordsJson.Write(
            new WordList(
                "en",
                [
                    .. words.Select(w => new RecognisedWord(
                        w.Text,
                        new SourceRange(
                            new SourceTime(MediaTime.FromMilliseconds(w.From)),
                            new SourceTime(MediaTime.FromMilliseconds(w.From + 100))
                        ),
                        null
                    )),
                ]
            )
        );

    protected static Task<string> AskAsync(IHands hands, Errand errand, CancellationToken? cancel = null) =>
        hands.DoAsync(errand, (_, _) => { }, cancel ?? Stop);

    /// <summary>Why an errand failed.</summary>
    protected static async Task<string> FailedAsync(Task<string> errand) => (await Assert.ThrowsAsync<ToolException>(() => errand)).Message;
}
