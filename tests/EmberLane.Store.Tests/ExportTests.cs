using System.IO.Compression;
using System.Text;
using System.Text.Json.Serialization.Metadata;
using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Cameras;
using EmberLane.Core.Captions;
using EmberLane.Core.Comments;
using EmberLane.Core.Marks;
using EmberLane.Core.Media;
using EmberLane.Core.Sittings;
using EmberLane.Core.Stories;
using EmberLane.Core.Sync;
using EmberLane.Core.Transcripts;
using EmberLane.Store.Exports;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store.Tests;

/// <summary>
/// A production that is given away whole and brought in elsewhere: nothing of it is lost, and nothing that was there is touched.
/// </summary>
public sealed class ExportTests : IDisposable
{
    private static readonly Guid First = new("00000000-0000-0000-0000-00000000000a"),
        Second = new("00000000-0000-0000-0000-00000000000b"),
        Plain = new("00000000-0000-0000-0000-00000000000c");

    private readonly string folder = Directory.CreateTempSubdirectory("ember-export").FullName;
    private readonly Clock clock = new();
    private int made;

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private string Fresh() => Path.Combine(folder, FormattableString.Invariant($"{++made}.sqlite"));

    private static SittingRange Range(int first, int last) =>
        new(new SittingTime(MediaTime.FromMilliseconds(first * 500L)), new SittingTime(MediaTime.FromMilliseconds((last * 500L) + 400)));

    // A production with something of all that people and machines keep in one.
    private long Rich(Database database, string name)
    {
        var transcripts = new Transcripts(database, clock);
        var (footage, bites, stories) = (
            new Footage(database, clock),
            new Bites(database, transcripts, clock),
            new Stories(database, transcripts, clock)
        );
        var (grouping, comments) = (new Grouping(database, clock), new Comments(database, clock));
        var production = footage.AddProduction(name);
        NewSource File(string file, char print) =>
            new(
                "/footage/" + file,
                file,
                5,
                new string(print, 64),
                new SourceFacts(
                    "wav",
                    MediaTime.FromMilliseconds(60_000),
                    null,
                    [new SoundTrack(0, "pcm_s16le", 48_000, 2)],
                    StartOfFile.Unknown,
                    null,
                    null,
                    null
                )
            );
        var hut = footage.BringIn(production, "Hut", [File("hut.wav", 'a'), File("wide.wav", 'b')])!.Value;
        _ = footage.BringIn(production, "Boat", [File("boat.wav", 'c')]);
        var sources = footage.SourcesOf(hut);
        footage.PlaceByHand(
            sources[1].Id,
            p => p with { Place = new ClockMap(new SittingTime(MediaTime.FromMilliseconds(40)), 7), ByHand = true },
            "Ada"
        );
        grouping.Rename(production, hut, "The hut", "Ada");
        grouping.Label(production, [sources[0].Id], l => l with { Reel = "A001" }, "Ada");
        grouping.SetMic(production, sources[0].Id, 0, m => m with { Person = "Maren" }, "Ada");
        var words = Enumerable.Range(0, 40).Select(i => new RecordWord(new(i), $"w{i}", Range(i, i), new(900), i < 20 ? 0 : 1)).ToList();
        var text = transcripts.Add(hut, "local", "en", words, new Dictionary<int, string> { [0] = "Maren", [1] = "Ilse" });
        var other = transcripts.Add(hut, "typed", "en", words[..10], new Dictionary<int, string> { [0] = "Maren" });
        new Texts(database, transcripts, clock).Choose(hut, text, "Ada");
        transcripts.Apply(text, new Retype(new(3), "water"), "Ada");
        transcripts.Apply(text, t => new PutMark(Marking.Over(t, MarkKind.LookAgain, new(5), new(5), new Signed("Ada", null))), "Ada");
        transcripts.Apply(text, t => new PutMark(Marking.Over(t, MarkKind.OffTheRecord, new(30), new(31), new Signed("Ada", null))), "Ada");
        var kept = Enumerable
            .Range(0, 3)
            .Select(i => bites.Add(Bite.Of(hut, text, new(i * 10), new((i * 10) + 5), Range(i * 10, (i * 10) + 5), "the sea", "", "Ada")))
            .ToList();
        bites.Describe(kept[0], "the sea, the cable", "loud", "Ada");
        var story = stories.Add(
            production,
            "First order",
            new TimecodeCount(FrameRate.R25, false).Parse("01:00:00:00"),
            MediaTime.FromMilliseconds(60_000),
            "Ada"
        );
        stories.TakeInHand(production, story);
        stories.Apply(story, new LayCard(new Card(First, kept[0], hut, Range(0, 5), sources[1].Id), 0), "Ada");
        stories.Apply(story, new LayCard(new Card(Second, kept[1], hut, Range(10, 15), null), 1), "Ben");
        stories.Apply(story, new PutBeside(Second, FormattableString.Invariant($"{kept[2]}")), "Ada");
        stories.Apply(
            story,
            new LayOver(
                First,
                new OverPicture(
                    sources[0].Id,
                    new SourceRange(default, new SourceTime(MediaTime.FromMilliseconds(900))),
                    MediaTime.FromMilliseconds(5)
                )
            ),
            "Ada"
        );
        stories.Apply(
            story,
            new LayPiece(
                new PlainMedia(
                    Plain,
                    sources[0].Id,
                    new SourceRange(default, new SourceTime(MediaTime.FromMilliseconds(900))),
                    0,
                    MediaTime.Zero,
                    MediaTime.Zero
                ),
                2
            ),
            "Ada"
        );
        stories.Name(story, "before Friday", "Ada");
        new Cameras(database, clock).Change(hut, _ => CameraSetup.Covers(sources[1].Id, ["Maren"]), "whom it covers", "Ada");
        new Cameras(database, clock).Change(hut, _ => CameraSetup.Closer(sources[1].Id, new PunchIn(150, 50, 50, false)), "closer", "Ada");
        new Captions(database, clock).Change(
            story,
            s => s.Fix("", [(Plain, new FixedCaption([new CaptionPlace(First, hut, Range(0, 2))], "w0 w1 w2", "typed", null, null))]),
            "typed",
            "Ada"
        );
        new Productions(database, clock).Choose(production, "Ada", "a choice", ("story.words-a-minute", "150"));
        new Scripts(database, clock).Add(production, "script.txt", "MAREN\nw1 w2", [hut], "Ada");
        new ReadTimes(database).Add(hut, "Ada", [Range(0, 9)]);
        var talk = comments.Begin(production, new CardPlace(story, First), "w0", "Longer, @Ben?", "Ada", ["Ben"]);
        comments.Answer(production, talk, "Yes.", "Ben", ["Ada"]);
        comments.Begin(production, new WordsPlace(hut, text, new(1), new(2), Range(1, 2)), "w1", "Louder.", "Ada", []);
        comments.Begin(production, new Core.Comments.BitePlace(kept[2]), "w20", "Again?", "Ada", []);
        return production;
    }

