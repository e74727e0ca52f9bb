using System.Globalization;
using EmberLane.Application.Hands;
using EmberLane.Application.Work;
using EmberLane.Core.Speech;
using EmberLane.Engines;
using EmberLane.Engines.Speech;
using EmberLane.Queue;
using EmberLane.Running;
using Microsoft.Extensions.DependencyInjection;
using NATS.Client.Core;
using NATS.Client.JetStream;

namespace EmberLane.Web.Tests.Workers;

/// <summary>Heavy work over a real queue, done by workers in processes of their own, some of which die.</summary>
public sealed class WorkersTests : QueueTests
{
    private static readonly string Talk = Path.Combine(RunningServer.Repository, "demo", "footage", "SND0614_T01.1.flac");

    [Fact]
    public async Task The_words_are_those_of_this_process_though_workers_and_the_queue_are_killed()
    {
        var server = await ServerAsync();
        var pcm = Path.Combine(Folder, "talk.pcm");
        MadeMedia.Make("-i", Talk, "-t", "45", "-ac", "1", "-ar", "16000", "-f", "s16le", pcm);
        var local = server.Services.GetRequiredService<Recognisers>().Find(Recognisers.Local)!;
        var none = new Dictionary<StepRange, WordList>();
        async Task<WordList> HeardAsync(IRecogniser by, Func<Task> onPiece) =>
            await new Transcription(by).RunAsync(pcm, "The first crossing", none, _ => onPiece(), Stop);
        var here = await HeardAsync(local.Recogniser, () => Task.CompletedTask);
        Assert.True(here.Words.Count > 30, $"only {here.Words.Count} words");

        var first = await WorkerAsync("--name", "first", "--at-once", "1", "--kinds", "speech");
        var second = await WorkerAsync("--name", "second", "--at-once", "1");
        var hands = HandsOf(server);
        var pieces = 0;
        var there = HeardAsync(
            new HandedRecogniser(local, hands),
            () =>
            {
                pieces++;
                return Task.CompletedTask;
            }
        );
        await RunningServer.UntilAsync(
            () => hands.Workers.Any(w => w.Name.StartsWith("first-", StringComparison.Ordinal) && w.Doing.Count > 0),
            "the first worker to have a piece in hand"
        );
        first.Kill();
        await RunningServer.UntilAsync(() => pieces > 0, "a piece to come back");
        Queue.Kill();
        Queue.ComeBack();
        await Queue.ReadyAsync();
        await WorkerAsync("--name", "third", "--at-once", "1");
        Assert.True(second.IsRunning, second.Said);
        var heard = await there;
        Assert.Equal(here.Words, heard.Words);
        Assert.Equal(here.Language, heard.Language);
    }

    [Fact]
    public async Task A_queue_that_comes_back_with_nothing_is_given_the_work_again()
    {
        var server = await ServerAsync();
        var hands = HandsOf(server);
        var waits = AskAsync(hands, Piece(1));
        await RunningServer.UntilAsync(
            () => hands.Trouble?.Contains("no worker is there", StringComparison.Ordinal) == true,
            "the piece to be out"
        );
        Queue.Kill();
        await RunningServer.UntilAsync(
            () => hands.Trouble?.Contains("There is no queue at", StringComparison.Ordinal) == true,
            "the server to say that the queue is gone"
        );
        Queue.ComeBackEmpty();
        await Queue.ReadyAsync();
        await WorkerAsync("--recogniser-command", Command("says", $"echo '{Words(("again", 0)).Trim()}'"));
        Assert.Equal("again", Assert.Single(SpeechErrand.Read(Piece(1), await waits).Words).Text);
    }

    [Fact]
    public async Task A_worker_that_hangs_is_passed_over_and_what_it_had_is_done_by_another()
    {
        var server = await ServerAsync();
        var hands = HandsOf(server);
        var mark = Path.Combine(Folder, "begun");
        var hung = await WorkerAsync("--at-once", "1", "--recogniser-command", Command("slow", $"touch {mark}; sleep 600"));
        var waits = AskAsync(hands, Piece(1));
        await RunningServer.UntilAsync(() => File.Exists(mark), "the piece to be begun");
        hung.Freeze();
        await WorkerAsync("--recogniser-command", Command("says", $"echo '{Words(("done", 0)).Trim()}'"));
        Assert.Contains("done", await waits, StringComparison.Ordinal);
        await RunningServer.UntilAsync(
            () => hands.Workers.Any(w => w.Wrong?.Contains("not heard of any more", StringComparison.Ordinal) == true),
            "the page to say which worker is silent"
        );
    }

