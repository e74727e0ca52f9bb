using System.Net;
using EmberLane.Application.People;
using EmberLane.Application.Rooms;
using EmberLane.Core.Marks;
using EmberLane.Core.People;
using EmberLane.Core.Transcripts;
using EmberLane.Engines;
using EmberLane.Running;
using EmberLane.Store;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

/// <summary>The demonstration production on a server where everybody signs in.</summary>
public sealed class DoorDemoServer : DemoServer
{
    protected override Options Asked(Options usual) => usual with { Accounts = true };
}

/// <summary>What a link shows: a sitting or a story to read and hear on a phone, to mark and to talk of; and nothing else.</summary>
public sealed class ShownPageTests(DoorDemoServer demo) : IClassFixture<DoorDemoServer>
{
    private const Rights Most = Rights.Listen | Rights.Comment | Rights.Mark;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private Browser Browser => demo.Browser;

    private static int links;

    // The name of who came by the newest link.
    private string who = "";

    private string Link(LinkScope shows, Rights rights)
    {
        var label = FormattableString.Invariant($"Screening {++links}");
        who = SignInName.ByLink(label);
        return "/join/" + demo.Get<Admitting>().Link(1, rights, label, 3, "Wren Adair", shows);
    }

    private void OpenLink(LinkScope shows, Rights rights = Most)
    {
        Browser.Driver.Manage().Cookies.DeleteAllCookies();
        demo.Open(Link(shows, rights));
        Ready();
    }

    private static bool IsReady(Browser browser) => browser.Run<bool>("return document.documentElement.dataset.ready === 'true'");

    private void Ready() => Browser.Until(() => IsReady(Browser), "the text to be ready");

    private async Task<DoorVisitor> VisitorAsync(LinkScope shows, Rights rights = Most)
    {
        var visitor = new DoorVisitor(demo.Server.Address);
        using var opened = await visitor.GetAsync(Link(shows, rights));
        Assert.Equal(HttpStatusCode.Redirect, opened.StatusCode);
        return visitor;
    }

    private void OnAPhone() =>
        Browser.Driver.ExecuteCdpCommand(
            "Emulation.setDeviceMetricsOverride",
            new()
            {
                ["width"] = 390,
                ["height"] = 800,
                ["deviceScaleFactor"] = 1,
                ["mobile"] = true,
            }
        );

    private void OnADesk() => Browser.Driver.ExecuteCdpCommand("Emulation.clearDeviceMetricsOverride", []);

    [Fact]
    public void A_sitting_is_heard_from_a_word_on_marked_and_talked_of_on_a_phone()
    {
        demo.Get<Store.Comments>()
            .Begin(1, demo.Get<CommentDesk>().OfWords(1, 1, new(0), new(1))!.Place, "", "Between ourselves.", "Ida Loom", []);
        OpenLink(LinkScope.OfSitting(1));
        OnAPhone();
        Assert.Equal("", ScreenReader.Trouble(Browser));
        Assert.True(Browser.Run<bool>("return document.documentElement.scrollWidth <= innerWidth"));
        Assert.DoesNotContain("Between ourselves", Browser.Driver.PageSource, StringComparison.Ordinal);

        Browser.Run<object?>("document.querySelectorAll('.line .speech > span')[30].click(); return null");
        Browser.Until(() => Browser.Run<bool>("return document.body.classList.contains('playing')"), "the sound");
        Browser.Until(
            () =>
                Browser.Run<bool>(
                    "return [...document.querySelectorAll('.line .speech > span')].indexOf(document.querySelector('.heard')) > 30"
                ),
            "a later word"
        );
        Browser.Click("[data-action=play]");
        Browser.Until(() => !Browser.Run<bool>("return document.body.classList.contains('playing')"), "silence");

        var said = Browser.All(".line-talk")[1].FindElement(By.ClassName("speech")).Text;
        Browser.Run<object?>("document.querySelectorAll('[data-action=choose-line]')[1].click(); return null");
        Assert.Equal(said, Browser.Text("#chosen blockquote"));
        Assert.Equal("", ScreenReader.Trouble(Browser));
        Browser.Type("#mark-note", "the opening");
        Browser.Click("form[data-chosen='Marked.'] button");
        Browser.Until(() => demo.Get<Store.Bites>().Of(1).Any(b => b.Owner == who && b.Note == "the opening"), "the bite");
        Browser.Until(() => Browser.All(".line .marked").Count == said.Split(' ').Length, "its words to be marked");

        Browser.Run<object?>("document.querySelectorAll('[data-action=choose-line]')[2].click(); return null");
        Browser.Type("#say-body", "Is there more of this?");
        Browser.Click("form[data-chosen='Said.'] button");
        Browser.Click("[data-tab=talks]");
        Browser.UntilText("#talks", "Is there more of this?");
        Assert.Equal("", ScreenReader.Trouble(Browser));
        // Who works on it answers; it is there without loading the page anew.
        var talk = demo.Get<Store.Comments>().OfSitting(1, 1).Single(t => t.First.Who == who);
        demo.Get<RoomChanges>()
            .Make(
                1,
                Application.Work.NewsOf.Comments,
                "Ida Loom",
                () => demo.Get<Store.Comments>().Answer(1, talk.First.Id, "Ten minutes of it.", "Ida Loom", []),
                demo.Get<RoomChanges>().Tell
            );
        Browser.UntilText("#talks", "Ten minutes of it.");

        Browser.Click("[data-tab=marks]");
        Browser.UntilText("#marks", "the opening");
        Browser.Click("#marks li .btn");
        Browser.UntilText("#marks", "None yet");
        Assert.True(demo.Get<Store.Bites>().Of(1).Single(b => b.Note == "the opening").IsAside);
        OnADesk();
    }

