using EmberLane.Application;
using EmberLane.Application.Backups;
using EmberLane.Application.Gathering;
using EmberLane.Running;
using EmberLane.Store;
using EmberLane.Web.Commands;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging.Abstractions;

namespace EmberLane.Web.Tests;

/// <summary>Backups: made while people work, looked through, rotated, and brought back by one command.</summary>
public sealed class BackupTests : IDisposable
{
    private readonly string data = Directory.CreateTempSubdirectory("ember-backup").FullName;

    private string DatabasePath => Path.Combine(data, "ember.sqlite");

    private string Shelf => Path.Combine(data, "backups");

    public void Dispose()
    {
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(data, recursive: true);
    }

    private sealed class Clock(DateTimeOffset now) : TimeProvider
    {
        public DateTimeOffset Now { get; set; } = now;

        public override DateTimeOffset GetUtcNow() => Now;
    }

    private sealed class Disk : IDiskSpace
    {
        public long Free { get; set; } = 1L << 40;

        public long FreeBytes(string folder) => Free;
    }

    private Database Begun(params string[] productions)
    {
        var database = new Database(DatabasePath);
        var footage = new Footage(database, TimeProvider.System);
        Array.ForEach(productions, p => footage.AddProduction(p));
        return database;
    }

    // As the next start finds it.
    private string[] Productions()
    {
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        return [.. new Footage(new Database(DatabasePath), TimeProvider.System).Productions().Select(p => p.Name)];
    }

    private async Task<string> RunAsync(params string[] arguments)
    {
        await using var output = new StringWriter();
        await CommandLine.RunAsync([.. arguments, "--data", data], output, TestContext.Current.CancellationToken);
        return output.ToString();
    }

    private Task<StoreException> RefusedAsync(params string[] arguments) => Assert.ThrowsAsync<StoreException>(() => RunAsync(arguments));

    [Fact]
    public async Task What_was_backed_up_comes_back_to_the_last_row_and_what_was_there_then_is_kept_and_comes_back_too()
    {
        Begun("Slack Water");
        var first = DatabaseFile.Everything(DatabasePath);
        Assert.Contains("Slack Water (0 sittings, 0 bites, 0 stories)", await RunAsync("backup"), StringComparison.Ordinal);
        var backup = Assert.Single(Directory.GetFiles(Shelf));
        Assert.Equal(UnixFileMode.UserRead | UnixFileMode.UserWrite, File.GetUnixFileMode(backup));
        Begun("High Water");
        var then = DatabaseFile.Everything(DatabasePath);
        var said = await RunAsync("restore", "newest");
        Assert.Contains("is in place. It holds: Slack Water", said, StringComparison.Ordinal);
        Assert.Equal(["Slack Water"], Productions());
        Assert.Equal(first, DatabaseFile.Everything(DatabasePath));
        var before = Assert.Single(Directory.GetFiles(Shelf, "before-restore-*"));
        // The newest is still the same one, not what was kept just now.
        await RunAsync("restore", "newest");
        Assert.Equal(["Slack Water"], Productions());
        await RunAsync("restore", Path.GetFileName(before));
        Assert.Equal(["Slack Water", "High Water"], Productions());
        Assert.Equal(then, DatabaseFile.Everything(DatabasePath));
        var list = await RunAsync("backup", "--list");
        Assert.Contains("4 backups in", list, StringComparison.Ordinal);
        Assert.Contains("Slack Water (0 sittings, 0 bites, 0 stories); High Water", list, StringComparison.Ordinal);
    }