    [Fact]
    public async Task A_poisoned_piece_fails_after_three_tries_with_its_reason_and_the_rest_goes_on()
    {
        var server = await ServerAsync();
        var tried = Path.Combine(Folder, "tried");
        await WorkerAsync(
            "--recogniser-command",
            // The piece of three seconds is the bad one.
            Command(
                "picky",
                $"if [ $(stat -c %s \"$1\") -gt 90000 ]; then echo once >> {tried}; echo 'no ears for this' >&2; exit 3; fi\n"
                    + $"echo '{Words(("fine", 0)).Trim()}'"
            )
        );
        var hands = HandsOf(server);
        var bad = AskAsync(hands, Piece(1, seconds: 3));
        Assert.Contains("fine", await AskAsync(hands, Piece(2)), StringComparison.Ordinal);
        var why = await FailedAsync(bad);
        Assert.Contains("It was tried 3 times.", why, StringComparison.Ordinal);
        Assert.Contains("no ears for this", why, StringComparison.Ordinal);
        Assert.Equal(3, (await File.ReadAllLinesAsync(tried, Stop)).Length);
    }

    [Fact]
    public async Task A_piece_that_ends_its_worker_each_time_fails_and_names_the_workers()
    {
        var server = await ServerAsync();
        // The program is a child of setsid's place, which is the worker's child.
        var deadly = Command("deadly", "kill -KILL $PPID; sleep 600");
        var hands = HandsOf(server);
        var waits = AskAsync(hands, Piece(1));
        for (var n = 0; n < QueuedHands.Tries; n++)
        {
            var worker = await WorkerAsync("--name", FormattableString.Invariant($"victim{n}"), "--recogniser-command", deadly);
            await RunningServer.UntilAsync(() => !worker.IsRunning, "the worker to be ended by its piece");
        }
        await WorkerAsync("--name", "survivor", "--recogniser-command", Command("waits", "sleep 600"));
        var why = await FailedAsync(waits);
        Assert.Contains("begun 3 times", why, StringComparison.Ordinal);
        Assert.Contains("victim0-", why, StringComparison.Ordinal);
        Assert.DoesNotContain("survivor", why, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Cancelling_ends_the_program_on_the_worker_and_the_worker_takes_the_next()
    {
        var server = await ServerAsync();
        var pid = Path.Combine(Folder, "pid");
        var worker = await WorkerAsync(
            "--at-once",
            "1",
            "--recogniser-command",
            Command("slow", $"[ -e {pid} ] || {{ echo $$ > {pid}; exec sleep 600; }}\necho '{Words(("next", 0)).Trim()}'")
        );
        var hands = HandsOf(server);
        using var cancel = new CancellationTokenSource();
        var cancelled = AskAsync(hands, Piece(1), cancel.Token);
        await RunningServer.UntilAsync(() => File.Exists(pid) && File.ReadAllText(pid).EndsWith('\n'), "the piece to be begun");
        var program = "/proc/" + (await File.ReadAllTextAsync(pid, Stop)).Trim();
        Assert.True(Directory.Exists(program));
        await cancel.CancelAsync();
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() => cancelled);
        await RunningServer.UntilAsync(() => !Directory.Exists(program), "the program to end");
        Assert.Contains("next", await AskAsync(hands, Piece(2)), StringComparison.Ordinal);
        Assert.True(await worker.StopAsync() == 0, worker.Said);
    }

    [Fact]
    public async Task What_a_worker_has_in_hand_when_it_is_stopped_goes_to_another_at_once()
    {
        var server = await ServerAsync();
        var mark = Path.Combine(Folder, "begun");
        var leaves = await WorkerAsync("--recogniser-command", Command("slow", $"touch {mark}; sleep 600"));
        var waits = AskAsync(HandsOf(server), Piece(1));
        await RunningServer.UntilAsync(() => File.Exists(mark), "the piece to be begun");
        Assert.True(await leaves.StopAsync() == 0, leaves.Said);
        Assert.False(Directory.Exists(FormattableString.Invariant($"{Path.GetTempPath()}/ember-work-{leaves.Id}")));
        await WorkerAsync("--recogniser-command", Command("says", $"echo '{Words(("taken", 0)).Trim()}'"));
        Assert.Contains("taken", await waits, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_worker_that_does_not_see_the_footage_says_so_and_one_that_does_takes_the_work()
    {
        var server = await ServerAsync();
        string footage = Directory.CreateDirectory(Path.Combine(Folder, "media")).FullName,
            elsewhere = Directory.CreateDirectory(Path.Combine(Folder, "mnt")).FullName,
            film = Path.Combine(footage, "a film.mov");
        MadeMedia.Film(film, "25", 3);
        var hands = HandsOf(server);
        var waits = "";
        var output = Path.Combine(Folder, "made.mp4");
        var length = (await MediaProbe.MeasureAsync(film, Stop)).Duration;
        await WorkerAsync("--name", "blind", "--map", $"{footage}={elsewhere}");
        var made = hands.DoAsync(
            CopyErrand.Playing("a film.mov", film, length, output),
            (_, said) => waits = said.Length > 0 ? said : waits,
            Stop
        );
        await RunningServer.UntilAsync(() => waits.Length > 0, "the worker to say that it does not see the file");
        Assert.Contains("blind-", waits, StringComparison.Ordinal);
        Assert.Contains($"{elsewhere}/a film.mov is not there", waits, StringComparison.Ordinal);
        Assert.False(File.Exists(output));
        await RunningServer.UntilAsync(
            () => hands.Trouble?.Contains("can do it", StringComparison.Ordinal) == true,
            "the server to say that it waits"
        );
        await WorkerAsync("--name", "sees", "--kinds", "copies", "--map", footage);
        await made;
        Assert.Equal("h264", (await MediaProbe.MeasureAsync(output, Stop)).Picture!.Codec);
    }

    [Fact]
    public async Task What_is_made_elsewhere_is_what_is_made_here()
    {
        var server = await ServerAsync();
        await WorkerAsync();
        var film = Path.Combine(RunningServer.Repository, "demo", "footage", "F001C001.MP4");
        var length = (await MediaProbe.MeasureAsync(film, Stop)).Duration;
        var here = new ErrandDesk(_ => null);
        async Task<(string Answer, byte[] Made)> DoneAsync(string name, Func<string?, Errand> errand, Func<Errand, Task<string>> act)
        {
            var output = Path.Combine(Folder, name);
            var answer = await act(errand(output));
            return (answer, File.Exists(output) ? await File.ReadAllBytesAsync(output, Stop) : []);
        }
        foreach (
            var errand in new Func<string?, Errand>[]
            {
                output => SoundErrand.Of("a", Path.Combine(RunningServer.Repository, "demo", "footage", "F001C003.MP4"), length, output!),
                output => CopyErrand.Picture("a", film, MediaTime.FromMilliseconds(1_000), output!),
                _ => FacesErrand.Of("a", film, length, 4),
                _ => FacesErrand.Of("a", film, length, null),
            }
        )
        {
            var near = await DoneAsync("near", errand, e => here.DoAsync(e, (_, _) => { }, Stop));
            var far = await DoneAsync("far", errand, e => AskAsync(HandsOf(server), e));
            Assert.Equal(near.Answer, far.Answer);
            Assert.Equal(near.Made, far.Made);
            Assert.True(near.Answer.Length + near.Made.Length > 100);
        }
    }

    [Fact]
    public async Task Answers_that_can_not_be_are_refused_whoever_sent_them()
    {
        var server = await ServerAsync();
        var hands = HandsOf(server);
        await using var line = new NatsConnection(new NatsOpts { Url = Queue.Address.ToString() });
        var stream = new NatsJSContext(line);
        var answers = new Queue<string>([
            "<html>",
            Words(("late", 60_000)),
            "{\"schema\":\"ember-lane.words/1\",\"words\":[{\"t\":\"x\",\"s\":-1,\"e\":2}]}",
        ]);
        var seen = line.SubscribeAsync<byte[]>("ember1.work.>", cancellationToken: Stop);
        var listening = Task.Run(
            async () =>
            {
                await foreach (var message in seen)
                {
                    var errand = QueueMessages.Read<ErrandMessage>(message.Data)!;
                    // Rubbish beside it is passed over.
                    await stream.PublishAsync(
                        QueueNames.Answer(errand.Server, errand.Id),
                        new byte[] { 0xff, 0x00 },
                        cancellationToken: Stop
                    );
                    await stream.PublishAsync(
                        QueueNames.Answer(errand.Server, errand.Id),
                        QueueMessages.Write(new AnswerMessage(errand.Id, "liar", Ended.Done, answers.Dequeue(), null)),
                        cancellationToken: Stop
                    );
                    if (answers.Count == 0)
                    {
                        return;
                    }
                }
            },
            Stop
        );
        await line.PingAsync(Stop);
        var why = await FailedAsync(AskAsync(hands, Piece(1)));
        await listening;
        Assert.Contains("What liar answered can not be used.", why, StringComparison.Ordinal);
        Assert.Contains("“late” ends at", why, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Two_servers_at_one_queue_do_not_get_each_others_words_also_when_one_is_a_copy_of_the_other()
    {
        var one = await ServerAsync("one");
        await RunningServer.UntilAsync(() => HandsOf(one).Trouble is null, "the first server to be at the queue");
        // A copied data folder: the same name for both.
        Directory.CreateDirectory(Path.Combine(Folder, "two"));
        using (var from = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={Path.Combine(Folder, "one", "ember.sqlite")}"))
        using (var to = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={Path.Combine(Folder, "two", "ember.sqlite")}"))
        {
            from.Open();
            to.Open();
            from.BackupDatabase(to);
        }
        var two = await ServerAsync("two");
        await WorkerAsync(
            "--recogniser-command",
            Command(
                "size",
                "printf '{\"schema\":\"ember-lane.words/1\",\"language\":\"en\",\"words\":[{\"t\":\"%s\",\"s\":0,\"e\":1}]}' "
                    + "$(stat -c %s \"$1\")"
            )
        );
        var asked = Enumerable
            .Range(1, 6)
            .Select(n => (Piece: Piece(n, seconds: 2 + n), Of: n % 2 == 0 ? one : two))
            .Select(p => (p.Piece, Answer: AskAsync(HandsOf(p.Of), p.Piece)))
            .ToList();
        foreach (var (piece, answer) in asked)
        {
            var size = new FileInfo(piece.Sound!).Length.ToString(CultureInfo.InvariantCulture);
            Assert.Equal(size, SpeechErrand.Read(piece, await answer).Words.Single().Text);
        }
    }

    [Fact]
    public async Task What_was_answered_while_the_server_was_away_is_taken_up_when_it_is_asked_again()
    {
        var before = await ServerAsync();
        await RunningServer.UntilAsync(() => HandsOf(before).Trouble is null, "the server to be at the queue");
        await before.DisposeAsync();
        // The worker ends what it had in hand; its server is asked again after its start.
        var name = ServerNamed("data");
        var piece = Piece(1);
        await using var line = new NatsConnection(new NatsOpts { Url = Queue.Address.ToString() });
        await new NatsJSContext(line).PublishAsync(
            QueueNames.Answer(name, ErrandId.Of(piece)),
            QueueMessages.Write(new AnswerMessage(ErrandId.Of(piece), "somebody", Ended.Done, Words(("kept", 0)), null)),
            cancellationToken: Stop
        );
        var hands = HandsOf(await ServerAsync());
        Assert.Contains("kept", await AskAsync(hands, piece), StringComparison.Ordinal);
        Assert.Empty(hands.Workers);
    }

    // The name by which the server of a data folder is known at the queue.
    private string ServerNamed(string data)
    {
        using var database = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={Path.Combine(Folder, data, "ember.sqlite")}");
        database.Open();
        using var ask = database.CreateCommand();
        ask.CommandText = "SELECT value FROM setting WHERE name = 'queue server'";
        return (string)ask.ExecuteScalar()!;
    }
}
