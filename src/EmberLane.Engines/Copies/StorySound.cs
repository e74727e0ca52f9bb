using System.Runtime.InteropServices;
using EmberLane.Core.Copies;

namespace EmberLane.Engines.Copies;

/// <summary>Lays stretches of files into the sound of a copy.</summary>
internal static class StorySound
{
    private const int Rate = RawSound.Rate;

    /// <summary>So much of a file is decoded before a stretch and thrown away: decoders and the denoiser need a run-up.</summary>
    private static readonly MediaTime RunUp = MediaTime.FromMilliseconds(250),
        LongRunUp = MediaTime.FromMilliseconds(1_500);

    /// <summary>By so many samples (25 ms) the denoiser is late.</summary>
    private const int Late = Rate / 40;

    /// <summary>The denoiser is told a floor so many decibels higher: the softest moments are softer than the room usually is.</summary>
    private const int AboveFloor = 3;

    /// <summary>Samples of a step (20 ms) whose level is one of a room's.</summary>
    private const int Step = Rate / 50;

    /// <summary>
    /// Adds each piece to <paramref name="sound"/>; the noise of rooms that <paramref name="floors"/> knows (dB of full scale) is lowered.
    /// Returns the floor of each room as it was heard. Throws <see cref="ToolException"/> when a file can not be decoded.
    /// </summary>
    public static async Task<IReadOnlyDictionary<string, double>> LayAsync(
        IReadOnlyList<SoundPiece> pieces,
        IReadOnlyDictionary<string, double> floors,
        RawSound sound,
        Action<MediaTime>? progress,
        CancellationToken cancel
    )
    {
        var levels = new Dictionary<string, List<float>>();
        var next = pieces.Count > 0 ? Begun(pieces[0], floors, sound.Channels, cancel) : null;
        try
        {
            foreach (var (i, piece) in pieces.Index())
            {
                // The next one is begun while this one is laid.
                await using var begun = next!.Value.From;
                var skip = next.Value.Skip;
                next = i + 1 < pieces.Count ? Begun(pieces[i + 1], floors, sound.Channels, cancel) : null;
                await LayAsync(piece, begun, skip, sound, levels, cancel);
                progress?.Invoke(MediaTime.FromSamples(piece.First + piece.Count, Rate));
            }
        }
        finally
        {
            if (next is { From: { } left })
            {
                await left.DisposeAsync();
            }
        }
        return levels.ToDictionary(l => l.Key, l => Floor(l.Value));
    }

    private static (DecodedStream From, int Skip)? Begun(
        SoundPiece piece,
        IReadOnlyDictionary<string, double> floors,
        int channels,
        CancellationToken cancel
    )
    {
        var isQuieted = piece.Room.Length > 0 && floors.ContainsKey(piece.Room);
        var filter = isQuieted
            ? FormattableString.Invariant($"afftdn=nr=12:nf={Math.Clamp(floors[piece.Room] + AboveFloor, -80, -20):0}")
            : "";
        var from = MediaTime.Max(MediaTime.Zero, piece.From);
        var runUp = MediaTime.Min(from, isQuieted ? LongRunUp : RunUp);
        var delay = isQuieted ? Late : 0;
        return (
            DecodedStream.Open(
                (output, stop) =>
                    Ffmpeg.DecodeFloatsAsync(
                        piece,
                        from - runUp,
                        runUp + MediaTime.FromSamples(piece.Count + delay, Rate),
                        filter,
                        channels,
                        output,
                        stop
                    ),
                cancel
            ),
            ((int)runUp.ToSamplesFloor(Rate) + delay) * channels
        );
    }

    private static async Task LayAsync(
        SoundPiece piece,
        DecodedStream decoded,
        int skip,
        RawSound sound,
        Dictionary<string, List<float>> levels,
        CancellationToken cancel
    )
    {
        // A file that begins later than the stretch: its first sample comes so much later.
        long late = piece.From < MediaTime.Zero ? (-piece.From).ToSamplesFloor(Rate) : 0;
        await decoded.ReadAsync(new byte[skip * sizeof(float)], cancel);
        var bytes = new byte[Rate * sound.Channels * sizeof(float)];
        for (var at = late; at < piece.Count;)
        {
            var wanted = (int)Math.Min(Rate, piece.Count - at) * sound.Channels * sizeof(float);
            var got = await decoded.ReadAsync(bytes.AsMemory(0, wanted), cancel);
            var values = MemoryMarshal.Cast<byte, float>(bytes.AsSpan(0, got - (got % (sound.Channels * sizeof(float))))).ToArray();
            Listen(piece, values, sound.Channels, levels);
            Shape(piece, at, values, sound.Channels);
            sound.Add(piece.First + at, values);
            at += values.Length / sound.Channels;
            if (got < wanted)
            {
                // The file holds less than it said: the rest is silence.
                return;
            }
        }
    }