    private byte[] Export(Database database, long production)
    {
        using var output = new MemoryStream();
        ProductionExport.Write(database, production, clock.Now, output);
        return output.ToArray();
    }

    private ImportedProduction Import(Database database, byte[] export)
    {
        var work = Directory.CreateDirectory(Path.Combine(folder, FormattableString.Invariant($"work-{++made}"))).FullName;
        return new ProductionImport(database, new Transcripts(database, clock), clock).Run(new MemoryStream(export), work);
    }

    private static string RowsOf(byte[] export)
    {
        using var zip = new ZipArchive(new MemoryStream(export));
        using var reader = new StreamReader(zip.GetEntry(ProductionExport.Rows)!.Open());
        return reader.ReadToEnd();
    }

    private static byte[] Zipped(string rows, string name = ProductionExport.Rows)
    {
        using var output = new MemoryStream();
        using (var zip = new ZipArchive(output, ZipArchiveMode.Create, leaveOpen: true))
        {
            using var entry = zip.CreateEntry(name).Open();
            entry.Write(Encoding.UTF8.GetBytes(rows));
        }
        return output.ToArray();
    }

    // All of a database, but for what another day would tell otherwise.
    private static string Everything(Database database) =>
        database.Read(c =>
            string.Join(
                '\n',
                c.Query(
                        "SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%' AND name NOT LIKE 'find_%' "
                            + "ORDER BY 1",
                        r => r.GetString(0)
                    )
                    .SelectMany(t =>
                        c.Query(
                            $"SELECT * FROM \"{t}\"",
                            r =>
                                t
                                + " "
                                + string.Join(
                                    '|',
                                    Enumerable
                                        .Range(0, r.FieldCount)
                                        .Select(i => r.GetValue(i) is byte[] b ? Convert.ToHexString(b) : $"{r.GetValue(i)}")
                                )
                        )
                    )
            )
        );

