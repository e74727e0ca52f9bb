using EmberLane.Core.Speech;

namespace EmberLane.Core.Voices;

/// <summary>Whose a word is: the voice's row, or −1 when nobody is known to speak anywhere, and how sure that is.</summary>
public readonly record struct WordVoice(int Voice, PerMille Sure);

/// <summary>
/// Gives words to voices: each word by how likely each voice speaks while it is said, with its neighbours' say, since a voice seldom
/// changes within a sentence. Forward and backward along the words (Rabiner, 1989), so that each word's sureness counts all others.
/// </summary>
public static class WordVoices
{
    /// <summary>Chance that the voice changes before a word: after a pause of 0.3 s, and without one.</summary>
    private const double ChangeAfterPause = 0.25,
        Change = 0.03;

    private const int Pause = 30;

    /// <summary>No voice is ever taken to be quite silent, so that one odd word can not outweigh all others.</summary>
    private const double Least = 0.04;

    /// <summary>
    /// Words as ranges of steps, in order of their starts. Linear in the words times the square of the voices.
    /// </summary>
    public static IReadOnlyList<WordVoice> Give(VoiceChances chances, IReadOnlyList<StepRange> words)
    {
        int voices = chances.Rows.Count,
            count = words.Count;
        if (voices == 0 || count == 0)
        {
            return [.. words.Select(_ => new WordVoice(-1, PerMille.None))];
        }
        var fits = words.Select(w => Fits(chances, w)).ToArray();
        double[][] forward = Along(Enumerable.Range(0, count)),
            backward = Along(Enumerable.Range(0, count).Reverse());
        return
        [
            .. Enumerable
                .Range(0, count)
                .Select(i =>
                {
                    // Both ways hold the word's own fit; it counts once.
                    var joint = Enumerable.Range(0, voices).Select(v => forward[i][v] * backward[i][v] / fits[i][v]).ToArray();
                    var best = Array.IndexOf(joint, joint.Max());
                    return new WordVoice(best, PerMille.OfShare(joint[best] / joint.Sum()));
                }),
        ];

        double[][] Along(IEnumerable<int> order)
        {
            var chance = new double[count][];
            var before = -1;
            foreach (var i in order)
            {
                var gap = before < 0 ? 0 : words[Math.Max(i, before)].First - words[Math.Min(i, before)].End;
                var change =
                    voices == 1 ? 0
                    : gap >= Pause ? ChangeAfterPause
                    : Change;
                chance[i] =
                [
                    .. Enumerable
                        .Range(0, voices)
                        .Select(v =>
                            fits[i][v]
                            * (
                                before < 0
                                    ? 1.0 / voices
                                    : (chance[before][v] * (1 - change)) + ((1 - chance[before][v]) * change / Math.Max(1, voices - 1))
                            )
                        ),
                ];
                var sum = chance[i].Sum();
                chance[i] = [.. chance[i].Select(c => c / sum)];
                before = i;
            }
            return chance;
        }
    }

    private static double[] Fits(VoiceChances chances, StepRange word)
    {
        int from = Math.Clamp(word.First.Value, 0, chances.Steps),
            to = Math.Clamp(Math.Max(word.End.Value, word.First.Value + 1), from, chances.Steps);
        var means = chances
            .Rows.Select(r =>
            {
                double sum = 0;
                for (var i = from; i < to; i++)
                {
                    sum += r[i];
                }
                return (to > from ? sum / (to - from) : 0) + Least;
            })
            .ToArray();
        return [.. means.Select(m => m / means.Sum())];
    }
}
