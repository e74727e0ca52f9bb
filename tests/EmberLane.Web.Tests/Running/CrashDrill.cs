using System.Net;
using System.Text.RegularExpressions;
using EmberLane.Core.Media;
using EmberLane.Core.Time;
using EmberLane.Core.Transcripts;
using EmberLane.Store;

namespace EmberLane.Running;

/// <summary>
/// Kills a server at random moments while people mend words, keep bites, move a story and bring texts in, and looks whether each change
/// that was acknowledged is there and nothing half made is shown.
/// </summary>
public sealed partial class CrashDrill : IDisposable
{
    private const int Words = 400,
        WordsBrought = 9_000;

    private readonly string data = Directory.CreateTempSubdirectory("ember-crash").FullName;
    private readonly Random random;
    private readonly Dictionary<int, string> acknowledged = [];
    private readonly HashSet<string> notes = [];
    private readonly HttpClient client = new();

    public CrashDrill(int seed)
    {
        random = new Random(seed);
        var footage = new Store.Footage(Database(), TimeProvider.System);
        var production = footage.AddProduction("Crash");
        var sitting = footage
            .BringIn(
                production,
                "Hut",
                [
                    new NewSource(
                        "/nowhere/hut.wav",
                        "hut.wav",
                        5,
                        "print",
                        new SourceFacts(
                            "wav",
                            MediaTime.FromMilliseconds(9_000_000),
                            null,
                            [new SoundTrack(0, "pcm_s16le", 48_000, 1)],
                            StartOfFile.Unknown,
                            null,
                            null,
                            null
                        )
                    ),
                ]
            )!
            .Value;
        new Transcripts(Database(), TimeProvider.System).Add(
            sitting,
            "local",
            "en",
            [
                .. Enumerable
                    .Range(0, Words)
                    .Select(i => new RecordWord(
                        new(i),
                        FormattableString.Invariant($"w{i}"),
                        new SittingRange(
                            new SittingTime(MediaTime.FromMilliseconds(i * 300L)),
                            new SittingTime(MediaTime.FromMilliseconds((i * 300L) + 200))
                        ),
                        new(500),
                        0
                    )),
            ],
            new Dictionary<int, string>()
        );
    }

    /// <summary>Changes that the server acknowledged, all kills together.</summary>
    public int Acknowledged { get; private set; }

    /// <summary>Kills while a text was being brought in.</summary>
    public int KilledInImports { get; private set; }

    /// <summary>Backups that were acknowledged.</summary>
    public int BackedUp { get; private set; }

    /// <summary>Kills while an older database was brought along.</summary>
    public int KilledInMigrations { get; private set; }

    /// <summary>
    /// One life of a server that brings an older database along, ended before or after it has. Throws
    /// <see cref="InvalidOperationException"/> where it can not be opened then.
    /// </summary>
    public async Task KillMigratingAsync()
    {
        var older = Directory.CreateTempSubdirectory("ember-crash-older").FullName;
        try
        {
            var path = Path.Combine(older, "ember.sqlite");
            DatabaseFile.Make(path, random.Next(16, 37));
            DatabaseFile.Run(path, "INSERT INTO production (name) VALUES ('Older')");
            using (var server = ServerProcess.Start(older))
            {
                // It takes about half a second to get there.
                await Task.Delay(random.Next(300, 1200));
                await server.KillAsync();
            }
            KilledInMigrations++;
            var contents = DatabaseBackup.Look(path);
            if (contents.Productions is not [{ Name: "Older" }])
            {
                throw new InvalidOperationException("The production of an older database is gone after a kill.");
            }
            AreWhole(Path.Combine(older, "backups"));
            if (new Store.Footage(new Database(path), TimeProvider.System).Productions() is not [{ Name: "Older" }])
            {
                throw new InvalidOperationException("The production is gone after the next start brought the database along.");
            }
        }
        finally
        {
            Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
            Directory.Delete(older, recursive: true);
        }
    }

    // What lies on a shelf under the name of a backup is one.
    private static void AreWhole(string shelf)
    {
        foreach (var backup in Directory.Exists(shelf) ? Directory.GetFiles(shelf, "*.sqlite") : [])
        {
            DatabaseBackup.Look(backup);
        }
    }

    /// <summary>One life of a server and its end. Throws <see cref="InvalidOperationException"/> that says what was lost.</summary>
    public async Task KillOnceAsync()
    {
        using (var server = ServerProcess.Start(data))
        {
            if (random.Next(8) == 0)
            {
                // In the middle of its start.
                await Task.Delay(random.Next(100, 1500));
            }
            else
            {
                await server.ReadyAsync();
                var import = random.Next(3) == 0;
                using var stop = new CancellationTokenSource();
                var work = Task.WhenAll(
                    ChangeAsync(server.Address, import, stop.Token),
                    random.Next(2) == 0 ? BackUpAsync(server.Address, stop.Token) : Task.CompletedTask
                );
                await Task.Delay(random.Next(20, 1200));
                KilledInImports += import ? 1 : 0;
                await server.KillAsync();
                await stop.CancelAsync();
                await work;
            }
            await server.KillAsync();
        }
        Look();
    }

