using System.Diagnostics;
using System.Globalization;
using EmberLane.Core.Media;
using EmberLane.Core.Transcripts;
using EmberLane.Running;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Bench;

/// <summary>Opens a made transcript of 30 000 words: what the server takes to answer, and the browser to show it with its marks.</summary>
internal static class ReadBench
{
    private const int Words = 30_000, Times = 7;

    public static async Task RunAsync()
    {
        var data = Directory.CreateTempSubdirectory("ember-bench").FullName;
        try
        {
            string page;
            await using (var first = await RunningServer.StartAsync(data, demo: false))
            {
                page = Make(first.Services);
            }
            // Measured on a server that has just started, in a process of its own as a person's is.
            using var server = ServerProcess.Start(data);
            await server.ReadyAsync();
            var address = server.Address + page;
            using var client = new HttpClient();
            var answers = new List<double>();
            for (var i = 0; i < Times + 1; i++)
            {
                var watch = Stopwatch.StartNew();
                await client.GetStringAsync(address);
                answers.Add(watch.Elapsed.TotalMilliseconds);
            }
            using var browser = new Browser();
            var shown = new List<double>();
            for (var i = 0; i < Times; i++)
            {
                browser.Open("about:blank");
                var watch = Stopwatch.StartNew();
                browser.Open(address);
                Browser.Until(() => browser.Run<bool>("return document.getElementById('read').dataset.ready === 'true'"), "the page");
                shown.Add(watch.Elapsed.TotalMilliseconds);
            }
            Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"read: {Words} words. Server: first answer {answers[0]:0} ms, then median {Median(answers.Skip(1)):0} ms. Browser, shown and marked: median {Median(shown):0} ms."));
        }
        finally
        {
            Directory.Delete(data, recursive: true);
        }
    }

    private static string Make(IServiceProvider services)
    {
        var footage = services.GetRequiredService<Store.Footage>();
        var production = footage.AddProduction("Long");
        var facts = new SourceFacts("wav", MediaTime.FromMilliseconds(Words * 400L), null, [new SoundTrack(0, "pcm_s16le", 48000, 1)], StartOfFile.Unknown, null, null, null);
        var sitting = footage.BringIn(production, "Long sitting", [new NewSource("/nowhere.wav", "nowhere.wav", 1, "long", facts)])!.Value;
        string[] text = ["the", "ferry", "was", "late", "again", "and", "nobody", "minded", "crossing"];
        var random = new Random(5);
        services.GetRequiredService<Store.Transcripts>().Add(sitting, "made", "en", [.. Enumerable.Range(0, Words).Select(i => new RecordWord(
            i, text[random.Next(text.Length)], new SittingRange(new SittingTime(MediaTime.FromMilliseconds(i * 400L)), new SittingTime(MediaTime.FromMilliseconds((i * 400L) + 350))), random.Next(200, 1000), i / 37 % 3))],
            new Dictionary<int, string> { [0] = "Maren Oakhurst" });
        return FormattableString.Invariant($"/productions/{production}/read/{sitting}");
    }

    private static double Median(IEnumerable<double> values)
    {
        var sorted = values.Order().ToList();
        return sorted[sorted.Count / 2];
    }
}
