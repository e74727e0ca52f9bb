using System.Globalization;
using EmberLane.Store;
using Microsoft.Extensions.Hosting;
using Microsoft.Extensions.Logging;

namespace EmberLane.Application.Backups;

/// <summary>
/// Makes a backup every so many hours in which something was changed. One that can not be made is tried again, and why is told.
/// </summary>
public sealed partial class BackupClock(
    BackupShelf shelf,
    Database database,
    Settings settings,
    TimeProvider time,
    ILogger<BackupClock> log
) : BackgroundService
{
    /// <summary>The key of the choice of hours; 0 is never.</summary>
    public const string Hours = "backup.hours";

    /// <summary>What can be chosen, in hours.</summary>
    public static IReadOnlyList<int> Choices { get; } = [1, 2, 6, 24, 0];

    private const int Usual = 2;

    private static readonly TimeSpan Look = TimeSpan.FromMinutes(1),
        FirstAfter = TimeSpan.FromMinutes(10),
        AgainAfter = TimeSpan.FromMinutes(10);

    private readonly Lock making = new();
    private readonly DateTimeOffset begun = time.GetUtcNow();
    private long keptThen = -1;
    private DateTimeOffset? failedAt;

    /// <summary>Why the last one could not be made; null when it could.</summary>
    public string? Trouble { get; private set; }

    /// <summary>Every how many hours; 0 is never.</summary>
    public int Every =>
        int.TryParse(settings.Get(Hours), NumberStyles.None, CultureInfo.InvariantCulture, out var hours) && Choices.Contains(hours)
            ? hours
            : Usual;

    /// <summary>Chooses every how many hours. Throws <see cref="ArgumentOutOfRangeException"/> for what can not be chosen.</summary>
    public void Choose(int hours)
    {
        ArgumentOutOfRangeException.ThrowIfNotEqual(Choices.Contains(hours), true, nameof(hours));
        settings.Set(Hours, hours.ToString(CultureInfo.InvariantCulture));
    }

    /// <summary>Makes one now. Throws <see cref="StoreException"/> with a sentence, which is told until one succeeds.</summary>
    public ShelvedBackup Make()
    {
        lock (making)
        {
            var kept = database.Kept;
            try
            {
                var made = shelf.Make().Backup;
                (Trouble, failedAt, keptThen) = (null, null, kept);
                return made;
            }
            catch (StoreException e)
            {
                (Trouble, failedAt) = (e.Message, time.GetUtcNow());
                throw;
            }
        }
    }

    /// <summary>Makes one where it is due: it is time, and something was changed since the last.</summary>
    public void MakeWhereDue()
    {
        var now = time.GetUtcNow();
        if (Every is not (> 0 and var hours) || database.Kept == keptThen || IsWithin(AgainAfter, failedAt))
        {
            return;
        }
        var last = shelf.All().FirstOrDefault(b => b.IsRotated && b.At <= now)?.At;
        if (last is null ? IsWithin(FirstAfter, begun) : IsWithin(TimeSpan.FromHours(hours), last))
        {
            return;
        }
        try
        {
            Make();
        }
        catch (StoreException e)
        {
            NotMade(e.Message);
        }
    }

    // What lies ahead was told by a clock that has been set back since: nobody knows how long ago it was, and nothing waits for it.
    private bool IsWithin(TimeSpan span, DateTimeOffset? moment) =>
        time.GetUtcNow() - moment is { } ago && ago >= TimeSpan.Zero && ago < span;

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Look, time);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            try
            {
                MakeWhereDue();
            }
            catch (Exception e)
            {
                // A disk or database that fails is tried again the next time.
                NotMade(e.Message);
            }
        }
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "No backup was made: {Reason}")]
    private partial void NotMade(string reason);
}
