using System.Runtime.InteropServices;
using EmberLane.Core.Speech;
using EmberLane.Core.Tidy;

namespace EmberLane.Engines.Speech;

/// <summary>
/// Raw 16-bit mono samples in a file, read in parts so that memory does not grow with its length. Little-endian, as this machine is.
/// </summary>
public static class PcmFile
{
    private const int Chunk = SilenceSegmenter.SampleRate * 10;

    /// <summary>Energy of each 10 ms of 16 kHz sound.</summary>
    public static float[] Energy(string path)
    {
        using var file = File.OpenRead(path);
        var energy = new List<float>();
        var buffer = new byte[Chunk * 2];
        int got;
        while ((got = file.ReadAtLeast(buffer, buffer.Length, throwOnEndOfStream: false)) > 1)
        {
            energy.AddRange(SilenceSegmenter.Energy(MemoryMarshal.Cast<byte, short>(buffer.AsSpan(0, got))));
        }
        return [.. energy];
    }

    /// <summary>How steady each 10 ms of 16 kHz sound is (<see cref="SteadyVoice"/>).</summary>
    public static float[] Steady(string path)
    {
        // A part is read with what lies around it, so that it does not matter where parts end.
        const int around = SilenceSegmenter.SampleRate / 10,
            steps = around * Step.PerSecond / SilenceSegmenter.SampleRate;
        using var file = File.OpenRead(path);
        var steady = new List<float>();
        var buffer = new byte[(Chunk + (2 * around)) * 2];
        for (var from = 0L; from * 2 < file.Length; from += Chunk)
        {
            var before = from == 0 ? 0 : around;
            file.Position = (from - before) * 2;
            var got = file.ReadAtLeast(buffer.AsSpan(0, (Chunk + around + before) * 2), (Chunk + around + before) * 2, false);
            var part = SteadyVoice.Of(MemoryMarshal.Cast<byte, short>(buffer.AsSpan(0, got & ~1)));
            var first = before == 0 ? 0 : steps;
            steady.AddRange(part.Skip(first).Take(Chunk * Step.PerSecond / SilenceSegmenter.SampleRate));
        }
        return [.. steady];
    }

    /// <summary>All samples; two bytes of memory each.</summary>
    public static short[] ReadSamples(string path) => MemoryMarshal.Cast<byte, short>(File.ReadAllBytes(path)).ToArray();

    /// <summary>All samples as −1..1.</summary>
    public static float[] ReadAll(string path) => Array.ConvertAll(ReadSamples(path), s => s / 32768f);

    /// <summary>
    /// The samples of a WAV file as <see cref="WriteWavAsync"/> writes it. Throws <see cref="InvalidDataException"/> for any other.
    /// </summary>
    public static short[] ReadWav(string path)
    {
        var bytes = File.ReadAllBytes(path);
        return
            bytes.Length >= WaveHead.Bytes
            && bytes.AsSpan(0, WaveHead.Bytes).SequenceEqual(WaveHead.Of(SilenceSegmenter.SampleRate, 1, bytes.Length - WaveHead.Bytes))
            ? MemoryMarshal.Cast<byte, short>(bytes.AsSpan(WaveHead.Bytes)).ToArray()
            : throw new InvalidDataException($"{Path.GetFileName(path)} is not a 16 kHz WAV of one channel.");
    }

    /// <summary>How long a WAV file as <see cref="WriteWavAsync"/> writes it lasts.</summary>
    public static MediaTime LengthOfWav(string path) =>
        MediaTime.FromSamples(Math.Max(0, new FileInfo(path).Length - WaveHead.Bytes) / sizeof(short), SilenceSegmenter.SampleRate);

    /// <summary>Writes samples as raw sound.</summary>
    public static async Task WriteAsync(string path, ReadOnlyMemory<short> samples, CancellationToken cancel) =>
        await File.WriteAllBytesAsync(path, MemoryMarshal.AsBytes(samples.Span).ToArray(), cancel);

    /// <summary>
    /// Writes samples from first to end (exclusive, cut at the file's end) as a 16 kHz WAV file; streams. Beyond 4 GiB the file is RF64.
    /// </summary>
    public static async Task WriteWavAsync(string path, long first, long end, string wavPath, CancellationToken cancel)
    {
        await using FileStream file = File.OpenRead(path),
            wav = File.Create(wavPath);
        await wav.WriteAsync(
            WaveHead.Of(SilenceSegmenter.SampleRate, 1, Math.Max(0, (Math.Min(end * 2, file.Length) - (first * 2)) & ~1L)),
            cancel
        );
        await CopyAsync(file, first, end, wav, cancel);
    }

    /// <summary>Copies the raw samples from first to end (exclusive, cut at the file's end) into a file of their own; streams.</summary>
    public static async Task WritePartAsync(string path, long first, long end, string output, CancellationToken cancel)
    {
        await using FileStream file = File.OpenRead(path),
            part = File.Create(output);
        await CopyAsync(file, first, end, part, cancel);
    }

    private static async Task CopyAsync(FileStream file, long first, long end, FileStream part, CancellationToken cancel)
    {
        file.Position = first * 2;
        var buffer = new byte[Chunk];
        for (var left = (Math.Min(end * 2, file.Length) & ~1L) - file.Position; left > 0;)
        {
            var got = await file.ReadAsync(buffer.AsMemory(0, (int)Math.Min(buffer.Length, left)), cancel);
            if (got == 0)
            {
                break;
            }
            await part.WriteAsync(buffer.AsMemory(0, got), cancel);
            left -= got;
        }
    }
}
