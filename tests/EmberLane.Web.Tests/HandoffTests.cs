using System.Globalization;
using System.IO.Compression;
using System.Net;
using EmberLane.Application.Rooms;
using EmberLane.Core.Captions;
using EmberLane.Core.Handoff;
using EmberLane.Core.Import;
using EmberLane.Core.Stories;
using EmberLane.Core.Time;
using EmberLane.Core.Timeline;
using EmberLane.Engines;
using EmberLane.Running;
using EmberLane.Web.Commands;

namespace EmberLane.Web.Tests;

/// <summary>The package of a story: from the page and by command, whole and in parts, and whether its files are still there.</summary>
public sealed class HandoffTests(DemoServer demo) : IClassFixture<DemoServer>, IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-handoff-test").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    private static async Task<(int Code, string Said)> RunAsync(params string[] arguments)
    {
        await using var output = new StringWriter();
        var code = await CommandLine.RunAsync(arguments, output, TestContext.Current.CancellationToken);
        return (code, output.ToString());
    }

    private Task<(int Code, string Said)> HandoffAsync(string to, params string[] more) =>
        RunAsync([
            "handoff",
            "--data",
            demo.Data,
            "--production",
            "slack water",
            "--story",
            "Low water, first order",
            "--out",
            Path.Combine(folder, to),
            .. more,
        ]);

    private string Text(string to, string ending) =>
        File.ReadAllText(Directory.GetFiles(Path.Combine(folder, to)).Single(f => f.EndsWith(ending, StringComparison.Ordinal)));

    [Fact]
    public async Task The_package_of_the_page_holds_every_list_with_its_sum_and_a_part_is_taken_alone()
    {
        demo.Open("/productions/1/handoff");
        Assert.Equal(PackagePart.All.Count, demo.Browser.All(".package-parts input:checked").Count);
        using var client = new HttpClient { BaseAddress = new Uri(demo.Server.Address) };
        var cancel = TestContext.Current.CancellationToken;
        var bytes = await client.GetByteArrayAsync("/productions/1/handoff?handler=Package", cancel);
        using var zip = new ZipArchive(new MemoryStream(bytes));
        var files = zip.Entries.ToDictionary(e => e.Name, Read);
        var manifest = Manifest.Read(System.Text.Encoding.UTF8.GetString(files[Manifest.FileName]));
        Assert.Equal(files.Keys.Except([Manifest.FileName]).Order(), manifest.Files.Select(f => f.Name).Order());
        Assert.All(manifest.Files, f => Assert.Equal(new PackageFile(f.Name, files[f.Name]).Sum, f.Sum));
        // All that the list takes from is in the manifest, by its reel.
        var list = EdlReader.Read(System.Text.Encoding.ASCII.GetString(files["low_water__first_order.edl"]), FrameRate.R25);
        Assert.All(
            list.Events,
            e => Assert.Contains(e.Reel, System.Text.Encoding.UTF8.GetString(files[Manifest.FileName]), StringComparison.Ordinal)
        );
        Assert.Contains(
            "under the compass",
            WordDocument.ReadText(new MemoryStream(files["low_water__first_order.docx"]), cancel),
            StringComparison.Ordinal
        );
        var page = System.Text.Encoding.UTF8.GetString(files["low_water__first_order_read_me.html"]);
        Assert.Contains("A001C002", page, StringComparison.Ordinal);
        Assert.DoesNotContain("<script", page, StringComparison.OrdinalIgnoreCase);
        var captions = await client.GetStringAsync("/productions/1/handoff?handler=Package&part=srt&alone=true&line=24", cancel);
        Assert.All(captions.Split("\r\n"), l => Assert.True(l.Length <= 29));
        // Of the angles at other rates none is shown, so that both clocks give one list here.
        var byList = await client.GetStringAsync("/productions/1/handoff?handler=Package&part=edl&alone=true&times=list", cancel);
        Assert.Equal(list.Events, EdlReader.Read(byList, FrameRate.R25).Events);
        var refused = await client.GetAsync(new Uri("/productions/1/handoff?handler=Package&part=film", UriKind.Relative), cancel);
        Assert.Equal(HttpStatusCode.Conflict, refused.StatusCode);
        Assert.Contains("Known are edl, otio", await refused.Content.ReadAsStringAsync(cancel), StringComparison.Ordinal);

        static byte[] Read(ZipArchiveEntry entry)
        {
            using var stream = entry.Open();
            using var held = new MemoryStream();
            stream.CopyTo(held);
            return held.ToArray();
        }
    }

    [Fact]
    public async Task Lists_of_both_kinds_tell_the_same_story_at_every_rate_and_are_read_zero_frames_apart()
    {
        foreach (
            var (rate, count) in new[]
            {
                ("25", new TimecodeCount(FrameRate.R25, false)),
                ("29.97df", new TimecodeCount(FrameRate.R2997, true)),
                ("23.976", new TimecodeCount(FrameRate.R23976, false)),
                ("59.94", new TimecodeCount(FrameRate.R5994, false)),
            }
        )
        {
            Assert.Equal(0, (await HandoffAsync(rate, "--rate", rate, "--only", "edl,otio,srt,vtt", "--start", "02:00:00:00")).Code);
            var list = EdlReader.Read(Text(rate, ".edl"), count.Rate);
            Assert.Equal(count, list.Count);
            Assert.Equal("02:00:00" + (count.DropFrame ? ";00" : ":00"), list.Events[0].RecordIn.ToString());
            Assert.All(list.Events, e => Assert.Equal(e.RecordOut.Frame - e.RecordIn.Frame, e.SourceOut.Frame - e.SourceIn.Frame));
            var fromOtio = OtioReader.Read(Text(rate, ".otio"), count.Rate);
            var fromEdl = EdlEvents.Timeline(list);
            Assert.Equal(Shown(fromEdl), Shown(fromOtio));
            // Every angle of each card lies on tracks of its own, switched off.
            Assert.Contains(fromOtio.Of(TrackKind.Picture).Skip(1).SelectMany(t => t.Items), i => i is Clip { IsEnabled: false });
            var captions = SubRip.Read(Text(rate, ".srt"));
            Assert.All(captions.Zip(captions.Skip(1)), p => Assert.True(p.First.Out < p.Second.In));
            Assert.Contains(captions, c => c.Said.Contains("kept everything", StringComparison.Ordinal));
            Assert.Contains("<v Maren Oakhurst>", Text(rate, "order.vtt"), StringComparison.Ordinal);

            List<string> Shown(EditedTimeline timeline) =>
                [
                    .. timeline
                        .Of(TrackKind.Picture)
                        .First()
                        .Placed()
                        .Select(p => $"{(p.Item as Clip)?.Media.Reel} {count.Rate.NearestFrame(p.Range.In.FromZero)}"),
                ];
        }
    }

    [Fact]
    public async Task What_has_a_cure_is_mended_at_a_press_and_taken_back_like_everything()
    {
        var stories = demo.Get<Store.Stories>();
        var first = stories.Get(1, "")!.Story.Cards[0];
        demo.Get<Store.Bites>().SetAside(first.BiteId, true, "Ada");
        demo.Open("/productions/1/handoff");
        demo.Browser.UntilText(".checks", "Card 1 is of a bite that was set aside");
        demo.Browser.Click("[name=cure][value=TakeOutAside] + button");
        Browser.Until(() => stories.Get(1, "")!.Story.Cards.All(c => c.Id != first.Id), "the card to be out");
        demo.Browser.UntilText(".listened", "cuts clip a word");
        demo.Browser.Click(".listened button");
        demo.Browser.UntilText(".listened", "No cut clips a word");
        var again = await demo.PostAsync("/productions/1/handoff?handler=Mend", [new("cure", "TakeOutAside")]);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, again.StatusCode);
        stories.Step(1, redo: false, "producer");
        Assert.Equal(first, stories.Step(1, redo: false, "producer").Story.Cards[0]);
        demo.Get<Store.Bites>().SetAside(first.BiteId, false, "Ada");
    }

    [Fact]
    public async Task Against_a_master_every_cut_is_as_far_from_its_start_as_it_was_spoken_and_gaps_keep_their_time()
    {
        var cards = demo.Get<Store.Stories>().Get(1, "")!.Story.Cards.Where(c => c.SittingId == 1).ToList();
        var footage = demo.Get<Store.Footage>();
        var begins = footage.SourcesOf(1).Where(s => s.Place is not null).Min(s => s.Place!.Value.Start);
        Assert.Equal(0, (await HandoffAsync("m", "--only", "edl", "--master", "10:00:00:00", "--long-reels", "--gaps-as-spoken")).Code);
        var events = EdlReader.Read(Text("m", ".edl"), FrameRate.R25).Events;
        var reel = Core.Media.ReelName.From(null, footage.Sitting(1)!.Title, Core.Media.ReelName.LongLength);
        Assert.True(reel.Length > Core.Media.ReelName.StrictLength);
        var shown = events.Where(e => e.Reel == reel && e.Track.HasPicture()).ToList();
        var master = new TimecodeCount(FrameRate.R25, false).Parse("10:00:00:00").Frame;
        Assert.All(
            cards,
            c => Assert.Contains(shown, e => Math.Abs(e.SourceIn.Frame - master - FrameRate.R25.FrameAt(c.Range.In - begins)) <= 1)
        );
        // Within a card, and from one to the next that goes on, record and source run alike.
        Assert.All(
            shown
                .Zip(shown.Skip(1))
                .Where(p => p.First.Number + 1 >= p.Second.Number - 1 && p.Second.SourceIn.Frame > p.First.SourceOut.Frame),
            p => Assert.Equal(p.Second.SourceIn.Frame - p.First.SourceIn.Frame, p.Second.RecordIn.Frame - p.First.RecordIn.Frame)
        );
        await Assert.ThrowsAsync<ArgumentException>(() => HandoffAsync("n", "--only", "edl", "--master", "25:00"));
        using var client = new HttpClient { BaseAddress = new Uri(demo.Server.Address) };
        const string Page = "/productions/1/handoff?handler=Package&part=edl&alone=true&From=master&Gaps=true&LongReels=true&Master=";
        var same = await client.GetStringAsync(new Uri(Page + "10:00:00:00", UriKind.Relative), TestContext.Current.CancellationToken);
        Assert.Equal(Text("m", ".edl"), same);
        var refused = await client.GetAsync(new Uri(Page + "noon", UriKind.Relative), TestContext.Current.CancellationToken);
        Assert.Equal(HttpStatusCode.Conflict, refused.StatusCode);
    }

    [Fact]
    public async Task Bites_beside_a_card_leave_with_it_switched_off_and_in_a_list_of_their_own_where_that_is_wanted()
    {
        var stories = demo.Get<Store.Stories>();
        var cards = stories.Get(1, "")!.Story.Cards;
        var (card, beside) = (cards[0], cards[^1]);
        stories.Apply(1, new PutBeside(card.Id, beside.BiteId.ToString(CultureInfo.InvariantCulture)), "Ada");
        Assert.Equal(0, (await HandoffAsync("t", "--only", "edl,otio,page", "--tracks-apart")).Code);
        Assert.Equal(0, (await HandoffAsync("u", "--only", "edl,otio")).Code);
        var list = Assert.Single(Directory.GetFiles(Path.Combine(folder, "t"), "*_alternates.edl"));
        var events = EdlReader.Read(await File.ReadAllTextAsync(list, TestContext.Current.CancellationToken), FrameRate.R25).Events;
        Assert.Equal("01:00:00:00", events[0].RecordIn.ToString());
        Assert.Contains(events[0].Comments, c => c.StartsWith("COMMENT: ALTERNATE: ", StringComparison.Ordinal));
        var bite = demo.Get<Store.Bites>().Get(beside.BiteId)!;
        Assert.True(events.Where(e => e.Track.HasPicture()).Sum(e => e.RecordOut.Frame - e.RecordIn.Frame) > 0);
        Assert.InRange(
            events.Where(e => e.Track.HasPicture()).Sum(e => e.RecordOut.Frame - e.RecordIn.Frame),
            1,
            FrameRate.R25.FrameAtOrAfter(bite.Range.Length) + 1
        );
        Assert.Contains(Path.GetFileName(list), Text("t", "_read_me.html"), StringComparison.Ordinal);
        // Without asking there is the one list; the timeline has them all the same.
        Assert.Single(Directory.GetFiles(Path.Combine(folder, "u"), "*.edl"));
        Assert.Contains("\"V2 alternates\"", Text("u", ".otio"), StringComparison.Ordinal);
        stories.Step(1, redo: false, "Ada");
    }

    [Fact]
    public async Task Files_that_moved_changed_or_are_gone_are_told_of_by_the_package_alone()
    {
        await HandoffAsync("all");
        var package = Path.Combine(folder, "all");
        var (code, said) = await RunAsync("check", package, folder);
        Assert.Equal((0, true), (code, said.EndsWith("Every file is there.\n", StringComparison.Ordinal)));
        // The same package where its files lie elsewhere: one moved and renamed, one with other content, the others gone.
        var manifest = Path.Combine(package, Manifest.FileName);
        var text = await File.ReadAllTextAsync(manifest, TestContext.Current.CancellationToken);
        var sources = Manifest.Read(text).Sources;
        var elsewhere = Directory.CreateDirectory(Path.Combine(folder, "disk", "of the editor")).FullName;
        File.Copy(sources[0].Path, Path.Combine(elsewhere, "renamed.mov"));
        await File.WriteAllBytesAsync(
            Path.Combine(elsewhere, sources[1].Name),
            new byte[sources[1].Size],
            TestContext.Current.CancellationToken
        );
        await File.WriteAllTextAsync(
            manifest,
            text.Replace(Path.GetDirectoryName(sources[0].Path)!, "/not/here", StringComparison.Ordinal),
            TestContext.Current.CancellationToken
        );
        (code, said) = await RunAsync("check", manifest, Path.Combine(folder, "disk"));
        Assert.Equal(1, code);
        var lines = said.Split('\n');
        Assert.Equal($"moved  {sources[0].Name}  {Path.Combine(elsewhere, "renamed.mov")}", lines[0]);
        Assert.StartsWith($"changed  {sources[1].Name}", lines[1], StringComparison.Ordinal);
        Assert.StartsWith($"missing  {sources[2].Name}", lines[2], StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("There is no production called", "--production", "Nobody's")]
    [InlineData("There is no story called", "--story", "Another")]
    [InlineData("There is no part “film”", "--only", "edl,film")]
    [InlineData("not a rate that lists are written at", "--rate", "25df")]
    [InlineData("does not exist", "--start", "25:00:00:00")]
    [InlineData("past midnight", "--start", "23:59:59:00")]
    public async Task What_can_not_be_handed_off_is_refused_with_a_sentence(string says, string option, string value)
    {
        string[] asked = ["--production", "Slack Water", "--story", "Low water, first order", "--out", Path.Combine(folder, "no")];
        var at = Array.IndexOf(asked, option);
        string[] arguments = at < 0 ? [.. asked, option, value] : [.. asked[..(at + 1)], value, .. asked[(at + 2)..]];
        var refused = await Assert.ThrowsAsync<ArgumentException>(() => RunAsync(["handoff", "--data", demo.Data, .. arguments]));
        Assert.Contains(says, refused.Message, StringComparison.Ordinal);
        Assert.False(File.Exists(Path.Combine(folder, "no", Manifest.FileName)));
    }

    [Fact]
    public async Task Captions_of_words_are_written_in_either_form_and_what_can_not_be_is_refused()
    {
        var words = Path.Combine(folder, "words.json");
        await File.WriteAllTextAsync(
            words,
            """
            {"schema":"ember-lane.words/1","language":"en","words":[{"t":"Hello","s":1,"e":1.4,"v":"Ivo"},
            {"t":"there.","s":1.5,"e":2}]}
            """,
            TestContext.Current.CancellationToken
        );
        var file = Path.Combine(folder, "c.srt");
        Assert.Equal(0, (await RunAsync("captions", words, "--out", file, "--lines", "1", "--line", "20", "--gap", "0.1")).Code);
        Assert.Equal(
            ["Hello", "there."],
            SubRip.Read(await File.ReadAllTextAsync(file, TestContext.Current.CancellationToken)).Select(c => c.Said)
        );
        await RunAsync("captions", words, "--out", Path.Combine(folder, "c.vtt"));
        Assert.StartsWith(
            "WEBVTT\n\n00:00:01.000 --> ",
            await File.ReadAllTextAsync(Path.Combine(folder, "c.vtt"), TestContext.Current.CancellationToken),
            StringComparison.Ordinal
        );
        foreach (
            var (says, arguments) in new (string, string[])[]
            {
                ("written as .srt or .vtt", [words, "--out", Path.Combine(folder, "c.txt")]),
                ("line: a line has", [words, "--out", file, "--line", "3"]),
                ("longest: ", [words, "--out", file, "--shortest", "3", "--longest", "2"]),
                ("no such file", [Path.Combine(folder, "none.json"), "--out", file]),
            }
        )
        {
            var refused = await Assert.ThrowsAsync<ArgumentException>(() => RunAsync(["captions", .. arguments]));
            Assert.Contains(says, refused.Message, StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task What_is_no_package_is_refused_with_its_name()
    {
        var zip = Path.Combine(folder, "p.zip");
        await File.WriteAllBytesAsync(zip, [80, 75, 1, 2, 3], TestContext.Current.CancellationToken);
        await File.WriteAllTextAsync(Path.Combine(folder, "m.json"), "{\"schema\":1}", TestContext.Current.CancellationToken);
        foreach (
            var (package, says) in new[]
            {
                (zip, "p.zip: The archive is broken"),
                (Path.Combine(folder, "m.json"), "m.json: "),
                (folder, "no such file"),
            }
        )
        {
            var refused = await Assert.ThrowsAsync<ArgumentException>(() => RunAsync("check", package, folder));
            Assert.Contains(says, refused.Message, StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task A_list_that_came_back_is_shown_against_what_left_and_taken_over_line_by_line()
    {
        var (desk, footage) = (demo.Get<Desk>(), demo.Get<Store.Footage>());
        Store.StoredStory Story() => desk.StoryOf(footage.Production(1)!, "producer");
        var before = Story();
        var events = desk.EventsOf(before).Events;
        // The second card is gone, and a stretch of the same recording stands at the end.
        var (second, last) = (before.Story.Cards[1], events[^1]);
        var from = events.Where(e => e.RecordIn.Frame == events[2].RecordIn.Frame).ToList();
        var gone = from[0].RecordOut.Frame - from[0].RecordIn.Frame;
        var edited = events
            .Except(from)
            .Select(e =>
                e.RecordIn.Frame < from[0].RecordIn.Frame
                    ? e
                    : e with
                    {
                        RecordIn = e.RecordIn.Later(-gone),
                        RecordOut = e.RecordOut.Later(-gone),
                    }
            )
            .Append(
                from[1] with
                {
                    SourceIn = from[1].SourceIn.Later(200),
                    SourceOut = from[1].SourceIn.Later(300),
                    RecordIn = last.RecordOut.Later(-gone),
                    RecordOut = last.RecordOut.Later(100 - gone),
                }
            );
        var list = string.Concat(EdlWriter.Write(desk.EventsOf(before) with { Events = [.. edited] }));
        demo.Open("/productions/1/handoff");
        demo.Browser.Click("a[href$='/handoff/back']");
        demo.Browser.Run<object?>("document.querySelector('textarea[name=pasted]').value = arguments[0]", list);
        demo.Browser.Click("form.stacked .btn");
        demo.Browser.UntilText("#changes-title", "2 changes");
        Assert.Equal(before.Version, Story().Version);
        Assert.Equal(2, demo.Browser.All("input[name=line]:checked").Count);
        // The one that went out stays: only what came in is taken.
        demo.Browser.Click(".compared-line:has(.compared-was) input[name=line]");
        demo.Browser.Click("form[action$=Take] .btn");
        Browser.Until(() => Story().Version > before.Version, "the story taken over");
        var after = Story().Story.Pieces;
        Assert.Equal(before.Story.Pieces, after.Take(before.Story.Pieces.Count));
        var fresh = Assert.IsType<Core.Stories.Card>(Assert.Single(after.Skip(before.Story.Pieces.Count)));
        Assert.Contains(second.Id, after.Select(p => p.Id));
        Assert.Equal("from a list that came back", demo.Get<Store.Bites>().Get(fresh.BiteId)!.Note);
        Assert.Equal(FrameRate.R25.TimeOf(100), fresh.Range.Length);
        // The same list against the version that left, which the story is no more: it says so.
        demo.Browser.Driver.Navigate().Back();
        demo.Browser.Driver.Navigate().Refresh();
        demo.Browser.UntilText(".look-line", "was changed here since version");
        demo.Get<Store.Stories>().Step(before.Id, redo: false, "producer");
        Assert.Equal(before.Story.Pieces, Story().Story.Pieces);
    }

    [Theory]
    [InlineData("nothing of the kind", "There is no event in it")]
    [InlineData("{\"OTIO_SCHEMA\":\"Clip.2\"}", "no timeline")]
    [InlineData("001  A V C 01:00:99:00 01:00:00:00 01:00:00:00 01:00:00:00", "Line 1")]
    public async Task What_can_not_be_read_back_is_refused_and_changes_nothing(string text, string says)
    {
        var answer = await demo.PostAsync("/productions/1/handoff/back", [new("pasted", text)]);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        Assert.Contains(
            says,
            WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)),
            StringComparison.Ordinal
        );
    }
}
