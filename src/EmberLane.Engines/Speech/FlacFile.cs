using System.Runtime.InteropServices;
using EmberLane.Core.Speech;

namespace EmberLane.Engines.Speech;

/// <summary>
/// Sound for recognising as FLAC, which takes about half as much and loses nothing, by the Debian package libsndfile1. In this process:
/// a program for each piece would take longer to start than this does.
/// </summary>
public static partial class FlacFile
{
    private const string Library = "libsndfile.so.1",
        NotThere = "The Debian package libsndfile1 is not installed. Install it, then start this again.";

    private const int ForReading = 0x10,
        ForWriting = 0x20,
        Flac16 = 0x17_0002,
        Block = 65_536;

    /// <summary>What libsndfile calls SF_INFO.</summary>
    [StructLayout(LayoutKind.Sequential)]
    private struct Form
    {
        public long Frames;
        public int Rate;
        public int Channels;
        public int Format;
        public int Sections;
        public int CanSeek;
    }

    /// <summary>
    /// Writes a 16 kHz mono WAV file as FLAC. Throws <see cref="ToolException"/> where it can not be read or written, or the library is not
    /// there.
    /// </summary>
    public static void Encode(string wavPath, string flacPath) =>
        Read(
            wavPath,
            (samples, _) =>
            {
                var form = new Form
                {
                    Rate = SilenceSegmenter.SampleRate,
                    Channels = 1,
                    Format = Flac16,
                };
                var write = sf_open(flacPath, ForWriting, ref form);
                try
                {
                    foreach (var block in samples)
                    {
                        if (write == 0 || sf_write_short(write, block.Array!, block.Count) != block.Count)
                        {
                            throw new ToolException($"{Path.GetFileName(flacPath)} could not be written: is the disk full?");
                        }
                    }
                }
                finally
                {
                    Close(write);
                }
            }
        );

    /// <summary>
    /// Writes such a FLAC file as WAV again, with the same samples. Throws as <see cref="Encode"/>, also for another kind of sound.
    /// </summary>
    public static void Decode(string flacPath, string wavPath) =>
        Read(
            flacPath,
            (samples, count) =>
            {
                using var wav = File.Create(wavPath);
                wav.Write(WaveHead.Of(SilenceSegmenter.SampleRate, 1, count * sizeof(short)));
                var written = 0L;
                foreach (var block in samples)
                {
                    wav.Write(MemoryMarshal.AsBytes(block.AsSpan()));
                    written += block.Count;
                }
                if (written != count)
                {
                    throw new ToolException($"{Path.GetFileName(flacPath)} ends before its end.");
                }
            }
        );

    // Gives the samples block by block, and how many they are.
    private static void Read(string path, Action<IEnumerable<ArraySegment<short>>, long> take)
    {
        try
        {
            var form = default(Form);
            var read = sf_open(path, ForReading, ref form);
            try
            {
                if (read == 0 || form.Rate != SilenceSegmenter.SampleRate || form.Channels != 1)
                {
                    throw new ToolException($"{Path.GetFileName(path)} is no sound of one channel at 16 kHz.");
                }
                take(Blocks(read), form.Frames);
            }
            finally
            {
                Close(read);
            }
        }
        catch (DllNotFoundException missing)
        {
            throw new ToolException(NotThere, missing);
        }
    }

    private static IEnumerable<ArraySegment<short>> Blocks(nint read)
    {
        var block = new short[Block];
        long got;
        while ((got = sf_read_short(read, block, block.Length)) > 0)
        {
            yield return new ArraySegment<short>(block, 0, (int)got);
        }
    }

    private static void Close(nint file)
    {
        if (file != 0)
        {
            _ = sf_close(file);
        }
    }

    [LibraryImport(Library, StringMarshalling = StringMarshalling.Utf8)]
    private static partial nint sf_open(string path, int mode, ref Form form);

    [LibraryImport(Library)]
    private static partial long sf_read_short(nint file, [Out] short[] samples, long count);

    [LibraryImport(Library)]
    private static partial long sf_write_short(nint file, [In] short[] samples, long count);

    [LibraryImport(Library)]
    private static partial int sf_close(nint file);
}
