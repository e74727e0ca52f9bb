using System.Runtime.InteropServices;
using EmberLane.Core.Media;
using EmberLane.Core.Speech;

namespace EmberLane.Engines.Speech;

/// <summary>Makes the sound that is recognised: 16 kHz, raw, one channel; several mics are mixed so that the near one leads.</summary>
public static class ReadingSound
{
    /// <summary>Whole or not there: written beside <paramref name="output"/> and moved. Memory does not grow with the file.</summary>
    public static async Task MakeAsync(string path, SourceFacts facts, string output, CancellationToken cancel)
    {
        var channels = facts.Sound[0].Channels;
        if (channels == 1)
        {
            await Ffmpeg.DecodeMonoAsync(path, facts, null, QuietCut.SampleRate, output, cancel);
            return;
        }
        string all = output + ".all", part = output + ".part";
        try
        {
            await Ffmpeg.DecodeChannelsAsync(path, facts, QuietCut.SampleRate, all, cancel);
            await using (var from = File.OpenRead(all))
            await using (var to = File.Create(part))
            {
                var mix = new ReadingMix(channels);
                var buffer = new byte[QuietCut.SampleRate * channels * 2];
                int got;
                while ((got = await from.ReadAtLeastAsync(buffer, buffer.Length, throwOnEndOfStream: false, cancel)) > 0)
                {
                    await to.WriteAsync(MemoryMarshal.AsBytes(mix.Mix(MemoryMarshal.Cast<byte, short>(buffer.AsSpan(0, got))).AsSpan()).ToArray(), cancel);
                }
            }
            File.Move(part, output, overwrite: true);
        }
        finally
        {
            File.Delete(all);
            File.Delete(part);
        }
    }
}
