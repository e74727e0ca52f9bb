using System.Diagnostics;
using System.Globalization;
using EmberLane.Core.Import;
using EmberLane.Engines;
using EmberLane.Running;

namespace EmberLane.Bench;

/// <summary>Drills that try to lose something or to hold the machine: kills at random moments, hostile files, inputs with faults.</summary>
internal static class Drills
{
    private const int Kills = 1_000,
        Told = 100,
        EachMigration = 10,
        FuzzedInputs = 1_000_000;

    public static async Task CrashAsync()
    {
        using var drill = new CrashDrill(Environment.TickCount);
        for (var n = 1; n <= Kills; n++)
        {
            await (n % EachMigration == 0 ? drill.KillMigratingAsync() : drill.KillOnceAsync());
            if (n % Told == 0)
            {
                Console.WriteLine(
                    $"crash: {n} kills, {drill.KilledInImports} of them during an import, {drill.KilledInMigrations} while a database was "
                        + $"brought along; {drill.Acknowledged} changes acknowledged, none lost, nothing half made shown; "
                        + $"{drill.BackedUp} backups acknowledged, none of those that are there is not whole"
                );
            }
        }
    }

    public static void Fuzz()
    {
        var watch = Stopwatch.StartNew();
        var fuzzer = new Fuzzer(Environment.TickCount);
        var found = fuzzer.Run(FuzzedInputs, TimeSpan.FromSeconds(5));
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"fuzz: {FuzzedInputs} inputs with faults to {fuzzer.Count} readers in {watch.Elapsed.TotalSeconds:0} s, {found.Count} "
                    + $"that were neither read nor refused; at most {Process.GetCurrentProcess().PeakWorkingSet64 >> 20} MiB"
            )
        );
        foreach (var finding in found)
        {
            Console.WriteLine($"  {finding.Reader}: {finding.Outcome}: {Convert.ToBase64String(finding.Input)}");
        }
    }

    public static async Task HostileAsync()
    {
        var folder = Directory.CreateTempSubdirectory("ember-hostile").FullName;
        try
        {
            foreach (var (name, content) in HostileFiles.PlayLists("/etc/hostname").Concat(HostileFiles.BrokenMedia()))
            {
                var path = Path.Combine(folder, name);
                await File.WriteAllBytesAsync(path, content);
                await TellAsync(name, content.Length, async () => await MediaProbe.MeasureAsync(path, CancellationToken.None));
            }
            foreach (var (name, make) in HostileFiles.Texts())
            {
                var content = make();
                await TellAsync(
                    name,
                    content.Length,
                    () =>
                    {
                        _ = name.EndsWith(".docx", StringComparison.Ordinal)
                            ? TextFiles.Read("a.txt", WordDocument.ReadText(new MemoryStream(content)))
                            : TextFiles.Read(name, content);
                        return Task.CompletedTask;
                    }
                );
            }
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private static async Task TellAsync(string name, int bytes, Func<Task> read)
    {
        var watch = Stopwatch.StartNew();
        var before = GC.GetTotalAllocatedBytes();
        string outcome;
        try
        {
            await read();
            outcome = "read";
        }
        catch (Exception refused) when (refused is FormatException or UnreadableMediaException)
        {
            outcome = refused.Message;
        }
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"hostile: {name,-14} {bytes,10} bytes {watch.Elapsed.TotalSeconds,6:0.00} s "
                    + $"{(GC.GetTotalAllocatedBytes() - before) >> 20,5} MiB allocated: {outcome}"
            )
        );
    }
}
