namespace EmberLane.Core.Backups;

/// <summary>
/// Which backups are kept: the newest ones, and of so many days, weeks (from Monday) and months that have any the newest of each.
/// </summary>
public sealed record RotationRule(int Newest, int Days, int Weeks, int Months)
{
    /// <summary>What is kept where nobody says otherwise: about forty.</summary>
    public static RotationRule Usual { get; } = new(12, 14, 8, 12);
}

/// <summary>Says which of many backups are kept.</summary>
public static class BackupRotation
{
    /// <summary>
    /// Of the moments at which backups were made those that are kept. Days are those of UTC. Only days, weeks and months that have a backup
    /// count, so that nothing goes while a machine is off. The newest is always kept. Sorts.
    /// </summary>
    public static IReadOnlySet<DateTimeOffset> Kept(IEnumerable<DateTimeOffset> made, RotationRule rule)
    {
        var newest = made.Distinct().OrderDescending().ToList();
        return newest
            .Take(Math.Max(1, rule.Newest))
            .Concat(Each(newest, rule.Days, DayOf))
            .Concat(Each(newest, rule.Weeks, at => DayOf(at) / 7))
            .Concat(Each(newest, rule.Months, at => (at.UtcDateTime.Year * 12) + at.UtcDateTime.Month))
            .ToHashSet();
    }

    private static long DayOf(DateTimeOffset at) => at.UtcTicks / TimeSpan.TicksPerDay;

    private static IEnumerable<DateTimeOffset> Each(List<DateTimeOffset> newest, int most, Func<DateTimeOffset, long> period) =>
        newest.GroupBy(period).Take(most).Select(g => g.First());
}
