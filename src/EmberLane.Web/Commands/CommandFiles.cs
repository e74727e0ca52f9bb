namespace EmberLane.Web.Commands;

/// <summary>Files that commands read.</summary>
internal static class CommandFiles
{
    /// <summary>All of a file. Throws <see cref="FormatException"/> where there is none, or it is too large.</summary>
    public static byte[] Bytes(string file, long most)
    {
        var info = new FileInfo(file);
        return !info.Exists ? throw new FormatException("There is no such file.")
            : info.Length > most ? throw new FormatException(FormattableString.Invariant($"The file is larger than {most >> 20} MB."))
            : File.ReadAllBytes(file);
    }

    /// <summary>Writes a file whole or not at all. Throws <see cref="IOException"/> with what to do.</summary>
    public static void Write(string file, byte[] bytes)
    {
        var part = Path.GetFullPath(file) + ".part";
        try
        {
            File.WriteAllBytes(part, bytes);
            File.Move(part, file, overwrite: true);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            File.Delete(part);
            throw new IOException($"{file} can not be written: {e.Message}", e);
        }
    }

    /// <summary>Reads one, and says which of the files it is that can not be read.</summary>
    public static T Named<T>(string file, Func<T> read)
    {
        try
        {
            return read();
        }
        catch (FormatException bad)
        {
            throw new ArgumentException($"{Path.GetFileName(file)}: {bad.Message}", bad);
        }
    }
}
