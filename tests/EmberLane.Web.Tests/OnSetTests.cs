using System.Globalization;
using System.Net;
using EmberLane.Core.Marks;
using EmberLane.Core.SetFlags;
using EmberLane.Core.Sync;
using EmberLane.Running;
using EmberLane.Store;

namespace EmberLane.Web.Tests;

/// <summary>On set: flags are stamped beside the camera, without a line too, and lie where something rolled.</summary>
public sealed class OnSetTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private IReadOnlyList<KeptFlag> Kept => demo.Get<Store.SetFlags>().Of(1);

    // A time of day at which the first sitting's cameras roll, some seconds into one of them, and the day of that.
    private (DateOnly Day, MediaTime At, SittingTime Moment) Rolling(int seconds)
    {
        var source = demo.Get<Footage>()
            .SourcesOf(1)
            .First(s => s.Place is not null && DayTime.At(s.Facts.Start) is not null && s.Facts.Picture is not null);
        var since = MediaTime.FromMilliseconds(1000 * seconds);
        return (
            source.Day.Length > 0
                ? DateOnly.ParseExact(source.Day, "yyyy-MM-dd", CultureInfo.InvariantCulture)
                : DateOnly.FromDateTime(DateTime.Today),
            DayTime.At(source.Facts.Start)!.Value + since,
            source.Place!.Value.ToSitting(new SourceTime(since))
        );
    }

    [Fact]
    public void A_flag_is_stamped_with_the_time_of_day_and_waits_through_a_reload_while_the_line_is_lost()
    {
        demo.Open("/productions/1/onset");
        Browser.Type("#stamp [name=words]", "the bridge story");
        Browser.Click(".stamp-button");
        Browser.UntilText("#flags", "the bridge story");
        var first = Kept.Single(f => f.Flag.Words == "the bridge story").Flag;
        Assert.Equal("producer", first.Who);
        Assert.InRange(
            (DateTime.Now - first.Day.ToDateTime(TimeOnly.MinValue)).TotalMilliseconds - first.At.ToMillisecondsRounded(),
            -1000,
            60_000
        );
        Browser.Until(() => Browser.Run<bool>("return Boolean(navigator.serviceWorker.controller)"), "the page to be kept");
        Browser.Driver.Navigate().Refresh();
        Browser.UntilText("#flags", "the bridge story");
        Browser.Until(
            () =>
                (bool)
                    Browser.Driver.ExecuteAsyncScript(
                        "const done = arguments[0]; caches.open('on-set').then((c) => c.keys()).then((k) => "
                            + "done(k.some((r) => r.url.endsWith('/onset')) && k.some((r) => r.url.endsWith('/js/onset.js'))))"
                    )!,
            "the page to lie in the browser"
        );
        Browser.Line(cut: true);
        try
        {
            Browser.Type("#stamp [name=words]", "without a line");
            Browser.Click(".stamp-button");
            Browser.UntilText("#stamp-state", "1 kept here, sent when the line is back");
            Browser.Driver.Navigate().Refresh();
            Browser.UntilText("#stamp-state", "1 kept here");
            Browser.UntilText("#stamp-pending", "without a line");
            Assert.DoesNotContain(Kept, f => f.Flag.Words == "without a line");
        }
        finally
        {
            Browser.Line(cut: false);
        }
        Browser.UntilText("#flags", "without a line");
        Browser.Until(() => Browser.Text("#stamp-state").Length == 0, "nothing to wait any more");
        Assert.Single(Kept, f => f.Flag.Words == "without a line");
    }

    [Fact]
    public void Flags_come_in_as_a_table_lie_on_the_sittings_go_into_the_text_and_become_bites()
    {
        var (day, at, moment) = Rolling(40);
        var table = SetFlagTable.Write([
            SetFlag.Of(null, day, at, "Ada", "from a table"),
            SetFlag.Of(null, day.AddDays(-900), at, "Ada", "long ago"),
        ]);
        demo.Open("/productions/1/onset");
        Browser.Click(".flags-in summary");
        Browser.Run<object?>("document.querySelector('.flags-in textarea').value = arguments[0]; return null", table);
        Browser.Click(".flags-in form .btn");
        Browser.UntilText(".done-line", "2 flags brought in");
        Browser.UntilText(".flag-table", moment.FromZero.ToString());
        Browser.UntilText(".flag-table", "nothing rolled then");
        // Again, and nothing is doubled.
        Browser.Click(".flags-in summary");
        Browser.Run<object?>("document.querySelector('.flags-in textarea').value = arguments[0]; return null", table);
        Browser.Click(".flags-in form .btn");
        Browser.UntilText(".done-line", "2 were there already");
        Assert.Single(Kept, f => f.Flag.Words == "from a table");
        // The clock was two seconds behind.
        Browser.Empty("[name=seconds]");
        Browser.Type("[name=seconds]", "2");
        Browser.Click(".flag-tools .btn");
        Browser.UntilText(".flag-table", (moment.FromZero + MediaTime.FromMilliseconds(2000)).ToString());
        var before = demo.Crossing.Layers.Marks.Count;
        Browser.Click("#flags .btn-ember");
        Browser.UntilText(".done-line", "put into the text");
        Browser.UntilText(".flag-table", "in the text");
        Assert.Equal(before + 1, demo.Crossing.Layers.Marks.Count);
        var flag = demo.Crossing.Layers.Marks.Values.Single(m => m.Note.EndsWith(", Ada: from a table", StringComparison.Ordinal));
        Assert.Equal(MarkKind.LookAgain, flag.Kind);
        Assert.True(flag.Range.Out > moment + MediaTime.FromMilliseconds(2000));
        // A bite of about half a minute around it, of whole turns.
        Browser.Run<object?>(
            "[...document.querySelectorAll('.flag-table tr')].find((r) => r.textContent.includes('from a table'))"
                + ".querySelector('[hx-post*=Bite]').click(); return null"
        );
        Browser.UntilText(".done-line", "Kept as a bite");
        var bite = demo.Get<Store.Bites>().Of(1).Single(b => b.Note.EndsWith(", Ada: from a table", StringComparison.Ordinal));
        Assert.InRange(bite.Range.Length.ToMillisecondsRounded(), 15_000, 45_000);
        Assert.True(bite.Range.Holds(moment));
        // Away and back.
        Browser.Run<object?>(
            "[...document.querySelectorAll('.flag-table tr')].find((r) => r.textContent.includes('long ago'))"
                + ".querySelector('[hx-post*=Away]').click(); return null"
        );
        Browser.UntilText(".flags-away summary", "1 flag taken away");
        Browser.Click(".flags-away summary");
        Browser.Click(".flags-away .btn");
        Browser.UntilText(".flag-table", "long ago");
        demo.Get<Store.Transcripts>().Step(demo.Get<Footage>().Sitting(1)!.TranscriptId!.Value, redo: false, "producer");
    }

    [Fact]
    public void Flags_of_one_person_without_words_are_told_apart_and_all_go_into_the_text()
    {
        var (day, at, _) = Rolling(20);
        demo.Get<Store.SetFlags>()
            .Keep(1, [.. Enumerable.Range(0, 3).Select(n => SetFlag.Of(null, day, at + MediaTime.FromMilliseconds(4000 * n), "Ben", ""))]);
        demo.Open("/productions/1/onset");
        Browser.Click("#flags .btn-ember");
        Browser.UntilText(".done-line", "put into the text");
        Assert.Equal(3, demo.Crossing.Layers.Marks.Values.Count(m => m.Note.EndsWith(", Ben", StringComparison.Ordinal)));
        // One that comes later is not taken for one of them.
        demo.Get<Store.SetFlags>().Keep(1, [SetFlag.Of(null, day, at + MediaTime.FromMilliseconds(16_000), "Ben", "")]);
        demo.Open("/productions/1/onset");
        Browser.UntilText("#flags .btn-ember", "Put 1 flag into the text");
        demo.Get<Store.Transcripts>().Step(demo.Get<Footage>().Sitting(1)!.TranscriptId!.Value, redo: false, "producer");
    }

    [Theory]
    [InlineData("Stamp&day=June&at=5", HttpStatusCode.BadRequest, "day is not one")]
    [InlineData("Stamp&day=2026-06-14&at=noon", HttpStatusCode.BadRequest, "did not arrive whole")]
    [InlineData("Stamp&day=2026-06-14&at=86400000", HttpStatusCode.Conflict, "time of day")]
    [InlineData("Stamp&day=2026-06-14&at=-9000000000000000000", HttpStatusCode.Conflict, "time of day")]
    [InlineData("Correction&seconds=soon", HttpStatusCode.Conflict, "by how many seconds")]
    [InlineData("Correction&seconds=1e9", HttpStatusCode.Conflict, "by how many seconds")]
    [InlineData("Bring&pasted=words", HttpStatusCode.UnprocessableEntity, "no column is called time")]
    [InlineData("Bite&id=00000000-0000-0000-0000-000000000001", HttpStatusCode.Conflict, "lies in no text")]
    [InlineData("Away&id=00000000-0000-0000-0000-000000000001&away=true", HttpStatusCode.NotFound, "")]
    public async Task What_is_no_flag_is_refused_with_a_sentence_and_nothing_is_kept(string handler, HttpStatusCode status, string says)
    {
        var before = Kept.Count;
        var form = handler.Split('&').Skip(1).Select(p => p.Split('=', 2)).Select(p => KeyValuePair.Create(p[0], p[1]));
        using var answer = await demo.PostAsync($"/productions/1/onset?handler={handler.Split('&')[0]}", form);
        Assert.Equal(status, answer.StatusCode);
        Assert.Contains(says, await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken), StringComparison.Ordinal);
        Assert.Equal(before, Kept.Count);
    }
}
