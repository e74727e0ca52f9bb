using EmberLane.Core.Tidy;
using EmberLane.Core.Transcripts;

namespace EmberLane.Application.Tidying;

/// <summary>What stretches of a sitting cover of others.</summary>
internal static class Stretches
{
    /// <summary>
    /// How much of a pause stretches cover, both in order of their times: <paramref name="next"/> tells where the search for the one before
    /// ended.
    /// </summary>
    public static MediaTime Covered(IReadOnlyList<SittingRange> stretches, TalkPause pause, ref int next)
    {
        while (next < stretches.Count && stretches[next].Out.FromZero <= pause.In)
        {
            next++;
        }
        var covered = MediaTime.Zero;
        for (var i = next; i < stretches.Count && stretches[i].In.FromZero < pause.Out; i++)
        {
            covered += MediaTime.Min(pause.Out, stretches[i].Out.FromZero) - MediaTime.Max(pause.In, stretches[i].In.FromZero);
        }
        return covered;
    }
}
