using System.Runtime.InteropServices;
using EmberLane.Core.Media;
using EmberLane.Core.Mics;
using EmberLane.Core.Speech;
using EmberLane.Core.Voices;

namespace EmberLane.Engines.Speech;

/// <summary>
/// A mic as the sound of a sitting is made of it: a channel of a file, counted through all its tracks, where the file lies, and whether it
/// goes into the mix or is only measured.
/// </summary>
public sealed record PlacedMic(string Path, SourceFacts Facts, ClockMap Place, int Channel, bool Heard);

/// <summary>
/// Makes the one sound of a sitting: its mics, from any of its files, on the sitting's clock, mixed so that the near one leads. Streams:
/// memory does not grow with length.
/// </summary>
public static class SittingSound
{
    /// <summary>Ends of each file that are kept back so that a run may reach a little behind.</summary>
    private const int Behind = 64;

    /// <summary>All channels of one file as mics, on the file's own clock.</summary>
    public static IReadOnlyList<PlacedMic> AllOf(string path, SourceFacts facts) =>
        [.. Enumerable.Range(0, facts.Channels).Select(c => new PlacedMic(path, facts, default, c, true))];

    /// <summary>From the first heard file's start to the last one's end, on the sitting's clock.</summary>
    public static SittingRange Extent(IReadOnlyList<PlacedMic> mics)
    {
        var fills = mics.Where(m => m.Heard).Select(m => m.Place.Fill(m.Facts.Duration)).ToList();
        return new SittingRange(fills.Min(f => f.In), fills.Max(f => f.Out));
    }

    /// <summary>
    /// The mix as raw 16-bit samples at 16 kHz in <paramref name="output"/>, whole or not there; and for each mic, in the order given, the
    /// mean square of its 10 ms steps. Both begin at <see cref="Extent"/>'s start. Throws <see cref="ToolException"/> when a file can not
    /// be decoded. <paramref name="progress"/> is told how far it got.
    /// </summary>
    public static async Task<IReadOnlyList<float[]>> MakeAsync(
        IReadOnlyList<PlacedMic> mics,
        string output,
        CancellationToken cancel,
        Action<MediaTime>? progress = null
    )
    {
        var energies = new ChannelEnergies(mics.Count);
        await WholeFile.MakeAsync(
            output,
            async part =>
            {
                await using var file = File.Create(part);
                await HearAsync(
                    mics,
                    SilenceSegmenter.SampleRate,
                    async (all, mix) =>
                    {
                        energies.Add(all);
                        await file.WriteAsync(Bytes(mix), cancel);
                    },
                    progress,
                    cancel
                );
            }
        );
        return energies.Rows;
    }

    /// <summary>
    /// The talk turn by turn as it is laid out for a recogniser: raw 16-bit samples at 16 kHz in <paramref name="output"/>, whole or not
    /// there. The files are read a second time, which takes far less than recognising them.
    /// </summary>
    public static Task MakeSpokenAsync(
        IReadOnlyList<PlacedMic> mics,
        SpokenLayout layout,
        string output,
        CancellationToken cancel,
        Action<MediaTime>? progress = null
    ) =>
        WholeFile.MakeAsync(
            output,
            async part =>
            {
                using var file = new SpokenFile(part, layout, mics.Count);
                await HearAsync(
                    mics,
                    SilenceSegmenter.SampleRate,
                    (all, mix) =>
                    {
                        file.Add(all, mix);
                        return Task.CompletedTask;
                    },
                    progress,
                    cancel
                );
            }
        );

    /// <summary>
    /// The mix at 48 kHz as a file that a browser plays; it begins at <see cref="Extent"/>'s start. Nothing is heard in the stretches of
    /// <paramref name="without"/>, which are in order and apart.
    /// </summary>
    public static Task MakePlayableAsync(
        IReadOnlyList<PlacedMic> mics,
        string output,
        Action<MediaTime>? progress,
        CancellationToken cancel,
        IReadOnlyList<SittingRange>? without = null
    )
    {
        const int rate = 48_000;
        var heard = mics.Where(m => m.Heard).ToList();
        var from = Extent(mics).In;
        var silent = (without ?? []).Select(r => (First: At(r.In), End: At(r.Out) + 1)).ToList();
        return Ffmpeg.EncodeSoundAsync(
            async (stream, stop) =>
            {
                long at = 0;
                await HearAsync(
                    heard,
                    rate,
                    async (_, mix) =>
                    {
                        foreach (var (first, end) in silent)
                        {
                            Silence(mix, first - at, end - at);
                        }
                        at += mix.Length;
                        await stream.WriteAsync(Bytes(mix), stop);
                    },
                    progress,
                    stop
                );
            },
            rate,
            output,
            cancel
        );

        long At(SittingTime moment) => MediaTime.Max(MediaTime.Zero, moment - from).ToSamplesFloor(rate);
    }

    private static void Silence(short[] samples, long first, long end)
    {
        var (from, to) = ((int)Math.Clamp(first, 0, samples.Length), (int)Math.Clamp(end, 0, samples.Length));
        samples.AsSpan(from, Math.Max(0, to - from)).Clear();
    }