    [Fact]
    public void Brought_in_among_others_and_from_there_into_an_empty_place_it_is_as_it_would_be_at_once()
    {
        var home = new Database(Fresh());
        // Its numbers are others than those of a place where it is alone.
        Rich(home, "Night Trains");
        var own = Rich(home, "Slack Water");
        var export = Export(home, own);

        var at = new Database(Fresh());
        Assert.Equal("Slack Water", Import(at, export).Name);

        var crowded = new Database(Fresh());
        Rich(crowded, "Salt Works");
        Rich(crowded, "slack water");
        var before = Everything(crowded);
        var imported = Import(crowded, export);
        Assert.Equal("Slack Water (2)", imported.Name);
        // What was there is as it was.
        Assert.Equal(before.Split('\n'), before.Split('\n').Intersect(Everything(crowded).Split('\n')));
        var again = new Database(Fresh());
        Import(again, Export(crowded, imported.Id));
        Assert.Equal(Everything(at), Everything(again).Replace("Slack Water (2)", "Slack Water", StringComparison.Ordinal));
        // Read models and what is found are made, and right.
        Assert.Empty(new Readings(again, new Transcripts(again, clock)).Rebuild());
    }

    [Fact]
    public void What_people_decided_is_taken_back_there_as_at_home()
    {
        var home = new Database(Fresh());
        Rich(home, "Night Trains");
        var export = Export(home, Rich(home, "Slack Water"));
        var there = new Database(Fresh());
        Rich(there, "Salt Works");
        var production = Import(there, export).Id;

        var transcripts = new Transcripts(there, clock);
        var (footage, bites, stories) = (
            new Footage(there, clock),
            new Bites(there, transcripts, clock),
            new Stories(there, transcripts, clock)
        );
        var hut = footage.Sittings(production).Single(s => s.Title == "The hut");
        var story = stories.Get(stories.InHand(production)!.Value, "Ada")!;
        var sources = footage.SourcesOf(hut.Id);
        var kept = bites.Of(production);
        Assert.Equal("w0 w1 w2 water w4 w5", stories.ReadingsOf(story)[First].Said);
        var card = story.Story.Cards[0];
        Assert.Equal((kept[0].Id, hut.Id, sources[1].Id, sources[0].Id), (card.BiteId, card.SittingId, card.Angle, card.Over!.SourceId));
        Assert.Equal(FormattableString.Invariant($"{kept[2].Id}"), story.Story.Cards[1].OtherTakes);
        Assert.Equal(sources[0].Id, ((PlainMedia)story.Story.Pieces[2]).SourceId);
        var setup = new Cameras(there, clock).Of(hut.Id);
        Assert.Equal(["Maren"], setup.CoversOf(sources[1].Id));
        Assert.NotNull(setup.PunchOf(sources[1].Id));
        Assert.Equal(hut.Id, new Captions(there, clock).Of(story.Id).Of("").Single().Caption.Places.Single().Sitting);
        Assert.Equal([hut.Id], new Scripts(there, clock).Newest(production)!.Sittings);
        var comments = new Comments(there, clock);
        Assert.Equal("Yes.", comments.Of(production, new CardPlace(story.Id, First)).Single().Answers.Single().Body);
        Assert.Single(comments.OfSitting(production, hut.Id));
        Assert.Single(comments.Of(production, new Core.Comments.BitePlace(kept[2].Id)));

        // Each of the last steps, and all versions of the story.
        foreach (var version in Enumerable.Range(0, (int)story.Version))
        {
            Assert.NotNull(stories.At(story.Id, version));
        }
        stories.Step(story.Id, redo: false, "Ada");
        Assert.Equal(2, stories.Get(story.Id, "Ada")!.Story.Pieces.Count);
        stories.Step(story.Id, redo: true, "Ada");
        Assert.Equal(story.Story.Pieces, stories.Get(story.Id, "Ada")!.Story.Pieces);
        Assert.True(bites.Step(production, redo: false, "Ada"));
        Assert.Equal("the sea", bites.Of(production)[0].Theme);
        Assert.True(new Cameras(there, clock).Step(hut.Id, redo: false, "Ada"));
        Assert.Null(new Cameras(there, clock).Of(hut.Id).PunchOf(sources[1].Id));
        Assert.True(new Captions(there, clock).Step(story.Id, redo: false, "Ada"));
        Assert.NotNull(new Grouping(there, clock).Step(production, redo: false, "Ada"));
        Assert.NotNull(footage.StepPlacing(hut.Id, redo: false, "Ada"));
        var mark = transcripts.Get(hut.TranscriptId!.Value).Layers.Marks.Values.Single(m => m.Kind == MarkKind.OffTheRecord);
        transcripts.Apply(hut.TranscriptId.Value, _ => new ReleaseMark(mark, "agreed by letter", "Maren"), "Ada");
        Assert.DoesNotContain(transcripts.Get(hut.TranscriptId.Value).Layers.Marks.Values, m => m.Kind == MarkKind.OffTheRecord);
    }

