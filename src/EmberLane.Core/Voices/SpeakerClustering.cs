using EmberLane.Core.Speech;
using EmberLane.Core.Voices.OneMix;

namespace EmberLane.Core.Voices;

/// <summary>
/// Who speaks, from one mix: by how voices sound. Speech is cut where the voice changes (<see cref="SpeechTurns"/>); turns are told apart
/// along directions that were learned from people (<see cref="VoiceSpace"/>), grouped (<see cref="TurnGroups"/>), and the borders are
/// found again step by step (<see cref="VoiceBorders"/>).
/// </summary>
public static class SpeakerClustering
{
    /// <summary>In steps: the shortest speech that is told apart.</summary>
    private const int ShortestSpeech = 10;

    /// <summary>
    /// Sounds of 10 ms steps, the pitch of the same sound (<see cref="PitchTracker"/>), and where in them somebody speaks
    /// (<see cref="VoiceActivity"/>). <paramref name="voices"/> is how many speak, 1 or more, or null to find out. Rows are <c>voice 1</c>
    /// … by when they are first heard; a number that was found is always doubted where the talk does not stand <paramref name="clear"/> of
    /// what else sounds (<see cref="VoiceActivity.StandsClear"/>). Nothing random: the same sound gives the same answer.
    /// </summary>
    public static VoiceChances Of(
        IReadOnlyList<float[]> sounds,
        IReadOnlyList<float> pitch,
        IReadOnlyList<StepRange> speaking,
        int? voices,
        bool clear = true
    )
    {
        var speech = new StepRuns([.. speaking.Select(s => s.Until(sounds.Count)).Where(s => s.Count > 0)]).AtLeast(ShortestSpeech).Runs;
        if (speech.Count == 0)
        {
            return new VoiceChances([], []);
        }
        var space = VoiceSpace.Learned;
        var heard = new HeardTurns(sounds, pitch, speech, space.Kinds);
        var joins = heard.Groups(space).Joins(voices ?? 0);
        var groups = voices is { } given
            ? joins.OrderBy(j => Math.Abs(j.Groups.Max() + 1 - given)).First().Groups
            : TurnGroups.Found(joins, space);
        var rows = new VoiceBorders(heard.Frames, speech, heard.Near, space.Kinds).Find(
            [.. Enumerable.Range(0, groups.Max() + 1).Select(g => heard.Turns.Where((_, t) => groups[t] == g).ToList())],
            keep: voices is not null
        );
        rows = [.. rows.OrderBy(r => Array.FindIndex(r, c => c >= 0.5f) is >= 0 and var first ? first : int.MaxValue)];
        return new VoiceChances([.. Enumerable.Range(1, rows.Length).Select(n => FormattableString.Invariant($"voice {n}"))], rows)
        {
            Doubt = voices is null ? TurnGroups.Doubt(joins, space, heard.Turns, clear) : null,
        };
    }
}
