using EmberLane.Application.Rooms;
using EmberLane.Application.Work;
using EmberLane.Core.Media;
using EmberLane.Core.Sync;
using EmberLane.Core.Time;
using EmberLane.Store;
using EmberLane.Web.Rooms;

namespace EmberLane.Web.Tests;

/// <summary>What a transcription is asked to do, and the timecode in the margin.</summary>
public sealed class OrdersTests
{
    [Fact]
    public void An_order_reads_back_as_it_was_kept_and_an_old_one_means_the_whole_in_English()
    {
        var part = new SittingRange(At(1234), At(5678));
        foreach (
            var order in new[]
            {
                new TranscribeOrder("local", "en", null),
                new("command", "de", part),
                new("local", "en", part, 4),
                new("simulated", "fr", null, 1),
            }
        )
        {
            Assert.Equal(order, TranscribeOrder.Read(order.ToString()));
        }
        Assert.Equal(new TranscribeOrder("local", "en", null), TranscribeOrder.Read("local"));
        Assert.Equal(
            new TranscribeOrder(
                "command",
                "de",
                new SittingRange(new SittingTime(new MediaTime(12)), new SittingTime(new MediaTime(34))),
                3
            ),
            TranscribeOrder.Read("command|de|12|34|3")
        );
    }

    [Fact]
    public void The_margin_counts_the_first_cameras_timecode_with_its_drop_frame_and_nothing_where_it_did_not_roll()
    {
        var drop = new TimecodeCount(FrameRate.R2997, true);
        var sitting = new Sitting(1, 1, "Hut", 2, null);
        var camera = Made(
            1,
            "A.mov",
            new PictureFacts("h264", "yuv420p", 960, 540, FrameRate.R2997, false),
            new StartOfFile(drop.Parse("00:59:58;12"), null),
            At(2000)
        );
        var recorder = Made(2, "S.wav", null, new StartOfFile(null, MediaTime.FromMilliseconds(3_600_000)), default);
        var code = MarginCode.Of(sitting, [recorder, camera])!;
        Assert.Equal(
            ("A", "", "00:59:58;12", "00:59:59;12", ""),
            (code.Name, code.At(At(1999)), code.At(At(2000)), code.At(At(3001)), code.At(At(11_500)))
        );
        var sound = MarginCode.Of(sitting, [recorder])!;
        Assert.Equal(("S", "01:00:01:00"), (sound.Name, sound.At(At(1000))));
        Assert.Null(MarginCode.Of(sitting, [Made(2, "S.wav", null, StartOfFile.Unknown, default)]));
    }

    private static SittingTime At(long milliseconds) => new(MediaTime.FromMilliseconds(milliseconds));

    private static Source Made(long id, string name, PictureFacts? picture, StartOfFile start, SittingTime place)
    {
        var folder = Directory.CreateTempSubdirectory("ember-orders");
        try
        {
            var footage = new Footage(new Database(Path.Combine(folder.FullName, "ember.sqlite")), TimeProvider.System);
            var production = footage.AddProduction("Slack Water");
            footage.BringIn(
                production,
                "Hut",
                [
                    new NewSource(
                        "/nowhere/" + name,
                        name,
                        1,
                        name,
                        new SourceFacts(
                            "mov",
                            MediaTime.FromMilliseconds(9000),
                            picture,
                            [new SoundTrack(0, "aac", 48_000, 1)],
                            start,
                            null,
                            null,
                            null
                        )
                    ),
                ]
            );
            footage.Place(1, Placement.BySound(new ClockMap(place, 0), "same sound"));
            return footage.Sources(production)[0] with { Id = id };
        }
        finally
        {
            Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
            folder.Delete(recursive: true);
        }
    }
}
