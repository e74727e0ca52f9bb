using EmberLane.Core;
using EmberLane.Core.Media;
using EmberLane.Core.Mics;
using EmberLane.Core.Sync;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store.Tests;

public sealed class GroupingTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-grouping").FullName;
    private readonly Database database;
    private readonly Footage footage;
    private readonly Grouping grouping;
    private readonly Mics mics;
    private readonly long production,
        hut,
        ferry;

    public GroupingTests()
    {
        database = new Database(Path.Combine(folder, "ember.sqlite"));
        (footage, grouping, mics) = (
            new Footage(database, TimeProvider.System),
            new Grouping(database, TimeProvider.System),
            new Mics(database)
        );
        production = footage.AddProduction("Slack Water");
        hut = footage.BringIn(production, "Hut", [File("hut.wav", false), File("hut-a.mov", true), File("hut-b.mov", true)])!.Value;
        ferry = footage.BringIn(production, "Ferry", [File("ferry.wav", false), File("ferry-a.mov", true)])!.Value;
        foreach (var (source, i) in footage.SourcesOf(hut).Select((s, i) => (s, i)).Skip(1))
        {
            footage.Place(
                source.Id,
                Placement.BySound(new ClockMap(new SittingTime(MediaTime.FromMilliseconds(i * 2000L)), i * 1000), "same sound")
            );
        }
    }

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private static NewSource File(string name, bool picture) =>
        new(
            "/footage/" + name,
            name,
            5,
            "print-" + name,
            new SourceFacts(
                picture ? "mov" : "wav",
                MediaTime.FromMilliseconds(9000),
                picture ? new PictureFacts("h264", "yuv420p", 960, 540, FrameRate.R25, false) : null,
                [new SoundTrack(0, "pcm_s16le", 48_000, 2)],
                StartOfFile.Unknown,
                null,
                null,
                null
            )
            {
                Scene = "14",
                Take = "2",
                RecordedAt = new DateTime(2026, 9, 14, 7, 42, 5),
                ChannelNames = picture ? [] : ["Lav Ilse", "Boom"],
            }
        );

    private Source Named(string name) => footage.Sources(production).Single(s => s.Name == name);

    // Everything that grouping can change, as one text.
    private string Picture() =>
        string.Join(
            '\n',
            footage
                .Sittings(production)
                .Select(s => s.ToString())
                .Concat(footage.Sources(production).Select(s => $"{s.Id} {s.SittingId} {s.Placement} {s.Labels}"))
                .Concat(mics.Channels(footage.Sources(production)).Select(m => m.ToString()))
        );

    [Fact]
    public void What_the_recorder_wrote_is_kept_with_the_file()
    {
        var facts = Named("hut.wav").Facts;
        Assert.Equal(("14", "2", new DateTime(2026, 9, 14, 7, 42, 5)), (facts.Scene, facts.Take, facts.RecordedAt));
        Assert.Equal(["Lav Ilse", "Boom"], facts.ChannelNames);
    }

    [Fact]
    public void A_file_that_moves_is_nowhere_until_sync_and_undo_brings_its_place_back()
    {
        var before = Picture();
        Assert.Equal(ferry, grouping.Move(production, [Named("hut-a.mov").Id], ferry, null, "tester"));
        Assert.Equal((ferry, null), (Named("hut-a.mov").SittingId, Named("hut-a.mov").Place));
        Assert.Equal("hut-a.mov put into Ferry", grouping.Step(production, redo: false, "tester"));
        Assert.Equal(before, Picture());
        Assert.Null(grouping.Step(production, redo: false, "tester"));
        grouping.Step(production, redo: true, "tester");
        Assert.Equal(ferry, Named("hut-a.mov").SittingId);
    }

    [Fact]
    public void A_sitting_that_is_split_keeps_how_the_parted_files_lie_to_each_other()
    {
        var made = grouping.Move(production, [Named("hut-a.mov").Id, Named("hut-b.mov").Id], null, "  Hut,\nlater ", "tester")!.Value;
        var sitting = footage.Sitting(made)!;
        Assert.Equal(("Hut, later", Named("hut-a.mov").Id), (sitting.Title, sitting.SoundSourceId));
        Assert.Equal(0, Named("hut-a.mov").Place!.Value.Start.FromZero.Units);
        Assert.Equal(2000, Named("hut-b.mov").Place!.Value.Start.FromZero.ToMillisecondsRounded());
        Assert.Single(footage.SourcesOf(hut));
        var after = Picture();
        grouping.Step(production, redo: false, "tester");
        Assert.Null(footage.Sitting(made));
        grouping.Step(production, redo: true, "tester");
        Assert.Equal(after, Picture());
    }

    [Fact]
    public void Two_sittings_are_merged_and_parted_again_by_undo()
    {
        var before = Picture();
        grouping.Merge(production, ferry, hut, "tester");
        Assert.Equal("Hut", Assert.Single(footage.Sittings(production)).Title);
        Assert.Equal(5, footage.SourcesOf(hut).Count);
        Assert.Equal(2000, Named("hut-a.mov").Place!.Value.Start.FromZero.ToMillisecondsRounded());
        grouping.Step(production, redo: false, "tester");
        Assert.Equal(before, Picture());
    }

    [Fact]
    public void When_the_reference_leaves_the_others_go_by_a_new_one()
    {
        grouping.Move(production, [Named("hut.wav").Id], null, null, "tester");
        Assert.Equal(Named("hut-a.mov").Id, footage.Sitting(hut)!.SoundSourceId);
        Assert.Equal(2000, Named("hut-b.mov").Place!.Value.Start.FromZero.ToMillisecondsRounded());
        Assert.Equal((null, null), (Named("hut.wav").SittingId, Named("hut.wav").Place));
    }

    [Fact]
    public void The_sound_that_a_transcript_goes_by_stays_and_a_transcribed_sitting_is_not_taken_back()
    {
        var made = grouping.Move(production, [Named("ferry-a.mov").Id], null, "Alone", "tester")!.Value;
        new Transcripts(database, TimeProvider.System).Add(
            made,
            "local",
            "en",
            [new RecordWord(new(0), "rope", new SittingRange(default, new SittingTime(MediaTime.FromMilliseconds(9))), new(1), 0)],
            new Dictionary<int, string>()
        );
        var before = Picture();
        Assert.Contains(
            "Alone is transcribed",
            Assert.Throws<EditRefusedException>(() => grouping.Merge(production, made, hut, "tester")).Message,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "was transcribed since",
            Assert.Throws<EditRefusedException>(() => grouping.Step(production, redo: false, "tester")).Message,
            StringComparison.Ordinal
        );
        Assert.Equal(before, Picture());
        grouping.Move(production, [Named("hut-a.mov").Id], made, null, "tester");
        Assert.Equal(2, footage.SourcesOf(made).Count);
    }

    [Fact]
    public void What_was_done_to_a_files_place_before_it_moved_is_passed_over_and_sync_of_its_old_sitting_leaves_it_alone()
    {
        long first = Named("hut-a.mov").Id,
            second = Named("hut-b.mov").Id;
        foreach (var id in new[] { first, second })
        {
            footage.PlaceByHand(id, p => PlaceSource.Moved(p, new SittingTime(MediaTime.FromMilliseconds(9000))), "tester");
        }
        grouping.Move(production, [second], ferry, null, "tester");
        footage.Place(second, Placement.BySound(new ClockMap(new SittingTime(MediaTime.FromMilliseconds(1)), 0), "late news"), hut);
        Assert.Equal((null, ""), (Named("hut-b.mov").Place, Named("hut-b.mov").Placement.Evidence));
        Assert.Equal(first, footage.StepPlacing(hut, redo: false, "tester"));
        Assert.Equal(2000, Named("hut-a.mov").Place!.Value.Start.FromZero.ToMillisecondsRounded());
        Assert.Null(footage.StepPlacing(hut, redo: false, "tester"));
        Assert.Equal(first, footage.StepPlacing(hut, redo: true, "tester"));
        Assert.Null(footage.StepPlacing(hut, redo: true, "tester"));
        footage.Place(second, Placement.BySound(new ClockMap(new SittingTime(MediaTime.FromMilliseconds(5)), 0), "found"), ferry);
        Assert.Equal("found", Named("hut-b.mov").Placement.Evidence);
    }

    [Fact]
    public void Labels_go_on_many_files_or_on_none()
    {
        long[] both = [Named("hut-a.mov").Id, Named("hut-b.mov").Id];
        grouping.Label(production, both, l => l.With("camera", "B").With("note", "morning"), "tester");
        Assert.All(both, id => Assert.Equal(("B", "morning"), (footage.Source(id)!.Camera, footage.Source(id)!.Labels.Note)));
        var written = 0;
        Assert.Throws<EditRefusedException>(() =>
            grouping.Label(production, both, l => ++written == 2 ? throw new EditRefusedException("no") : l.With("camera", "C"), "tester")
        );
        Assert.All(both, id => Assert.Equal("B", footage.Source(id)!.Camera));
        footage.Place(both[0], Placement.BySound(new ClockMap(new SittingTime(MediaTime.FromMilliseconds(77)), 0), "found since"));
        grouping.Step(production, redo: false, "tester");
        Assert.All(both, id => Assert.Equal("", footage.Source(id)!.Camera));
        Assert.Equal("found since", footage.Source(both[0])!.Placement.Evidence);
    }

    [Fact]
    public void A_mic_is_decided_and_the_guess_comes_back_with_undo()
    {
        var source = Named("hut.wav");
        mics.Heard(source.Id, [new ChannelSound(-18.5m, 24.2m, null), new ChannelSound(-20, 11, 0)]);
        Assert.True(mics.IsHeard(source.Id));
        grouping.SetMic(production, source.Id, 1, c => c with { Kind = MicKind.Mix, Person = "Ilse Varga", Heard = true }, "tester");
        grouping.SetMic(production, source.Id, 1, c => c with { Heard = false }, "tester");
        var channels = mics.Channels([source]);
        Assert.Equal(
            new KnownChannel(source.Id, 0, "Lav Ilse", false, 2, new ChannelSound(-18.5m, 24.2m, null), MicChoice.None),
            channels[0]
        );
        Assert.Equal(new MicChoice(MicKind.Mix, "Ilse Varga", false), channels[1].Choice);
        grouping.Step(production, redo: false, "tester");
        grouping.Step(production, redo: false, "tester");
        Assert.Equal(MicChoice.None, mics.Channels([source])[1].Choice);
        Assert.Throws<EditRefusedException>(() => grouping.SetMic(production, source.Id, 2, c => c, "tester"));
    }

    [Fact]
    public void What_is_not_there_or_not_ticked_is_refused_and_nothing_changes()
    {
        var elsewhere = footage.AddProduction("Other");
        var before = Picture();
        Assert.Throws<EditRefusedException>(() => grouping.Move(production, [], hut, null, "tester"));
        Assert.Throws<ConflictException>(() => grouping.Move(production, [4711], hut, null, "tester"));
        Assert.Throws<ConflictException>(() => grouping.Move(elsewhere, [Named("hut.wav").Id], null, "Mine", "tester"));
        Assert.Throws<ConflictException>(() => grouping.Move(production, [Named("hut.wav").Id], 4711, null, "tester"));
        Assert.Throws<EditRefusedException>(() => grouping.Move(production, [Named("hut-a.mov").Id], null, " \n", "tester"));
        Assert.Throws<EditRefusedException>(() => grouping.Rename(production, hut, new string('x', 121), "tester"));
        Assert.Equal(before, Picture());
        Assert.Null(grouping.Step(production, redo: false, "tester"));
    }

    [Fact]
    public void Any_run_of_changes_is_taken_back_to_the_beginning_and_brought_again()
    {
        var random = new Random(5);
        var pictures = new List<string> { Picture() };
        for (var n = 0; n < 40; n++)
        {
            var files = footage.Sources(production).Where(_ => random.Next(3) == 0).Select(s => s.Id).ToList();
            var sittings = footage.Sittings(production);
            try
            {
                switch (random.Next(4))
                {
                    case 0:
                        grouping.Move(production, files, null, null, "tester");
                        break;
                    case 1:
                        grouping.Move(production, files, null, $"Sitting {n}", "tester");
                        break;
                    case 2:
                        grouping.Move(production, files, sittings[random.Next(sittings.Count)].Id, null, "tester");
                        break;
                    default:
                        grouping.Label(production, files, l => l.With("scene", $"{n}"), "tester");
                        break;
                }
            }
            catch (EditRefusedException)
            {
                continue;
            }
            if (Picture() != pictures[^1])
            {
                pictures.Add(Picture());
            }
            Assert.All(footage.Sittings(production), s => Assert.NotEmpty(footage.SourcesOf(s.Id)));
        }
        for (var n = pictures.Count - 2; n >= 0;)
        {
            Assert.NotNull(grouping.Step(production, redo: false, "tester"));
            n -= Picture() == pictures[n] ? 1 : 0;
        }
        while (grouping.Step(production, redo: true, "tester") is not null) { }
        Assert.Equal(pictures[^1], Picture());
    }
}
