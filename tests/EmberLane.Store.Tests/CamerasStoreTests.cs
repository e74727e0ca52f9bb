using EmberLane.Core;
using EmberLane.Core.Cameras;
using EmberLane.Core.Media;

namespace EmberLane.Store.Tests;

/// <summary>Choices for cameras are kept, listed, and taken back by whoever made them.</summary>
public sealed class CamerasStoreTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-cameras").FullName;
    private readonly Cameras cameras;
    private readonly Changes changes;
    private readonly long production,
        sitting;

    public CamerasStoreTests()
    {
        var database = new Database(Path.Combine(folder, "ember.sqlite"));
        var footage = new Footage(database, TimeProvider.System);
        (cameras, changes) = (new Cameras(database, TimeProvider.System), new Changes(database));
        production = footage.AddProduction("Slack Water");
        sitting = footage.BringIn(production, "Hut", [File])!.Value;
    }

    public void Dispose() => Directory.Delete(folder, recursive: true);

    private static NewSource File { get; } =
        new(
            "/footage/hut.mov",
            "hut.mov",
            5,
            "print",
            new SourceFacts(
                "mov",
                MediaTime.FromMilliseconds(30_000),
                new PictureFacts("h264", "yuv420p", 960, 540, FrameRate.R25, false),
                [],
                StartOfFile.Unknown,
                null,
                null,
                null
            )
        );

    private static PlanRange Range(long from, long to) => new(MediaTime.FromMilliseconds(from), MediaTime.FromMilliseconds(to));

    private void Show(long angle, PlanRange range, string who) => cameras.Change(sitting, s => s.Show(angle, range), $"angle {angle}", who);

    [Fact]
    public void Each_takes_back_and_brings_again_what_is_their_own_and_is_told_who_changed_the_same()
    {
        Show(1, Range(0, 5_000), "Ada");
        Show(2, Range(8_000, 9_000), "Bo");
        Assert.True(cameras.Step(sitting, redo: false, "Ada"));
        Assert.Equal([(2, Range(8_000, 9_000))], cameras.Of(sitting).Locks);
        Assert.True(cameras.Step(sitting, redo: true, "Ada"));
        Assert.Equal(2, cameras.Of(sitting).Locks.Count);
        Assert.False(cameras.Step(sitting, redo: true, "Ada"));
        Show(3, Range(4_000, 6_000), "Bo");
        var refused = Assert.Throws<EditRefusedException>(() => cameras.Step(sitting, redo: false, "Ada"));
        Assert.Contains("Bo", refused.Message, StringComparison.Ordinal);
        Assert.Equal(3, cameras.Of(sitting).Locks.Count);
    }

    [Fact]
    public void A_change_is_listed_with_its_sitting_and_taken_back_alone()
    {
        Show(1, Range(0, 5_000), "Ada");
        Show(2, Range(8_000, 9_000), "Ada");
        // What changes nothing is no change.
        Show(2, Range(8_000, 9_000), "Bo");
        var listed = changes.Of(production, 10, thing: ChangedThing.Cameras);
        Assert.Equal(["angle 2", "angle 1"], listed.Select(l => l.Said));
        Assert.All(listed, l => Assert.Equal((sitting, "Hut"), (l.SubjectId, l.Title)));
        cameras.TakeBack(sitting, listed[1].Id, "Bo");
        Assert.Equal([(2, Range(8_000, 9_000))], cameras.Of(sitting).Locks);
        Assert.Throws<EditRefusedException>(() => cameras.TakeBack(sitting, listed[1].Id, "Bo"));
    }
}
