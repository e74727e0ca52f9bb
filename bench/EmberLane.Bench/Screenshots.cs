using EmberLane.Core.Stories;
using EmberLane.Running;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;
using OpenQA.Selenium;

namespace EmberLane.Bench;

/// <summary>Pictures of the main views from the demonstration data, 1280 × 800.</summary>
internal static class Screenshots
{
    public static async Task TakeAsync(string repository)
    {
        var folder = Path.Combine(repository, "docs", "screenshots");
        Directory.CreateDirectory(folder);
        var data = Directory.CreateTempSubdirectory("ember-shots").FullName;
        try
        {
            await using var server = await RunningServer.StartAsync(data, demo: true);
            var jobs = server.Services.GetRequiredService<Jobs>();
            await RunningServer.UntilAsync(
                () => server.Services.GetRequiredService<EmberLane.Application.Work.Upkeep>().IsIdle && jobs.Of(1, 100).All(j => !j.IsOpen),
                "the playing copies"
            );
            using var browser = new Browser();
            var rooms = server.Address + "/productions/1/";
            void Shoot(string name, string path, Action? first = null)
            {
                browser.Open(rooms + path);
                Browser.Until(
                    () => browser.Run<bool>("return document.readyState === 'complete' && document.fonts.status === 'loaded'"),
                    "the page"
                );
                first?.Invoke();
                browser.Picture(Path.Combine(folder, name + ".png"));
                Console.WriteLine("docs/screenshots/" + name + ".png");
            }
            void ReadAt()
            {
                Browser.Until(
                    () => browser.Run<bool>("return [...document.querySelectorAll('video')].every(v => v.readyState >= 2 && !v.seeking)"),
                    "the pictures"
                );
                for (var i = 0; i < 9; i++)
                {
                    browser.PressWithShift(Keys.ArrowRight);
                }
                Browser.Until(
                    () => browser.Run<bool>("return [...document.querySelectorAll('video')].every(v => v.readyState >= 2 && !v.seeking)"),
                    "the pictures"
                );
            }
            Shoot("log-sheet", "read/1/log?length=short");
            Shoot("gather", "gather");
            Shoot("read", "read/1#word-65", ReadAt);
            Shoot(
                "tidy",
                "read/1/tidy/pauses",
                () =>
                {
                    browser.Click(".sets .btn:nth-child(2)");
                    Browser.Until(() => browser.All("#pause-look .find").Count > 5, "the cuts");
                }
            );
            Shoot("find", "find?q=bridge");
            Shoot("bites", "bites");
            Shoot(
                "cutaways",
                "cutaways?of=all&shot=2/1",
                () => Browser.Until(() => browser.Run<bool>("return document.getElementById('picture').readyState >= 2"), "the picture")
            );
            LayTheTable(server.Services);
            Shoot(
                "story",
                "story",
                () =>
                {
                    browser.Click("#mend-all");
                    Browser.Until(() => browser.All("#cards").Any(c => c.Text.Contains("the end moved")), "the ends to be mended");
                    browser.Run<object?>("document.querySelectorAll('.seam [data-action=\"open-seam\"]')[1].click(); return null");
                    Browser.Until(() => browser.All("#loupe").Count == 1, "the seam");
                    browser.Run<object?>("scrollTo(0, 0); return null");
                }
            );
            Shoot("versions", "versions?was=7");
            server
                .Services.GetRequiredService<Scripts>()
                .Add(
                    1,
                    "The opening",
                    """
                    INTERVIEWER: What does the cable sound like from in here?
                    TOBIAS: The cable was singing that morning. It does that before a storm.
                    MAREN: Ninety years of people standing next to each other for six minutes.
                    TOBIAS: Nobody will paint it again.
                    """,
                    null,
                    "producer"
                );
            Shoot("script", "script");
            Shoot("handoff", "handoff");
            Shoot("bring-in", "gather/new");
            Shoot("check", "gather/check/2");
            Shoot("files", "gather/files");
            Shoot("mics", "gather/mics/1");
            Shoot(
                "cameras",
                "cameras/1",
                () =>
                    Browser.Until(
                        () =>
                            browser.Run<bool>(
                                "return document.getElementById('watch').dataset.ready === 'true' && "
                                    + "[...document.querySelectorAll('video:not(.away)')].every(v => v.readyState >= 2 && !v.seeking)"
                            ),
                        "the pictures"
                    )
            );
            // What was heard, beside what a typist made of it.
            var texts = server.Services.GetRequiredService<Texts>();
            var (typed, heard) = (texts.Of(1)[0].Id, texts.Of(1)[^1].Id);
            Shoot("texts", FormattableString.Invariant($"read/1/texts?compare={heard}"), () => browser.Find("#difference-title"));
            texts.Choose(1, heard, "logger");
            texts.Choose(1, typed, "logger");
            // What two people did besides.
            server.Services.GetRequiredService<Grouping>().Rename(1, 3, "The bridge walk, evening", "logger");
            server.Services.GetRequiredService<Store.Bites>().Describe(1, "the sound", "opens the film", "producer");
            Shoot("changes", "changes");
            Shoot("shown", "shown/sitting/1");
        }
        finally
        {
            Directory.Delete(data, recursive: true);
        }
    }

    // A section, a space and a narration among the cards of the demonstration.
    private static void LayTheTable(IServiceProvider services)
    {
        var stories = services.GetRequiredService<Stories>();
        var id = stories.InHand(1)!.Value;
        var story = stories.Get(id, "producer")!.Story;
        stories.Apply(
            id,
            new StoryTogether([
                new LayPiece(new SectionHead(Guid.NewGuid(), "The last season", MediaTime.FromMilliseconds(40_000), false), 0),
                new LayPiece(new Space(Guid.NewGuid(), MediaTime.FromMilliseconds(6_000), "the cable drum at dawn, wide"), 5),
                new LayPiece(new SectionHead(Guid.NewGuid(), "A classroom on the water", MediaTime.Zero, false), 6),
            ]),
            "producer"
        );
        stories.Apply(id, new TakeOut(story.Cards[^1].Id), "producer");
    }
}
