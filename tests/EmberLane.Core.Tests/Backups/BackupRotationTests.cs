using CsCheck;
using EmberLane.Core.Backups;

namespace EmberLane.Core.Tests.Backups;

public sealed class BackupRotationTests
{
    private static readonly DateTimeOffset Begin = new(2026, 1, 1, 0, 0, 0, TimeSpan.Zero);

    // One every so many hours, rotated each time, as a server does.
    private static List<DateTimeOffset> After(int days, int every, RotationRule rule)
    {
        var kept = new List<DateTimeOffset>();
        for (var hour = 0; hour < days * 24; hour += every)
        {
            kept.Add(Begin.AddHours(hour));
            var stays = BackupRotation.Kept(kept, rule);
            kept.RemoveAll(at => !stays.Contains(at));
        }
        return kept;
    }

    [Fact]
    public void After_a_year_and_more_there_are_the_newest_and_one_of_each_day_week_and_month_and_no_more()
    {
        var kept = After(500, 2, RotationRule.Usual);
        var end = kept.Max();
        Assert.InRange(kept.Count, 12 + 13 + 6 + 10, 12 + 14 + 8 + 12);
        Assert.All(Enumerable.Range(0, 12), n => Assert.Contains(end.AddHours(-2 * n), kept));
        Assert.All(Enumerable.Range(0, 14), n => Assert.Contains(kept, at => at.Date == end.AddDays(-n).Date));
        Assert.All(Enumerable.Range(0, 12), n => Assert.Contains(kept, at => (at.Year * 12) + at.Month == (end.Year * 12) + end.Month - n));
        // Of a day that is past its last one stays, which holds all that was done on it.
        Assert.Contains(kept, at => at == end.Date.AddDays(-3).AddHours(22));
    }

    [Fact]
    public void While_a_machine_is_off_nothing_goes()
    {
        var before = After(30, 6, RotationRule.Usual);
        var kept = BackupRotation.Kept(before.Append(Begin.AddYears(2)), RotationRule.Usual);
        // The next takes the place of one of the newest and of one of the days.
        Assert.InRange(before.Count - kept.Count + 1, 0, 2);
        Assert.Contains(Begin.AddYears(2), kept);
    }

    [Fact]
    public void The_newest_always_stays_none_is_made_up_and_to_rotate_again_changes_nothing() =>
        Gen.Select(Gen.Long[0, 40_000_000].Array[1, 200], Gen.Int[0, 4], Gen.Int[0, 4], Gen.Int[0, 4], Gen.Int[0, 4])
            .Sample(
                (seconds, newest, days, weeks, months) =>
                {
                    var (made, rule) = (seconds.Select(s => Begin.AddSeconds(s)).ToList(), new RotationRule(newest, days, weeks, months));
                    var kept = BackupRotation.Kept(made, rule);
                    Assert.Contains(made.Max(), kept);
                    Assert.Subset(made.ToHashSet(), kept.ToHashSet());
                    Assert.InRange(kept.Count, 1, Math.Max(1, newest) + days + weeks + months);
                    Assert.True(kept.SetEquals(BackupRotation.Kept(kept, rule)));
                }
            );
}