    private static void Listen(SoundPiece piece, float[] values, int channels, Dictionary<string, List<float>> levels)
    {
        if (piece.Room.Length == 0)
        {
            return;
        }
        if (!levels.TryGetValue(piece.Room, out var known))
        {
            levels[piece.Room] = known = [];
        }
        for (var at = 0; at + (Step * channels) <= values.Length; at += Step * channels)
        {
            double energy = 0;
            for (var i = 0; i < Step * channels; i += channels)
            {
                energy += values[at + i] * values[at + i];
            }
            known.Add((float)(10 * Math.Log10((energy / Step) + 1e-12)));
        }
    }

    // The softest twentieth of its steps is the room alone.
    private static double Floor(List<float> levels)
    {
        if (levels.Count == 0)
        {
            return double.NegativeInfinity;
        }
        levels.Sort();
        return levels[levels.Count / 20];
    }

    private static void Shape(SoundPiece piece, long at, float[] values, int channels)
    {
        var level = (float)Math.Pow(10, piece.Level / 200.0);
        for (var i = 0; i < values.Length / channels; i++)
        {
            var sample = at + i;
            var comes = sample < piece.FadeIn ? (float)sample / piece.FadeIn : 1;
            var goes = piece.Count - 1 - sample < piece.FadeOut ? (float)(piece.Count - 1 - sample) / piece.FadeOut : 1;
            for (var c = 0; c < channels; c++)
            {
                values[(i * channels) + c] *= level * Math.Min(comes, goes);
            }
        }
    }

    /// <summary>Makes each person louder or softer by so many decibels, from their first moment to the next one's, gently.</summary>
    public static void Even(
        RawSound sound,
        IReadOnlyList<SpeakerRun> speakers,
        IReadOnlyDictionary<string, double> gains,
        CancellationToken cancel
    )
    {
        const int ramp = Rate / 20;
        var factors = speakers
            .Select(s => (From: s.From.ToSamplesFloor(Rate), By: (float)Math.Pow(10, gains.GetValueOrDefault(s.Who) / 20)))
            .ToList();
        var run = 0;
        sound.Change(
            (sample, values) =>
            {
                for (var i = 0; i < values.Length / sound.Channels; i++)
                {
                    var at = sample + i;
                    while (run + 1 < factors.Count && factors[run + 1].From <= at)
                    {
                        run++;
                    }
                    var since = at - factors[run].From;
                    var by =
                        run > 0 && since < ramp
                            ? factors[run - 1].By + ((factors[run].By - factors[run - 1].By) * since / ramp)
                            : factors[run].By;
                    for (var c = 0; c < sound.Channels; c++)
                    {
                        values[(i * sound.Channels) + c] *= by;
                    }
                }
            },
            cancel
        );
    }

    /// <summary>Writes what a person says, one stretch behind the other, into a stream; returns how long that is.</summary>
    public static async Task<MediaTime> WriteOfAsync(
        RawSound sound,
        IReadOnlyList<SpeakerRun> speakers,
        string who,
        Stream output,
        CancellationToken cancel
    )
    {
        long written = 0;
        var run = 0;
        foreach (var (sample, values) in sound.Blocks(cancel))
        {
            var count = values.Length / sound.Channels;
            var (at, end) = (sample, sample + count);
            while (at < end)
            {
                while (run + 1 < speakers.Count && speakers[run + 1].From.ToSamplesFloor(Rate) <= at)
                {
                    run++;
                }
                var until = run + 1 < speakers.Count ? Math.Min(end, speakers[run + 1].From.ToSamplesFloor(Rate)) : end;
                if (speakers[run].Who == who)
                {
                    var first = (int)(at - sample) * sound.Channels;
                    await output.WriteAsync(Bytes(values, first, (int)(until - at) * sound.Channels), cancel);
                    written += until - at;
                }
                at = until;
            }
        }
        return MediaTime.FromSamples(written, Rate);
    }

    /// <summary>Writes all of it.</summary>
    public static async Task WriteAsync(RawSound sound, Stream output, CancellationToken cancel)
    {
        foreach (var (_, values) in sound.Blocks(cancel))
        {
            await output.WriteAsync(Bytes(values, 0, values.Length), cancel);
        }
    }

    /// <summary>The loudest value, in decibels of full scale.</summary>
    public static double Peak(RawSound sound, CancellationToken cancel)
    {
        float most = 0;
        foreach (var (_, values) in sound.Blocks(cancel))
        {
            most = Math.Max(most, values.Max(Math.Abs));
        }
        return 20 * Math.Log10(most + 1e-9);
    }

    private static byte[] Bytes(float[] values, int first, int count) => MemoryMarshal.AsBytes(values.AsSpan(first, count)).ToArray();
}
