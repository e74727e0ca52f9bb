using System.Runtime.InteropServices;
using EmberLane.Core.Media;
using EmberLane.Core.Sync;

namespace EmberLane.Engines.Sync;

/// <summary>Decodes a file to the one channel that sync compares.</summary>
public static class SyncSound
{
    private const int Part = SoundMatch.SampleRate * 10 * 2;

    /// <summary>Below this share of the first channel's power the mix of all has cancelled itself out.</summary>
    private const double Cancelled = 0.02;

    /// <summary>As <see cref="DecodeAsync"/>, into <paramref name="output"/>, opened for reading; the caller disposes it.</summary>
    public static async Task<PcmSound> OpenAsync(string path, SourceFacts facts, string output, CancellationToken cancel)
    {
        await DecodeAsync(Path.GetFullPath(path), facts, output, cancel);
        return new PcmSound(output);
    }

    /// <summary>
    /// All channels mixed, as 16-bit samples at <see cref="SoundMatch.SampleRate"/> in <paramref name="output"/>; where they cancel each
    /// other (one wired in opposite phase), the first channel alone. Streams: memory does not grow with the file. Throws
    /// <see cref="ToolException"/> when the sound can not be decoded.
    /// </summary>
    public static async Task DecodeAsync(string path, SourceFacts facts, string output, CancellationToken cancel)
    {
        if (facts.Sound[0].Channels == 1)
        {
            await Ffmpeg.DecodeMonoAsync(path, facts, null, SoundMatch.SampleRate, output, cancel);
            return;
        }
        string both = output + ".both",
            part = output + ".part";
        try
        {
            await Ffmpeg.DecodeMixAndFirstAsync(path, facts, SoundMatch.SampleRate, both, cancel);
            double mix = 0,
                first = 0;
            await foreach (var samples in ReadAsync(both, cancel))
            {
                for (var i = 0; i + 1 < samples.Length; i += 2)
                {
                    (mix, first) = (
                        mix + ((double)samples.Span[i] * samples.Span[i]),
                        first + ((double)samples.Span[i + 1] * samples.Span[i + 1])
                    );
                }
            }
            var channel = mix < Cancelled * first ? 1 : 0;
            await using (var to = File.Create(part))
            {
                await foreach (var samples in ReadAsync(both, cancel))
                {
                    var one = new short[samples.Length / 2];
                    for (var i = 0; i < one.Length; i++)
                    {
                        one[i] = samples.Span[(2 * i) + channel];
                    }
                    await to.WriteAsync(MemoryMarshal.AsBytes(one.AsSpan()).ToArray(), cancel);
                }
            }
            File.Move(part, output, overwrite: true);
        }
        finally
        {
            File.Delete(both);
            File.Delete(part);
        }
    }

    private static async IAsyncEnumerable<ReadOnlyMemory<short>> ReadAsync(
        string path,
        [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel
    )
    {
        await using var file = File.OpenRead(path);
        var buffer = new byte[Part * 2];
        int got;
        while ((got = await file.ReadAtLeastAsync(buffer, buffer.Length, throwOnEndOfStream: false, cancel)) > 0)
        {
            yield return MemoryMarshal.Cast<byte, short>(buffer.AsSpan(0, got)).ToArray();
        }
    }
}
