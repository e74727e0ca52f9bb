using EmberLane.Core.Bites;
using EmberLane.Core.Marks;
using EmberLane.Core.Media;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store.Tests;

public sealed class ReadingsTests : IDisposable
{
    private const int Length = 400;

    private readonly string folder = Directory.CreateTempSubdirectory("ember-readings").FullName;
    private readonly Database database;
    private readonly Transcripts transcripts;
    private readonly Texts texts;
    private readonly Bites bites;
    private readonly Readings readings;
    private readonly Footage footage;
    private readonly long production,
        sitting,
        text;

    public ReadingsTests()
    {
        database = new Database(Path.Combine(folder, "ember.sqlite"));
        transcripts = new Transcripts(database, TimeProvider.System);
        (footage, texts, bites, readings) = (
            new Footage(database, TimeProvider.System),
            new Texts(database, transcripts, TimeProvider.System),
            new Bites(database, transcripts, TimeProvider.System),
            new Readings(database, transcripts)
        );
        production = footage.AddProduction("Slack Water");
        sitting = footage
            .BringIn(
                production,
                "Hut",
                [
                    new NewSource(
                        "/footage/hut.wav",
                        "hut.wav",
                        5,
                        "print",
                        new SourceFacts(
                            "wav",
                            MediaTime.FromMilliseconds(200_000),
                            null,
                            [new SoundTrack(0, "pcm_s16le", 48_000, 1)],
                            StartOfFile.Unknown,
                            null,
                            null,
                            null
                        )
                    ),
                ]
            )!
            .Value;
        text = transcripts.Add(sitting, "local", "en", Words("w"), new Dictionary<int, string> { [0] = "Ilse", [1] = "Maren" });
    }

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private static SittingTime At(int word) => new(MediaTime.FromMilliseconds(word * 500L));

    private static List<RecordWord> Words(string stem) =>
        [
            .. Enumerable
                .Range(0, Length)
                .Select(i => new RecordWord(
                    new(i),
                    $"{stem}{i}",
                    new SittingRange(At(i), At(i) + MediaTime.FromMilliseconds(400)),
                    new(900),
                    i / 10 % 2
                )),
        ];

    private static readonly Signed Ben = new("Ben", null);

    private long Keep(int first, int last) =>
        bites.Add(
            Bite.Of(
                sitting,
                text,
                new(first),
                new(last),
                new SittingRange(At(first), At(last) + MediaTime.FromMilliseconds(400)),
                "",
                "",
                "Ada"
            )
        );

