using System.Net;
using EmberLane.Application.Gathering;
using EmberLane.Application.Tidying;
using EmberLane.Core.Marks;
using EmberLane.Core.Tidy;
using EmberLane.Core.Transcripts;
using EmberLane.Running;
using EmberLane.Store;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

/// <summary>Sounds that no word stands for, on the page of hesitations.</summary>
public sealed class FilledSoundPageTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private const int Sitting = 3;

    private Browser Browser => demo.Browser;

    private int Count(MarkKind kind) =>
        demo.Get<Store.Transcripts>()
            .Get(demo.Get<Footage>().Sitting(Sitting)!.TranscriptId!.Value)
            .Layers.Marks.Values.Count(m => m.Kind == kind);

    // Words of 300 ms each second; between the second and the third, and the fifth and the sixth, somebody holds a sound.
    private async Task SayAsync()
    {
        var cache = demo.Get<MediaCache>();
        var path = cache.Talk(demo.Get<SittingMics>().Of(demo.Get<Footage>().Sitting(Sitting)!).Key);
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        float[] energy = new float[1_000],
            chances = new float[1_000],
            steady = new float[1_000];
        foreach (var (first, end) in Enumerable.Range(0, 8).Select(n => (100 * n, (100 * n) + 30)).Append((145, 185)).Append((450, 490)))
        {
            Array.Fill(energy, 1e6f, first, end - first);
            Array.Fill(chances, 0.95f, first, end - first);
            Array.Fill(steady, end - first > 30 ? 0.7f : 0.3f, first, end - first);
        }
        await cache.MakeAsync(
            path,
            to =>
            {
                TalkSounds.Write(to, new TalkSound(energy, chances, steady, MediaTime.Zero));
                return Task.CompletedTask;
            }
        );
        demo.Get<Store.Transcripts>()
            .Add(
                Sitting,
                "local",
                "en",
                [
                    .. "we had left the key under the bench"
                        .Split(' ')
                        .Select((w, n) => new RecordWord(new WordNumber(n), w, Range(1_000 * n, (1_000 * n) + 300), null, 0)),
                ],
                new Dictionary<int, string> { [0] = "Ada" }
            );

        static SittingRange Range(long from, long to) =>
            new(new SittingTime(MediaTime.FromMilliseconds(from)), new SittingTime(MediaTime.FromMilliseconds(to)));
    }

    [Fact]
    public async Task A_sound_without_a_word_is_listed_set_aside_left_and_brought_back()
    {
        await SayAsync();
        demo.Open($"/productions/1/read/{Sitting}/tidy/hesitations");
        Browser.UntilText("#kind-sounds-title", "2 places");
        Assert.Contains("we had 0.4 s left the key", Browser.Text("#kind-sounds .find .speech"), StringComparison.Ordinal);
        Browser.Run<object?>("document.querySelector('#kind-sounds .find').focus(); return null");
        Browser.Press("x");
        Browser.UntilText("#kind-sounds-title", "1 place");
        Assert.Equal(1, Count(MarkKind.FilledSound));
        Browser.UntilText(".done-line", "Set aside.");
        Browser.Click("#kind-sounds [data-action='stays']");
        Browser.Until(() => Browser.All("#kind-sounds").Count == 0, "nothing to be left to decide");
        Assert.Equal(1, Count(MarkKind.LeftSound));
        Browser.Press("u");
        Browser.UntilText("#kind-sounds-title", "1 place");
        Browser.Press("u");
        Browser.UntilText("#kind-sounds-title", "2 places");
        Assert.Equal(0, Count(MarkKind.FilledSound) + Count(MarkKind.LeftSound));
        // A time that is none, and one at which nothing was found.
        Assert.Equal(HttpStatusCode.Conflict, await Post("in=x&out=9"));
        Assert.Equal(HttpStatusCode.Conflict, await Post("in=7&out=9"));

        async Task<HttpStatusCode> Post(string times) =>
            (await demo.PostAsync($"/productions/1/read/{Sitting}/tidy/hesitations?handler=Sound&{times}", [])).StatusCode;
    }
}
