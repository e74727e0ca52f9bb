using System.Diagnostics;
using System.Globalization;
using EmberLane.Core.Speech;
using EmberLane.Core.Voices;

namespace EmberLane.Bench;

/// <summary>Who speaks when, against the truth of made sittings: error of diarisation with a collar of 0.25 s, overlap counted.</summary>
internal static class VoicesBench
{
    private const int Collar = 25, Seconds = 600, Sittings = 9;

    public static async Task RunAsync(string repository)
    {
        var people = await MadePeople.PrepareAsync(repository);
        Console.WriteLine($"voices: {Sittings} made sittings of {Seconds / 60} min, three to five voices, a tenth overlaps, bleed at -18 dB; missed, false and confused time over the time of speech");
        var sittings = Enumerable.Range(0, Sittings).Select(n => people.Make(3 + (n % 3), Seconds, 600 + n, n >= Sittings / 3)).ToList();
        Show("a mic each, two thirds with a mic rubbed and one dropped out", sittings, s => NearMics.Of([.. s.Mics.Select(m => QuietCut.Energy(m))]) ?? throw new InvalidOperationException("No mic was found to be worn."));
        Show("one mix, number of voices found", sittings, s => VoiceGroups.Of(Sounds(s.Mix), QuietCut.Energy(s.Mix), null));
        Show("one mix, number of voices given", sittings, s => VoiceGroups.Of(Sounds(s.Mix), QuietCut.Energy(s.Mix), s.Truth.Select(t => t.Voice).Distinct().Count()));
    }

    private static IReadOnlyList<float[]> Sounds(short[] mix)
    {
        var sounds = new VoiceSounds();
        sounds.Add(mix);
        return sounds.Frames;
    }

    private static void Show(string how, List<MadeSitting> sittings, Func<MadeSitting, VoiceChances> find)
    {
        var watch = Stopwatch.StartNew();
        var found = sittings.Select(s => (Sitting: s, Chances: find(s))).ToList();
        var took = watch.Elapsed;
        var errors = found.Select(f => VoiceErrors.Between(f.Sitting.Truth, f.Chances.Spoken(), Collar)).ToList();
        foreach (var (error, (sitting, chances)) in errors.Zip(found))
        {
            Console.WriteLine(Line($"    {sitting.Truth.Select(t => t.Voice).Distinct().Count()} voices, overlap {sitting.Overlap:0%}: {error.Rate:0.0%} (missed {Part(error, error.Missed)}, false {Part(error, error.False)}, confused {Part(error, error.Confused)}), {chances.Rows.Count} found"));
        }
        Console.WriteLine(Line($"  {how}: {(double)errors.Sum(e => e.Missed + e.False + e.Confused) / errors.Sum(e => e.Speech):0.0%} of all speech, worst {errors.Max(e => e.Rate):0.0%}; {sittings.Count * Seconds / took.TotalSeconds:0}x real time"));
    }

    private static string Part(VoiceErrors error, long part) => Line($"{(double)part / error.Speech:0.0%}");

    private static string Line(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
