using EmberLane.Store;

namespace EmberLane.Application.Gathering;

/// <summary>Tells whether the files of a production are where they were, with what they held.</summary>
public sealed class FilesCheck(Footage footage, FootageFolders folders)
{
    /// <summary>Whether a quick look at the disk finds anything other than what is known; cheap enough for every few minutes.</summary>
    public bool LooksChanged(long productionId) => footage.Sources(productionId).Any(s => !QuickAgrees(s));

    /// <summary>
    /// Looks at every file, reads those whose date changed, and notes what came of it. Returns how many are missing and replaced.
    /// </summary>
    public async Task<(int Missing, int Replaced)> RunAsync(long productionId, Action<int, int, string> progress, CancellationToken cancel)
    {
        var sources = footage.Sources(productionId);
        int missing = 0,
            replaced = 0;
        foreach (var (source, i) in sources.Select((s, i) => (s, i)))
        {
            progress(i, sources.Count, source.Name);
            var (state, modified) = await LookAsync(source, cancel);
            missing += state == FileState.Missing ? 1 : 0;
            replaced += state == FileState.Replaced ? 1 : 0;
            if (state != source.State || modified != source.Modified)
            {
                footage.SetState(source.Id, state, modified);
            }
        }
        return (missing, replaced);
    }

    private bool QuickAgrees(Source source)
    {
        if (folders.Allowed(source.Path) is null)
        {
            return !FootageFolders.IsLinked(source.Path) || source.State == FileState.Missing;
        }
        var file = new FileInfo(source.Path);
        return source.State switch
        {
            FileState.Missing => !file.Exists,
            FileState.Replaced => file.Exists && (file.Length != source.Size || Intake.Modified(file) == source.Modified),
            _ => file.Exists && file.Length == source.Size && Intake.Modified(file) == source.Modified,
        };
    }

    private async Task<(FileState State, long Modified)> LookAsync(Source source, CancellationToken cancel)
    {
        if (folders.Allowed(source.Path) is null)
        {
            // Nothing outside is read. A link that leads there now is not the file; a folder that was not named at this start may hold it
            // as ever.
            return (FootageFolders.IsLinked(source.Path) ? FileState.Missing : source.State, source.Modified);
        }
        var file = new FileInfo(source.Path);
        if (!file.Exists)
        {
            return (FileState.Missing, source.Modified);
        }
        var modified = Intake.Modified(file);
        if (file.Length != source.Size)
        {
            return (FileState.Replaced, modified);
        }
        try
        {
            // The same size and date as when it was last read: nobody has written to it.
            var same =
                (modified == source.Modified && source.State == FileState.Here)
                || await Fingerprint.OfAsync(source.Path, cancel) == source.Fingerprint;
            return (same ? FileState.Here : FileState.Replaced, modified);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            return (FileState.Missing, source.Modified);
        }
    }
}