    [Fact]
    public void A_bite_says_what_the_text_says_now_without_what_is_set_aside_and_by_whichever_text_is_read()
    {
        var id = Keep(8, 12);
        Assert.Equal("w8 w9 w10 w11 w12", readings.Of(id)!.Said);
        Assert.Equal([("Ilse", 800L), ("Maren", 1200L)], readings.Of(id)!.Voices.Select(v => (v.Name, v.Said.ToMillisecondsRounded())));
        transcripts.Apply(text, new Retype(new(9), "rope"), "Ada");
        transcripts.Apply(text, t => Marking.TurnAside(t, new(11), new(11), Ben), "Ben");
        transcripts.Apply(text, new NameVoice(1, "Tobias"), "Ben");
        Assert.Equal("w8 rope w10 w12", readings.Of(id)!.Said);
        Assert.Equal(["Ilse", "Tobias"], readings.Of(id)!.Voices.Select(v => v.Name));
        Assert.Equal(2, readings.Of(id)!.Pieces.Count);
        Assert.Equal(
            Assert.Single(readings.Aside(production)[sitting]),
            new SittingRange(At(11), At(11) + MediaTime.FromMilliseconds(400))
        );
        var beside = transcripts.AddBeside(sitting, "text:hut.txt", "en", Words("t"), new Dictionary<int, string>());
        Assert.Equal("w8 rope w10 w12", readings.Of(id)!.Said);
        texts.Choose(sitting, beside, "Ada");
        Assert.Equal("t8 t9 t10 t12", readings.Of(id)!.Said);
        texts.Step(sitting, redo: false, "Ada");
        transcripts.Step(text, redo: false, "Ada");
        Assert.Equal("w8 w9 w10 w12", readings.Of(id)!.Said);
        texts.Choose(sitting, null, "Ada");
        Assert.Equal("w8 w9 w10 w12", readings.Of(id)!.Said);
        Assert.Empty(readings.Aside(production));
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void After_any_changes_a_rebuild_finds_nothing_to_mend(int seed)
    {
        var random = new Random(seed);
        var made = new List<long>
        {
            text,
            transcripts.AddBeside(sitting, "text:hut.txt", "en", Words("t"), new Dictionary<int, string> { [0] = "Ilse" }),
        };
        for (var i = 0; i < 120; i++)
        {
            var (which, word) = (made[random.Next(made.Count)], random.Next(Length));
            switch (random.Next(9))
            {
                case 0:
                    Keep(Math.Min(word, Length - 20), Math.Min(word, Length - 20) + random.Next(20));
                    break;
                case 1:
                    transcripts.Apply(which, new Retype(new(word), $"x{i}"), "Ada");
                    break;
                case 2:
                    transcripts.Apply(
                        which,
                        t =>
                            Marking.TurnAside(
                                t,
                                t.PlaceOf(new(word))!.Value,
                                t.PlaceOf(new(Math.Min(word + random.Next(12), Length - 1)))!.Value,
                                Ben
                            ),
                        "Ben"
                    );
                    break;
                case 3:
                    transcripts.Apply(which, new HideWord(new(word), random.Next(2) == 0), "Ada");
                    break;
                case 4:
                    transcripts.Apply(which, new GiveWord(new(word), random.Next(2)), "Ben");
                    break;
                case 5:
                    transcripts.Apply(which, new NameVoice(random.Next(2), $"Name {random.Next(4)}"), "Ada");
                    break;
                case 6:
                    transcripts.Apply(
                        which,
                        t => new AddWord(
                            t.FreshNumber(),
                            new(word),
                            "more",
                            new SittingRange(At(word) + MediaTime.FromMilliseconds(410), At(word) + MediaTime.FromMilliseconds(480)),
                            0
                        ),
                        "Ada"
                    );
                    break;
                case 7:
                    Try(() => texts.Choose(sitting, random.Next(4) == 0 ? null : which, "Ada"));
                    break;
                default:
                    Try(() =>
                        _ =
                            random.Next(2) == 0
                                ? (object?)transcripts.Step(which, random.Next(2) == 0, "Ben")
                                : texts.Step(sitting, random.Next(2) == 0, "Ada")
                    );
                    break;
            }
        }
        Assert.Empty(readings.Rebuild());
        Assert.Equal(bites.Of(production).Count, readings.OfProduction(production).Count);
        Assert.Equal(
            bites.Figures(production).Length,
            readings.OfProduction(production).Values.Aggregate(MediaTime.Zero, (sum, r) => sum + r.Length)
        );
    }

    private static void Try(Action change)
    {
        try
        {
            change();
        }
        catch (Core.EditRefusedException)
        {
            // What does not fit is refused; the next one may.
        }
    }

    [Fact]
    public void What_somebody_spoiled_is_found_and_mended_by_a_rebuild()
    {
        var id = Keep(3, 6);
        database.Write(c =>
        {
            using var command = c.CreateCommand();
            command.CommandText = "UPDATE bite_reading SET said = 'spoiled'";
            command.ExecuteNonQuery();
        });
        Assert.Equal(new OddReading(sitting, FormattableString.Invariant($"bite {id}")), Assert.Single(readings.Rebuild()));
        Assert.Equal("w3 w4 w5 w6", readings.Of(id)!.Said);
        Assert.Empty(readings.Rebuild());
    }
}
