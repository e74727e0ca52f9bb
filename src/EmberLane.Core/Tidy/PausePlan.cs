namespace EmberLane.Core.Tidy;

/// <summary>
/// A pause with what would go of it: whose word stands before it, by place, whether something else than the room's quiet is heard in it,
/// and how rough the join would be, in tenths of a decibel; 0 where no sound is at hand.
/// </summary>
public sealed record PlannedCut(TalkPause Pause, TalkPause Cut, int After, bool IsNoisy, int Roughness);

/// <summary>Plans what goes of the pauses of a talk, by a person's wish.</summary>
public static class PausePlan
{
    /// <summary>
    /// The cuts in order of their places. <paramref name="nameOf"/> gives who says the word at a place; <paramref name="stays"/> tells of
    /// pauses that a person keeps. Linear in the words and in the steps of the pauses.
    /// </summary>
    public static IReadOnlyList<PlannedCut> Of(
        Talk talk,
        TalkSound? sound,
        PauseWish wish,
        Func<int, string> nameOf,
        Func<TalkPause, bool> stays
    )
    {
        var least = MediaTime.FromMilliseconds(wish.From);
        var pauses = sound is null ? TalkPauses.Of(talk, least) : TalkPauses.Of(talk, sound.Quiet, sound.Chances, sound.From, least);
        var quiet = sound?.Room;
        var cuts = new List<PlannedCut>();
        var after = 0;
        foreach (var pause in pauses)
        {
            while (after + 1 < talk.Words.Count && talk.Words[after + 1].In < pause.Out - new MediaTime(pause.Length.Units / 2))
            {
                after++;
            }
            if (stays(pause) || wish.Not.Contains(nameOf(after)) || wish.CutOf(pause) is not { } cut)
            {
                continue;
            }
            var noisy = quiet?.IsNoisy(pause) ?? false;
            if (!noisy || !wish.KeepNoisy)
            {
                cuts.Add(new PlannedCut(pause, cut, after, noisy, quiet?.Roughness(cut) ?? 0));
            }
        }
        return cuts;
    }
}
