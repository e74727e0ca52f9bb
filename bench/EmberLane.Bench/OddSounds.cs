using EmberLane.Core.Speech;

namespace EmberLane.Bench;

/// <summary>What may be done to a voice, or be heard with it, that a sitting does not expect: all at 16 kHz, full scale at 1.</summary>
internal static class OddSounds
{
    private const int Rate = SilenceSegmenter.SampleRate,
        Frame = 400,
        Hop = 200,
        Order = 16;

    /// <summary>A telephone's band, 300 to 3,400 Hz, and its coarse steps.</summary>
    public static void Telephone(float[] voice)
    {
        Filter(voice, 300, high: true);
        Filter(voice, 3_400, high: false);
        for (var i = 0; i < voice.Length; i++)
        {
            voice[i] = MathF.Round(voice[i] * 512) / 512;
        }
    }

    /// <summary>Nothing above 3.8 kHz, as an old recorder keeps it.</summary>
    public static void Narrow(float[] voice) => Filter(voice, 3_800, high: false);

    /// <summary>The same words in a shorter throat and higher, as a child says them; a quarter shorter, then silent.</summary>
    public static void Child(float[] voice)
    {
        // Stretch by stretch, so that what is said stays where it is said.
        const double higher = 1.25;
        for (var from = 0; from < voice.Length;)
        {
            if (voice[from] == 0)
            {
                from++;
                continue;
            }
            var end = from;
            for (var silent = 0; end < voice.Length && silent < Rate / 5; end++)
            {
                silent = voice[end] == 0 ? silent + 1 : 0;
            }
            var said = voice[from..end];
            for (var i = 0; i < said.Length; i++)
            {
                var at = i * higher;
                var whole = (int)at;
                var part = (float)(at - whole);
                voice[from + i] = whole + 1 < said.Length ? (said[whole] * (1 - part)) + (said[whole + 1] * part) : 0;
            }
            from = end;
        }
    }

    /// <summary>The throat as it is, but noise instead of the voice's own tone (linear prediction, frame by frame), and softer.</summary>
    public static void Whisper(float[] voice, Random random)
    {
        var whispered = new float[voice.Length];
        var window = Enumerable.Range(0, Frame).Select(i => 0.5 - (0.5 * Math.Cos(2 * Math.PI * i / Frame))).ToArray();
        var said = new double[Frame];
        for (var from = 0; from + Frame <= voice.Length; from += Hop)
        {
            for (var i = 0; i < Frame; i++)
            {
                said[i] = voice[from + i] * window[i];
            }
            var (throat, left) = Predicted(said);
            if (left <= 0)
            {
                continue;
            }
            var past = new double[Order];
            var gain = Math.Sqrt(3 * left / Frame) * 0.3;
            for (var i = 0; i < Frame; i++)
            {
                var next = gain * ((2 * random.NextDouble()) - 1);
                for (var k = 0; k < Order; k++)
                {
                    next += throat[k] * past[k];
                }
                Array.Copy(past, 0, past, 1, Order - 1);
                past[0] = next;
                whispered[from + i] += (float)(window[i] * next);
            }
        }
        whispered.CopyTo(voice, 0);
    }

    /// <summary>A slow piece with chords and a beat, so many dB below the loud of <paramref name="mix"/>, laid under it.</summary>
    public static short[] WithMusic(short[] mix, double below, int seed)
    {
        var random = new Random(seed);
        double[] scale = [220, 247, 262, 294, 330, 349, 392, 440, 494, 523];
        var music = new double[mix.Length];
        for (var beat = 0; beat * Rate / 2 < mix.Length; beat++)
        {
            double[] chord = beat % 4 == 0 ? [.. Enumerable.Range(0, 3).Select(n => scale[random.Next(5) + (2 * n) - (n / 2)])] : [];
            double[] notes = [.. chord, 2 * scale[random.Next(scale.Length)]];
            for (var i = 0; i < 2 * Rate && (beat * Rate / 2) + i < mix.Length; i++)
            {
                var t = (double)i / Rate;
                var sound = i < Rate / 20 ? 0.4 * Math.Exp(-60 * t) * (random.NextDouble() - 0.5) : 0;
                foreach (var note in notes)
                {
                    for (var h = 1; h <= 5; h++)
                    {
                        sound += Math.Exp(-(1.5 + h) * t) * Math.Sin(2 * Math.PI * note * h * t) / (h * notes.Length);
                    }
                }
                music[(beat * Rate / 2) + i] += sound;
            }
        }
        double Loud(IEnumerable<double> sound) => Math.Sqrt(sound.Where(s => Math.Abs(s) > 1e-9).Average(s => s * s));
        var level = Loud(mix.Where(m => Math.Abs((int)m) > 300).Select(m => (double)m)) * Math.Pow(10, -below / 20) / Loud(music);
        return [.. mix.Zip(music, (m, s) => (short)Math.Clamp(m + (level * s), short.MinValue, short.MaxValue))];
    }

    // Two first-order filters and their mirror in time: 24 dB an octave.
    private static void Filter(float[] sound, double hertz, bool high)
    {
        var part = 1 - Math.Exp(-2 * Math.PI * hertz / Rate);
        for (var pass = 0; pass < 4; pass++)
        {
            double low = 0;
            for (var i = 0; i < sound.Length; i++)
            {
                low += part * (sound[i] - low);
                sound[i] = (float)(high ? sound[i] - low : low);
            }
            Array.Reverse(sound);
        }
    }

    // Levinson and Durbin's recursion: coefficients of prediction and the energy that is left.
    private static (double[] Throat, double Left) Predicted(double[] said)
    {
        var like = new double[Order + 1];
        for (var k = 0; k <= Order; k++)
        {
            for (var i = k; i < said.Length; i++)
            {
                like[k] += said[i] * said[i - k];
            }
        }
        var throat = new double[Order];
        var left = like[0] * 1.0001;
        for (var k = 0; k < Order && left > 1e-9; k++)
        {
            var next = like[k + 1];
            for (var j = 0; j < k; j++)
            {
                next -= throat[j] * like[k - j];
            }
            var reflection = next / left;
            var before = throat[..k];
            for (var j = 0; j < k; j++)
            {
                throat[j] -= reflection * before[k - 1 - j];
            }
            throat[k] = reflection;
            left *= 1 - (reflection * reflection);
        }
        return (throat, left > 1e-9 ? left : 0);
    }
}
