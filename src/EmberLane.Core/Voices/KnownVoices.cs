namespace EmberLane.Core.Voices;

/// <summary>A named voice of another sitting.</summary>
public sealed record KnownVoice(string Name, string Sitting, VoicePrint Print);

/// <summary>Who an unnamed voice may be, and what speaks for it.</summary>
public sealed record VoiceGuess(string Name, string Sitting, int LikenessPercent, int Pitch, int KnownPitch);

/// <summary>Finds the person whom a voice was heard as before.</summary>
public static class KnownVoices
{
    /// <summary>So alike it must be at least, and so much more alike than the next person; chosen by <c>./ember bench voices</c>.</summary>
    private const double Alike = 0.5,
        Ahead = 1.25;

    /// <summary>
    /// The person whom this voice is most like; null when none is like it enough, two are nearly as like, or it was heard for too short a
    /// time.
    /// </summary>
    public static VoiceGuess? Guess(VoicePrint voice, IEnumerable<KnownVoice> known)
    {
        if (voice.Steps < VoicePrint.Telling)
        {
            return null;
        }
        var people = known
            .Where(k => k.Print.Steps >= VoicePrint.Telling)
            .Select(k => (Known: k, Likeness: voice.Likeness(k.Print)))
            .GroupBy(k => k.Known.Name, StringComparer.OrdinalIgnoreCase)
            .Select(g => g.MaxBy(k => k.Likeness))
            .OrderByDescending(k => k.Likeness)
            .ToList();
        return people is [var (first, likeness), .. var others] && likeness >= Alike && others.All(o => likeness >= Ahead * o.Likeness)
            ? new VoiceGuess(
                first.Name,
                first.Sitting,
                (int)Math.Round(100 * likeness),
                (int)Math.Round(voice.Pitch),
                (int)Math.Round(first.Print.Pitch)
            )
            : null;
    }
}
