namespace EmberLane.Footage;

/// <summary>Sounds that are not talk, made from sines and noise.</summary>
internal static class Effects
{
    public static float[] Make(string name) =>
        name switch
        {
            "horn" => Tone(
                1.9,
                t =>
                    0.30
                    * (Math.Sin(2 * Math.PI * 146 * t) + (0.7 * Math.Sin(2 * Math.PI * 185 * t)) + (0.3 * Math.Sin(2 * Math.PI * 438 * t)))
            ),
            "gulls" => Tone(
                1.4,
                t =>
                    0.18
                    * Math.Sin(2 * Math.PI * ((1500 * t) + (180 * Math.Sin(2 * Math.PI * 3.5 * t) / 3.5)))
                    * Math.Max(0, Math.Sin(2 * Math.PI * 2.1 * t))
            ),
            "laughter" => Laughter(),
            _ => throw new ArgumentException($"There is no sound called {name}.", nameof(name)),
        };

    private static float[] Tone(double seconds, Func<double, double> wave)
    {
        var sound = new float[(int)(seconds * Room.Rate)];
        for (var i = 0; i < sound.Length; i++)
        {
            var t = (double)i / Room.Rate;
            sound[i] = (float)(wave(t) * Math.Min(1, Math.Min(t, seconds - t) * 12));
        }
        return sound;
    }

    // Bursts of voiced breath, five a second, as two people laughing.
    private static float[] Laughter()
    {
        var random = new Random(3);
        return Tone(
            1.5,
            t =>
            {
                var burst = Math.Pow(Math.Max(0, Math.Sin(2 * Math.PI * 4.7 * t)), 2) * Math.Exp(-t);
                return burst
                    * (
                        (0.25 * Math.Sin(2 * Math.PI * 240 * t))
                        + (0.12 * Math.Sin(2 * Math.PI * 487 * t))
                        + (0.2 * (random.NextDouble() - 0.5))
                    );
            }
        );
    }
}
