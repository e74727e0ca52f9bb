using System.Diagnostics;
using System.Globalization;
using System.Text.RegularExpressions;
using EmberLane.Application.Gathering;
using EmberLane.Application.Rooms;
using EmberLane.Core.Stories;
using EmberLane.Running;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Bench;

/// <summary>
/// A story of a thousand cards: opened, changed in each way, compared, its seams judged, ten thousand changes taken back; and how long
/// nothing is heard at the borders of the demonstration's story as it plays in a browser. Sittings are made, of two hours each.
/// </summary>
internal static partial class StoryBench
{
    private const int Sittings = 10,
        Cards = 1_000,
        Times = 11,
        Steps = 10_000;

    private const string Story = "/productions/1/story",
        Who = "bench";

    public static async Task RunAsync(string repository)
    {
        await MadeAsync();
        await BordersAsync(repository);
    }

    private static async Task MadeAsync()
    {
        var data = Directory.CreateTempSubdirectory("ember-stories").FullName;
        try
        {
            await using var server = await RunningServer.StartAsync(data, demo: false);
            await MadeProduction.MakeAsync(server.Services, data, Sittings, Cards);
            await SoundsAsync(server.Services);
            Seams(server.Services);
            using var client = new HttpClient { BaseAddress = new Uri(server.Address) };
            client.DefaultRequestHeaders.Add("Cookie", "ember-person=bench");
            await PagesAsync(client, server.Services);
            await FollowedAsync(client, server.Services);
            TakeBack(server.Services);
        }
        finally
        {
            Directory.Delete(data, recursive: true);
        }
    }

    // The page again where all of its sittings are shown by their camera plans, which lie in no memory.
    private static async Task FollowedAsync(HttpClient client, IServiceProvider services)
    {
        var (cameras, footage) = (services.GetRequiredService<Store.Cameras>(), services.GetRequiredService<Store.Footage>());
        foreach (var sitting in footage.Sittings(1))
        {
            cameras.Change(sitting.Id, _ => Core.Cameras.CameraSetup.Follow(true), "follow", Who);
        }
        var opens = await MedianAsync(async () => await Get(client, Story));
        Say($"  all sittings shown by their camera plans: opens in {opens:0} ms");
        foreach (var sitting in footage.Sittings(1))
        {
            cameras.Change(sitting.Id, _ => Core.Cameras.CameraSetup.Follow(false), "follow", Who);
        }
    }

    // What would be measured of the sittings' sounds: talk that rises and falls, with a quiet every half second.
    private static async Task SoundsAsync(IServiceProvider services)
    {
        var (cache, mics, footage) = (
            services.GetRequiredService<MediaCache>(),
            services.GetRequiredService<SittingMics>(),
            services.GetRequiredService<Store.Footage>()
        );
        var random = new Random(4);
        foreach (var sitting in footage.Sittings(1))
        {
            var steps = new byte[sizeof(long) + (7_200 * 200)];
            for (var i = sizeof(long); i < steps.Length; i++)
            {
                steps[i] = (byte)(i % 96 < 14 ? random.Next(40, 52) : random.Next(100, 150));
            }
            await cache.MakeAsync(cache.Seams(mics.Of(sitting).Key), path => File.WriteAllBytesAsync(path, steps));
        }
    }

    private static void Seams(IServiceProvider services)
    {
        var (desk, footage) = (services.GetRequiredService<Desk>(), services.GetRequiredService<Store.Footage>());
        var story = desk.StoryOf(footage.Production(1)!, Who);
        var (shown, cut, listed) = (desk.Cards(story), desk.CutOf(story), desk.Listed(story));
        var seams = services.GetRequiredService<StorySeams>();
        var shots = desk.ShotsOf(story, cut);
        var first = Timed(() => seams.Of(story, shown, cut, listed, shots));
        var again = Timed(() => seams.Of(story, shown, cut, listed, shots));
        Say($"  {Cards} seams judged: {first:0} ms, judged again {again:0} ms");
    }

