using EmberLane.Core.Media;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store.Tests;

public sealed class ReadTimesTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-read").FullName;
    private readonly ReadTimes times;
    private readonly long production,
        sitting;

    public ReadTimesTests()
    {
        var database = new Database(Path.Combine(folder, "ember.sqlite"));
        var footage = new Footage(database, TimeProvider.System);
        times = new ReadTimes(database);
        production = footage.AddProduction("Slack Water");
        sitting = footage
            .BringIn(
                production,
                "The hut",
                [
                    new NewSource(
                        "/footage/a.wav",
                        "a.wav",
                        1,
                        "a",
                        new SourceFacts(
                            "wav",
                            MediaTime.FromMilliseconds(60_000),
                            null,
                            [new SoundTrack(0, "pcm", 48_000, 1)],
                            StartOfFile.Unknown,
                            null,
                            null,
                            null
                        )
                    ),
                ]
            )!
            .Value;
    }

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private static SittingRange Range(long from, long to) =>
        new(new SittingTime(MediaTime.FromMilliseconds(from)), new SittingTime(MediaTime.FromMilliseconds(to)));

    [Fact]
    public void Stretches_that_meet_become_one_whoever_read_them_and_in_whatever_order()
    {
        Assert.Empty(times.Of(production));
        times.Add(sitting, "Ada", [Range(0, 2_000), Range(5_000, 6_000)]);
        times.Add(sitting, "Ada", [Range(2_000, 3_000)]);
        times.Add(sitting, "Bo", [Range(2_500, 4_000)]);
        Assert.Equal([Range(0, 4_000), Range(5_000, 6_000)], times.Of(production)[sitting]);
        var random = new Random(8);
        for (var n = 0; n < 60; n++)
        {
            var from = random.Next(0, 59_000);
            times.Add(sitting, n % 2 == 0 ? "Ada" : "Bo", [Range(from, from + random.Next(1, 900)), Range(from, from)]);
        }
        times.Add(sitting, "Ada", [Range(0, 60_000)]);
        Assert.Equal([Range(0, 60_000)], times.Of(production)[sitting]);
    }
}
