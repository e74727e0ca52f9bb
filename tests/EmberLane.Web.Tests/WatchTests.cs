using EmberLane.Application.Gathering;
using EmberLane.Running;
using EmberLane.Store;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

public sealed class WatchTests(DemoServer demo) : IClassFixture<DemoServer>
{
    // How far each rolling picture is from where the sound is, in frames of 25 a second; the largest of them.
    private const string Apart = """
        const sound = document.getElementById("sound"), now = Number(sound.dataset.start) + sound.currentTime * Number(sound.dataset.rate);
        const apart = (v) => Math.abs(v.currentTime - (now - Number(v.dataset.start)) / Number(v.dataset.rate));
        return 25 * Math.max(0, ...[...document.querySelectorAll("video:not(.away)")].map(apart)) + 0.0001;
        """;

    private Browser Browser => demo.Browser;

    private void OpenWatch(string address)
    {
        Browser.Open(address);
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('watch')?.dataset.ready === 'true'"), "the page");
        Browser.Until(
            () => Browser.Run<bool>("return [...document.querySelectorAll('video, audio')].every((m) => m.readyState >= 2 && !m.seeking)"),
            "pictures and sound"
        );
    }

    [Fact]
    public void All_angles_run_within_a_frame_of_the_sound_stand_exactly_and_one_is_made_large_by_its_number()
    {
        OpenWatch(demo.Server.Address + "/productions/1/gather/watch/1");
        Assert.Equal(3, Browser.All(".angle").Count);
        Assert.Contains("/media/sitting/1/sound", Browser.Find("#sound").GetAttribute("src"), StringComparison.Ordinal);
        Browser.UntilText(".watch-mics", "Maren Oakhurst, Tobias Fenn");
        Browser.Press("2");
        Browser.Until(() => Browser.All(".angle.large").Single().GetAttribute("data-angle") == "2", "the second angle to be large");
        Browser.Press(" ");
        Browser.Until(
            () => Browser.Run<double>("return document.getElementById('sound').currentTime + 0.0001") > 10,
            "two seconds to play"
        );
        // A machine that is busy with other things may drop frames; what it plays has to come into step again.
        var samples = new List<double>();
        Browser.Until(
            () =>
            {
                samples.Add(Browser.Run<double>(Apart));
                return samples.Count >= 30 && samples[^30..].Order().ElementAt(15) < 1;
            },
            "half of thirty looks to be within a frame",
            60
        );
        Browser.Press(" ");
        Browser.Until(
            () => Browser.Run<bool>("return [...document.querySelectorAll('video, audio')].every((m) => m.paused && !m.seeking)"),
            "all to stand"
        );
        Assert.True(Browser.Run<double>(Apart) < 0.01);
        var before = Browser.Run<double>("return document.getElementById('sound').currentTime + 0.0001");
        Browser.PressWithShift(Keys.ArrowRight);
        Browser.Until(
            () => Math.Abs(Browser.Run<double>("return document.getElementById('sound').currentTime + 0.0001") - before - 0.04) < 0.001,
            "one frame on"
        );
    }

    [Fact]
    public void A_click_into_the_strip_goes_there_and_the_second_clip_of_a_camera_takes_its_place()
    {
        OpenWatch(demo.Server.Address + "/productions/1/gather/watch/1");
        Assert.Equal("C · 2 clips", Browser.Find(".angle[data-angle='3'] figcaption button").Text[4..]);
        Assert.True(Browser.Run<bool>("return !document.querySelectorAll('[data-angle=\"3\"] video')[0].classList.contains('away')"));
        // At 1:10 the camera was off, at 1:30 its second clip runs.
        Browser.Run<object?>(
            "const s = document.getElementById('watch-strip'), b = s.querySelector('svg').getBoundingClientRect(); s.dispatchEvent(new "
                + "MouseEvent('click', { clientX: b.left + b.width * 70 / Number(s.dataset.length), clientY: b.top + 50, bubbles: true "
                + "})); return null"
        );
        Browser.Until(
            () => Browser.Text("#watch-clock") is ['1', ':', '0', '9', ..] or ['1', ':', '1', '0', ..],
            "ten past a minute, to the width of a pixel"
        );
        Browser.Until(
            () => Browser.Find(".angle[data-angle='3']").GetAttribute("class")!.Contains("still", StringComparison.Ordinal),
            "no picture of the third"
        );
        Browser.Run<object?>(
            "const s = document.getElementById('watch-strip'), b = s.querySelector('svg').getBoundingClientRect(); s.dispatchEvent(new "
                + "MouseEvent('click', { clientX: b.left + b.width * 90 / Number(s.dataset.length), clientY: b.top + 50, bubbles: true "
                + "})); return null"
        );
        Browser.Until(
            () => Browser.Run<bool>("return !document.querySelectorAll('[data-angle=\"3\"] video')[1].classList.contains('away')"),
            "its second clip"
        );
        Assert.Equal("1", Browser.Run<string>("return getComputedStyle(document.querySelectorAll('[data-angle=\"3\"] video')[1]).opacity"));
    }

    [Fact]
    public async Task A_sitting_plays_on_where_a_picture_runs_longer_than_the_sound_and_one_without_any_sound_plays_too()
    {
        var production = demo.Get<Footage>().AddProduction("Short");
        string sound = Path.Combine(demo.Data, "footage", "short.wav"),
            film = Path.Combine(demo.Data, "footage", "long.mp4"),
            mute = Path.Combine(demo.Data, "footage", "mute.mp4");
        MadeMedia.Sound(sound, 1);
        MadeMedia.Make("-f", "lavfi", "-i", "testsrc2=size=160x90:rate=25:duration=3", "-c:v", "libx264", "-pix_fmt", "yuv420p", film);
        MadeMedia.Make("-f", "lavfi", "-i", "testsrc2=size=160x90:rate=25:duration=2", "-c:v", "libx264", "-pix_fmt", "yuv420p", mute);
        var first = (await demo.Get<Intake>().BringInAsync(production, "Longer", [sound, film], CancellationToken.None)).SittingId!.Value;
        var second = (await demo.Get<Intake>().BringInAsync(production, "Mute", [mute], CancellationToken.None)).SittingId!.Value;
        await RunningServer.UntilAsync(() => demo.Get<Jobs>().Of(production, 100).All(j => !j.IsOpen), "all work");
        demo.Get<Footage>()
            .PlaceByHand(
                demo.Get<Footage>().SourcesOf(first).Single(s => s.Name == "long.mp4").Id,
                p => p with { Place = default(ClockMap), ByHand = true },
                "tester"
            );
        foreach (var sitting in new[] { first, second })
        {
            OpenWatch(FormattableString.Invariant($"{demo.Server.Address}/productions/{production}/gather/watch/{sitting}"));
            Browser.Press(" ");
            Browser.Until(
                () => Browser.Run<bool>($"return document.querySelector('video').currentTime > {(sitting == first ? 2.9 : 1.9)}"),
                "the picture to run to its end"
            );
            Browser.UntilText("[data-action=play]", "Play");
        }
    }
}
