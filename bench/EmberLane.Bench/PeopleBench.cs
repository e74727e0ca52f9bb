using System.Collections.Concurrent;
using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Text.RegularExpressions;
using EmberLane.Running;
using EmberLane.Store;

namespace EmberLane.Bench;

/// <summary>
/// Twenty people at one server: each reads, mends words of their own, keeps bites, moves cards of one story and takes back, with pauses as
/// people make them, each page hearing of the others' changes. What edits take, what was answered with an error, and whether all that was
/// acknowledged is there.
/// </summary>
internal static partial class PeopleBench
{
    private const int People = 20,
        Sittings = 10;

    private static readonly TimeSpan Lasts = TimeSpan.FromMinutes(10);

    public static async Task RunAsync()
    {
        var data = Directory.CreateTempSubdirectory("ember-people").FullName;
        try
        {
            (long Production, IReadOnlyList<long> Sittings) made;
            await using (var first = await RunningServer.StartAsync(data, demo: false))
            {
                made = await MadeProduction.MakeAsync(first.Services, data, Sittings, cards: 100);
            }
            using var server = ServerProcess.Start(data);
            await server.ReadyAsync();
            var seen = new Seen();
            using var stop = new CancellationTokenSource(Lasts);
            await Task.WhenAll(
                Enumerable
                    .Range(0, People)
                    .Select(n => new Somebody(n, server.Address, made.Production, made.Sittings, seen, stop.Token).WorkAsync())
            );
            var memory = server.MostMemory >> 20;
            await server.KillAsync();
            Tell(seen, memory, Lost(data, made.Sittings, seen));
        }
        finally
        {
            Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
            Directory.Delete(data, recursive: true);
        }
    }