    [Fact]
    public void Every_table_and_every_number_that_names_something_is_either_exported_or_left_out_by_name()
    {
        var database = new Database(Fresh());
        var tables = database.Read(c =>
            c.Query(
                "SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite_%' AND name NOT LIKE 'find_text_%'",
                r => r.GetString(0)
            )
        );
        Assert.Equal(tables.Order(), ExportTables.All.Select(t => t.Name).Concat(ExportTables.LeftOut).Order());
        foreach (var table in ExportTables.All)
        {
            var named = table.Refers.Select(r => r.Column).Append(table.Own is null ? "" : "id").ToHashSet();
            var columns = database.Read(c =>
                c.Query($"SELECT name, type FROM pragma_table_info('{table.Name}')", r => (Name: r.GetString(0), Type: r.GetString(1)))
            );
            Assert.All(
                columns.Where(c => c.Type == "INTEGER" && (c.Name == "id" || c.Name.EndsWith("_id", StringComparison.Ordinal))),
                c => Assert.True(named.Contains(c.Name) || c.Name == "aggregate_id", $"{table.Name}.{c.Name}")
            );
            var referring = database.Read(c =>
                c.Query($"SELECT \"from\" FROM pragma_foreign_key_list('{table.Name}')", r => r.GetString(0))
            );
            Assert.All(referring, column => Assert.Contains(column, named));
        }
    }

    [Theory]
    [InlineData(typeof(TranscriptEdit), nameof(ExportTables.InTexts))]
    [InlineData(typeof(BiteEdit), nameof(ExportTables.InBites))]
    [InlineData(typeof(StoryEdit), nameof(ExportTables.InStories))]
    [InlineData(typeof(Piece), nameof(ExportTables.InStories))]
    [InlineData(typeof(GatherEdit), nameof(ExportTables.InGather))]
    [InlineData(typeof(PlaceSource), nameof(ExportTables.InPlaces))]
    [InlineData(typeof(ChosenText), nameof(ExportTables.InChoices))]
    public void Every_number_in_an_edit_that_names_something_is_known_by_its_name(Type edit, string rules)
    {
        var known = (IReadOnlyDictionary<string, IdSpace>)typeof(ExportTables).GetField(rules)!.GetValue(null)!;
        var numbers = new HashSet<string>();
        Numbers(edit, [], numbers);
        // Times, drift, and what frames are counted by.
        numbers.ExceptWith(["Units", "DriftPerBillion"]);
        Assert.NotEmpty(numbers);
        Assert.Empty(numbers.Except(known.Keys));
    }

    private static void Numbers(Type type, HashSet<Type> seen, HashSet<string> numbers)
    {
        type = Nullable.GetUnderlyingType(type) ?? type;
        if (!seen.Add(type))
        {
            return;
        }
        var info = new DefaultJsonTypeInfoResolver().GetTypeInfo(type, System.Text.Json.JsonSerializerOptions.Default);
        if (info.ElementType is { } element)
        {
            Numbers(element, seen, numbers);
        }
        foreach (var derived in info.PolymorphismOptions?.DerivedTypes ?? [])
        {
            Numbers(derived.DerivedType, seen, numbers);
        }
        foreach (var property in info.Properties)
        {
            if ((Nullable.GetUnderlyingType(property.PropertyType) ?? property.PropertyType) == typeof(long))
            {
                numbers.Add(property.Name);
            }
            else
            {
                Numbers(property.PropertyType, seen, numbers);
            }
        }
    }

