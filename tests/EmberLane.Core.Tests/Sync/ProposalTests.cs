using CsCheck;
using EmberLane.Core.Media;
using EmberLane.Core.Sync;

namespace EmberLane.Core.Tests.Sync;

public sealed class ProposalTests
{
    private static LooseFile File(long id, long fromSeconds, long seconds) =>
        new(
            id,
            "f" + id,
            new SourceFacts(
                "wav",
                MediaTime.FromMilliseconds(seconds * 1000),
                null,
                [],
                new StartOfFile(null, MediaTime.FromMilliseconds(fromSeconds * 1000)),
                null,
                null,
                null
            )
        );

    private static LooseFile Camera(long id, string label, FrameRate rate, bool drop) =>
        new(
            id,
            "c" + id,
            new SourceFacts(
                "mov",
                MediaTime.FromMilliseconds(60_000),
                null,
                [],
                new StartOfFile(new TimecodeCount(rate, drop).Parse(label), null),
                null,
                null,
                null
            )
        );

    private static string Ids(IEnumerable<Proposal> proposals) =>
        string.Join(" | ", proposals.Select(p => string.Join(' ', p.Files.Select(f => f.Id))));

    [Fact]
    public void Files_that_overlap_directly_or_through_another_are_proposed_together_and_a_lonely_one_is_not() =>
        Assert.Equal(
            "1 2 3 | 5 6",
            Ids(
                Proposals.Of(
                    [File(6, 9050, 10), File(1, 100, 500), File(2, 120, 50), File(3, 590, 100), File(4, 5000, 10), File(5, 9000, 100)],
                    []
                )
            )
        );

    [Fact]
    public void Cameras_and_recorders_of_any_rate_are_compared_by_the_time_of_day_that_they_read() =>
        Assert.Equal(
            "2 3 1",
            Ids(
                Proposals.Of(
                    [
                        File(1, (7 * 3600) + 2520, 600),
                        Camera(2, "07:42:10:12", FrameRate.R25, false),
                        Camera(3, "07:43:00;02", FrameRate.R2997, true),
                        Camera(4, "01:00:00:00", FrameRate.R24, false),
                    ],
                    []
                )
            )
        );

    [Fact]
    public void What_runs_over_midnight_meets_what_began_after_it()
    {
        var found = Assert.Single(Proposals.Of([File(1, 86_340, 300), File(2, 30, 60), File(3, 40_000, 5)], []));
        Assert.Equal("1 2", Ids([found]));
        Assert.Equal(["overlap by timecode 23:59:00–00:04:00"], found.Reasons);
    }

    private static LooseFile Dated(long id, DateTime at, long seconds, long? count = null) =>
        new(
            id,
            "f" + id,
            new SourceFacts(
                "wav",
                MediaTime.FromMilliseconds(seconds * 1000),
                null,
                [],
                new StartOfFile(null, count is { } c ? MediaTime.FromMilliseconds(c * 1000) : null),
                null,
                null,
                null
            )
            {
                RecordedAt = at,
            }
        );

    private static DateTime At(int day, int hour, int minute = 0) => new(2026, 9, day, hour, minute, 0);

    [Fact]
    public void The_same_time_of_another_day_is_another_occasion_but_a_night_is_one() =>
        Assert.Equal(
            "1 2 | 3 4 | 5 6",
            Ids(
                Proposals.Of(
                    [
                        Dated(1, At(13, 10), 600, 36_000),
                        Dated(2, At(13, 10), 600, 36_100),
                        Dated(3, At(14, 10), 600, 36_000),
                        Dated(4, At(14, 10), 60, 36_010),
                        Dated(5, At(14, 23, 55), 900, 86_100),
                        Dated(6, At(15, 0), 600, 60),
                        Dated(7, At(20, 0), 600, 60),
                    ],
                    []
                )
            )
        );