    private static void Tell(Seen seen, long memory, int lost)
    {
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"people: {People} at once for {Lasts.TotalMinutes:0} minutes; {seen.Edits.Count} edits, median {At(seen.Edits, 0.5):0} "
                    + $"ms, p95 {At(seen.Edits, 0.95):0} ms, the longest {At(seen.Edits, 1):0} ms; {seen.Pages.Count} pages, median "
                    + $"{At(seen.Pages, 0.5):0} ms, p95 {At(seen.Pages, 0.95):0} ms; {seen.Heard} news heard; {seen.Clashes} clashes told, "
                    + $"{seen.Errors.Count} answers that were errors, {lost} of {seen.Mended.Count} mended words not there; "
                    + $"{memory} MiB at most"
            )
        );
        foreach (var error in seen.Errors.Take(5))
        {
            Console.WriteLine("  " + error);
        }
    }

    private static double At(ConcurrentBag<double> values, double share) =>
        values.IsEmpty ? 0 : values.Order().ElementAt((int)Math.Min(values.Count - 1, share * values.Count));

    // Words that were acknowledged and do not read so.
    private static int Lost(string data, IReadOnlyList<long> sittings, Seen seen)
    {
        var database = new Database(Path.Combine(data, "ember.sqlite"));
        var (footage, transcripts) = (new Store.Footage(database, TimeProvider.System), new Transcripts(database, TimeProvider.System));
        return sittings.Sum(s =>
        {
            var text = transcripts.Get(footage.Sitting(s)!.TranscriptId!.Value);
            return seen.Mended.Count(m => m.Key.Sitting == s && text.TextOf(text.Record[m.Key.Word]) != m.Value);
        });
    }

    private sealed class Seen
    {
        public ConcurrentBag<double> Edits { get; } = [];

        public ConcurrentBag<double> Pages { get; } = [];

        public ConcurrentBag<string> Errors { get; } = [];

        public ConcurrentDictionary<(long Sitting, int Word), string> Mended { get; } = new();

        public int Clashes;

        public int Heard;
    }

    private sealed class Somebody(
        int number,
        string address,
        long production,
        IReadOnlyList<long> sittings,
        Seen seen,
        CancellationToken stop
    )
    {
        private readonly Random random = new(number);

        public async Task WorkAsync()
        {
            using var handler = new HttpClientHandler();
            handler.CookieContainer.Add(new Uri(address), new Cookie("person", FormattableString.Invariant($"Person%20{number}")));
            using var client = new HttpClient(handler) { BaseAddress = new Uri(address) };
            var hearing = HearAsync(client);
            try
            {
                while (!stop.IsCancellationRequested)
                {
                    await SitDownAsync(client, sittings[random.Next(sittings.Count)]);
                }
            }
            catch (OperationCanceledException)
            {
                // The time is over.
            }
            await hearing;
        }

        // Opens a sitting, and does a few things there and in the story.
        private async Task SitDownAsync(HttpClient client, long sitting)
        {
            var read = FormattableString.Invariant($"/productions/{production}/read/{sitting}");
            var story = FormattableString.Invariant($"/productions/{production}/story");
            var token = Token().Match(await PageAsync(client, read)).Groups[1].Value;
            for (var n = 0; n < 12; n++)
            {
                await Task.Delay(random.Next(1_000, 4_000), stop);
                var word = (random.Next(MadeProduction.WordsOfSitting / People) * People) + number;
                switch (random.Next(10))
                {
                    case < 5:
                        var text = FormattableString.Invariant($"x{random.Next(1_000_000)}");
                        if (await EditAsync(client, read + "?handler=Retype", token, Both(word, ("text", text))))
                        {
                            seen.Mended[(sitting, word)] = text;
                        }
                        else
                        {
                            seen.Mended.TryRemove((sitting, word), out _);
                        }
                        break;
                    case < 7:
                        await EditAsync(client, read + "?handler=Keep", token, Both(word, ("theme", "winter"), ("note", "")));
                        break;
                    case < 9:
                        var page = await PageAsync(client, story);
                        var cards = Cards().Matches(page);
                        var card = cards[random.Next(cards.Count)].Groups[1].Value;
                        await EditAsync(
                            client,
                            FormattableString.Invariant(
                                $"{story}?handler=Step&card={card}&down={(random.Next(2) == 0 ? "true" : "false")}"
                            ),
                            token,
                            [("version", Version().Match(page).Groups[1].Value), ("drawn", Drawing().Match(page).Groups[1].Value)]
                        );
                        break;
                    default:
                        await PageAsync(client, FormattableString.Invariant($"/productions/{production}/bites"));
                        break;
                }
            }
        }

        private static (string, string)[] Both(int word, params (string, string)[] more) =>
            [("first", FormattableString.Invariant($"{word}")), ("last", FormattableString.Invariant($"{word}")), .. more];

        private async Task<string> PageAsync(HttpClient client, string path)
        {
            var watch = Stopwatch.StartNew();
            using var answer = await client.GetAsync(new Uri(path, UriKind.Relative), stop);
            var text = await answer.Content.ReadAsStringAsync(stop);
            seen.Pages.Add(watch.Elapsed.TotalMilliseconds);
            Count(answer.StatusCode, path);
            return text;
        }

        private async Task<bool> EditAsync(HttpClient client, string path, string token, (string Name, string Value)[] fields)
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, path)
            {
                Content = new FormUrlEncodedContent(fields.Select(f => KeyValuePair.Create(f.Name, f.Value))),
            };
            request.Headers.Add("RequestVerificationToken", token);
            request.Headers.Add("HX-Request", "true");
            var watch = Stopwatch.StartNew();
            using var answer = await client.SendAsync(request, stop);
            await answer.Content.ReadAsByteArrayAsync(stop);
            seen.Edits.Add(watch.Elapsed.TotalMilliseconds);
            Count(answer.StatusCode, path);
            return answer.StatusCode == HttpStatusCode.OK;
        }

        private void Count(HttpStatusCode status, string path)
        {
            if (status == HttpStatusCode.Conflict)
            {
                Interlocked.Increment(ref seen.Clashes);
            }
            else if (status != HttpStatusCode.OK)
            {
                seen.Errors.Add($"{(int)status} for {path}");
            }
        }

        private async Task HearAsync(HttpClient client)
        {
            try
            {
                await using var news = await client.GetStreamAsync(
                    new Uri(FormattableString.Invariant($"/events?production={production}"), UriKind.Relative),
                    stop
                );
                using var lines = new StreamReader(news);
                while (await lines.ReadLineAsync(stop) is { } line)
                {
                    if (line.StartsWith("data:", StringComparison.Ordinal))
                    {
                        Interlocked.Increment(ref seen.Heard);
                    }
                }
            }
            catch (OperationCanceledException)
            {
                // The time is over.
            }
        }
    }

    [GeneratedRegex("RequestVerificationToken(?:\":\"|&quot;:&quot;)([^\"&]+)")]
    private static partial Regex Token();

    [GeneratedRegex("class=\"card-piece sheet[^>]*data-card=\"([^\"]+)\"")]
    private static partial Regex Cards();

    [GeneratedRegex("name=\"version\" value=\"(\\d+)\"")]
    private static partial Regex Version();

    [GeneratedRegex("name=\"drawn\" value=\"([^\"]+)\"")]
    private static partial Regex Drawing();
}
