using System.Buffers.Binary;
using System.Globalization;
using System.Security;
using System.Text;
using System.Text.Json;
using EmberLane.Engines;

namespace EmberLane.Application.Demo;

/// <summary>
/// Lays the demonstration's recorder channels into the polyphonic Broadcast WAV that a recorder writes, with time reference and iXML track
/// names.
/// </summary>
internal static class RecorderFile
{
    private const int Rate = 48_000;

    public static async Task WriteAsync(string sheetPath, string folder, CancellationToken cancel)
    {
        using var sheet = JsonDocument.Parse(await File.ReadAllTextAsync(sheetPath, cancel));
        var channels = sheet
            .RootElement.GetProperty("channels")
            .EnumerateArray()
            .Select(c => (Name: c.GetProperty("name").GetString()!, File: c.GetProperty("file").GetString()!))
            .ToList();
        var target = Path.Combine(folder, sheet.RootElement.GetProperty("file").GetString()!);
        var midnight = new TimecodeCount(FrameRate.R25, false).Parse(sheet.RootElement.GetProperty("startsAt").GetString()!);
        var samples = FrameRate.R25.TimeOf(midnight.Frame).ToSamplesFloor(Rate);
        var part = target + ".part";
        await Tool.ReadAsync(
            "ffmpeg",
            [
                "-v",
                "error",
                "-nostdin",
                "-y",
                .. channels.SelectMany(c => new[] { "-i", Path.Combine(Path.GetDirectoryName(sheetPath)!, c.File) }),
                "-filter_complex",
                string.Concat(channels.Select((_, i) => FormattableString.Invariant($"[{i}:a]")))
                    + FormattableString.Invariant($"amerge=inputs={channels.Count}[a]"),
                "-map",
                "[a]",
                "-c:a",
                "pcm_s16le",
                "-write_bext",
                "1",
                "-metadata",
                "originator=Made-up Recorder",
                "-metadata",
                string.Create(CultureInfo.InvariantCulture, $"time_reference={samples}"),
                "-f",
                "wav",
                part,
            ],
            TimeSpan.FromMinutes(2),
            cancel
        );
        await AppendTrackNamesAsync(part, channels.Select(c => c.Name).ToList(), cancel);
        File.Move(part, target, overwrite: true);
    }

    // A chunk at the file's end; the RIFF size at its start then counts it too.
    private static async Task AppendTrackNamesAsync(string path, List<string> names, CancellationToken cancel)
    {
        var tracks = string.Concat(
            names.Select(
                (n, i) =>
                    FormattableString.Invariant(
                        $"<TRACK><CHANNEL_INDEX>{i + 1}</CHANNEL_INDEX><NAME>{SecurityElement.Escape(n)}</NAME></TRACK>"
                    )
            )
        );
        var xml = Encoding.UTF8.GetBytes($"<?xml version=\"1.0\" encoding=\"UTF-8\"?><BWFXML><TRACK_LIST>{tracks}</TRACK_LIST></BWFXML>");
        await using var file = new FileStream(path, FileMode.Open, FileAccess.ReadWrite);
        file.Seek(0, SeekOrigin.End);
        var head = new byte[8];
        "iXML"u8.CopyTo(head);
        BinaryPrimitives.WriteInt32LittleEndian(head.AsSpan(4), xml.Length);
        await file.WriteAsync(head, cancel);
        await file.WriteAsync(xml, cancel);
        if (xml.Length % 2 == 1)
        {
            file.WriteByte(0);
        }
        var size = new byte[4];
        BinaryPrimitives.WriteUInt32LittleEndian(size, (uint)(file.Length - 8));
        file.Position = 4;
        await file.WriteAsync(size, cancel);
    }
}