    private static ReadOnlyMemory<byte> Bytes(short[] samples) => MemoryMarshal.AsBytes(samples.AsSpan()).ToArray();

    // The next samples of all mics, interleaved, and the mix of those that are heard.
    private delegate Task Heard(short[] all, short[] mix);

    private static async Task HearAsync(
        IReadOnlyList<PlacedMic> mics,
        int rate,
        Heard next,
        Action<MediaTime>? progress,
        CancellationToken cancel
    )
    {
        var extent = Extent(mics);
        var total = Exact.CeilingDivide((Int128)extent.Length.Units * rate, MediaTime.UnitsPerSecond);
        // A file's track is decoded once, whatever number of its channels is used.
        var tracks = mics.Select((mic, slot) => (mic, slot, at: mic.Facts.Locate(mic.Channel)))
            .GroupBy(m => (m.mic.Path, m.at.Track.Index, m.mic.Place))
            .Select(g => new Track(
                g.First().mic,
                g.First().at.Track,
                [.. g.Select(m => m.at.Channel)],
                [.. g.Select(m => m.slot)],
                extent.In,
                rate,
                cancel
            ))
            .ToList();
        var heard = Enumerable.Range(0, mics.Count).Where(i => mics[i].Heard).ToArray();
        var mix = new AutoMix(heard.Length, rate);
        try
        {
            for (long at = 0; at < total; at += rate)
            {
                var count = (int)Math.Min(rate, total - at);
                var all = new short[count * mics.Count];
                foreach (var track in tracks)
                {
                    await track.FillAsync(at, count, all, mics.Count, cancel);
                }
                if (tracks.All(t => t.IsOver))
                {
                    // The files claim to be longer than what they hold: nothing more comes.
                    break;
                }
                await next(all, mix.Mix(Only(all, mics.Count, heard)));
                progress?.Invoke(MediaTime.FromSamples(at, rate));
            }
        }
        finally
        {
            foreach (var track in tracks)
            {
                await track.DisposeAsync();
            }
        }
    }

    private static short[] Only(short[] all, int channels, int[] wanted)
    {
        if (wanted.Length == channels)
        {
            return all;
        }
        var kept = new short[all.Length / channels * wanted.Length];
        for (var i = 0; i < all.Length / channels; i++)
        {
            for (var c = 0; c < wanted.Length; c++)
            {
                kept[(i * wanted.Length) + c] = all[(i * channels) + wanted[c]];
            }
        }
        return kept;
    }

    // One track of one file, read in step with the sitting's clock.
    private sealed class Track(
        PlacedMic mic,
        SoundTrack track,
        int[] channels,
        int[] slots,
        SittingTime from,
        int rate,
        CancellationToken cancel
    ) : IAsyncDisposable
    {
        private readonly DecodedChannels samples = DecodedChannels.Open(mic.Path, track, channels, rate, cancel);
        private readonly DriftResampler clock = new(mic.Place, from, rate);
        private short[] held = [];
        private long heldFrom;
        private bool ended;

        /// <summary>Whether all that the file holds has been read.</summary>
        public bool IsOver => ended && held.Length == 0;

        public async Task FillAsync(long at, int count, short[] into, int width, CancellationToken stop)
        {
            var (position, step) = clock.Run(at, count);
            await HoldAsync((long)Math.Floor(position) - Behind, (long)Math.Ceiling(position + (step * count)) + 1, stop);
            var taken = new short[count * channels.Length];
            DriftResampler.Take(held, heldFrom, channels.Length, position, step, taken);
            for (var i = 0; i < count; i++)
            {
                for (var c = 0; c < slots.Length; c++)
                {
                    into[(i * width) + slots[c]] = taken[(i * channels.Length) + c];
                }
            }
        }

        // Afterwards the samples from first to end are held, as far as the file has them.
        private async Task HoldAsync(long first, long end, CancellationToken stop)
        {
            var n = channels.Length;
            await PassAsync(first, stop);
            var drop = (int)Math.Clamp(first - heldFrom, 0, held.Length / n);
            var missing = ended ? 0 : (int)Math.Max(0, end - heldFrom - (held.Length / n));
            if (drop == 0 && missing == 0)
            {
                return;
            }
            var next = new short[held.Length - (drop * n) + (missing * n)];
            held.AsSpan(drop * n).CopyTo(next);
            var kept = held.Length - (drop * n);
            var got = missing == 0 ? 0 : await samples.ReadAsync(next.AsMemory(kept), stop);
            ended |= got < missing * n;
            (held, heldFrom) = (got == missing * n ? next : next[..(kept + got)], heldFrom + drop);
        }

        // What lies before the sitting's beginning is passed over in parts.
        private async Task PassAsync(long first, CancellationToken stop)
        {
            var n = channels.Length;
            while (!ended && first - heldFrom - (held.Length / n) is > 0 and var away)
            {
                var passed = new short[(int)Math.Min(away, rate) * n];
                var got = await samples.ReadAsync(passed, stop);
                ended = got < passed.Length;
                (heldFrom, held) = (heldFrom + (held.Length / n) + (got / n), []);
            }
        }

        public ValueTask DisposeAsync() => samples.DisposeAsync();
    }
}