    public static TheoryData<string, string> Broken =>
        new()
        {
            { "", "it is empty" },
            { "{}", "first line does not say" },
            { "no JSON", "line 1 is no JSON" },
            { """{"format":"ember-lane production","version":1,"schema":9999}""", "newer Ember Lane" },
            { """{"format":"ember-lane production","version":7,"schema":39}""", "newer Ember Lane" },
            { """{"format":"ember-lane production","version":1,"schema":3}""", "never was" },
            { """{"format":"ember-lane production","version":1,"schema":39}""", "cut short" },
            { Head + """{"table":"account","columns":["id"]}""", "a table “account”" },
            { Head + """{"table":"word; DROP TABLE word","columns":["id"]}""", "a table “word; DROP" },
            { Head + """{"table":"word","columns":["text) VALUES (1); --"]}""", "other columns" },
            { Head + """{"table":"word","columns":["text","text"]}""", "other columns" },
            { Head + "[1,2,3]", "not as many values" },
            { Head + """{"table":"production","columns":["id","name"]}""" + "\n[1,2,3]", "not as many values" },
            { Head + """{"table":"production","columns":["id","name"]}""" + "\n[\"one\",\"Slack\"]", "datatype mismatch" },
            { Head + """{"table":"production","columns":["id","name"]}""" + "\n[1,{\"base64\":\"???\"}]", "values of another kind" },
            { Head + """{"table":"production","columns":["id","name"]}""" + "\n[1,[2]]", "values of another kind" },
            { Head + """{"rows":0}""", "not of one production" },
            {
                Head + """{"table":"sitting","columns":["id","production_id","title"]}""" + "\n[1,1,\"Hut\"]\n{\"rows\":1}",
                "refers to what is not there"
            },
        };

    private const string Head = """{"format":"ember-lane production","version":1,"schema":39}""" + "\n";

    [Theory]
    [MemberData(nameof(Broken))]
    public void What_is_no_export_is_refused_with_a_word_and_changes_nothing(string rows, string says)
    {
        var there = new Database(Fresh());
        Rich(there, "Salt Works");
        var before = Everything(there);
        var refused = Assert.Throws<StoreException>(() => Import(there, Zipped(rows)));
        Assert.Contains(says, refused.Message, StringComparison.Ordinal);
        Assert.Contains("Nothing was changed", refused.Message, StringComparison.Ordinal);
        Assert.Equal(before, Everything(there));
    }

    [Fact]
    public void What_would_fill_the_disk_is_stopped_and_nothing_of_it_stays()
    {
        var there = new Database(Fresh());
        var before = Everything(there);
        // Rows without end, in few bytes.
        var rows = new StringBuilder(Head).AppendLine("""{"table":"set_flag","columns":["production_id","id","day","at","who","words"]}""");
        for (var n = 0; n < 60_000; n++)
        {
            rows.AppendLine(
                System.Globalization.CultureInfo.InvariantCulture,
                $"[1,\"{n}\",\"2026-09-14\",1,\"\",\"{new string('a', 200)}\"]"
            );
        }
        var bomb = Zipped(rows.ToString());
        Assert.True(bomb.Length < rows.Length / 20);
        var looks = 0;
        var work = Directory.CreateDirectory(Path.Combine(folder, "bomb")).FullName;
        var refused = Assert.Throws<StoreException>(() =>
            new ProductionImport(there, new Transcripts(there, clock), clock).Run(new MemoryStream(bomb), work, () => ++looks == 2)
        );
        Assert.Contains("nearly full", refused.Message, StringComparison.Ordinal);
        Assert.Equal((2, before), (looks, Everything(there)));
    }

    [Fact]
    public void What_is_no_zip_or_holds_something_else_is_refused()
    {
        var there = new Database(Fresh());
        foreach (
            var bytes in new[] { [], new byte[100], Encoding.UTF8.GetBytes("PK\u0003\u0004 and no more"), Zipped(Head, "other.jsonl") }
        )
        {
            Assert.Throws<StoreException>(() => Import(there, bytes));
        }
    }

