using System.Diagnostics;
using System.Globalization;
using EmberLane.Core.Finding;
using EmberLane.Core.Media;
using EmberLane.Core.Pictures;
using EmberLane.Core.Signal;
using EmberLane.Engines;
using EmberLane.Engines.Pictures;
using EmberLane.Store;
using Microsoft.Data.Sqlite;

namespace EmberLane.Bench;

/// <summary>
/// Pictures: how fast they are measured, whether the drawn faces of the demonstration are found and nothing else is, whether who is named
/// once is known again; and how soon a question of ten thousand shots is answered.
/// </summary>
internal static class PicturesBench
{
    private const int Files = 5_000,
        ShotsOfFile = 2,
        Places = 12;

    private static readonly Dictionary<string, string[]> Seen = new()
    {
        ["A001C002_FERRY_WIDE.MOV"] = ["Maren", "Tobias"],
        ["B001C002_CLOSE_MAREN.MOV"] = ["Maren"],
        ["C003C001_CLOSE_TOBIAS.MOV"] = ["Tobias"],
        ["C003C002_CLOSE_TOBIAS.MOV"] = ["Tobias"],
        ["A004C011_HUT.MOV"] = ["Ilse"],
        ["D002C004_HUT_CLOSE.MP4"] = ["Ilse"],
        ["E007C001_BRIDGE_WALK.MP4"] = ["Anselm"],
        ["F001C001.MP4"] = [],
        ["F001C002.MP4"] = [],
        ["F001C003.MP4"] = [],
    };

    public static async Task RunAsync(string repository)
    {
        await FacesAsync(Path.Combine(repository, "demo", "footage"));
        Ask();
    }

    private static async Task FacesAsync(string footage)
    {
        int looked = 0,
            right = 0,
            more = 0;
        var people = new List<(string File, string Name, SeenPerson Person)>();
        var watch = new Stopwatch();
        var filmed = MediaTime.Zero;
        foreach (var (name, truth) in Seen)
        {
            var path = Path.Combine(footage, name);
            var length = (await MediaProbe.MeasureAsync(path, default)).Duration;
            if (truth.Length == 0)
            {
                watch.Start();
                await PictureReader.WholeAsync(path, length, null, default);
                watch.Stop();
                filmed += length;
            }
            var frames = await PictureReader.PlacesAsync(path, length, Places, default);
            foreach (var frame in frames.Where(f => f.Faces is not null))
            {
                looked++;
                right += frame.Faces!.Count == truth.Length ? 1 : 0;
                more += Math.Max(0, frame.Faces.Count - truth.Length);
            }
            people.AddRange(SeenPerson.Of(frames, new SourceRange(default, new SourceTime(length))).Zip(truth, (p, n) => (name, n, p)));
        }
        // Each person is named once, on the first file that shows them alone; who is offered on the others?
        var named = people.Where(p => Seen[p.File].Length == 1).DistinctBy(p => p.Name).ToList();
        var others = people.Except(named).ToList();
        var offers = others
            .GroupBy(o => o.File)
            .SelectMany(g =>
                OfferedNames
                    .Of([.. g.Select(o => o.Person)], [.. named.Select(n => (n.Person, n.Name))], [])
                    .Zip(g, (o, p) => (Offer: o, p.Name))
            )
            .ToList();
        Say($"pictures: drawn faces, {looked} frames of {Seen.Count} files: {right} with the right number of faces, {more} faces too many");
        int rightly = offers.Count(o => o.Offer == o.Name),
            wrongly = offers.Count(o => o.Offer is { } offer && offer != o.Name);
        Say($"  named once: {rightly} of {offers.Count} others offered rightly, {wrongly} wrongly");
        var times = (decimal)filmed.Units / MediaTime.UnitsPerSecond / (decimal)watch.Elapsed.TotalSeconds;
        Say($"  loose footage measured at {times:0.0} times real time");
    }

    private static void Ask()
    {
        var folder = Directory.CreateTempSubdirectory("ember-pictures").FullName;
        try
        {
            var database = new Database(Path.Combine(folder, "ember.sqlite"));
            var production = Make(database);
            var finder = new Finder(database);
            foreach (
                var (what, questions) in new (string, string[])[]
                {
                    ("limits", ["light:dark", "colour:blue movement:still", "faces:2 size:close", "kind:picture length:<5"]),
                    ("limits and a word", ["light:dark ferry", "colour:green heron", "kind:picture bridge"]),
                    ("more like one", ["like:1/1", "like:700/2", "like:4000/1"]),
                    ("a word alone", ["heron", "ferry", "bridge"]),
                }
            )
            {
                var times = new List<double>();
                foreach (var question in questions.SelectMany(q => Enumerable.Repeat(q, 8)))
                {
                    var watch = Stopwatch.StartNew();
                    finder.Find(QuestionText.Read(question), production, 100, 1_000);
                    times.Add(watch.Elapsed.TotalMilliseconds);
                }
                double half = Percentile.Of(times, 50),
                    most = Percentile.Of(times, 95);
                Say($"  {Files * ShotsOfFile} shots, {what}: median {half:0} ms, 95th percentile {most:0} ms");
            }
        }
        finally
        {
            SqliteConnection.ClearAllPools();
            Directory.Delete(folder, recursive: true);
        }
    }

    private static long Make(Database database)
    {
        var footage = new Store.Footage(database, TimeProvider.System);
        var shots = new Shots(database);
        var production = footage.AddProduction("Many cutaways");
        var random = new Random(4);
        string[] words = ["ferry", "bridge", "ramp", "river", "gull", "rope", "drum", "school"];
        footage.BringIn(production, null, [.. Enumerable.Range(0, Files).Select(NewSource)]);
        foreach (var source in footage.Sources(production))
        {
            footage.SetLabels(source.Id, source.Labels.With("description", $"the {words[random.Next(8)]} and the {words[random.Next(8)]}"));
            shots.Save(source.Id, 1, [.. Enumerable.Range(0, ShotsOfFile).Select(k => (Facts(k, random), (IReadOnlyList<SeenPerson>)[]))]);
            if (random.Next(20) == 0)
            {
                shots.SaveTags(new ShotName(source.Id, 1), "made", [new PictureTag("heron", new PerMille(900))]);
            }
        }
        return production;
    }

    private static ShotFacts Facts(int k, Random random)
    {
        var look = new byte[PictureLook.Length];
        random.NextBytes(look);
        return new ShotFacts(
            new SourceRange(At(k * 6), At((k * 6) + 6)),
            new PerMille(random.Next(1000)),
            new PerMille(random.Next(60)),
            [(PictureColour)random.Next(12)],
            random.Next(4),
            new PerMille(random.Next(400)),
            new PictureLook(look)
        );
    }

    private static SourceTime At(int seconds) => new(MediaTime.FromMilliseconds(1000L * seconds));

    private static NewSource NewSource(int n) =>
        new(
            FormattableString.Invariant($"/footage/F{n:0000}.MP4"),
            FormattableString.Invariant($"F{n:0000}.MP4"),
            5,
            FormattableString.Invariant($"cutaway{n}"),
            new SourceFacts(
                "mov,mp4",
                MediaTime.FromMilliseconds(12_000),
                new PictureFacts("h264", "yuv420p", 1920, 1080, FrameRate.R25, false),
                [],
                StartOfFile.Unknown,
                null,
                null,
                null
            )
        );

    private static void Say(FormattableString text) => Console.WriteLine(text.ToString(CultureInfo.InvariantCulture));
}