    private async Task ChangeAsync(string address, bool import, CancellationToken stop)
    {
        try
        {
            var read = address + "/productions/1/read/1";
            var token = Token().Match(await client.GetStringAsync(new Uri(read), stop)).Groups[1].Value;
            var importing = import ? ImportAsync(read, token, stop) : Task.CompletedTask;
            while (!stop.IsCancellationRequested)
            {
                var (word, text) = (random.Next(Words), FormattableString.Invariant($"x{random.Next(1_000_000)}"));
                if (random.Next(4) > 0)
                {
                    if (await PostAsync($"{read}?handler=Retype", token, stop, ("first", $"{word}"), ("last", $"{word}"), ("text", text)))
                    {
                        acknowledged[word] = text;
                    }
                    else
                    {
                        // It may be there or not: nobody was told.
                        acknowledged.Remove(word);
                    }
                }
                else if (
                    await PostAsync(
                        $"{read}?handler=Keep",
                        token,
                        stop,
                        ("first", $"{word}"),
                        ("last", $"{word}"),
                        ("theme", "crash"),
                        ("note", text)
                    )
                )
                {
                    notes.Add(text);
                }
            }
            await importing;
        }
        catch (Exception e) when (e is HttpRequestException or OperationCanceledException or IOException)
        {
            // The server is gone.
        }
    }

    private async Task BackUpAsync(string address, CancellationToken stop)
    {
        try
        {
            var token = Token().Match(await client.GetStringAsync(new Uri(address + "/settings"), stop)).Groups[1].Value;
            while (!stop.IsCancellationRequested)
            {
                BackedUp += await PostAsync(address + "/settings?handler=Backup", token, stop) ? 1 : 0;
            }
        }
        catch (Exception e) when (e is HttpRequestException or OperationCanceledException or IOException)
        {
            // The server is gone.
        }
    }

    private async Task ImportAsync(string read, string token, CancellationToken stop)
    {
        var text = string.Join(' ', Enumerable.Range(0, WordsBrought).Select(i => FormattableString.Invariant($"w{i % Words}")));
        await PostAsync($"{read}/texts?handler=Bring", token, stop, ("pasted", text));
    }

    private async Task<bool> PostAsync(string address, string token, CancellationToken stop, params (string Name, string Value)[] fields)
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, address)
        {
            Content = new FormUrlEncodedContent(fields.Select(f => KeyValuePair.Create(f.Name, f.Value))),
        };
        request.Headers.Add("RequestVerificationToken", token);
        request.Headers.Add("HX-Request", "true");
        try
        {
            using var answer = await client.SendAsync(request, stop);
            Acknowledged += answer.StatusCode == HttpStatusCode.OK ? 1 : 0;
            return answer.StatusCode == HttpStatusCode.OK;
        }
        catch (Exception e) when (e is HttpRequestException or OperationCanceledException)
        {
            return false;
        }
    }

    // As the next start would find it.
    private void Look()
    {
        var database = Database();
        var transcripts = new Transcripts(database, TimeProvider.System);
        transcripts.ClearHalf();
        var texts = new Texts(database, transcripts, TimeProvider.System).Of(1);
        if (texts.FirstOrDefault(t => t.Words is not (Words or WordsBrought)) is { } half)
        {
            throw new InvalidOperationException($"A text of {half.Words} words is shown, which nobody made.");
        }
        var now = transcripts.Get(texts[^1].Id);
        foreach (var (word, text) in acknowledged)
        {
            if (now.TextOf(now.Record[word]) != text)
            {
                throw new InvalidOperationException($"Word {word} was acknowledged as “{text}” and is “{now.TextOf(now.Record[word])}”.");
            }
        }
        var kept = new Bites(database, new Transcripts(database, TimeProvider.System), TimeProvider.System)
            .Of(1)
            .Select(b => b.Note)
            .ToHashSet();
        if (notes.FirstOrDefault(n => !kept.Contains(n)) is { } lost)
        {
            throw new InvalidOperationException($"The bite with the note {lost} was acknowledged and is gone.");
        }
        AreWhole(Path.Combine(data, "backups"));
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
    }

    private Database Database() => new(Path.Combine(data, "ember.sqlite"));

    public void Dispose()
    {
        client.Dispose();
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(data, recursive: true);
    }

    [GeneratedRegex("RequestVerificationToken\":\"([^\"]+)\"")]
    private static partial Regex Token();
}
