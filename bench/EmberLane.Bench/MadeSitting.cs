using System.Numerics;
using EmberLane.Core.Speech;
using EmberLane.Core.Voices;
using EmberLane.Footage;

namespace EmberLane.Bench;

/// <summary>
/// A made sitting: what each mic records at 16 kHz, one mix of everybody by a mic of its own colour, who truly speaks when, and which made
/// person each voice is; and what is said, line by line, as far as its text is known.
/// </summary>
internal sealed record MadeSitting(
    IReadOnlyList<short[]> Mics,
    short[] Mix,
    IReadOnlyList<Spoken> Truth,
    double Overlap,
    IReadOnlyList<int> People,
    IReadOnlyList<(int Voice, string Text)> Said
);

/// <summary>
/// What one of them says in one go: its samples at 16 kHz, where speech is in them, and its words where they are known.
/// </summary>
internal sealed record SaidLine(float[] Samples, IReadOnlyList<StepRange> Spoken, string Text = "");

/// <summary>How long a room sounds on, in seconds, and how far below the talk its noise lies, in dB.</summary>
internal sealed record RoomSound(double Echo, double NoiseDb);

/// <summary>Made people that say the lines of the demonstration's scripts, and sittings put together from what they say.</summary>
internal sealed class MadePeople(IReadOnlyList<List<SaidLine>> lines)
{
    private const int Rate = SilenceSegmenter.SampleRate,
        Decimation = 3,
        Breath = 40,
        Closure = 15;

    private static readonly FliteVoice[] Voices =
    [
        new("slt", -120, 0.97),
        new("rms", -40, 1.03),
        new("slt", 90, 0.96),
        new("rms", -220, 0.96),
        new("awb", 0, 1),
    ];

