using CsCheck;
using EmberLane.Core.Media;
using EmberLane.Core.SetFlags;

namespace EmberLane.Core.Tests.SetFlags;

public sealed class SetFlagTests
{
    private static readonly DateOnly Day = new(2026, 6, 14);

    private static MediaTime At(int hours, int minutes, int seconds) =>
        MediaTime.FromMilliseconds(1000L * ((3600 * hours) + (60 * minutes) + seconds));

    private static SetFlag Flag(int hours, int minutes, int seconds) => SetFlag.Of(null, Day, At(hours, minutes, seconds), "Ada", "use");

    private static FlaggableSource Source(
        long sitting,
        MediaTime? sinceMidnight,
        DateTime? recordedAt,
        string day,
        int minutes,
        long placedMs
    ) =>
        new(
            sitting,
            new SourceFacts("wav", At(0, minutes, 0), null, [], new StartOfFile(null, sinceMidnight), null, null, null)
            {
                RecordedAt = recordedAt,
            },
            new ClockMap(new SittingTime(MediaTime.FromMilliseconds(placedMs)), 0),
            day
        );

    [Fact]
    public void A_flag_lies_where_something_rolled_at_its_time_of_day_by_timecode_before_the_devices_clock()
    {
        var sources = new[]
        {
            Source(1, null, new DateTime(2026, 6, 14, 10, 0, 0), "2026-06-14", 60, 0),
            Source(2, At(10, 20, 0), null, "2026-06-14", 10, 5000),
            Source(3, At(10, 20, 0), null, "2026-06-15", 10, 0),
        };
        Assert.Equal((2, At(0, 1, 5), true), Told(FlaggedMoment.Of(Flag(10, 21, 0), MediaTime.Zero, sources)));
        Assert.Equal((1, At(0, 45, 0), false), Told(FlaggedMoment.Of(Flag(10, 45, 0), MediaTime.Zero, sources)));
        Assert.Equal((2, At(0, 1, 7), true), Told(FlaggedMoment.Of(Flag(10, 21, 0), At(0, 0, 2), sources)));
        Assert.Null(FlaggedMoment.Of(Flag(12, 0, 0), MediaTime.Zero, sources));
        Assert.Null(FlaggedMoment.Of(Flag(10, 21, 0) with { Day = new DateOnly(2026, 6, 16) }, MediaTime.Zero, sources));
        // Over midnight, and where nobody knows the day.
        var late = new[] { Source(4, At(23, 50, 0), null, "", 30, 0) };
        Assert.Equal((4, At(0, 15, 0), true), Told(FlaggedMoment.Of(Flag(0, 5, 0), MediaTime.Zero, late)));

        static (long, MediaTime, bool)? Told(FlaggedMoment? moment) =>
            moment is null ? null : (moment.SittingId, moment.At.FromZero, moment.IsByTimecode);
    }

    [Fact]
    public void The_same_flag_has_the_same_id_and_what_is_no_flag_is_refused()
    {
        Assert.Equal(Flag(1, 2, 3).Id, SetFlag.Of(null, Day, At(1, 2, 3), " Ada ", "use").Id);
        Assert.NotEqual(Flag(1, 2, 3).Id, Flag(1, 2, 4).Id);
        Assert.Throws<EditRefusedException>(() => Flag(24, 0, 0));
        Assert.Throws<EditRefusedException>(() => SetFlag.Of(null, Day, -At(0, 0, 1), "", ""));
        Assert.Throws<EditRefusedException>(() => SetFlag.Of(null, Day, At(0, 0, 1), new string('a', 41), ""));
        Assert.Throws<EditRefusedException>(() => SetFlag.Of(null, Day, At(0, 0, 1), "", new string('a', 121)));
    }

    [Fact]
    public void A_table_of_flags_is_read_with_what_it_has()
    {
        var read = SetFlagTable.Read("Time;Note;Date\r\n10:03:07;the \"bridge\";2026-06-13\n10:03:08:12;;\n;;\n", Day);
        Assert.Equal(
            [(new DateOnly(2026, 6, 13), "10:03:07.000", "the \"bridge\""), (Day, "10:03:08.480", "")],
            read.Select(f => (f.Day, SetFlagTable.ClockOf(f.At), f.Words))
        );
    }

    [Theory]
    [InlineData("", "empty")]
    [InlineData("words,who\na,b\n", "no column is called time")]
    [InlineData("time\nnoon\n", "Line 2: “noon” is not a time")]
    [InlineData("time,date\n10:00:00,14 June\n", "Line 2: “14 June” is not a day")]
    [InlineData("time\n99:00:00\n", "Line 2: A flag stands at a time of day")]
    [InlineData("time\n\n", "no row with a time")]
    [InlineData("time\n\u0001\u0002\u0003\u0004\u0005\u0006\n", "no text")]
    public void A_table_that_can_not_be_read_is_refused_with_its_line(string table, string says) =>
        Assert.Contains(says, Assert.Throws<FormatException>(() => SetFlagTable.Read(table, Day)).Message, StringComparison.Ordinal);

    [Fact]
    public void Huge_tables_are_refused()
    {
        Assert.Throws<FormatException>(() => SetFlagTable.Read("time,words\n10:00:00,\"" + new string('a', 2_000_000), Day));
        Assert.Throws<FormatException>(() => SetFlagTable.Read("time\n10:00:00" + new string(',', 5_000_000), Day));
        Assert.Throws<FormatException>(() => SetFlagTable.Read("time,words\n10:00:00,\"open\n10:00:01,b\n", Day));
        Assert.Throws<FormatException>(() =>
            SetFlagTable.Read("time\n" + string.Concat(Enumerable.Repeat("10:00:00\n", SetFlagTable.Most + 1)), Day)
        );
    }

    [Fact]
    public void Flags_come_back_from_a_table_as_they_were_also_what_a_spreadsheet_would_run() =>
        Gen.Select(Gen.Int[0, 86_399_999], Gen.String[Gen.Char["abc ,;\"'=+-@äß"], 0, 20], Gen.String[Gen.Char["xyz =+"], 0, 8])
            .List[1, 20]
            .Sample(made =>
            {
                var flags = made.Select(m => SetFlag.Of(null, Day, MediaTime.FromMilliseconds(m.Item1), m.Item3, m.Item2)).ToList();
                Assert.Equal(
                    flags.Select(f => (f.At, f.Who.TrimStart('\''), f.Words.TrimStart('\''))),
                    SetFlagTable.Read(SetFlagTable.Write(flags), Day).Select(f => (f.At, f.Who.TrimStart('\''), f.Words.TrimStart('\'')))
                );
            });
}