    private static async Task PagesAsync(HttpClient client, IServiceProvider services)
    {
        var page = await client.GetStringAsync(new Uri(Story, UriKind.Relative));
        var opens = await MedianAsync(async () => await Get(client, Story));
        Say($"  the page: {page.Length / 1024} kB; opens in {opens:0} ms (median of {Times})");
        var token = Token().Match(page).Groups[1].Value;
        var state = State(page);
        var ids = CardId().Matches(page).Select(m => m.Groups[1].Value).Distinct().ToList();
        foreach (
            var (what, handler, fields) in new (string, string, Func<int, string>)[]
            {
                ("a card moved", "Move", i => $"card={ids[400 + i]}&to=3"),
                ("a card stretched by a word", "Stretch", i => $"card={ids[500 + i]}&begin=false&words=1"),
                ("words taken out of a card", "TakeWords", i => $"from={ids[600 + i]}&fromAt=30&to={ids[600 + i]}&toAt=50&space=true"),
                ("a section laid", "Piece", i => $"kind=section&text=Part+{i}&behind={ids[100 + i]}"),
                ("an end moved by a frame", "Nudge", i => $"ends={ids[700 + i]}&unit=frame&by=1"),
                ("a change taken back", "Undo", _ => "redo=false"),
            }
        )
        {
            int i = 0,
                sent = 0;
            var median = await MedianAsync(async () =>
            {
                var answer = await PostAsync(client, $"{Story}?handler={handler}&{fields(i++)}", token, state);
                (state, sent) = (State(answer), answer.Length);
            });
            Say($"  {what}: {median:0} ms, the answer {sent / 1024} kB");
        }
        var alone = new List<double>();
        for (var i = 0; i < Times; i++)
        {
            var stories = services.GetRequiredService<Stories>();
            var story = stories.Get(stories.InHand(1)!.Value, Who)!;
            alone.Add(Timed(() => stories.Apply(story.Id, story.Version, new MoveCard(story.Story.Pieces[200 + i].Id, 5), Who)));
        }
        Say($"  a card moved, the change alone: {Median(alone):0} ms");
        var compared = await MedianAsync(async () => await Get(client, "/productions/1/versions?was=" + (Version(services) - 40)));
        Say($"  two versions 40 changes apart compared, the page: {compared:0} ms");
    }

    private static void TakeBack(IServiceProvider services)
    {
        var stories = services.GetRequiredService<Stories>();
        var id = stories.InHand(1)!.Value;
        var before = stories.Get(id, "other")!.Story.Pieces;
        var random = new Random(9);
        var making = Timed(() =>
        {
            for (var i = 0; i < Steps; i++)
            {
                stories.Apply(id, new MoveCard(before[random.Next(before.Count)].Id, random.Next(before.Count)), "other");
            }
        });
        var last = stories.Get(id, "other")!.Story.Pieces;
        var back = Timed(() =>
        {
            for (var i = 0; i < Steps; i++)
            {
                stories.Step(id, redo: false, "other");
            }
        });
        var isBack = stories.Get(id, "other")!.Story.Pieces.SequenceEqual(before);
        var version = stories.Get(id, "other")!.Version - Steps;
        var was = Timed(() =>
            last = stories.At(id, version)!.Pieces.SequenceEqual(last) ? last : throw new InvalidOperationException("not it")
        );
        Say($"  {Steps} changes made in {making / 1000:0.0} s, taken back in {back / 1000:0.0} s, all as before: {isBack}");
        Say($"  the version {Steps} steps back: {was:0} ms");
    }