    [Fact]
    public void A_story_is_one_file_that_plays_beside_its_text_and_says_when_it_was_changed_since()
    {
        OpenLink(LinkScope.OfStory(1));
        Browser.UntilText("#shown-copy", "There is no playing copy yet.");
        Browser.Click("#shown-copy button");
        Browser.Until(() => Browser.Run<bool>("return (document.getElementById('copy')?.duration ?? 0) > 40"), "the copy", 120);
        Ready();
        Assert.Equal("", ScreenReader.Trouble(Browser));
        Assert.False(Browser.Find("#shown-copy").Text.Contains("changed", StringComparison.Ordinal));
        // A word of the third card plays from where the copy has it, and lights up.
        Browser.Run<object?>("document.querySelectorAll('.line-talk')[2].querySelector('.speech > span').click(); return null");
        Browser.Until(
            () => Browser.Run<bool>("return document.querySelectorAll('.line-talk')[2].querySelector('.heard') !== null"),
            "its word"
        );
        var (story, stored) = (demo.Get<Stories>(), demo.Get<Stories>().Get(1, "Wren Adair")!);
        var at = Convert.ToDecimal(
            Browser.Run<object>("return document.getElementById('copy').currentTime"),
            System.Globalization.CultureInfo.InvariantCulture
        );
        var before = demo.Get<Desk>().CutOf(stored);
        var rate = stored.Start.Count.Rate;
        var begins = rate.TimeOf(stored.Story.Pieces.Take(2).Sum(p => before.Frames(p, rate)));
        Assert.InRange(at, (decimal)begins.ToSecondsInexact() - 0.1m, (decimal)begins.ToSecondsInexact() + 6);

        var first = stored.Story.Cards[0];
        demo.Get<RoomChanges>()
            .Make(
                1,
                Application.Work.NewsOf.Story,
                "Ida Loom",
                () => story.Apply(1, stored.Version, new Core.Stories.TakeOut(first.Id), "Ida Loom"),
                demo.Get<RoomChanges>().Tell
            );
        Browser.UntilText("#fresh", "The text was changed");
        Browser.Click("#fresh a");
        Browser.UntilText("#shown-copy", "the story was changed since");
        Ready();
        // What is still in it plays from where the older copy has it.
        Assert.Equal(
            begins.ToMillisecondsRounded(),
            Browser.Run<long>("return Number(document.querySelectorAll('.line-talk')[1].dataset.words.split(',')[2])"),
            1_500d
        );
    }

