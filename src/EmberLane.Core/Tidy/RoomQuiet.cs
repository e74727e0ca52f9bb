using EmberLane.Core.Speech;

namespace EmberLane.Core.Tidy;

/// <summary>How quiet the room is around a moment, and what stands out of that. In decibels.</summary>
internal sealed class RoomQuiet
{
    /// <summary>
    /// In steps: how long a noise lasts at least, how much is listened to at each side of a join, and around for the quiet.
    /// </summary>
    private const int NoiseLasts = 8,
        Side = 10,
        Around = 1_500;

    /// <summary>
    /// In decibels: what stands so far above the quiet around there is heard in a pause, if it is no softer than so far below the talk; and
    /// what is that far below the talk is not heard at all.
    /// </summary>
    private const double Heard = 9,
        Softer = 25,
        Unheard = 40;

    private readonly TalkSound sound;
    private readonly double[] quiet;
    private readonly double talk;

    public RoomQuiet(TalkSound sound)
    {
        this.sound = sound;
        talk = Decibels(Share([.. sound.Energy.Where((_, i) => sound.Chances[i] >= 0.5f)], 80));
        // Of every so many steps the tenth of a hundred: the quiet between words.
        quiet = [.. sound.Energy.Chunk(Around).Select(part => Decibels(Share(part, 10)))];
    }

    // Something lasts in the pause, but for its ends, which words sound into.
    public bool IsNoisy(TalkPause pause)
    {
        int first = StepOf(pause.In) + (2 * NoiseLasts),
            end = StepOf(pause.Out) - (2 * NoiseLasts);
        var most = 0.0;
        for (var i = first; i + NoiseLasts <= end; i++)
        {
            most = Math.Max(most, Mean(i, i + NoiseLasts));
        }
        return Decibels(most) > Math.Max(At(pause) + Heard, talk - Softer);
    }

    // How far apart the sound at both sides of a join is, and how far above the quiet.
    public int Roughness(TalkPause cut)
    {
        double before = Level(StepOf(cut.In) - Side, StepOf(cut.In)),
            behind = Level(StepOf(cut.Out), StepOf(cut.Out) + Side);
        return (int)
            Math.Round(10 * (Math.Abs(before - behind) + Math.Max(0, Math.Max(before, behind) - Math.Max(At(cut), talk - Unheard))));
    }

    private double At(TalkPause pause) => quiet.Length == 0 ? 0 : quiet[Math.Clamp(StepOf(pause.In) / Around, 0, quiet.Length - 1)];

    private int StepOf(MediaTime at) => Step.At(at - sound.From).Value;

    private double Level(int first, int end) => Math.Max(talk - Unheard, Decibels(Mean(first, end)));

    private double Mean(int first, int end)
    {
        (first, end) = (Math.Clamp(first, 0, sound.Energy.Length), Math.Clamp(end, 0, sound.Energy.Length));
        double sum = 0;
        for (var i = first; i < end; i++)
        {
            sum += sound.Energy[i];
        }
        return end > first ? sum / (end - first) : 0;
    }

    private static double Share(float[] energies, int percent)
    {
        Array.Sort(energies);
        return energies.Length == 0 ? 0 : energies[Math.Min(energies.Length - 1, energies.Length * percent / 100)];
    }

    private static double Decibels(double energy) => 10 * Math.Log10(1 + energy);
}
