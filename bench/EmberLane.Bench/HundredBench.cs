using System.Diagnostics;
using System.Globalization;
using System.Text.RegularExpressions;
using EmberLane.Core.SetFlags;
using EmberLane.Running;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Bench;

/// <summary>
/// Every room of a large made production on a server of its own: its first answer after a start, the median of further ones, and the time
/// until the browser has painted it; a story edit and a mended word; memory and start.
/// </summary>
internal static partial class HundredBench
{
    private const int Times = 7,
        Edits = 15;

    /// <summary>
    /// Makes <paramref name="sittings"/> of two hours in <paramref name="keep"/>, or takes those that are there; without a folder in one
    /// that goes afterwards.
    /// </summary>
    public static async Task RunAsync(int sittings, string? keep)
    {
        var data = keep is null ? Directory.CreateTempSubdirectory("ember-hundred").FullName : Directory.CreateDirectory(keep).FullName;
        try
        {
            if (!File.Exists(Path.Combine(data, "made")))
            {
                var making = Stopwatch.StartNew();
                await using (var server = await RunningServer.StartAsync(data, demo: false))
                {
                    await MadeProduction.MakeAsync(server.Services, data, sittings);
                    // A script that is searched in the sittings that one match takes, and a day of flags.
                    server
                        .Services.GetRequiredService<Scripts>()
                        .Add(
                            1,
                            "made",
                            string.Join(
                                '\n',
                                Enumerable.Range(0, 100).Select(n => $"Line {n} of a script that nobody says in these sittings.")
                            ),
                            [.. Enumerable.Range(1, 10)],
                            "bench"
                        );
                    server
                        .Services.GetRequiredService<SetFlags>()
                        .Keep(
                            1,
                            [
                                .. Enumerable
                                    .Range(0, 1000)
                                    .Select(n =>
                                        SetFlag.Of(
                                            null,
                                            new DateOnly(2026, 6, 14),
                                            MediaTime.FromMilliseconds(60_000L * n),
                                            "bench",
                                            $"{n}"
                                        )
                                    ),
                            ]
                        );
                }
                await File.WriteAllTextAsync(Path.Combine(data, "made"), "");
                Console.WriteLine(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"hundred: {sittings} sittings of {MadeProduction.WordsOfSitting} words, {MadeProduction.Bites} bites made in "
                            + $"{making.Elapsed.TotalSeconds:0} s"
                    )
                );
            }
            await MeasureAsync(data);
        }
        finally
        {
            if (keep is null)
            {
                Directory.Delete(data, recursive: true);
            }
        }
    }

    private static async Task MeasureAsync(string data)
    {
        var opening = Stopwatch.StartNew();
        using var server = ServerProcess.Start(data);
        await server.ReadyAsync();
        Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  opened and ready after {opening.Elapsed.TotalSeconds:0.0} s"));
        using var client = new HttpClient(new SocketsHttpHandler { UseCookies = true })
        {
            BaseAddress = new Uri(server.Address),
            Timeout = TimeSpan.FromMinutes(2),
        };
        using var browser = new Browser();
        foreach (var (room, address) in Rooms)
        {
            var answers = new List<double>();
            long size = 0;
            for (var i = 0; i <= Times; i++)
            {
                var watch = Stopwatch.StartNew();
                size = (await client.GetByteArrayAsync(new Uri(address, UriKind.Relative))).LongLength;
                answers.Add(watch.Elapsed.TotalMilliseconds);
            }
            Console.Write(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"  {room,-18} first {answers[0],5:0} ms, median {Median(answers.Skip(1)),5:0} ms, {size / 1024,5} kB"
                )
            );
            if (!room.StartsWith("the ", StringComparison.Ordinal))
            {
                var painted = Enumerable.Range(0, 3).Select(_ => Painted(browser, server.Address + address)).ToList();
                Console.Write(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"; painted after {Median(painted.Select(p => p.First)),5:0} ms, whole after "
                            + $"{Median(painted.Select(p => p.Whole)),5:0} ms"
                    )
                );
            }
            Console.WriteLine();
        }
        await EditsAsync(client);
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"  memory of the server: {server.Memory >> 20} MB now, {server.MostMemory >> 20} MB at most"
            )
        );
    }

    private static IReadOnlyList<(string Room, string Address)> Rooms { get; } =
    [
        ("First page", "/"),
        ("Gather", "/productions/1/gather"),
        ("All sittings", "/productions/1/gather/sittings"),
        ("All files", "/productions/1/gather/files"),
        ("Bring footage in", "/productions/1/gather/new"),
        ("Mics", "/productions/1/gather/mics/1"),
        ("Watch", "/productions/1/gather/watch/1"),
        ("Read", "/productions/1/read"),
        ("Read, a sitting", "/productions/1/read/2"),
        ("Texts", "/productions/1/read/2/texts"),
        ("Tidy", "/productions/1/read/2/tidy/pauses"),
        ("Tidy, retakes", "/productions/1/read/2/tidy/retakes"),
        ("Parts", "/productions/1/read/2/tidy/parts"),
        ("Script", "/productions/1/script"),
        ("On set", "/productions/1/onset"),
        ("Find", "/productions/1/find?q=river+-stone"),
        ("Bites", "/productions/1/bites"),
        ("the bites, filtered", "/productions/1/bites?handler=Asked&is.Least=2"),
        ("Cutaways", "/productions/1/cutaways?of=all"),
        ("Story", "/productions/1/story"),
        ("Hand-off", "/productions/1/handoff"),
        ("Work", "/productions/1/work"),
        ("the lane", "/productions/1/bites?handler=Lane"),
        ("the list (EDL)", "/productions/1/handoff?handler=List"),
    ];

    // The first words on the screen; and all of it there with its scripts run, and a frame drawn after that.
    private static (double First, double Whole) Painted(Browser browser, string address)
    {
        browser.Open("about:blank");
        var watch = Stopwatch.StartNew();
        browser.Open(address);
        browser.Driver.ExecuteAsyncScript(
            "const done = arguments[0]; requestAnimationFrame(() => { const channel = new MessageChannel(); channel.port1.onmessage = () "
                + "=> done(); channel.port2.postMessage(null); });"
        );
        var whole = watch.Elapsed.TotalMilliseconds;
        return (
            Convert.ToDouble(
                browser.Run<object>("return performance.getEntriesByName('first-contentful-paint')[0].startTime"),
                CultureInfo.InvariantCulture
            ),
            whole
        );
    }

    private static async Task EditsAsync(HttpClient client)
    {
        var read = await client.GetStringAsync(new Uri("/productions/1/read/3", UriKind.Relative));
        var token = Token().Match(read).Groups[1].Value;
        var mended = new List<double>();
        for (var i = 0; i < Edits; i++)
        {
            var word = ((i * 90) + 20).ToString(CultureInfo.InvariantCulture);
            mended.Add(
                await PostAsync(
                    client,
                    "/productions/1/read/3?handler=Retype",
                    token,
                    new Dictionary<string, string>
                    {
                        ["first"] = word,
                        ["last"] = word,
                        ["text"] = "ferryman",
                    }
                )
            );
        }
        var moved = new List<double>();
        for (var i = 0; i < Edits; i++)
        {
            var story = await client.GetStringAsync(new Uri("/productions/1/story", UriKind.Relative));
            var (version, card) = (Version().Match(story).Groups[1].Value, CardId().Matches(story)[10 + i].Groups[1].Value);
            moved.Add(await PostAsync(client, $"/productions/1/story?handler=Move&version={version}&card={card}&to=3", token, []));
        }
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"  a word mended, the server's answer: median {Median(mended):0} ms, the slowest of {Edits} {mended.Max():0} ms; a card "
                    + $"moved: median {Median(moved):0} ms, the slowest {moved.Max():0} ms"
            )
        );
    }

    private static async Task<double> PostAsync(HttpClient client, string address, string token, Dictionary<string, string> fields)
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, new Uri(address, UriKind.Relative))
        {
            Content = new FormUrlEncodedContent(fields),
        };
        request.Headers.Add("RequestVerificationToken", token);
        request.Headers.Add("HX-Request", "true");
        var watch = Stopwatch.StartNew();
        using var answer = await client.SendAsync(request);
        answer.EnsureSuccessStatusCode();
        await answer.Content.ReadAsByteArrayAsync();
        return watch.Elapsed.TotalMilliseconds;
    }

    private static double Median(IEnumerable<double> values)
    {
        var sorted = values.Order().ToList();
        return sorted[sorted.Count / 2];
    }

    [GeneratedRegex("RequestVerificationToken\":\"([^\"]+)\"")]
    private static partial Regex Token();

    [GeneratedRegex("id=\"story\" data-version=\"(\\d+)\"")]
    private static partial Regex Version();

    [GeneratedRegex("data-card=\"([0-9a-f-]+)\"")]
    private static partial Regex CardId();
}
