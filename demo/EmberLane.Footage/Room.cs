namespace EmberLane.Footage;

/// <summary>A word of the truth: who said it and when, seconds on the sitting's clock.</summary>
internal sealed record TrueWord(string Text, double Start, double End, string Who);

/// <summary>What was heard in the place: each person dry on a track of their own, the other sounds on one, 48 kHz.</summary>
internal sealed record Talk(double Seconds, IReadOnlyDictionary<string, float[]> Tracks, IReadOnlyList<TrueWord> Words);

/// <summary>Places lines on the clock and lets microphones hear them.</summary>
internal static class Room
{
    public const int Rate = 48000;
    private const string Sounds = "*";

    public static async Task<Talk> SpeakAsync(IReadOnlyList<Line> script, IReadOnlyList<Person> people, string workFolder)
    {
        var placed = new List<(string Who, double At, float[] Samples)>();
        var words = new List<TrueWord>();
        double now = 0;
        foreach (var line in script)
        {
            var at = Math.Max(0, now + line.Gap);
            if (line.Who == Sounds)
            {
                placed.Add((Sounds, at, Effects.Make(line.Text)));
                continue;
            }
            var person = people.Single(p => p.Key == line.Who);
            var said = await person.Voice.SayAsync(line.Text, workFolder);
            placed.Add((line.Who, at, said.Samples));
            words.AddRange(said.Words.Select(w => new TrueWord(w.Text, at + w.Start, at + w.End, person.Name)));
            now = at + ((double)said.Samples.Length / Rate);
        }
        var seconds = now + 2.5;
        var tracks = people.Select(p => p.Key).Append(Sounds).ToDictionary(k => k, _ => new float[(int)(seconds * Rate)]);
        foreach (var (who, at, samples) in placed)
        {
            var track = tracks[who];
            var first = (int)(at * Rate);
            for (var i = 0; i < samples.Length && first + i < track.Length; i++)
            {
                track[first + i] += samples[i];
            }
        }
        words.Sort((a, b) => a.Start.CompareTo(b.Start));
        return new Talk(seconds, tracks, words);
    }

    /// <summary>
    /// What a mic hears from start to end of the sitting's clock, recorded by a clock that runs <paramref name="ppm"/> slow.
    /// </summary>
    public static float[] Hear(Talk talk, Mic mic, double start, double end, double ppm, int seed)
    {
        var near = new float[(int)(talk.Seconds * Rate)];
        var far = new float[near.Length];
        foreach (var (who, track) in talk.Tracks)
        {
            var gain = (float)(mic.Gains.TryGetValue(who, out var own) ? own : mic.Others);
            var delay = gain >= 0.5f ? 12 : 150 + (40 * (who.Length % 7));
            for (var i = delay; i < near.Length; i++)
            {
                var heard = gain * track[i - delay];
                near[i] += heard;
                far[i] += heard + (0.25f * track[i - delay]);
            }
        }
        Echo(near, far, mic.Echo, seed);
        return Record(near, mic.Noise, start, end, ppm, seed);
    }

    // Sparse early reflections, then a tail that dies away: enough to sound like a room and to smear a correlation.
    private static void Echo(float[] near, float[] far, double amount, int seed)
    {
        var random = new Random(seed);
        for (var tap = 0; tap < 28; tap++)
        {
            var delay = 300 + random.Next(200 + (tap * 400));
            var gain = (float)(amount * Math.Exp(-delay / 5200.0) * (random.Next(2) * 2 - 1));
            for (var i = delay; i < near.Length; i++)
            {
                near[i] += gain * far[i - delay];
            }
        }
    }

    private static float[] Record(float[] heard, double noise, double start, double end, double ppm, int seed)
    {
        var random = new Random(seed * 31);
        var length = (int)((Math.Min(end, (double)heard.Length / Rate) - start) * Rate / (1 + (ppm / 1e6)));
        var sound = new float[length];
        double low = 0,
            lower = 0;
        for (var i = 0; i < length; i++)
        {
            var at = (start * Rate) + (i * (1 + (ppm / 1e6)));
            var whole = (int)Math.Floor(at);
            var part = (float)(at - whole);
            float a = whole >= 0 && whole < heard.Length ? heard[whole] : 0,
                b = whole + 1 < heard.Length && whole >= -1 ? heard[whole + 1] : 0;
            low += 0.08 * ((random.NextDouble() - 0.5) - low);
            lower += 0.25 * (low - lower);
            sound[i] = (float)Math.Tanh(a + (part * (b - a)) + (noise * 8 * lower));
        }
        return sound;
    }
}
