using EmberLane.Core.Sync;
using EmberLane.Engines;
using EmberLane.Engines.Sync;

namespace EmberLane.Application.Hands;

/// <summary>The sound of a file as sync compares it, of which peaks are made too.</summary>
public static class SoundErrand
{
    /// <summary>As much longer than its file a sound may be (10 s).</summary>
    private const int Slack = 10 * SoundMatch.SampleRate * sizeof(short);

    /// <summary>The sound of a file of this length.</summary>
    public static Errand Of(string title, string footage, MediaTime length, string output) =>
        new(ErrandKinds.Sound, title, "{}", length) { Footage = footage, Output = output };

    internal static async Task<string> DoAsync(Errand errand, CancellationToken cancel)
    {
        var footage = Asked.Footage(errand);
        var facts = await MediaProbe.MeasureAsync(footage, cancel);
        if (facts.Sound.Count == 0)
        {
            throw new ToolException($"{Path.GetFileName(footage)} has no sound.");
        }
        await SyncSound.DecodeAsync(footage, facts, Asked.Output(errand), cancel);
        return "";
    }

    internal static void Check(Errand errand)
    {
        var bytes = new FileInfo(Asked.Output(errand)).Length;
        if (bytes % sizeof(short) != 0 || bytes > (errand.Length.ToSamplesFloor(SoundMatch.SampleRate) * sizeof(short)) + Slack)
        {
            throw new FormatException($"The sound that came has {bytes} bytes, which can not be that of {errand.Length}.");
        }
    }
}