    [Fact]
    public void Far_from_Greenwich_a_camera_of_the_day_before_goes_with_the_recorder_of_the_same_morning()
    {
        static LooseFile Film(long id, int day, long count) =>
            Dated(id, At(day, 23), 600, count) with
            {
                Facts = Dated(id, At(day, 23), 600, count).Facts with
                {
                    Picture = new PictureFacts("h264", "yuv420p", 1, 1, FrameRate.R25, false),
                },
            };
        Assert.Equal("1 2", Ids(Proposals.Of([Dated(1, At(14, 9), 600, 32_400), Film(2, 13, 32_500)], [])));
        Assert.Equal(
            "1 2 | 3 4",
            Ids(
                Proposals.Of(
                    [Dated(1, At(14, 9), 600, 32_400), Film(2, 13, 32_500), Dated(3, At(15, 9), 600, 32_400), Film(4, 14, 32_500)],
                    []
                )
            )
        );
        Assert.Equal(
            "1 2 | 3 4",
            Ids(
                Proposals.Of(
                    [Dated(1, At(14, 9), 600, 32_400), Film(2, 14, 32_500), Dated(3, At(15, 9), 600, 32_400), Film(4, 15, 32_500)],
                    []
                )
            )
        );
    }

    [Fact]
    public void A_file_without_timecode_goes_with_what_it_overlaps_by_recording_time()
    {
        var found = Proposals.Of(
            [Dated(1, At(14, 10), 600, 36_000), Dated(2, At(14, 10, 5), 600), Dated(3, At(14, 10, 12), 600), Dated(4, At(15, 10, 5), 600)],
            []
        );
        Assert.Equal("1 2 3", Ids(found));
        Assert.Equal(
            ["f2, f1 overlap by recording time 10:05:00–10:10:00", "f2, f3 overlap by recording time 10:12:00–10:15:00"],
            found[0].Reasons
        );
    }

    [Fact]
    public void The_same_sound_brings_files_and_whole_groups_together()
    {
        var found = Assert.Single(
            Proposals.Of(
                [File(1, 100, 50), File(2, 120, 50), File(3, 5000, 10), File(4, 9000, 10)],
                [new Alike(2, 3, "same sound"), new Alike(3, 77, "gone")]
            )
        );
        Assert.Equal("1 2 3", Ids([found]));
        Assert.Equal(["overlap by timecode 00:01:40–00:02:50", "f2 and f3: same sound"], found.Reasons);
    }

    [Fact]
    public void Touching_is_not_overlapping_and_files_without_timecode_are_in_no_group()
    {
        var none = new LooseFile(
            9,
            "n",
            new SourceFacts("wav", MediaTime.FromMilliseconds(1000), null, [], StartOfFile.Unknown, null, null, null)
        );
        Assert.Empty(Proposals.Of([File(1, 0, 10), File(2, 10, 10), none], []));
        Assert.Empty(Proposals.Of([], []));
    }

    [Fact]
    public void Groups_agree_with_walking_from_overlap_to_overlap() =>
        Gen.Select(Gen.Int[0, 3000], Gen.Int[1, 400])
            .Array[0, 12]
            .Sample(runs =>
            {
                var files = runs.Select((r, i) => File(i, r.Item1, r.Item2)).ToList();
                var group = Enumerable.Range(0, files.Count).ToArray();
                for (var changed = true; changed;)
                {
                    changed = false;
                    for (var i = 0; i < files.Count; i++)
                    {
                        for (var j = 0; j < files.Count; j++)
                        {
                            if (
                                group[j] > group[i]
                                && runs[i].Item1 < runs[j].Item1 + runs[j].Item2
                                && runs[j].Item1 < runs[i].Item1 + runs[i].Item2
                            )
                            {
                                (group[j], changed) = (group[i], true);
                            }
                        }
                    }
                }
                var expected = files
                    .GroupBy(f => group[f.Id])
                    .Where(g => g.Count() > 1)
                    .Select(g => string.Join(' ', g.Select(f => f.Id).Order()))
                    .Order();
                Assert.Equal(expected, Proposals.Of(files, []).Select(p => string.Join(' ', p.Files.Select(f => f.Id).Order())).Order());
            });
}