    [Fact]
    public async Task What_is_off_the_record_or_set_aside_is_in_nothing_that_a_link_gets_and_comes_back_with_a_release()
    {
        var transcripts = demo.Get<Store.Transcripts>();
        var id = demo.Get<Footage>().Sitting(1)!.TranscriptId!.Value;
        var text = demo.Crossing;
        // Two words that are said once, seconds apart from each other.
        var once = text
            .Words.Where(w => text.TextOf(w).Length > 5 && text.Words.Count(o => text.TextOf(o) == text.TextOf(w)) == 1)
            .ToList();
        var (held, aside) = (once[^1], once[^2]);
        Assert.True(held.Range.In - aside.Range.Out > MediaTime.FromMilliseconds(600));
        using var link = await VisitorAsync(LinkScope.OfSitting(1));
        const string page = "/productions/1/shown/sitting/1";
        var source = demo.Get<Footage>()
            .SourcesOf(1)
            .First(s => s is { Facts.Picture: not null, Place: not null } && s.Place.Value.Fill(s.Facts.Duration).Covers(held.Range));
        string picture = FormattableString.Invariant($"/media/{source.Id}/play"),
            sound = "/media/sitting/1/sound";
        var plain = await BytesAsync(link, sound);
        Assert.Contains($">{text.TextOf(held)}<", await link.ReadAsync(page), StringComparison.Ordinal);

        transcripts.Apply(
            id,
            t => new PutMark(
                Marking.Over(
                    t,
                    MarkKind.OffTheRecord,
                    t.PlaceOf(held.Number)!.Value,
                    t.PlaceOf(held.Number)!.Value,
                    new Signed("Ada", null)
                )
            ),
            "Ada"
        );
        transcripts.Apply(
            id,
            t => Marking.TurnAside(t, t.PlaceOf(aside.Number)!.Value, t.PlaceOf(aside.Number)!.Value, new Signed("Ada", null)),
            "Ada"
        );
        // At once, before anything is made without it.
        var shown = await link.ReadAsync(page);
        Assert.DoesNotContain($">{text.TextOf(held)}<", shown, StringComparison.Ordinal);
        Assert.DoesNotContain($">{text.TextOf(aside)}<", shown, StringComparison.Ordinal);
        Assert.DoesNotContain("src=\"/media", shown, StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, await link.StatusAsync(sound));
        Assert.Equal(HttpStatusCode.NotFound, await link.StatusAsync(picture));
        // Words that are not shown are neither marked nor talked of, whatever is sent.
        var number = held.Number.Value.ToString(System.Globalization.CultureInfo.InvariantCulture);
        (string, string)[] words = [("sitting", "1"), ("first", number), ("last", number), ("body", "What was that?")];
        Assert.Equal(HttpStatusCode.Conflict, (await link.AskAsync(page, page + "?handler=Mark", words)).Status);
        Assert.Equal(HttpStatusCode.Conflict, (await link.AskAsync(page, page + "?handler=Say", words)).Status);

        demo.Get<Application.Work.Upkeep>().Ask(1);
        await demo.IdleAsync();
        Assert.Contains("src=\"/media/sitting/1/sound?without=", await link.ReadAsync(page), StringComparison.Ordinal);
        var folder = Directory.CreateTempSubdirectory("ember-shown").FullName;
        string soundFile = Path.Combine(folder, "sound.mp4"),
            pictureFile = Path.Combine(folder, "picture.mp4");
        await File.WriteAllBytesAsync(soundFile, await BytesAsync(link, sound), Cancel);
        await File.WriteAllBytesAsync(pictureFile, await BytesAsync(link, picture), Cancel);
        var extent = Engines.Speech.SittingSound.Extent(
            demo.Get<Application.Gathering.SittingMics>().Of(demo.Get<Footage>().Sitting(1)!).Placed
        );
        Assert.InRange(await LoudestAsync(soundFile, held.Range.In - extent.In, held.Range.Length), 0, 60);
        Assert.InRange(await LoudestAsync(soundFile, aside.Range.In - extent.In, aside.Range.Length), 300, 32_768);
        Assert.Empty((await MediaProbe.MeasureAsync(pictureFile, Cancel)).Sound);
        var place = source.Place!.Value;
        var times = (
            await Tool.ReadAsync(
                "ffprobe",
                ["-v", "error", "-select_streams", "v:0", "-show_entries", "packet=pts_time", "-of", "csv=p=0", pictureFile],
                TimeSpan.FromMinutes(1),
                Cancel
            )
        )
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Select(t => decimal.Parse(t.TrimEnd(','), System.Globalization.CultureInfo.InvariantCulture))
            .ToList();
        var (from, to) = (
            (decimal)place.ToSource(held.Range.In).FromZero.ToSecondsInexact(),
            (decimal)place.ToSource(held.Range.Out).FromZero.ToSecondsInexact()
        );
        Assert.NotEmpty(times);
        Assert.DoesNotContain(times, t => t >= from && t < to);
        Directory.Delete(folder, recursive: true);

        transcripts.Apply(
            id,
            t => new ReleaseMark(t.Layers.Marks.Values.Single(m => m.Kind == MarkKind.OffTheRecord), "agreed by letter", "Maren"),
            "Wren Adair"
        );
        Assert.Contains($">{text.TextOf(held)}<", await link.ReadAsync(page), StringComparison.Ordinal);
        Assert.Equal(plain, await BytesAsync(link, sound));
    }

