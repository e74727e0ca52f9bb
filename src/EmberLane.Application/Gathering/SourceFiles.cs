using EmberLane.Store;

namespace EmberLane.Application.Gathering;

/// <summary>
/// The files of sources as they are opened. Each time the path is looked at anew: it lies in a footage folder, no link leads out of there,
/// and it is the regular file of that size that was brought in. What was allowed yesterday may be a link to something else today.
/// </summary>
public sealed class SourceFiles(FootageFolders folders)
{
    /// <summary>
    /// The file's path without links. Throws <see cref="FileNotFoundException"/> with a sentence when it is gone, elsewhere, or something
    /// else by now.
    /// </summary>
    public string Open(Source source)
    {
        if (folders.Allowed(source.Path) is not { } real)
        {
            throw new FileNotFoundException(
                $"{source.Path} does not lie in a footage folder. Start Ember Lane with --footage and its folder, then try again."
            );
        }
        var file = new FileInfo(real);
        if (!file.Exists)
        {
            throw new FileNotFoundException(
                $"{source.Name} is no longer at {source.Path}. Find it again under All files in Gather, then try again."
            );
        }
        // Pipes and devices have no size; what was brought in has one.
        if (file.Length != source.Size || source.State == FileState.Replaced)
        {
            throw new FileNotFoundException(
                $"{source.Path} holds something else than when {source.Name} was brought in. Find the first file again under All files in "
                    + "Gather, then try again."
            );
        }
        return real;
    }

    /// <summary>As <see cref="Open"/>, or null.</summary>
    public string? Find(Source source)
    {
        try
        {
            return Open(source);
        }
        catch (FileNotFoundException)
        {
            return null;
        }
    }
}
