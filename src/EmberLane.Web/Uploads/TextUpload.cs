using System.Globalization;
using EmberLane.Core.Import;
using EmberLane.Engines;

namespace EmberLane.Web.Uploads;

/// <summary>Texts that come as a file or pasted: read in a thread of their own, for so long only, whatever they hold.</summary>
internal static class TextUpload
{
    private static readonly TimeSpan LongestReading = TimeSpan.FromSeconds(60);

    /// <summary>
    /// The text of a file, that of a Word document as lines, and the file's name; or what was pasted, under the name
    /// <c>pasted.txt</c>. Throws <see cref="FormatException"/> for one that is too large or can not be read.
    /// </summary>
    public static async Task<(string Name, string Text)> ReadAsync(IFormFile? file, string? pasted, CancellationToken cancel)
    {
        if (file is null)
        {
            return ("pasted.txt", pasted ?? "");
        }
        if (file.Length > TextFiles.MostBytes)
        {
            throw new FormatException("The file is larger than 20 MB, which no text of a production is.");
        }
        using var held = new MemoryStream();
        await file.CopyToAsync(held, cancel);
        var name = Upload.SafeName(file.FileName) ?? "text.txt";
        if (!IsWord(name))
        {
            return (name, TextFiles.Decode(held.ToArray()));
        }
        held.Position = 0;
        return (
            Path.ChangeExtension(name, ".txt"),
            await InTimeAsync(limit => Task.FromResult(WordDocument.ReadText(held, limit)), cancel)
        );
    }

    /// <summary>The ending by which a text is read: a Word document has become plain text.</summary>
    public static string ReadAs(string name) => IsWord(name) ? Path.ChangeExtension(name, ".txt") : name;

    private static bool IsWord(string name) => Path.GetExtension(name).Equals(".docx", StringComparison.OrdinalIgnoreCase);

    /// <summary>Throws <see cref="FormatException"/> when reading takes too long.</summary>
    public static async Task<T> InTimeAsync<T>(Func<CancellationToken, Task<T>> read, CancellationToken aborted)
    {
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(aborted);
        limit.CancelAfter(LongestReading);
        try
        {
            return await Task.Run(() => read(limit.Token), limit.Token).WaitAsync(limit.Token);
        }
        catch (OperationCanceledException) when (!aborted.IsCancellationRequested)
        {
            throw new FormatException(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"The text could not be read within {LongestReading.TotalSeconds} seconds and was left. Save it as plain text (.txt) "
                        + $"and bring that."
                )
            );
        }
    }
}