    // The demonstration's story, played through in a browser: its files are real, its cards short.
    private static async Task BordersAsync(string repository)
    {
        var data = Directory.CreateTempSubdirectory("ember-borders").FullName;
        try
        {
            await using var server = await RunningServer.StartAsync(data, demo: true, null, Path.Combine(repository, "demo", "footage"));
            using var browser = new Browser();
            var gaps = new List<double>();
            var stories = server.Services.GetRequiredService<Stories>();
            var story = stories.Get(stories.InHand(1)!.Value, Who)!;
            // Short pieces of every card: a border each second.
            foreach (var card in story.Story.Cards)
            {
                stories.Apply(
                    story.Id,
                    new StretchCard(card.Id, new SittingRange(card.Range.In, card.Range.In + MediaTime.FromMilliseconds(1_000))),
                    Who
                );
            }
            for (var round = 0; round < 4; round++)
            {
                browser.Open(server.Address + Story);
                Browser.Until(() => browser.All(".card-piece").Count > 0, "the story");
                await Task.Delay(TimeSpan.FromSeconds(round == 0 ? 40 : 1));
                browser.Open(server.Address + Story);
                browser.Run<object?>("document.querySelector('[data-action=\"play-story\"]').click(); return null");
                Browser.Until(() => browser.Run<bool>("return document.getElementById('player').open"), "the player");
                Browser.Until(() => !browser.Run<bool>("return document.getElementById('player').open"), "the end of the story", 60);
                gaps.AddRange(
                    browser
                        .Run<string>("return document.getElementById('player').dataset.gaps ?? ''")
                        .Split(' ', StringSplitOptions.RemoveEmptyEntries)
                        .Select(g => double.Parse(g, CultureInfo.InvariantCulture))
                );
            }
            var sorted = gaps.Order().ToList();
            if (sorted.Count > 0)
            {
                var late = sorted[(int)(sorted.Count * 0.95)];
                Say($"  {sorted.Count} borders played: nothing heard for {Median(sorted):0.0} ms, 95th percentile {late:0.0} ms");
            }
        }
        finally
        {
            Directory.Delete(data, recursive: true);
        }
    }

    private static long Version(IServiceProvider services) =>
        services.GetRequiredService<Stories>() is var stories ? stories.Get(stories.InHand(1)!.Value, Who)!.Version : 0;

    private static Task<byte[]> Get(HttpClient client, string address) => client.GetByteArrayAsync(new Uri(address, UriKind.Relative));

    private static async Task<string> PostAsync(HttpClient client, string address, string token, Dictionary<string, string> state)
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, new Uri(address, UriKind.Relative))
        {
            Content = new FormUrlEncodedContent(state),
        };
        request.Headers.Add("RequestVerificationToken", token);
        request.Headers.Add("HX-Request", "true");
        using var answer = await client.SendAsync(request);
        answer.EnsureSuccessStatusCode();
        return await answer.Content.ReadAsStringAsync();
    }

    // What a page sends of its state with everything that it asks.
    private static Dictionary<string, string> State(string page) =>
        HiddenField().Matches(page).DistinctBy(m => m.Groups[1].Value).ToDictionary(m => m.Groups[1].Value, m => m.Groups[2].Value);

    private static async Task<double> MedianAsync(Func<Task> act)
    {
        var times = new List<double>();
        for (var i = 0; i < Times; i++)
        {
            var watch = Stopwatch.StartNew();
            await act();
            times.Add(watch.Elapsed.TotalMilliseconds);
        }
        return Median(times);
    }

    private static double Timed(Action act)
    {
        var watch = Stopwatch.StartNew();
        act();
        return watch.Elapsed.TotalMilliseconds;
    }

    private static double Median(List<double> values) => values.Order().ElementAt(values.Count / 2);

    private static void Say(FormattableString text) => Console.WriteLine(text.ToString(CultureInfo.InvariantCulture));

    [GeneratedRegex("RequestVerificationToken\":\"([^\"]+)\"")]
    private static partial Regex Token();

    [GeneratedRegex("<input type=\"hidden\" name=\"(version|seen|drawn|seam)\" value=\"([^\"]*)\"")]
    private static partial Regex HiddenField();

    [GeneratedRegex("id=\"card-([0-9a-f-]+)\"")]
    private static partial Regex CardId();
}
