using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Store;
using EmberLane.Store.Exports;

namespace EmberLane.Application.Exports;

/// <summary>Gives a production away whole, and brings one in.</summary>
public sealed class ProductionMoves(
    Database database,
    Store.Transcripts transcripts,
    Footage footage,
    Jobs jobs,
    Options options,
    IDiskSpace disk,
    TimeProvider time
)
{
    private const long Reserve = 512L << 20;

    /// <summary>What the file of an export is called.</summary>
    public static string FileName(Production production) => Core.Handoff.HandedStory.StemOf(production.Name) + ".ember.zip";

    /// <summary>
    /// Writes a production to a file, whole or not at all; returns how many rows it has. Throws
    /// <see cref="Core.EditRefusedException"/> where it can not be given away.
    /// </summary>
    public async Task<long> WriteAsync(long production, string path)
    {
        long rows = 0;
        await Engines.WholeFile.MakeAsync(
            path,
            part =>
            {
                using var output = new FileStream(part, FileMode.CreateNew, FileAccess.ReadWrite);
                File.SetUnixFileMode(part, UnixFileMode.UserRead | UnixFileMode.UserWrite);
                rows = ProductionExport.Write(database, production, time.GetUtcNow(), output);
                output.Flush(flushToDisk: true);
                return Task.CompletedTask;
            }
        );
        return rows;
    }

    /// <summary>
    /// Brings in what was given away elsewhere, and has its files looked for by their content, in all folders of footage. Throws
    /// <see cref="StoreException"/> with a sentence; then nothing was changed.
    /// </summary>
    public ImportedProduction Bring(Stream export)
    {
        var folder = Path.Combine(options.Data, "cache", FormattableString.Invariant($"import-{Guid.NewGuid():N}.part"));
        bool IsFull() => disk.FreeBytes(options.Data) < Reserve;
        if (IsFull())
        {
            throw new StoreException($"The disk of {options.Data} is nearly full. Make room, then bring it in again; nothing was changed.");
        }
        Directory.CreateDirectory(folder);
        try
        {
            var imported = new ProductionImport(database, transcripts, time).Run(export, folder, IsFull);
            if (footage.Sources(imported.Id).Count > 0)
            {
                jobs.Add(imported.Id, WorkKinds.Find, imported.Id, $"Files of {imported.Name} looked for");
            }
            return imported;
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }
}