    [Fact]
    public void An_export_that_was_cut_short_or_changed_on_the_way_is_brought_in_whole_or_not_at_all()
    {
        var home = new Database(Fresh());
        var production = Rich(home, "Slack Water");
        var export = Export(home, production);
        var rows = RowsOf(export);
        var there = new Database(Fresh());
        var empty = Everything(there);
        foreach (var length in Enumerable.Range(1, 20).Select(n => n * export.Length / 21))
        {
            Assert.Throws<StoreException>(() => Import(there, export[..length]));
        }
        foreach (var lines in Enumerable.Range(1, 20).Select(n => n * rows.Length / 21))
        {
            Assert.Throws<StoreException>(() => Import(there, Zipped(rows[..lines])));
        }
        // Files that are made of one are called by its content: none may lead elsewhere.
        foreach (var (was, now) in new[] { (new string('a', 64), "../../../etc/cron.d/x"), ("\"hut.wav\"", "\"../hut.wav\"") })
        {
            Assert.Contains(was, rows, StringComparison.Ordinal);
            Assert.Throws<StoreException>(() => Import(there, Zipped(rows.Replace(was, now, StringComparison.Ordinal))));
        }
        // What pages would stumble over is not let in either.
        foreach (var (was, now) in new[] { ("\"cover ", "\"lock x"), ("Places", "Plaices"), ("\"card\"", "\"nothing known\"") })
        {
            Assert.Contains(was, rows, StringComparison.Ordinal);
            Assert.Throws<StoreException>(() => Import(there, Zipped(rows.Replace(was, now, StringComparison.Ordinal))));
        }
        Assert.Equal(empty, Everything(there));
        Assert.Equal("Slack Water", Import(there, export).Name);
    }

    [Fact]
    public void An_export_with_faults_in_its_rows_is_refused_with_nothing_changed_or_read_like_any_production()
    {
        var home = new Database(Fresh());
        var rows = RowsOf(Export(home, Rich(home, "Slack Water")));
        string[] tokens =
        [
            "0",
            "-1",
            "99999999999999999999",
            "1e309",
            "null",
            "\"",
            "}",
            "[",
            "\\u0000",
            "x",
            "true",
            "[]",
            "{}",
            "\n",
            ",",
        ];
        var random = new Random(5);
        var (refused, read) = (0, 0);
        var there = new Database(Fresh());
        var was = Everything(there);
        for (var n = 0; n < 150; n++)
        {
            var faulty = rows;
            for (var faults = random.Next(1, 3); faults > 0; faults--)
            {
                // Behind the first line: what is no export at all is tried elsewhere.
                var at = random.Next(rows.IndexOf('\n', StringComparison.Ordinal), faulty.Length);
                var length = Math.Min(random.Next(0, 8), faulty.Length - at);
                faulty = faulty.Remove(at, length).Insert(at, tokens[random.Next(tokens.Length)]);
            }
            try
            {
                ReadAll(there, Import(there, Zipped(faulty)).Id);
                (there, read) = (new Database(Fresh()), read + 1);
            }
            catch (StoreException)
            {
                Assert.Equal(was, Everything(there));
                refused++;
            }
        }
        Assert.True(refused > 20 && read > 5, FormattableString.Invariant($"{refused} refused, {read} read: too one-sided to tell much"));
    }

    // As the rooms would: texts, bites, stories and what people said.
    private void ReadAll(Database there, long production)
    {
        var transcripts = new Transcripts(there, clock);
        var (footage, stories) = (new Footage(there, clock), new Stories(there, transcripts, clock));
        footage.Sources(production);
        foreach (var sitting in footage.Sittings(production))
        {
            foreach (var text in new Texts(there, transcripts, clock).Of(sitting.Id))
            {
                var transcript = transcripts.Get(text.Id);
                Assert.All(transcript.Record, w => transcript.TextOf(w));
            }
        }
        new Bites(there, transcripts, clock).Of(production);
        foreach (var story in stories.Of(production))
        {
            stories.Get(story.Id, "Ada");
            stories.ReadingsOf(story.Id);
        }
        new Comments(there, clock).Listed(production, ListedTalks.Open, "Ada");
        new Changes(there).Of(production, 500);
    }

    [Fact]
    public void A_story_that_shows_something_of_another_production_keeps_its_own_in_with_a_word()
    {
        var home = new Database(Fresh());
        var (own, other) = (Rich(home, "Slack Water"), Rich(home, "Night Trains"));
        var transcripts = new Transcripts(home, clock);
        var (bites, stories) = (new Bites(home, transcripts, clock), new Stories(home, transcripts, clock));
        var theirs = bites.Of(other)[0];
        var story = stories.InHand(own)!.Value;
        stories.Apply(story, new LayCard(new Card(Guid.NewGuid(), theirs.Id, theirs.SittingId, theirs.Range, null), 0), "Ada");
        var refused = Assert.Throws<EditRefusedException>(() => Export(home, own));
        Assert.Contains("“First order” shows bites of Night Trains", refused.Message, StringComparison.Ordinal);
        Assert.NotEmpty(Export(home, other));
    }
}