    [Fact]
    public async Task One_that_was_cut_short_is_none_or_is_of_a_newer_one_is_refused_and_nothing_is_touched()
    {
        Begun([.. Enumerable.Range(0, 300).Select(i => $"Production {i} with a name that takes some room")]);
        await RunAsync("backup");
        var good = Assert.Single(Directory.GetFiles(Shelf));
        var (bytes, whole) = (
            await File.ReadAllBytesAsync(good, TestContext.Current.CancellationToken),
            DatabaseFile.Everything(DatabasePath)
        );
        foreach (var length in new[] { 0, 10, 100, 4_096, bytes.Length / 2, bytes.Length - 4_096 })
        {
            await IsRefusedAsync(bytes[..length], "");
        }
        var broken = (byte[])bytes.Clone();
        Array.Fill(broken, (byte)0xA5, 8_192, 20_000);
        await IsRefusedAsync(broken, "not whole");
        await IsRefusedAsync("This is no database at all, whatever its name says."u8.ToArray(), "not whole");
        var newer = Path.Combine(data, "newer.sqlite");
        File.Copy(good, newer);
        DatabaseFile.Run(newer, "PRAGMA user_version = 9999");
        Assert.Contains("newer Ember Lane", (await RefusedAsync("restore", newer)).Message, StringComparison.Ordinal);
        var other = Path.Combine(data, "other.sqlite");
        DatabaseFile.Run(other, "CREATE TABLE cake (id INTEGER); PRAGMA user_version = 3");
        Assert.Contains("no backup of an Ember Lane", (await RefusedAsync("restore", other)).Message, StringComparison.Ordinal);
        Assert.Contains("no such backup", (await RefusedAsync("restore", "ember-1.sqlite")).Message, StringComparison.Ordinal);
        Assert.Equal(whole, DatabaseFile.Everything(DatabasePath));
        Assert.Empty(Directory.GetFiles(data, "*.restoring*"));
        Assert.Single(Directory.GetFiles(Shelf));

        async Task IsRefusedAsync(byte[] content, string says)
        {
            var odd = Path.Combine(data, "odd.sqlite");
            await File.WriteAllBytesAsync(odd, content, TestContext.Current.CancellationToken);
            Assert.Contains(says, (await RefusedAsync("restore", odd)).Message, StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task Where_what_is_there_can_not_be_kept_it_stays_in_its_place()
    {
        Begun("Slack Water");
        await RunAsync("backup");
        var backup = Assert.Single(Directory.GetFiles(Shelf));
        Begun("High Water");
        var inTheWay = Path.Combine(data, "a file");
        await File.WriteAllTextAsync(inTheWay, "", TestContext.Current.CancellationToken);
        var refused = await RefusedAsync("restore", backup, "--backups", inTheWay);
        Assert.Contains("No backup could be made", refused.Message, StringComparison.Ordinal);
        Assert.Equal(["Slack Water", "High Water"], Productions());
    }

    [Fact]
    public async Task A_database_that_is_damaged_is_set_aside_with_its_log_and_the_backup_is_used()
    {
        Begun("Slack Water");
        await RunAsync("backup");
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        await File.WriteAllBytesAsync(DatabasePath, [.. Enumerable.Repeat((byte)0x5A, 50_000)], TestContext.Current.CancellationToken);
        await File.WriteAllTextAsync(DatabasePath + "-wal", "what was in the log", TestContext.Current.CancellationToken);
        Assert.Throws<StoreException>(() => new Database(DatabasePath));
        var said = await RunAsync("restore", "newest");
        Assert.Equal(["Slack Water"], Productions());
        var aside = Assert.Single(Directory.GetFiles(data, "ember.sqlite.damaged-*"), f => f[^4..] is not ("-wal" or "-shm"));
        Assert.Contains(aside, said, StringComparison.Ordinal);
        Assert.Equal(50_000, new FileInfo(aside).Length);
        Assert.Equal("what was in the log", await File.ReadAllTextAsync(aside + "-wal", TestContext.Current.CancellationToken));
    }

    [Fact]
    public async Task While_a_server_runs_a_backup_is_made_of_what_it_acknowledged_and_none_is_brought_back()
    {
        Begun("Slack Water");
        await using var server = await RunningServer.StartAsync(data, demo: false);
        var footage = server.Services.GetRequiredService<Footage>();
        using var stop = new CancellationTokenSource();
        var acknowledged = 0;
        var work = Task.Run(
            () =>
            {
                while (!stop.IsCancellationRequested)
                {
                    footage.AddProduction(FormattableString.Invariant($"P{acknowledged}"));
                    Interlocked.Increment(ref acknowledged);
                }
            },
            CancellationToken.None
        );
        await RunningServer.UntilAsync(() => acknowledged > 20, "some changes");
        for (var n = 0; n < 5; n++)
        {
            var least = acknowledged;
            await RunAsync("backup", "--backups", Path.Combine(data, $"shelf{n}"));
            var made = DatabaseBackup.Look(Assert.Single(Directory.GetFiles(Path.Combine(data, $"shelf{n}"))));
            // All that was acknowledged before, in order, without holes.
            Assert.True(made.Productions.Count > least);
            Assert.Equal(
                Enumerable.Range(0, made.Productions.Count - 1).Select(i => FormattableString.Invariant($"P{i}")),
                made.Productions.Skip(1).Select(p => p.Name)
            );
        }
        Assert.Contains(
            "in use by another Ember Lane",
            (await RefusedAsync("restore", Directory.GetFiles(Path.Combine(data, "shelf0"))[0])).Message,
            StringComparison.Ordinal
        );
        await stop.CancelAsync();
        await work;
    }

    [Fact]
    public void By_itself_one_is_made_when_it_is_time_and_something_was_changed_and_trouble_is_told_until_it_is_over()
    {
        var database = Begun("Slack Water");
        var (clock, disk) = (new Clock(new DateTimeOffset(2026, 12, 1, 9, 0, 0, TimeSpan.Zero)), new Disk());
        var shelf = BackupShelf.Of(new Options { Data = data }, disk, clock);
        using var backups = new BackupClock(shelf, database, new Settings(database), clock, NullLogger<BackupClock>.Instance);
        var footage = new Footage(database, clock);
        Assert.Equal(0, After(minutes: 5));
        Assert.Equal(1, After(minutes: 6));
        Assert.Equal(1, After(minutes: 180));
        footage.AddProduction("High Water");
        Assert.Equal(2, After(minutes: 1));
        footage.AddProduction("Low Water");
        Assert.Equal(2, After(minutes: 119));
        disk.Free = 100 << 20;
        Assert.Equal(2, After(minutes: 2));
        Assert.Contains("No backup was made: the disk of", backups.Trouble, StringComparison.Ordinal);
        disk.Free = 1L << 40;
        Assert.Equal(2, After(minutes: 5));
        Assert.Equal(3, After(minutes: 10));
        Assert.Null(backups.Trouble);
        backups.Choose(0);
        Assert.Equal(3, After(minutes: 10_000));
        Assert.Throws<ArgumentOutOfRangeException>(() => backups.Choose(3));

        int After(int minutes)
        {
            clock.Now += TimeSpan.FromMinutes(minutes);
            backups.MakeWhereDue();
            return shelf.All().Count;
        }
    }

    [Fact]
    public void A_clock_that_is_set_back_keeps_none_from_being_made_nor_takes_it_away_and_which_is_the_newest_is_asked()
    {
        var database = Begun("Slack Water");
        var clock = new Clock(new DateTimeOffset(2031, 1, 1, 0, 0, 0, TimeSpan.Zero));
        var shelf = BackupShelf.Of(new Options { Data = data }, new Disk(), clock);
        using var backups = new BackupClock(shelf, database, new Settings(database), clock, NullLogger<BackupClock>.Instance);
        for (var n = 0; n < 60; n++)
        {
            clock.Now += TimeSpan.FromHours(30);
            shelf.Make();
        }
        clock.Now = new DateTimeOffset(2026, 12, 1, 9, 0, 0, TimeSpan.Zero);
        var footage = new Footage(database, clock);
        footage.AddProduction("High Water");
        backups.MakeWhereDue();
        Assert.Equal(clock.Now, shelf.All()[^1].At);
        Assert.Contains("from later than now", Assert.Throws<StoreException>(() => shelf.Find("newest")).Message, StringComparison.Ordinal);
        footage.AddProduction("Low Water");
        backups.MakeWhereDue();
        Assert.Single(shelf.All(), b => b.At.Year == 2026);
        clock.Now += TimeSpan.FromHours(2);
        backups.MakeWhereDue();
        Assert.Equal(2, shelf.All().Count(b => b.At.Year == 2026));
        Assert.Equal(shelf.All()[^1].Path, shelf.Find(shelf.All()[^1].Name));
    }

    [Fact]
    public void The_shelf_rotates_its_own_and_leaves_others_alone_and_what_was_left_half_made_goes()
    {
        var clock = new Clock(new DateTimeOffset(2026, 1, 1, 0, 0, 0, TimeSpan.Zero));
        Begun("Slack Water");
        var shelf = BackupShelf.Of(new Options { Data = data }, new Disk(), clock);
        shelf.Make(BackupShelf.BeforeUpgrade);
        var own = Path.Combine(Shelf, "my own.sqlite");
        File.WriteAllText(own, "mine");
        var half = Path.Combine(Shelf, "ember-20251231-000000Z.sqlite.0123.part");
        File.WriteAllText(half, "half");
        File.SetLastWriteTimeUtc(half, clock.Now.UtcDateTime.AddDays(-2));
        for (var n = 0; n < 60; n++)
        {
            clock.Now += TimeSpan.FromHours(2);
            shelf.Make();
        }
        var all = shelf.All();
        // Twelve newest, and one of each day before those.
        Assert.Equal(12 + 4, all.Count(b => b.IsRotated));
        Assert.Single(all, b => b.For == BackupShelf.BeforeUpgrade);
        Assert.True(File.Exists(own) && !File.Exists(half));
        Assert.Equal(clock.Now, all[0].At);
    }

    [Fact]
    public async Task Before_a_newer_one_brings_a_database_along_it_is_kept_as_it_was()
    {
        DatabaseFile.Make(DatabasePath, 30);
        var older = DatabaseFile.Everything(DatabasePath);
        await using (var services = new ServiceCollection().AddLogging().AddRooms(new Options { Data = data }).BuildServiceProvider())
        {
            Assert.Empty(services.GetRequiredService<Footage>().Productions());
        }
        var kept = Assert.Single(
            Directory.GetFiles(Shelf),
            f => Path.GetFileName(f).StartsWith("before-upgrade-", StringComparison.Ordinal)
        );
        Assert.Equal(older, DatabaseFile.Everything(kept));
        Assert.Equal("30", DatabaseFile.Ask(kept, "PRAGMA user_version"));
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        await RunAsync("restore", "newest");
        Assert.Empty(Productions());
    }

    [Fact]
    public async Task Uploads_are_copied_beside_once_and_come_back_where_they_are_gone_and_copies_that_are_not_known_go()
    {
        Begun("Slack Water");
        var upload = Path.Combine(data, "footage", "day1", "A001.mov");
        var copy = Path.Combine(data, "copies", "7.mp3");
        foreach (var file in new[] { upload, copy })
        {
            Directory.CreateDirectory(Path.GetDirectoryName(file)!);
            await File.WriteAllTextAsync(file, "frames", TestContext.Current.CancellationToken);
        }
        var broken = Directory.CreateDirectory(Path.Combine(data, "footage", "day2")).FullName;
        await File.WriteAllTextAsync(Path.Combine(broken, "B.mov"), "half", TestContext.Current.CancellationToken);
        await File.WriteAllTextAsync(Path.Combine(broken, DataFolder.Uploading), "", TestContext.Current.CancellationToken);
        Assert.Contains("uploads: 1 file copied, 0 there already", await RunAsync("backup", "--with-uploads"), StringComparison.Ordinal);
        Assert.Contains("uploads: 0 files copied, 1 there already", await RunAsync("backup", "--with-uploads"), StringComparison.Ordinal);
        File.Delete(upload);
        Assert.Contains("uploads: 1 file brought back", await RunAsync("restore", "newest"), StringComparison.Ordinal);
        Assert.Equal("frames", await File.ReadAllTextAsync(upload, TestContext.Current.CancellationToken));
        Assert.False(File.Exists(copy));
    }

    [Fact]
    public async Task On_the_page_one_is_made_at_a_press_and_the_hours_are_chosen()
    {
        await using var server = await RunningServer.StartAsync(data, demo: false);
        using var client = new HttpClient { BaseAddress = new Uri(server.Address) };
        var cancel = TestContext.Current.CancellationToken;
        Assert.Contains("No backup is there yet", await PageAsync(), StringComparison.Ordinal);
        Assert.Contains("Saved", await PostAsync("Backup"), StringComparison.Ordinal);
        Assert.Contains(Path.GetFileName(Assert.Single(Directory.GetFiles(Shelf))), await PageAsync(), StringComparison.Ordinal);
        Assert.Contains("<option value=\"24\" selected", await PostAsync("Backups", ("hours", "24")), StringComparison.Ordinal);
        // A folder that can not be written to: the reason stands there.
        Directory.Delete(Shelf, recursive: true);
        await File.WriteAllTextAsync(Shelf, "in the way", cancel);
        Assert.Contains("No backup could be made in", await PostAsync("Backup"), StringComparison.Ordinal);

        Task<string> PageAsync() => client.GetStringAsync(new Uri("/settings", UriKind.Relative), cancel);

        async Task<string> PostAsync(string handler, params (string Name, string Value)[] fields)
        {
            var token = System.Text.RegularExpressions.Regex.Match(
                await PageAsync(),
                "__RequestVerificationToken\" type=\"hidden\" value=\"([^\"]+)\""
            );
            using var answer = await client.PostAsync(
                new Uri($"/settings?handler={handler}", UriKind.Relative),
                new FormUrlEncodedContent(
                    fields
                        .Append((Name: "__RequestVerificationToken", Value: token.Groups[1].Value))
                        .Select(f => KeyValuePair.Create(f.Name, f.Value))
                ),
                cancel
            );
            return await answer.Content.ReadAsStringAsync(cancel);
        }
    }

    [Theory]
    [InlineData("people")]
    [InlineData("models")]
    [InlineData("rebuild")]
    [InlineData("find", "water")]
    public async Task A_command_keeps_an_older_database_as_it_was_before_it_brings_it_along(params string[] command)
    {
        DatabaseFile.Make(DatabasePath, 30);
        await RunAsync(command);
        var kept = Assert.Single(Directory.EnumerateFiles(Shelf), f => f.Contains("before-upgrade", StringComparison.Ordinal));
        Assert.Equal("30", DatabaseFile.Ask(kept, "PRAGMA user_version"));
        await RunAsync(command);
        Assert.Single(Directory.EnumerateFiles(Shelf));
    }
}
