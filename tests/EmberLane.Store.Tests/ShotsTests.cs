using EmberLane.Core;
using EmberLane.Core.Finding;
using EmberLane.Core.Media;
using EmberLane.Core.Pictures;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store.Tests;

/// <summary>What was measured of pictures is kept as it is, and found by it.</summary>
public sealed class ShotsTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-shots").FullName;
    private readonly Footage footage;
    private readonly Shots shots;
    private readonly Finder finder;
    private readonly long production,
        gull,
        ramp;

    public ShotsTests()
    {
        var database = new Database(Path.Combine(folder, "ember.sqlite"));
        footage = new Footage(database, TimeProvider.System);
        shots = new Shots(database);
        finder = new Finder(database);
        production = footage.AddProduction("Slack Water");
        gull = Film("gull.mp4");
        ramp = Film("ramp.mp4");
        footage.SetLabels(ramp, Labels.None.With("description", "the ramp at dawn"));
    }

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private long Film(string name)
    {
        footage.BringIn(
            production,
            null,
            [
                new NewSource(
                    $"/footage/{name}",
                    name,
                    7,
                    name,
                    new SourceFacts(
                        "mov,mp4",
                        MediaTime.FromMilliseconds(20_000),
                        new PictureFacts("h264", "yuv420p", 1920, 1080, FrameRate.R25, false),
                        [],
                        StartOfFile.Unknown,
                        null,
                        null,
                        null
                    )
                ),
            ]
        );
        return footage.Sources(production).Single(s => s.Name == name).Id;
    }

    private static SourceRange Range(long from, long to) =>
        new(new SourceTime(MediaTime.FromMilliseconds(from)), new SourceTime(MediaTime.FromMilliseconds(to)));

    private static PictureLook Look(byte level) => new([.. Enumerable.Repeat(level, PictureLook.Length)]);

    private static ShotFacts Facts(long from, long to, int light, byte look, params PictureColour[] colours) =>
        new(Range(from, to), new PerMille(light), new PerMille(5), colours, 1, new PerMille(280), Look(look));

    private static SeenPerson Person() =>
        new(new PictureBox(400, 300, 150, 280), new SourceTime(MediaTime.FromMilliseconds(2_000)), new PerMille(800), Look(90));

    private List<(string, int)> Found(string question) =>
        [
            .. finder
                .Find(QuestionText.Read(question), production, 100)
                .Hits.Where(h => h.Kind == FoundKind.Picture)
                .Select(h => (h.Text.Before, h.Shot!.Value.Number)),
        ];

    private void Measure()
    {
        shots.Save(
            gull,
            1,
            [(Facts(0, 8_000, 200, 100, PictureColour.Blue), [Person()]), (Facts(8_000, 20_000, 700, 30, PictureColour.White), [])]
        );
        shots.Save(ramp, 1, [(Facts(0, 20_000, 500, 104, PictureColour.Brown, PictureColour.Blue), [])]);
    }

    [Fact]
    public void What_was_measured_is_read_as_it_was_kept_and_measuring_anew_takes_its_place()
    {
        Assert.Empty(shots.Measured(production, 1));
        Measure();
        Assert.Equal([gull, ramp], shots.Measured(production, 1).Order());
        Assert.Empty(shots.Measured(production, 2));
        var first = shots.Of(production)[0];
        Assert.Equal(new ShotName(gull, 1), first.Name);
        Assert.Equal([PictureColour.Blue], first.Facts.Colours);
        Assert.Equal((Look(100), Range(0, 8_000), 280), (first.Facts.Look, first.Facts.Range, first.Facts.LargestFace.Value));
        Assert.Equal(Person(), Assert.Single(first.People));
        shots.Save(gull, 2, [(Facts(0, 20_000, 200, 100), [])]);
        Assert.Empty(Assert.Single(shots.OfSource(gull)).People);
        Assert.Null(shots.Get(new ShotName(gull, 2)));
    }

    [Fact]
    public void Limits_of_pictures_find_shots_and_nothing_that_is_said()
    {
        Measure();
        Assert.Equal([("gull.mp4", 1)], Found("light:dark"));
        Assert.Equal([("gull.mp4", 1), ("ramp.mp4", 1)], Found("colour:blue"));
        Assert.Equal([("ramp.mp4", 1)], Found("colour:blue dawn"));
        Assert.Equal([("gull.mp4", 1)], Found("kind:picture length:5-9"));
        Assert.Empty(Found("colour:blue by:maren"));
        Assert.Equal(3, finder.Find(QuestionText.Read("kind:picture"), null, 100).Count);
        Assert.All(finder.Find(QuestionText.Read("faces:1"), null, 100).Hits, h => Assert.Equal(FoundKind.Picture, h.Kind));
    }

    [Fact]
    public void Another_shot_of_a_file_is_new_to_a_search_that_was_saved()
    {
        shots.Save(gull, 1, [(Facts(0, 8_000, 200, 100), [])]);
        var searches = new SavedSearches(new Database(Path.Combine(folder, "ember.sqlite")));
        IReadOnlyList<FoundHit> Hits() => finder.Find(QuestionText.Read("light:dark"), production, 100).Hits;
        searches.Save(production, "dark", "light:dark", false, false, "Ada", Hits());
        Assert.Equal(0, searches.Of(production)[0].NewOf(Hits()));
        shots.Save(gull, 1, [(Facts(0, 8_000, 200, 100), []), (Facts(8_000, 20_000, 210, 90), [])]);
        Assert.Equal(1, searches.Of(production)[0].NewOf(Hits()));
    }

    [Fact]
    public void More_like_one_are_those_that_look_so_the_nearest_first_without_itself()
    {
        Measure();
        Assert.Equal([("ramp.mp4", 1)], Found($"like:{gull}/1"));
        Assert.Empty(Found($"like:{gull}/7"));
    }

    [Fact]
    public void Tags_that_are_sure_names_of_faces_and_notes_of_best_seconds_are_found_beside_what_stands_on_the_file()
    {
        Measure();
        Assert.Empty(Found("heron"));
        shots.SaveTags(
            new ShotName(gull, 2),
            "simulated",
            [new PictureTag("heron", new PerMille(800)), new PictureTag("swan", new PerMille(300))]
        );
        Assert.Equal([("gull.mp4", 2)], Found("herons"));
        Assert.Empty(Found("swan"));
        // What stands on the file is the file's; a word of it and one of a shot find the shot.
        Assert.Empty(Found("dawn"));
        var named = NamedFace.Give(Labels.None, Range(0, 8_000), Person(), "Ilse Varga");
        footage.SetLabels(
            gull,
            BestPart.Describe(
                BestPart.Mark(named, Range(9_000, 11_000), MediaTime.FromMilliseconds(20_000)),
                new SourceTime(MediaTime.FromMilliseconds(9_000)),
                "it lands"
            )
        );
        Assert.Equal([("gull.mp4", 1)], Found("ilse"));
        var landing = Assert.Single(finder.Find(QuestionText.Read("landed"), production, 100).Hits);
        Assert.Equal((2, Range(9_000, 11_000)), landing.Shot);
        // A text that is no picture's word at all.
        Assert.Empty(Found("compass"));
    }
}
