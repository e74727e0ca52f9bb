using EmberLane.Web.Rooms;
using EmberLane.Web.Rooms.Drawn;

namespace EmberLane.Web.Tests;

/// <summary>
/// Answers that hold only what is not as a page shows it: the page shows the story afterwards, whatever happened between.
/// </summary>
public sealed class DrawnStoryTests
{
    private static DrawnLine Line(Guid id, string text) =>
        new(new DrawnOther(id, "[]", new PieceLook("Title", text, "", "", ""), null), null, false);

    // What a page does with an answer, in the order in which it does it.
    private static List<DrawnLine> Shown(IReadOnlyList<DrawnLine> page, DrawnChanges changes)
    {
        var lines = page.Where(l => !changes.Gone.Contains(l.Id)).ToList();
        foreach (var anew in changes.Anew)
        {
            lines[lines.FindIndex(l => l.Id == anew.Id)] = anew;
        }
        foreach (var (line, behind) in changes.Come)
        {
            lines.Insert(behind is { } before ? lines.FindIndex(l => l.Id == before) + 1 : 0, line);
        }
        return lines;
    }

    [Fact]
    public void A_page_that_does_what_the_answer_says_shows_the_story_and_one_change_sends_little()
    {
        var random = new Random(5);
        for (var round = 0; round < 500; round++)
        {
            var was = Enumerable.Range(0, random.Next(12)).Select(i => Line(Guid.NewGuid(), $"{i}")).ToList();
            var now = was.ToList();
            for (var edits = random.Next(5); edits > 0; edits--)
            {
                var at = random.Next(now.Count + 1);
                switch (random.Next(4))
                {
                    case 0:
                        now.Insert(at, Line(Guid.NewGuid(), "new"));
                        break;
                    case 1 when at < now.Count:
                        now.RemoveAt(at);
                        break;
                    case 2 when at < now.Count:
                        now[at] = Line(now[at].Id, "changed");
                        break;
                    case 3 when at < now.Count:
                        var moved = now[at];
                        now.RemoveAt(at);
                        now.Insert(random.Next(now.Count + 1), moved);
                        break;
                }
            }
            var changes = new DrawnStory(1, now, "shelf").Since(new DrawnStory(1, was, "shelf"));
            Assert.Equal(now, Shown(was, changes));
            Assert.False(changes.IsShelfAnew);
        }

        var many = Enumerable.Range(0, 1_000).Select(i => Line(Guid.NewGuid(), $"{i}")).ToList();
        var other = many.ToList();
        other.RemoveAt(700);
        other.Insert(3, many[700]);
        var one = new DrawnStory(1, other, "another").Since(new DrawnStory(1, many, "shelf"));
        Assert.Equal((2, true), (one.Count, one.IsShelfAnew));
        Assert.Equal((many[700].Id, many[2].Id), (one.Gone.Single(), one.Come.Single().Behind));
    }

    [Fact]
    public void Drawings_are_kept_by_name_share_their_lines_and_the_oldest_are_let_go()
    {
        var kept = new KeptDrawings();
        var (id, other) = (Guid.NewGuid(), Guid.NewGuid());
        var first = kept.Keep(new DrawnStory(1, [Line(id, "one"), Line(other, "two")], ""));
        var second = kept.Keep(new DrawnStory(1, [Line(other, "two"), Line(id, "changed")], ""));
        Assert.NotEqual(first, second);
        Assert.Same(kept.Find(first)!.Lines[1], kept.Find(second)!.Lines[0]);
        Assert.Equal("changed", ((DrawnOther)kept.Find(second)!.Lines[1].Piece).Look.Text);
        for (var i = 0; i < 100; i++)
        {
            kept.Keep(new DrawnStory(2, [], ""));
        }
        Assert.Null(kept.Find(first));
        Assert.Null(kept.Find("no such name"));
        Assert.Null(kept.Find(null));
    }

    [Fact]
    public void Lists_are_alike_by_their_items_and_bars_lower_than_a_unit_are_drawn_together()
    {
        Assert.Equal(new Alike<int>([1, 2]), new Alike<int>([1, 2]));
        Assert.NotEqual(new Alike<int>([1, 2]), new Alike<int>([2, 1]));

        var ruler = new StoryRuler(FrameRate.R25.TimeOf(60_000), MediaTime.Zero);
        var bars = ruler.Bars([("a", 30), ("b", 30), ("c", 50), ("d", 59_800), ("e", 90)], FrameRate.R25).ToList();
        Assert.Equal([("a", "0", "1.1"), ("d", "1.1", "598"), ("e", "599.1", "0.9")], bars.Select(b => (b.Mark, b.Y, b.Height)));
    }
}
