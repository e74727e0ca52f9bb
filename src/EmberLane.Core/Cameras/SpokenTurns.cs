using EmberLane.Core.Tidy;

namespace EmberLane.Core.Cameras;

/// <summary>Who speaks when, by the words of a text.</summary>
public static class SpokenTurns
{
    private static readonly MediaTime Breath = MediaTime.FromMilliseconds(800);

    /// <summary>The turns of a talk, from first word to last, parted at pauses; <paramref name="nameOf"/> names a voice.</summary>
    public static IReadOnlyList<PlanTurn> Of(Talk talk, Func<int, string> nameOf)
    {
        var turns = new List<PlanTurn>();
        var voice = 0;
        foreach (var word in talk.Words)
        {
            if (turns.Count > 0 && voice == word.Voice && word.In <= turns[^1].Range.Out + Breath)
            {
                turns[^1] = turns[^1] with { Range = turns[^1].Range with { Out = MediaTime.Max(turns[^1].Range.Out, word.Out) } };
            }
            else
            {
                turns.Add(new PlanTurn(nameOf(word.Voice), new PlanRange(word.In, word.Out)));
                voice = word.Voice;
            }
        }
        return turns;
    }
}
