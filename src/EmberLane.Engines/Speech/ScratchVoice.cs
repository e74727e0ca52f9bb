using System.Buffers.Binary;
using System.Globalization;

namespace EmberLane.Engines.Speech;

/// <summary>
/// Stands in for a narrator: Debian's flite reads words aloud, so that a story can be heard before its lines are recorded. It is a machine,
/// and everything that shows it says so.
/// </summary>
public static class ScratchVoice
{
    private const string Program = "flite",
        Voice = "slt";

    /// <summary>flite writes 16-bit mono at so many samples a second.</summary>
    private const int Rate = 16_000;

    /// <summary>It reads up to twice as fast, or half as fast, as it would; beyond that nobody follows.</summary>
    private const double Fastest = 0.5,
        Slowest = 2;

    // Nearer than this nobody hears the difference.
    private const double Near = 0.02;

    private static readonly TimeSpan Limit = TimeSpan.FromMinutes(2);

    /// <summary>Whether the program is installed.</summary>
    public static bool IsThere => Programs.Find(Program) is not null;

    /// <summary>
    /// Writes a WAV file of the words, as near to a length as the voice goes. Throws <see cref="ToolException"/> when the program is
    /// missing or fails.
    /// </summary>
    public static async Task MakeAsync(string words, MediaTime lasting, string path, CancellationToken cancel)
    {
        var text = path + ".txt";
        try
        {
            await File.WriteAllTextAsync(text, words, cancel);
            var own = await ReadAsync(text, path, 1, cancel);
            var stretch = own == MediaTime.Zero ? 1 : Math.Clamp((double)lasting.Units / own.Units, Fastest, Slowest);
            if (Math.Abs(stretch - 1) > Near)
            {
                await ReadAsync(text, path, stretch, cancel);
            }
        }
        finally
        {
            File.Delete(text);
        }
    }

    // The words come in a file: what begins with a hyphen is no argument then.
    private static async Task<MediaTime> ReadAsync(string text, string path, double stretch, CancellationToken cancel)
    {
        var by = stretch.ToString("0.000", CultureInfo.InvariantCulture);
        await Tool.ReadAsync(Program, ["-voice", Voice, "--setf", $"duration_stretch={by}", "-f", text, "-o", path], Limit, cancel);
        return MediaTime.FromSamples(WholeSound(path) / sizeof(short), Rate);
    }

    // The bytes of sound in what was written. flite says that all went well also where the disk was full: its head tells what should be
    // there.
    private static long WholeSound(string path)
    {
        using var file = File.OpenRead(path);
        var head = new byte[WaveHead.Bytes];
        return
            file.ReadAtLeast(head, head.Length, throwOnEndOfStream: false) == head.Length
            && BinaryPrimitives.ReadUInt32LittleEndian(head.AsSpan(4)) + 8L == file.Length
            ? file.Length - head.Length
            : throw new ToolException("flite did not write all of its sound. Is the disk full?");
    }
}
