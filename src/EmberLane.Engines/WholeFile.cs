namespace EmberLane.Engines;

/// <summary>A file that is whole or not there.</summary>
public static class WholeFile
{
    /// <summary>
    /// Has a file made under another name beside <paramref name="output"/> and moves it there; what was made of it when
    /// <paramref name="make"/> throws is gone.
    /// </summary>
    public static async Task MakeAsync(string output, Func<string, Task> make)
    {
        var part = FormattableString.Invariant($"{output}.{Guid.NewGuid():N}.part");
        try
        {
            await make(part);
            File.Move(part, output, overwrite: true);
        }
        finally
        {
            File.Delete(part);
        }
    }
}
