using System.Globalization;
using System.IO.Compression;
using System.Text;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Rooms;

/// <summary>Decision lists as a file to be taken: one alone, or several in an archive.</summary>
public static class EdlFiles
{
    /// <summary>Of at least one list, under a name without an ending.</summary>
    public static FileContentResult Of(IReadOnlyList<string> lists, string stem)
    {
        if (lists.Count == 1)
        {
            return new FileContentResult(Encoding.ASCII.GetBytes(Ascii(lists[0])), "application/octet-stream")
            {
                FileDownloadName = stem + ".edl",
            };
        }
        using var memory = new MemoryStream();
        using (var zip = new ZipArchive(memory, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (i, text) in lists.Index())
            {
                using var entry = zip.CreateEntry(string.Create(CultureInfo.InvariantCulture, $"{stem}_{i + 1}.edl")).Open();
                entry.Write(Encoding.ASCII.GetBytes(Ascii(text)));
            }
        }
        return new FileContentResult(memory.ToArray(), "application/zip") { FileDownloadName = stem + "_edl.zip" };
    }

    // Programs that read such lists expect ASCII: letters with marks lose them, others become a question mark.
    private static string Ascii(string text) =>
        string.Concat(
            text.Normalize(NormalizationForm.FormD).Where(c => CharUnicodeInfo.GetUnicodeCategory(c) != UnicodeCategory.NonSpacingMark)
        );
}