    [Fact]
    public async Task A_link_opens_what_it_shows_and_nothing_beside_it()
    {
        using var sitting = await VisitorAsync(LinkScope.OfSitting(1), Rights.Read);
        using var story = await VisitorAsync(LinkScope.OfStory(1));
        using var all = await VisitorAsync(LinkScope.All);
        string[] pages =
        [
            "/productions/1/shown",
            "/productions/1/shown/sitting/1",
            "/productions/1/shown/sitting/2",
            "/productions/1/shown/story/1",
        ];
        async Task<string> OpensAsync(DoorVisitor visitor)
        {
            var opens = new List<int>();
            foreach (var (i, page) in pages.Index())
            {
                if (await visitor.StatusAsync(page) is var status && status == HttpStatusCode.OK)
                {
                    opens.Add(i);
                }
                else
                {
                    Assert.Equal(HttpStatusCode.NotFound, status);
                }
            }
            return string.Join(", ", opens);
        }
        Assert.Equal("1", await OpensAsync(sitting));
        Assert.Equal("3", await OpensAsync(story));
        Assert.Equal("0, 1, 2, 3", await OpensAsync(all));
        // Footage: none to who may only read, none of a whole sitting to who has a story.
        foreach (var media in new[] { "/media/sitting/1/sound", "/media/1/play", "/media/1/thumbnail", "/media/1/shot/1" })
        {
            Assert.Equal(HttpStatusCode.NotFound, await sitting.StatusAsync(media));
            Assert.Equal(HttpStatusCode.NotFound, await story.StatusAsync(media));
        }
        Assert.Equal(HttpStatusCode.OK, await all.StatusAsync("/media/sitting/2/sound"));
        Assert.DoesNotContain("id=\"playing\"", await sitting.ReadAsync(pages[1]), StringComparison.Ordinal);
        Assert.DoesNotContain("handler=Mark\"", await sitting.ReadAsync(pages[1]), StringComparison.Ordinal);
        var (status, said) = await sitting.AskAsync(pages[1], pages[1] + "?handler=Mark", ("sitting", "1"), ("first", "0"), ("last", "0"));
        Assert.Equal(HttpStatusCode.Forbidden, status);
        Assert.Contains("may read. Nothing was changed", said, StringComparison.Ordinal);
        // A copy that was made for somebody else is not played by its number.
        foreach (var copy in Enumerable.Range(1, 5).Except(demo.Get<Copies>().Of(1).Where(c => c.Wish.IsForLinks).Select(c => (int)c.Id)))
        {
            Assert.Equal(
                HttpStatusCode.NotFound,
                await story.StatusAsync(FormattableString.Invariant($"{pages[3]}?handler=Copy&copy={copy}"))
            );
        }
        Assert.Equal(HttpStatusCode.NotFound, await story.StatusAsync("/productions/1/shown/story/99"));
        Assert.Equal(HttpStatusCode.NotFound, await all.StatusAsync("/productions/1/shown/sitting/99"));
    }

    [Fact]
    public async Task Of_what_is_said_a_link_sees_what_it_is_part_of_or_named_in_and_answers_that_alone()
    {
        var (comments, names) = (demo.Get<Store.Comments>(), demo.Get<CommentDesk>());
        using var link = await VisitorAsync(LinkScope.OfSitting(2));
        const string page = "/productions/1/shown/sitting/2";
        var place = names.OfWords(1, 2, new(0), new(3))!;
        var hidden = comments.Begin(1, place.Place, place.Quote, "She is not to be trusted.", "Ida Loom", names.Names(1));
        var named = comments.Begin(1, place.Place, place.Quote, $"Better like this, @{who}?", "Ida Loom", names.Names(1));
        var read = await link.ReadAsync(page);
        Assert.Contains("Better like this", read, StringComparison.Ordinal);
        Assert.DoesNotContain("not to be trusted", read, StringComparison.Ordinal);
        (string, string) yes = ("body", "Yes.");
        Assert.Equal(
            HttpStatusCode.Conflict,
            (await link.AskAsync(page, FormattableString.Invariant($"{page}?handler=Answer&thread={hidden}"), yes)).Status
        );
        Assert.Equal(
            HttpStatusCode.Conflict,
            (await link.AskAsync(page, FormattableString.Invariant($"{page}?handler=Settle&thread={hidden}&settled=true"))).Status
        );
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await link.AskAsync(page, FormattableString.Invariant($"{page}?handler=Answer&thread={named}"), yes)).Status
        );
        Assert.Equal(who, comments.Thread(1, named)!.Answers.Single().Who);
        Assert.Empty(comments.Thread(1, hidden)!.Answers);
    }

    private static async Task<byte[]> BytesAsync(DoorVisitor visitor, string path)
    {
        using var answer = await visitor.GetAsync(path);
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        return await answer.Content.ReadAsByteArrayAsync(Cancel);
    }

    private static async Task<double> LoudestAsync(string path, MediaTime from, MediaTime lasting)
    {
        using var pcm = new MemoryStream();
        await Tool.PipeAsync(
            "ffmpeg",
            [
                "-v",
                "error",
                "-ss",
                from.ToSecondsText(),
                "-t",
                lasting.ToSecondsText(),
                "-i",
                path,
                "-f",
                "s16le",
                "-ac",
                "1",
                "-ar",
                "16000",
                "-",
            ],
            TimeSpan.FromMinutes(1),
            null,
            pcm,
            Cancel
        );
        return System.Runtime.InteropServices.MemoryMarshal.Cast<byte, short>(pcm.ToArray()).ToArray().Max(s => Math.Abs((double)s));
    }
}
