using System.Globalization;
using EmberLane.Core.Speech;
using EmberLane.Core.Voices;

namespace EmberLane.Bench;

/// <summary>
/// Who speaks when in sittings that nobody would wish for, with voices of real people of the half that is tuned on: music under everything,
/// a telephone, one person, ten, a child, whispering, a narrow band, a mic that is switched off half-way.
/// </summary>
internal static class OddBench
{
    private const int Seconds = 300,
        Collar = 25;

    private static readonly RoomSound Room = new(0.3, 20);

    public static async Task RunAsync(string repository)
    {
        var people = await RealPeople.PrepareAsync(repository, tuning: true);
        Console.WriteLine("odd sittings, real people, three of 5 min each, one mix: error, voices found of how many, said not to be sure");
        Mixes("as usual", 3, n => Made(people, 3, n));
        Mixes("music 10 dB below", 3, n => Made(people, 3, n) is var s ? s with { Mix = OddSounds.WithMusic(s.Mix, 10, n) } : s);
        Mixes("one on the telephone", 3, n => Made(people, 3, n, dry => OddSounds.Telephone(dry[0])));
        Mixes("all in a narrow band", 3, n => Made(people, 3, n, dry => Array.ForEach(dry, OddSounds.Narrow)));
        Mixes("one person only", 3, n => Made(people, 1, n));
        Mixes("a child among two", 3, n => Made(people, 3, n, dry => OddSounds.Child(dry[0])));
        Mixes("one whispers", 3, n => Made(people, 3, n, dry => OddSounds.Whisper(dry[0], new Random(n))));
        Mixes("ten people", 2, n => Made(people, 10, n, seconds: 900));
        Mics("ten people, a mic each", 1, n => Made(people, 10, n, seconds: 300, mics: true));
        Mics("one whispers, a mic each", 2, n => Made(people, 3, n, dry => OddSounds.Whisper(dry[0], new Random(n)), mics: true));
        Mics("a mic each", 3, n => Made(people, 3, n, mics: true));
        Mics("a mic off from the half on", 3, n => HalfOff(Made(people, 3, n, mics: true), 0));
        Mics("the same, its line hisses", 3, n => HalfOff(Made(people, 3, n, mics: true), 3));
    }

    private static MadeSitting Made(
        MadePeople people,
        int voices,
        int n,
        Action<float[][]>? change = null,
        int seconds = Seconds,
        bool mics = false
    ) => people.Make(voices, seconds, 980 + n, spoiled: false, room: Room, onlyMix: !mics, change: change);

    private static MadeSitting HalfOff(MadeSitting sitting, int hiss)
    {
        var (mic, random) = (sitting.Mics[0].ToArray(), new Random(hiss));
        for (var i = mic.Length / 2; i < mic.Length; i++)
        {
            mic[i] = (short)random.Next(-hiss, hiss + 1);
        }
        return sitting with { Mics = [mic, .. sitting.Mics.Skip(1)] };
    }

    private static void Mixes(string how, int count, Func<int, MadeSitting> make) =>
        Show(how, count, make, s => VoicesBench.OfMix(s.Mix, null));

    private static void Mics(string how, int count, Func<int, MadeSitting> make) =>
        Show(how, count, make, s => MicDiarisation.Of([.. s.Mics.Select(m => SilenceSegmenter.Energy(m))]));

    private static void Show(string how, int count, Func<int, MadeSitting> make, Func<MadeSitting, VoiceChances?> find)
    {
        var told = new List<string>();
        for (var n = 0; n < count; n++)
        {
            var sitting = make(n);
            var truth = sitting.Truth.Select(t => t.Voice).Distinct().Count();
            var found = find(sitting);
            var error = DiarisationError.Between(sitting.Truth, found?.Spoken() ?? [], Collar);
            told.Add(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{error.Rate:0.0%} {found?.Rows.Count ?? 0} of {truth}{(found?.Doubt is { } d ? $" (or {d.Perhaps}?)" : "")}"
                )
            );
        }
        Console.WriteLine($"  {how,-28} {string.Join("; ", told)}");
    }
}