    public static async Task<MadePeople> PrepareAsync(string repository)
    {
        var folder = Directory.CreateTempSubdirectory("ember-people");
        try
        {
            var people = new List<List<SaidLine>>();
            var texts = Directory
                .EnumerateFiles(Path.Combine(repository, "demo", "script"), "*.txt")
                .Order(StringComparer.Ordinal)
                .SelectMany(Script.Read)
                .Where(l => l.Who != "*")
                .Select(l => l.Text)
                .ToList();
            foreach (var voice in Voices)
            {
                var said = new List<SaidLine>();
                foreach (var text in texts)
                {
                    var line = await voice.SayAsync(text, folder.FullName);
                    // The voices are made at 16 kHz, so that nothing lies above what is kept.
                    said.Add(new SaidLine([.. line.Samples.Where((_, i) => i % Decimation == 0)], Stretches(line.Words)));
                }
                people.Add(said);
            }
            return new MadePeople(people);
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    /// <summary>
    /// Whole sentences of one after the other, each followed by a pause of 0.1 to 2 s, at one mic of a room; and every stretch in which
    /// somebody speaks, as far as it lies less than 20 dB below the loud of its line: what is softer is lost in a noise.
    /// </summary>
    public (short[] Mix, IReadOnlyList<StepRange> Speech) Talk(int seconds, int seed, RoomSound room)
    {
        const double softest = 100;
        const int sentence = 12 * Rate / 10;
        var random = new Random(seed);
        var people = lines.Select(l => l.Where(s => s.Samples.Length > sentence).ToList()).Where(l => l.Count > 10).ToList();
        var dry = new float[seconds * Rate];
        var speech = new List<StepRange>();
        for (var at = Rate; ;)
        {
            var said = people[random.Next(people.Count)];
            var (samples, _, _) = said[random.Next(said.Count)];
            if (at + samples.Length >= dry.Length)
            {
                break;
            }
            var loud = (float)(0.8 + (0.4 * random.NextDouble()));
            for (var i = 0; i < samples.Length; i++)
            {
                dry[at + i] = loud * samples[i];
            }
            at += (samples.Length + random.Next(Rate / 10, 2 * Rate)) / (Rate / Step.PerSecond) * (Rate / Step.PerSecond);
        }
        var energy = SilenceSegmenter.Energy([.. dry.Select(d => (short)Math.Clamp(d * 32767, short.MinValue, short.MaxValue))]);
        var most = energy.Where(e => e > 10).Order().ToArray() is { Length: > 0 } sorted ? sorted[sorted.Length * 95 / 100] : 1;
        speech.AddRange(StepRuns.Of(energy.Length, i => energy[i] > most / softest).Joined(Closure).Runs.Where(r => r.Count >= 3));
        return (InRoom([dry], [0.5], room, random), speech);
    }

    /// <summary>
    /// A sitting of so many voices and seconds; a tenth of the talk overlaps, everybody bleeds into the others' mics at about −18 dB,
    /// levels differ; one mic is rubbed and one drops out for a while when <paramref name="spoiled"/>. When <paramref name="moved"/>,
    /// people turn in their chairs and the mix's mic changes its colour as time goes on. The last voice has the share
    /// <paramref name="seldom"/> of the turns, when that is given; others have 0.3 to 1.3. <paramref name="room"/> is what the mix's mic
    /// hears beside the talk; a quiet one if none is said. Mics take long to make: <paramref name="onlyMix"/> leaves them out.
    /// One person is in it when <paramref name="with"/> says who. <paramref name="change"/> may change what each voice says, before it is
    /// recorded.
    /// </summary>
    public MadeSitting Make(
        int voices,
        int seconds,
        int seed,
        bool spoiled,
        bool moved = false,
        double? seldom = null,
        RoomSound? room = null,
        bool onlyMix = false,
        int? with = null,
        Action<float[][]>? change = null
    )
    {
        var random = new Random(seed);
        int[] who = [.. Enumerable.Range(0, lines.Count).OrderBy(_ => random.Next()).OrderBy(p => with == p ? 0 : 1).Take(voices)];
        double[] shares = [.. who.Select(_ => 0.3 + random.NextDouble())];
        if (seldom is { } share)
        {
            shares[^1] = share;
        }
        var dry = who.Select(_ => new float[seconds * Rate]).ToArray();
        var truth = new List<Spoken>();
        var said = new List<(int, string)>();
        int at = Rate,
            speaker = -1;
        double overlapped = 0,
            spoken = 0;
        while (true)
        {
            var next = Draw(shares, speaker, random);
            // Single words make a turn together, as sentences do.
            var inTurn = lines[who[next]].Average(l => l.Samples.Length) > 2.5 * Rate ? random.Next(1, 4) : random.Next(3, 13);
            var turn = Enumerable.Range(0, inTurn).Select(_ => lines[who[next]][random.Next(lines[who[next]].Count)]).ToList();
            // Others begin before the end as long as less than a tenth of the talk is said twice at once.
            var early = speaker >= 0 && overlapped < 0.1 * spoken ? random.Next(Rate / 2, 5 * Rate / 2) : 0;
            at = early > 0 ? Math.Max(Rate, at - early) : at + random.Next(Rate / 10, Rate);
            var loud = (float)(0.7 + (0.6 * random.NextDouble()));
            var length = turn.Sum(l => l.Samples.Length);
            if (at + length >= dry[0].Length)
            {
                break;
            }
            foreach (var (samples, stretches, text) in turn)
            {
                said.Add((next, text));
                for (var i = 0; i < samples.Length; i++)
                {
                    dry[next][at + i] += loud * samples[i];
                }
                var step = (int)((long)at * Step.PerSecond / Rate);
                truth.AddRange(stretches.Select(s => new Spoken(next, s.First + step, s.End + step)));
                at += samples.Length;
            }
            (overlapped, spoken, speaker) = (overlapped + Math.Min(early, length), spoken + length, next);
        }
        change?.Invoke(dry);
        var mics = (onlyMix ? [] : who)
            .Select(
                (_, m) =>
                    Record(
                        dry,
                        [.. who.Select((_, v) => v == m ? 1 : Math.Pow(10, (-18 + (4 * random.NextDouble()) - 2) / 20))],
                        Math.Pow(10, ((random.NextDouble() * 16) - 8) / 20),
                        0.15,
                        random
                    )
            )
            .ToList();
        if (spoiled)
        {
            Spoil(mics, random);
        }
        if (moved)
        {
            foreach (var voice in dry)
            {
                Move(voice, random);
            }
        }
        double[] far = [.. who.Select(_ => 0.35 + (0.35 * random.NextDouble()))];
        var mix = room is null ? Record(dry, far, 1, 0.3, random) : InRoom(dry, far, room, random);
        double tilt = (1.2 * random.NextDouble()) - 0.6,
            to = moved ? (1.2 * random.NextDouble()) - 0.6 : tilt;
        return new MadeSitting(mics, Coloured(mix, tilt, to), Joined(truth), overlapped / spoken, who, said);
    }

    // Another mic hears lows or highs better, and is moved as time goes on: a first-order filter.
    private static short[] Coloured(short[] mix, double from, double to)
    {
        var coloured = new short[mix.Length];
        for (var i = 1; i < mix.Length; i++)
        {
            var tilt = from + ((to - from) * i / mix.Length);
            coloured[i] = (short)Math.Clamp(mix[i] + (tilt * mix[i - 1]), short.MinValue, short.MaxValue);
        }
        return coloured;
    }

    // Every two minutes the highs come weaker or stronger, and the level changes.
    private static void Move(float[] voice, Random random)
    {
        double tilt = 0,
            gain = 1,
            tiltTo = 0,
            gainTo = 1;
        float last = 0;
        for (var i = 0; i < voice.Length; i++)
        {
            if (i % (120 * Rate) == 0)
            {
                (tiltTo, gainTo) = (0.5 * (random.NextDouble() - 0.5), 0.6 + (0.8 * random.NextDouble()));
            }
            tilt += (tiltTo - tilt) / (10 * Rate);
            gain += (gainTo - gain) / (10 * Rate);
            var now = voice[i];
            voice[i] = (float)(gain * (now + (tilt * last)));
            last = now;
        }
    }

    private static int Draw(double[] shares, int not, Random random)
    {
        var left = random.NextDouble() * shares.Where((_, i) => i != not).Sum();
        for (var i = 0; i < shares.Length; i++)
        {
            left -= i == not ? 0 : shares[i];
            if (left < 0 && i != not)
            {
                return i;
            }
        }
        return not == shares.Length - 1 ? 0 : shares.Length - 1;
    }

    // Every voice comes later and through the room; noise lies 45 dB below loud talk.
    private static short[] Record(float[][] dry, double[] gains, double gain, double echo, Random random)
    {
        var heard = new float[dry[0].Length];
        for (var v = 0; v < dry.Length; v++)
        {
            var room = MadeTalk.Room(dry[v], gains[v] == 1 ? echo / 3 : echo, random, Rate);
            var late = gains[v] == 1 ? 0 : random.Next(Rate / 300, Rate / 80);
            for (var i = late; i < heard.Length; i++)
            {
                heard[i] += (float)(gains[v] * room[i - late]);
            }
        }
        return
        [
            .. heard.Select(h =>
                (short)Math.Clamp(gain * 0.5 * 32767 * (h + (0.003 * (random.NextDouble() - 0.5))), short.MinValue, short.MaxValue)
            ),
        ];
    }

    // Every voice through a room of its own place: reflections that grow denser and die away, so that the energy of all of them is about
    // that of the direct sound; and noise of the room, which has more lows than highs.
    internal static short[] InRoom(float[][] dry, double[] gains, RoomSound room, Random random)
    {
        const int reflections = 260;
        var heard = new float[dry[0].Length];
        for (var v = 0; v < dry.Length; v++)
        {
            double[] late =
            [
                .. Enumerable.Range(0, reflections).Select(_ => (0.003 + (room.Echo * Math.Pow(random.NextDouble(), 0.7))) * Rate),
            ];
            double[] parts = [.. late.Select(l => (random.Next(2) == 0 ? 1 : -1) * Math.Exp(-6.9 * l / (room.Echo * Rate)))];
            var scale = 1 / Math.Sqrt(parts.Sum(p => p * p));
            Add(heard, dry[v], 0, (float)gains[v]);
            for (var r = 0; r < reflections; r++)
            {
                Add(heard, dry[v], (int)late[r], (float)(gains[v] * scale * parts[r]));
            }
        }
        var loud = heard.Where(h => Math.Abs(h) > 0.01).Select(h => (double)h * h).DefaultIfEmpty(1e-6).Average();
        double noise = 0,
            level = Math.Sqrt(loud) * Math.Pow(10, -room.NoiseDb / 20);
        for (var i = 0; i < heard.Length; i++)
        {
            noise = (0.7 * noise) + (level * 0.714 * Math.Sqrt(12) * (random.NextDouble() - 0.5));
            heard[i] += (float)noise;
        }
        return [.. heard.Select(h => (short)Math.Clamp(0.5 * 32767 * h, short.MinValue, short.MaxValue))];
    }

    private static void Add(float[] to, float[] from, int late, float part)
    {
        var i = late;
        for (; i + Vector<float>.Count <= to.Length; i += Vector<float>.Count)
        {
            (new Vector<float>(to, i) + (part * new Vector<float>(from, i - late))).CopyTo(to, i);
        }
        for (; i < to.Length; i++)
        {
            to[i] += part * from[i - late];
        }
    }

    // Cloth on one mic, three times two seconds; another one without signal for twenty.
    private static void Spoil(List<short[]> mics, Random random)
    {
        int rubbed = random.Next(mics.Count),
            dead = random.Next(mics.Count);
        for (var n = 0; n < 3; n++)
        {
            var from = random.Next(mics[rubbed].Length - (2 * Rate));
            double slow = 0;
            for (var i = from; i < from + (2 * Rate); i++)
            {
                slow += 0.05 * (random.NextDouble() - 0.5 - slow);
                mics[rubbed][i] = (short)
                    Math.Clamp(
                        mics[rubbed][i] + (slow * 120_000 * Math.Sin(Math.PI * (i - from) / (2 * Rate))),
                        short.MinValue,
                        short.MaxValue
                    );
            }
        }
        var start = random.Next(mics[dead].Length - (20 * Rate));
        mics[dead].AsSpan(start, 20 * Rate).Clear();
    }

    private static List<StepRange> Stretches(IReadOnlyList<SpokenWord> words)
    {
        var stretches = new List<StepRange>();
        foreach (var word in words)
        {
            int first = (int)(word.Start * 100),
                end = (int)Math.Ceiling(word.End * 100);
            if (stretches is [.., var last] && first - last.End.Value <= Breath)
            {
                stretches[^1] = last with { End = new Step(end) };
            }
            else
            {
                stretches.Add(StepRange.Of(first, end));
            }
        }
        return stretches;
    }

    private static List<Spoken> Joined(List<Spoken> truth)
    {
        var joined = new List<Spoken>();
        foreach (var s in truth.OrderBy(t => t.Voice).ThenBy(t => t.First))
        {
            if (joined is [.., var last] && last.Voice == s.Voice && s.First - last.End <= Breath)
            {
                joined[^1] = last with { End = last.End > s.End ? last.End : s.End };
            }
            else
            {
                joined.Add(s);
            }
        }
        return [.. joined.OrderBy(s => s.First)];
    }
}
