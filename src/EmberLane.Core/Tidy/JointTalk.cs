namespace EmberLane.Core.Tidy;

/// <summary>
/// Texts of several sittings as one talk, one behind the other and far apart, so that what a person says again in another sitting is found.
/// A voice is the same person's where both have its name; a voice without a name is nobody else's.
/// </summary>
public sealed class JointTalk
{
    private static readonly MediaTime Apart = MediaTime.FromMilliseconds(3_600_000);

    private readonly int[] starts;

    /// <summary>Linear in the words.</summary>
    public JointTalk(IReadOnlyList<TextTalk> texts)
    {
        starts = new int[texts.Count];
        var people = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
        var words = new List<TalkWord>();
        var (at, next) = (MediaTime.Zero, 0);
        foreach (var (n, text) in texts.Index())
        {
            starts[n] = words.Count;
            var voices = new Dictionary<int, int>();
            foreach (var word in text.Talk.Words)
            {
                words.Add(
                    word with
                    {
                        In = at + word.In,
                        Out = at + word.Out,
                        Voice = voices.TryGetValue(word.Voice, out var known) ? known : voices[word.Voice] = VoiceOf(text, word.Voice),
                    }
                );
            }
            at = (words.Count > starts[n] ? words.Skip(starts[n]).Max(w => w.Out) : at) + Apart;
        }
        Talk = new Talk(words);

        int VoiceOf(TextTalk text, int voice) =>
            !text.Text.Layers.VoiceNames.TryGetValue(voice, out var name) ? next++
            : people.TryGetValue(name, out var person) ? person
            : people[name] = next++;
    }

    /// <summary>All of them.</summary>
    public Talk Talk { get; }

    /// <summary>In which of the texts a word of the talk is, and at which place of that one's talk.</summary>
    public (int Text, int Place) Of(int place)
    {
        var n = Array.FindLastIndex(starts, s => s <= place);
        return (n, place - starts[n]);
    }
}
