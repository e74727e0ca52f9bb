using EmberLane.Application.Work;
using EmberLane.Core.Bites;
using EmberLane.Running;
using EmberLane.Store;
using EmberLane.Web.Commands;

namespace EmberLane.Web.Tests;

/// <summary>The page of all changes, news of what others did, long lists, and the command that makes lists anew.</summary>
public sealed class ChangesTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private const int Many = 70;

    private Browser Browser => demo.Browser;

    private Bite First => demo.Get<Store.Bites>().Of(1)[0];

    [Fact]
    public void What_anybody_changed_in_any_room_is_listed_narrowed_and_taken_back_alone()
    {
        demo.Get<Store.Bites>().Describe(First.Id, "tides", First.Note, "Ada");
        demo.Get<Grouping>().Rename(1, 3, "The long walk", "Ben");
        demo.Open("/productions/1/gather");
        Browser.Click("#person-menu summary");
        Browser.Click("#person-menu a[href$=changes]");
        Browser.UntilText("h1", "Changes");
        Assert.Equal(["Ben", "Ada"], Browser.Texts("#changes tbody tr td:nth-child(2)").Take(2));
        Browser.UntilText("#changes tbody tr:nth-child(1)", "renamed The long walk");
        Browser.Choose("#of", "Ada");
        Browser.Until(() => Browser.All("#changes tbody tr").Count == 1, "Ada's one change");
        Browser.UntilText("#changes tbody tr", "theme “tides”");
        Browser.Click("#changes tbody tr button");
        Browser.UntilText("#changes .alert-line", "Taken back: theme “tides”");
        Assert.NotEqual("tides", First.Theme);
        Browser.Driver.Navigate().Refresh();
        Browser.UntilText("#changes tbody tr", "(taken back)");
        Assert.Empty(Browser.All("#changes tbody tr button"));
        Browser.Choose("#of", "everybody");
        Browser.Choose("#thing", "Files and sittings");
        Browser.Until(
            () => Browser.Texts("#changes tbody tr td:nth-child(3)").All(t => t.StartsWith("Files and sittings", StringComparison.Ordinal)),
            "the choice"
        );
        Browser.Click("#changes tbody tr:nth-child(1) button");
        Browser.UntilText("#changes .alert-line", "Taken back");
        Assert.Equal("The bridge walk", demo.Get<Footage>().Sitting(3)!.Title);
    }

    [Fact]
    public void A_change_over_which_another_lies_is_refused_with_the_name_of_who_made_it()
    {
        demo.Get<Store.Bites>().Describe(First.Id, "ebb", First.Note, "Ada");
        demo.Get<Store.Bites>().Describe(First.Id, "flood", First.Note, "Ben");
        demo.Open("/productions/1/changes?of=Ada");
        Browser.Click("#changes tbody tr:nth-child(1) button");
        Browser.UntilText("#notice", "changed again later by Ben");
        Assert.Equal("flood", First.Theme);
        demo.Get<Store.Bites>().Step(1, redo: false, "Ben");
        demo.Get<Store.Bites>().Step(1, redo: false, "Ada");
    }

    [Fact]
    public void What_somebody_else_changes_comes_into_bites_and_story_by_itself_and_ones_own_change_once()
    {
        var (bites, theme) = (demo.Get<Store.Bites>(), First.Theme);
        demo.Open("/productions/1/bites");
        Browser.UntilText($"#bite-{First.Id} .bite-figures", theme);
        bites.Describe(First.Id, "slack", First.Note, "Ada");
        demo.Get<News>().Tell(new NewsItem(NewsOf.Bites, 1, "Ada"));
        Browser.UntilText($"#bite-{First.Id} .bite-figures", "slack");
        // News of another production, and of nothing new, replaces nothing.
        Browser.Run<object?>("document.getElementById('bites').stands = true; return null");
        demo.Get<News>().Tell(new NewsItem(NewsOf.Bites, 4711, "Ada"));
        demo.Get<News>().Tell(new NewsItem(NewsOf.Bites, 1, "Ada"));
        Browser.Until(
            () =>
                Browser.Run<bool>(
                    "return performance.getEntriesByType('resource').filter((e) => e.name.includes('handler=List')).length >= 2"
                ),
            "the page to have asked again"
        );
        Assert.True(Browser.Run<bool>("return document.getElementById('bites').stands === true"));
        demo.Open("/productions/1/story");
        Browser.UntilText(".story-columns", "slack");
        bites.Describe(First.Id, theme, First.Note, "Ada");
        demo.Get<News>().Tell(new NewsItem(NewsOf.Bites, 1, "Ada"));
        Browser.Until(
            () => !Browser.Text(".story-columns").Contains("slack", StringComparison.Ordinal),
            "the story to show the theme as it was"
        );
    }

    [Fact]
    public void The_page_of_changes_shows_what_comes_while_it_is_open()
    {
        demo.Open("/productions/1/changes");
        Browser.UntilText("h1", "Changes");
        demo.Get<Store.Bites>().Describe(First.Id, First.Theme, "while it was open", "Ada");
        demo.Get<News>().Tell(new NewsItem(NewsOf.Bites, 1, "Ada"));
        Browser.UntilText("#changes tbody tr:nth-child(1)", "while it was open");
        demo.Get<Store.Bites>().Step(1, redo: false, "Ada");
    }

    [Fact]
    public void A_long_list_of_bites_comes_in_parts_as_one_scrolls_and_keeps_its_length_through_a_change()
    {
        var (bites, count) = (demo.Get<Store.Bites>(), demo.Get<Store.Bites>().Of(1).Count);
        var added = Enumerable
            .Range(0, Many)
            .Select(i =>
                bites.Add(
                    First with
                    {
                        Theme = "",
                        Mark = First.Mark with { Note = FormattableString.Invariant($"copy {i}"), Owner = "Ada" },
                    }
                )
            )
            .ToList();
        try
        {
            demo.Open("/productions/1/bites");
            Browser.UntilText("#bites-more", "more follow as you scroll");
            Assert.Equal(60, Browser.All(".bite").Count);
            Browser.Run<object?>("document.getElementById('bites-more').scrollIntoView(); return null");
            Browser.Until(() => Browser.All(".bite").Count == Math.Min(count + Many, 120), "the next part");
            Browser.Run<object?>("document.getElementById('bites-more').scrollIntoView(); return null");
            Browser.Until(() => Browser.All(".bite").Count == count + Many, "all of them");
            Browser.Until(() => Browser.Find("#bites-more").Text.Length == 0, "no promise of more");
            Browser.Run<object?>(
                "document.getElementById(arguments[0]).focus(); return null",
                FormattableString.Invariant($"bite-{added[^1]}")
            );
            Browser.Press("x");
            Browser.Until(() => Browser.All(".bite").Count == count + Many - 1, "one less, and all others still there");
            Browser.Press("u");
            Browser.Until(() => Browser.All(".bite").Count == count + Many, "it to come back");
        }
        finally
        {
            while (bites.Step(1, redo: false, "Ada")) { }
        }
        Assert.Equal(count, bites.Of(1).Count);
    }

    [Fact]
    public async Task Events_tell_what_changed_in_one_word_and_only_of_the_production_that_was_asked_for()
    {
        using var client = new HttpClient();
        using var stream = await client.GetStreamAsync(new Uri(demo.Server.Address + "/events?production=1"));
        using var reader = new StreamReader(stream);
        Assert.Equal("event: beat", await reader.ReadLineAsync());
        demo.Get<News>().Tell(new NewsItem(NewsOf.Story, 2, "Ada"));
        demo.Get<News>().Tell(new NewsItem(NewsOf.Words, 1, "Ada"));
        var said = new List<string>();
        while (said.LastOrDefault() != "event: words")
        {
            if (await reader.ReadLineAsync() is { } line && line.StartsWith("event: ", StringComparison.Ordinal))
            {
                said.Add(line);
            }
        }
        Assert.DoesNotContain("event: story", said);
    }

    [Fact]
    public async Task The_command_finds_nothing_to_mend_in_the_demonstration_and_mends_what_somebody_spoiled()
    {
        var copy = Directory.CreateTempSubdirectory("ember-rebuild").FullName;
        try
        {
            DatabaseFile.Copy(Path.Combine(demo.Data, "ember.sqlite"), Path.Combine(copy, "ember.sqlite"));
            Assert.Equal((0, "Everything that lists show was as it should be."), await RebuildAsync(copy));
            DatabaseFile.Run(
                Path.Combine(copy, "ember.sqlite"),
                "UPDATE bite_reading SET said = 'spoiled' WHERE bite_id = (SELECT MIN(id) FROM bite)"
            );
            var (code, said) = await RebuildAsync(copy);
            Assert.Equal(1, code);
            Assert.Contains("was not as it should be and is mended: bite", said, StringComparison.Ordinal);
            Assert.Equal(0, (await RebuildAsync(copy)).Code);
            await Assert.ThrowsAsync<StoreException>(() =>
                CommandLine.RunAsync(["rebuild", "--data", Path.Combine(copy, "nowhere")], TextWriter.Null, CancellationToken.None)
            );
        }
        finally
        {
            Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
            Directory.Delete(copy, recursive: true);
        }
    }

    private static async Task<(int Code, string Said)> RebuildAsync(string data)
    {
        using var output = new StringWriter();
        return (await CommandLine.RunAsync(["rebuild", "--data", data], output, CancellationToken.None), output.ToString().Trim());
    }
}
