using System.Diagnostics;
using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Core.Transcripts;
using EmberLane.Engines;
using EmberLane.Running;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Bench;

/// <summary>
/// A made transcript of 30 000 words in four hours, with pauses, passages set aside and flags: what the server takes to answer and the
/// browser to show it, to save and show a mended word, to answer keys, to scroll, and how far the lit word is from the sound.
/// </summary>
internal static class ReadBench
{
    private const int Words = 30_000,
        Times = 7,
        Mends = 25,
        Keys = 60,
        SoundSeconds = 120;

    public static async Task RunAsync()
    {
        var data = Directory.CreateTempSubdirectory("ember-bench").FullName;
        try
        {
            string page;
            await using (var first = await RunningServer.StartAsync(data, demo: false))
            {
                page = await MakeAsync(first.Services, await SoundAsync(data));
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
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"read: {Words} words. Server: first answer {answers[0]:0} ms, then median {Median(answers.Skip(1)):0} ms. Browser, "
                        + $"shown and marked: median {Median(shown):0} ms."
                )
            );
            browser.Open("about:blank");
            browser.Open(address + FormattableString.Invariant($"#word-{Words / 2}"));
            Browser.Until(() => browser.Run<bool>("return document.getElementById('read').dataset.ready === 'true'"), "the page");
            Show("a word mended by keyboard, saved and seen", Measure(browser, MendWord, Mends));
            Show(
                "  of which the server's answer",
                [
                    .. (
                        (IEnumerable<object>)
                            browser.Run<object>(
                                "return performance.getEntriesByType('resource').filter((e) => e.name.includes('Retype')).map((e) => "
                                    + "e.duration)"
                            )
                    ).Select(d => Convert.ToDouble(d, CultureInfo.InvariantCulture)),
                ]
            );
            Show("a step by word", Measure(browser, Step.Replace("KEY", "ArrowRight", StringComparison.Ordinal), Keys));
            Show("a step by turn", Measure(browser, Step.Replace("KEY", "ArrowDown", StringComparison.Ordinal), Keys));
            Show("a step to the next doubtful word", Measure(browser, Step.Replace("KEY", "n", StringComparison.Ordinal), Keys));
            Lit(browser);
            var looks = new List<double>();
            for (var n = 0; n <= Times; n++)
            {
                var watch = Stopwatch.StartNew();
                await client.GetStringAsync(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"{address}/tidy/pauses?handler=Look&From={1 + (0.1 * n)}&Mode=shorten&To=0.5&Before=0.1&After=0.1&Quiet=true"
                    )
                );
                looks.Add(watch.Elapsed.TotalMilliseconds);
            }
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"  a look at its pauses: the first, with all that is found in the words, {looks[0]:0} ms; for a changed setting "
                        + $"median "
                        + $"{Median(looks.Skip(1)):0} ms"
                )
            );
            Show("a frame while the page scrolls by 400 px each", Measure(browser, Scroll, Keys));
        }
        finally
        {
            Directory.Delete(data, recursive: true);
        }
    }

    // Each script measures once and hands its milliseconds to the last argument.
    private const string MendWord = """
        const done = arguments[0], n = (window.mended = (window.mended ?? 0) + 1);
        const press = (key) => document.body.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true }));
        press("ArrowRight");
        press("e");
        const form = document.querySelector("#correct-dialog form"), turn = document.querySelector(form.getAttribute("hx-target"));
        form.querySelector("[name=text]").value = `mended${n}.`;
        // As long as a person takes to type, so that what the change before set going is over.
        setTimeout(() => {
          const begin = performance.now();
          const seen = () => {
            const channel = new MessageChannel();
            channel.port1.onmessage = () => done(performance.now() - begin);
            channel.port2.postMessage(null);
          };
          const look = () => { turn.textContent.includes(`mended${n}.`) ? requestAnimationFrame(seen) : setTimeout(look, 1); };
          form.requestSubmit();
          look();
        }, 1200);
        """;

    // From the key to the frame that shows the step.
    private const string Step = """
        const done = arguments[0], begin = performance.now();
        document.body.dispatchEvent(new KeyboardEvent("keydown", { key: "KEY", bubbles: true }));
        requestAnimationFrame(() => {
          const channel = new MessageChannel();
          channel.port1.onmessage = () => done(performance.now() - begin);
          channel.port2.postMessage(null);
        });
        """;

    // Plays for a while; at each frame that lights another word, how far the sound is past that word's start.
    private const string Light = """
        const done = arguments[0];
        import("/js/transcript.js").then(({ Transcript }) => {
          const sound = document.getElementById("sound"), transcript = new Transcript(document.getElementById("page")), late = [];
          const space = () => document.body.dispatchEvent(new KeyboardEvent("keydown", { key: " ", bubbles: true }));
          let lit = -1;
          const look = () => {
            const at = 1000 * (Number(sound.dataset.start) + (sound.currentTime * Number(sound.dataset.rate)));
            const range = [...CSS.highlights.get("playing")][0];
            const word = range ? transcript.wordOf(range.startContainer, range.startOffset + 1) : -1;
            if (word !== lit && !sound.paused) { if (lit >= 0) { late.push(at - transcript.starts[word]); } lit = word; }
            if (late.length < 50) { requestAnimationFrame(look); } else { space(); done(late); }
          };
          space();
          requestAnimationFrame(look);
        });
        """;

    private static void Lit(Browser browser)
    {
        browser.Run<object>("document.querySelector('.strip-voice').dispatchEvent(new MouseEvent('click', { bubbles: true })); return 1");
        Browser.Until(
            () => browser.Run<bool>("return document.getElementById('sound')?.readyState > 2"),
            "the sound for playing",
            seconds: 120
        );
        browser.Driver.Manage().Timeouts().AsynchronousJavaScript = TimeSpan.FromSeconds(60);
        var late = ((IEnumerable<object>)browser.Driver.ExecuteAsyncScript(Light)!)
            .Select(l => Convert.ToDouble(l, CultureInfo.InvariantCulture))
            .ToList();
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"  the lit word while playing, against the sound's clock: median {Median(late):0} ms late, the worst of {late.Count} "
                    + $"words {late.MaxBy(Math.Abs):0} ms"
            )
        );
    }

    private static async Task<string> SoundAsync(string data)
    {
        var path = Path.Combine(Directory.CreateDirectory(Path.Combine(data, "footage")).FullName, "long.wav");
        await Tool.ReadAsync(
            "ffmpeg",
            ["-v", "error", "-f", "lavfi", "-i", FormattableString.Invariant($"sine=220:r=16000:d={SoundSeconds}"), path],
            TimeSpan.FromMinutes(1),
            CancellationToken.None
        );
        return path;
    }

    private const string Scroll = """
        const done = arguments[0], page = document.getElementById("page");
        requestAnimationFrame(() => {
          const begin = performance.now();
          page.scrollTop += 400;
          requestAnimationFrame(() => {
            const channel = new MessageChannel();
            channel.port1.onmessage = () => done(performance.now() - begin);
            channel.port2.postMessage(null);
          });
        });
        """;

    private static List<double> Measure(Browser browser, string script, int times) =>
        [
            .. Enumerable
                .Range(0, times)
                .Select(_ => Convert.ToDouble(browser.Driver.ExecuteAsyncScript(script), CultureInfo.InvariantCulture)),
        ];

    private static void Show(string what, List<double> milliseconds) =>
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"  {what}: median {Median(milliseconds):0} ms, nine in ten within "
                    + $"{milliseconds.Order().ElementAt(milliseconds.Count * 9 / 10):0} ms"
            )
        );

    private static async Task<string> MakeAsync(IServiceProvider services, string sound)
    {
        var production = services.GetRequiredService<Store.Footage>().AddProduction("Long");
        var sitting = (
            await services.GetRequiredService<Intake>().BringInAsync(production, "Long sitting", [sound], CancellationToken.None)
        )
            .SittingId!
            .Value;
        string[] text = ["the", "ferry", "was", "late", "again", "and", "nobody", "minded", "crossing"];
        var random = new Random(5);
        var words = new List<RecordWord>();
        // One word in twenty comes after a pause, which the page shows; four hours in all.
        for (long i = 0, at = 0; i < Words; i++, at += 400)
        {
            at += i > 100 && random.Next(20) == 0 ? random.Next(500, 2500) : 0;
            words.Add(
                new RecordWord(
                    new((int)i),
                    text[random.Next(text.Length)],
                    new SittingRange(
                        new SittingTime(MediaTime.FromMilliseconds(at)),
                        new SittingTime(MediaTime.FromMilliseconds(at + 350))
                    ),
                    new(random.Next(200, 1000)),
                    (int)i / 37 % 3
                )
            );
        }
        var transcripts = services.GetRequiredService<Store.Transcripts>();
        var id = transcripts.Add(sitting, "made", "en", words, new Dictionary<int, string> { [0] = "Maren Oakhurst" });
        // One passage in thirty is set aside, one in a hundred has a flag.
        transcripts.Apply(id, text => MadeMarks.Of(text, aside: 15, each: 30, flags: 1500), "bench");
        return FormattableString.Invariant($"/productions/{production}/read/{sitting}");
    }

    private static double Median(IEnumerable<double> values)
    {
        var sorted = values.Order().ToList();
        return sorted[sorted.Count / 2];
    }
}
