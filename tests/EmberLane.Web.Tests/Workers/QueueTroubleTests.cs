using EmberLane.Application.Hands;
using EmberLane.Engines;
using EmberLane.Queue;
using EmberLane.Running;
using EmberLane.Web.Commands;

namespace EmberLane.Web.Tests.Workers;

/// <summary>A queue that can not be used as it is: a clear word, and nothing lost.</summary>
public sealed class QueueTroubleTests : QueueTests
{
    private const string Token = "not a word that one guesses";

    protected override IReadOnlyList<string> QueueArguments() => ["--auth", Token];

    private string TokenFile(string token)
    {
        var path = Path.Combine(Folder, "token");
        File.WriteAllText(path, token + "\n");
        return path;
    }

    private static Task UntilItSays(IHands hands, string word) =>
        RunningServer.UntilAsync(() => hands.Trouble?.Contains(word, StringComparison.Ordinal) == true, $"the server to say “{word}”");

    [Fact]
    public async Task A_queue_with_a_token_lets_in_only_who_has_it_and_work_goes_on_when_that_is_mended()
    {
        var file = TokenFile("a wrong one");
        var server = await ServerAsync("data", w => w with { TokenFile = file });
        await UntilItSays(HandsOf(server), "does not let this in");
        using var wrong = new WorkerProcess(Queue.Address, "--nats-token-file", file);
        await RunningServer.UntilAsync(() => wrong.Said.Contains("does not let this in", StringComparison.Ordinal), "the worker to say so");
        wrong.Kill();
        var right = await ServerAsync("right", w => w with { TokenFile = TokenFile(Token) });
        await WorkerAsync(
            "--nats-token-file",
            TokenFile(Token),
            "--recogniser-command",
            Command("says", $"echo '{Words(("in", 0)).Trim()}'")
        );
        Assert.Contains("in", await AskAsync(HandsOf(right), Piece(1)), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Where_there_is_no_queue_the_server_serves_and_says_so_and_a_worker_waits()
    {
        Queue.Kill();
        var file = TokenFile(Token);
        var server = await ServerAsync("data", w => w with { TokenFile = file });
        await UntilItSays(HandsOf(server), "There is no queue at");
        using var browser = new HttpClient();
        Assert.True((await browser.GetAsync(new Uri(server.Address), Stop)).IsSuccessStatusCode);
        using var worker = new WorkerProcess(
            Queue.Address,
            "--nats-token-file",
            file,
            "--recogniser-command",
            Command("says", $"echo '{Words(("late", 0)).Trim()}'")
        );
        await RunningServer.UntilAsync(
            () => worker.Said.Contains("There is no queue at", StringComparison.Ordinal),
            "the worker to say so"
        );
        var waits = AskAsync(HandsOf(server), Piece(1));
        Queue.ComeBack();
        Assert.Contains("late", await waits, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_full_store_is_told_and_work_goes_on_when_there_is_room()
    {
        Queue.Kill();
        var narrow = Path.Combine(Folder, "narrow");
        var file = TokenFile(Token);
        await File.WriteAllTextAsync(narrow, "jetstream { max_file_store: 400KB }\n", Stop);
        using var full = new QueueServer(Path.Combine(Folder, "full"), "--auth", Token, "-c", narrow);
        await full.ReadyAsync();
        var server = await ServerAsync("data", w => w with { Address = full.Address, TokenFile = file });
        var large = AskAsync(HandsOf(server), Piece(1, seconds: 30));
        await UntilItSays(HandsOf(server), "is full");
        Assert.False(large.IsCompleted);
        // Somebody makes room: the queue comes back with a larger store.
        full.Kill();
        await File.WriteAllTextAsync(narrow, "jetstream { max_file_store: 400MB }\n", Stop);
        full.ComeBack();
        using var worker = new WorkerProcess(
            full.Address,
            "--nats-token-file",
            file,
            "--recogniser-command",
            Command("says", $"echo '{Words(("room", 0)).Trim()}'")
        );
        Assert.Contains("room", await large, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_queue_that_keeps_nothing_is_told_apart_from_one_that_is_not_there()
    {
        var port = RunningServer.FreePort();
        using var forgetful = System.Diagnostics.Process.Start(
            "/usr/sbin/nats-server",
            ["-a", "127.0.0.1", "-p", $"{port}", "-l", Path.Combine(Folder, "log")]
        );
        try
        {
            var server = await ServerAsync("data", w => w with { Address = new Uri($"nats://127.0.0.1:{port}") });
            await UntilItSays(HandsOf(server), "start nats-server with -js");
        }
        finally
        {
            forgetful.Kill();
        }
    }

    [Fact]
    public async Task Workers_of_other_versions_are_shown_with_a_word_and_given_nothing()
    {
        var server = await ServerAsync("data", w => w with { TokenFile = TokenFile(Token) });
        await using var line = new NATS.Client.Core.NatsConnection(
            new NATS.Client.Core.NatsOpts
            {
                Url = Queue.Address.ToString(),
                AuthOpts = new NATS.Client.Core.NatsAuthOpts { Token = Token },
            }
        );
        HereMessage Says(string name, int protocol, TimeSpan ahead) =>
            new(protocol, "0.0.1", name, ErrandKinds.All, 4, [], 0, DateTime.UtcNow + ahead);
        HereMessage[] all =
        [
            Says("old", QueueMessages.Protocol - 1, TimeSpan.Zero),
            Says("new", QueueMessages.Protocol + 1, TimeSpan.Zero),
            Says("odd", QueueMessages.Protocol, TimeSpan.FromHours(3)),
        ];
        // As workers do it: again and again, for nobody knows when the server listens.
        while (HandsOf(server).Workers.Count < all.Length)
        {
            await line.PublishAsync(QueueNames.Here, new byte[] { 0 }, cancellationToken: Stop);
            foreach (var said in all)
            {
                await line.PublishAsync(QueueNames.Here, QueueMessages.Write(said), cancellationToken: Stop);
            }
            await line.PingAsync(Stop);
        }
        var wrong = HandsOf(server).Workers.ToDictionary(w => w.Name, w => w.Wrong!);
        Assert.Contains("older version (0.0.1) and is given nothing", wrong["old"], StringComparison.Ordinal);
        Assert.Contains("newer version (0.0.1)", wrong["new"], StringComparison.Ordinal);
        Assert.Contains("180 min ahead", wrong["odd"], StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("used with --nats-token-file or with --nats-certificate", "work", "--nats", "nats://192.0.2.7:4222")]
    [InlineData("used with --nats-token-file or with --nats-certificate", "serve", "--nats", "nats://queue.example.org:4222")]
    [InlineData("is written nats://HOST:4222", "work", "--nats", "http://127.0.0.1:4222")]
    [InlineData("is written nats://HOST:4222", "serve", "--nats", "here")]
    [InlineData("Write it into a file", "work", "--nats", "nats://secret@127.0.0.1:4222")]
    [InlineData("belong together", "work", "--nats", "nats://127.0.0.1:4222", "--nats-key", "/etc/hostname")]
    [InlineData("/no/such: there is no such file", "work", "--nats", "nats://127.0.0.1:4222", "--nats-token-file", "/no/such")]
    [InlineData("--nats URL says at which queue", "work")]
    [InlineData("--kinds dishes: known are speech", "work", "--nats", "nats://127.0.0.1:4222", "--kinds", "dishes")]
    [InlineData("--at-once 0: that is a number", "work", "--nats", "nats://127.0.0.1:4222", "--at-once", "0")]
    [InlineData("--map media: write the server's folder", "work", "--nats", "nats://127.0.0.1:4222", "--map", "media")]
    [InlineData("there is no folder /no/such here", "work", "--nats", "nats://127.0.0.1:4222", "--map", "/media=/no/such")]
    [InlineData("--name a b: a worker's name", "work", "--nats", "nats://127.0.0.1:4222", "--name", "a b")]
    public async Task What_can_not_be_is_refused_before_anything_is_begun(string reason, params string[] arguments)
    {
        using var output = new StringWriter();
        var refused = await Assert.ThrowsAsync<ArgumentException>(() => CommandLine.RunAsync(arguments, output, Stop));
        Assert.Contains(reason, refused.Message, StringComparison.Ordinal);
    }
}
