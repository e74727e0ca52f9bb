using System.Collections.Concurrent;
using EmberLane.Application.Work;
using EmberLane.Running;

namespace EmberLane.Web.Tests;

/// <summary>How far work is, as it is passed on.</summary>
public sealed class ReportsTests
{
    [Fact]
    public void Of_many_reports_the_first_and_the_last_are_said_and_after_the_end_none()
    {
        var said = new ConcurrentQueue<(int, string)>();
        using var reports = new Reports(
            (share, detail) => said.Enqueue((share.Value, detail)),
            TimeSpan.FromMilliseconds(200),
            TimeProvider.System
        );
        reports.Report(new(0), "reading");
        Assert.Equal([(0, "reading")], said);
        for (var i = 1; i < 990; i++)
        {
            reports.Report(new(i), "recognising");
        }
        reports.Report(new(990), "finding who speaks");
        Browser.Until(() => said.Last() == (990, "finding who speaks"), "the last report");
        Assert.InRange(said.Count, 2, 4);
        reports.Dispose();
        reports.Report(new(1000), "done");
        Assert.DoesNotContain((1000, "done"), said);
    }

    [Fact]
    public void Stages_of_a_transcription_are_named_and_never_go_back()
    {
        var said = new List<(int Share, string Detail)>();
        MediaTime Seconds(int seconds) => MediaTime.FromMilliseconds(1000 * seconds);
        foreach (var stage in new[] { Stage.Reading, Stage.NearMics, Stage.Words, Stage.Voices })
        {
            foreach (var at in new[] { 0, 30, 60 })
            {
                stage.Tell((share, detail) => said.Add((share.Value, detail)), Seconds(at), Seconds(60), at == 30 ? "half" : "");
            }
        }
        Assert.Equal(said.Select(s => s.Share).Order(), said.Select(s => s.Share));
        Assert.Equal((0, 1000), (said[0].Share, said[^1].Share));
        Assert.Equal("reading the sound: half", said[1].Detail);
        Assert.Equal("finding who speaks", said[^1].Detail);
    }

    [Fact]
    public void What_fails_when_it_is_said_later_stops_the_work_at_its_next_report()
    {
        using var reports = new Reports(
            (share, _) =>
            {
                if (share > PerMille.None)
                {
                    throw new InvalidOperationException("The disk is full.");
                }
            },
            TimeSpan.FromMilliseconds(20),
            TimeProvider.System
        );
        reports.Report(new(0), "first");
        var failure = Browser.Until(() => Record.Exception(() => reports.Report(new(1), "second")), "the failure");
        Assert.Equal("The disk is full.", failure.Message);
    }

    [Fact]
    public void What_is_held_back_at_the_end_is_not_said()
    {
        var said = new ConcurrentQueue<string>();
        using (var reports = new Reports((_, detail) => said.Enqueue(detail), TimeSpan.FromMilliseconds(100), TimeProvider.System))
        {
            reports.Report(new(0), "first");
            reports.Report(new(1), "second");
        }
        using var other = new Reports((_, detail) => said.Enqueue(detail), TimeSpan.FromMilliseconds(200), TimeProvider.System);
        other.Report(new(0), "third");
        other.Report(new(1), "fourth");
        Browser.Until(() => said.Contains("fourth"), "a later report");
        Assert.Equal(["first", "third", "fourth"], said);
    }
}
