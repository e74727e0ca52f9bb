using System.Globalization;
using System.IO.Compression;
using EmberLane.Core.Handoff;
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
            return new FileContentResult(EdlWriter.Bytes(lists[0]), "application/octet-stream") { FileDownloadName = stem + ".edl" };
        }
        using var memory = new MemoryStream();
        using (var zip = new ZipArchive(memory, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (i, text) in lists.Index())
            {
                using var entry = zip.CreateEntry(string.Create(CultureInfo.InvariantCulture, $"{stem}_{i + 1}.edl")).Open();
                entry.Write(EdlWriter.Bytes(text));
            }
        }
        return new FileContentResult(memory.ToArray(), "application/zip") { FileDownloadName = stem + "_edl.zip" };
    }
}
