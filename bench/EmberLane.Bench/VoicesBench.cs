using System.Diagnostics;
using System.Globalization;
using EmberLane.Core.Speech;
using EmberLane.Core.Transcripts;
using EmberLane.Core.Voices;
using EmberLane.Engines.Speech;

namespace EmberLane.Bench;

/// <summary>Who speaks when, against the truth of made sittings: error of diarisation with a collar of 0.25 s, overlap counted.</summary>
internal static class VoicesBench
{
    private const int Collar = 25,
        Seconds = 600,
        Sittings = 9;

    public static async Task RunAsync(string repository)
    {
        var people = await MadePeople.PrepareAsync(repository);
        Console.WriteLine(
            $"voices: {Sittings} made sittings of {Seconds / 60} min, three to five voices, a tenth overlaps, bleed at -18 dB; missed, "
                + "false and confused time over the time of speech"
        );
        var sittings = Enumerable.Range(0, Sittings).Select(n => people.Make(3 + (n % 3), Seconds, 600 + n, n >= Sittings / 3)).ToList();
        Again(sittings);
        ShowAll(sittings, ", two thirds with a mic rubbed and one dropped out");
    }

    /// <summary>
    /// Real people (<see cref="RealPeople"/>): ten sittings of ten minutes with three to five of them, and in the mix echo and noise; of
    /// the half that ways are chosen by, or of the half that is only reported.
    /// </summary>
    public static async Task RealAsync(string repository, bool tuning)
    {
        var people = await RealPeople.PrepareAsync(repository, tuning);
        var sittings = Enumerable
            .Range(0, 10)
            .Select(n =>
                people.Make(
                    3 + (n % 3),
                    Seconds,
                    (tuning ? 900 : 950) + n,
                    spoiled: false,
                    room: new RoomSound(0.2 + (0.3 * n / 9), 10 + (15 * (n * 7 % 10) / 9.0))
                )
            )
            .ToList();
        Console.WriteLine(
            $"voices of real people, the half that is {(tuning ? "tuned on" : "reported")}: ten made sittings of 10 min, in the mix "
                + "echo of 0.2 to 0.5 s and noise 10 to 25 dB below"
        );
        SpeechFound("by the network", sittings, Speaking);
        SpeechFound("by loudness", sittings, mix => VoiceActivity.SpeechByLoudness(SilenceSegmenter.Energy(mix)));
        ShowAll(sittings);
    }

    // Steps of the mix in which somebody speaks: how many are missed, and how many are found where nobody does.
    private static void SpeechFound(string how, List<MadeSitting> sittings, Func<short[], IReadOnlyList<StepRange>> find)
    {
        long speech = 0,
            missed = 0,
            silence = 0,
            invented = 0;
        foreach (var sitting in sittings)
        {
            var found = find(sitting.Mix).SelectMany(r => r.Steps).ToHashSet();
            var truth = sitting.Truth.SelectMany(t => new StepRange(t.First, t.End).Steps).ToHashSet();
            speech += truth.Count;
            missed += truth.Count(s => !found.Contains(s));
            var quiet = (sitting.Mix.Length * Step.PerSecond / SilenceSegmenter.SampleRate) - truth.Count;
            silence += quiet;
            invented += found.Count(s => !truth.Contains(s));
        }
        Console.WriteLine(
            Line($"  speech {how}: {(double)missed / speech:0.0%} of its steps missed, ")
                + Line($"{(double)invented / silence:0.0%} of all others taken for it")
        );
    }

    /// <summary>
    /// Sittings of half an hour to two hours, one at a time, with people who move and, in some, one who hardly speaks: what is found must
    /// not depend on how long people talk.
    /// </summary>
    public static async Task LongAsync(string repository)
    {
        var people = await MadePeople.PrepareAsync(repository);
        foreach (
            var (minutes, voices, seldom) in new[]
            {
                (30, 3, 0.05),
                (30, 4, 0.05),
                (60, 2, (double?)null),
                (60, 3, 0.02),
                (60, 5, null),
                (120, 4, null),
            }
        )
        {
            var sitting = people.Make(voices, minutes * 60, 700 + minutes + voices, spoiled: true, moved: true, seldom);
            Console.WriteLine(
                Line($"voices of a made sitting of {minutes} min, {voices} voices{(seldom is null ? "" : ", one of whom hardly speaks")}")
            );
            Show(
                "a mic each",
                [sitting],
                s =>
                    MicDiarisation.Of([.. s.Mics.Select(m => SilenceSegmenter.Energy(m))])
                    ?? throw new InvalidOperationException("No mic was found to be worn.")
            );
            Show("one mix, number of voices found", [sitting], s => OfMix(s.Mix, null));
            Show("one mix, number of voices given", [sitting], s => OfMix(s.Mix, voices));
        }
    }

    // Each person of each sitting, by what they truly say in its mix, against each of each other sitting; then who is found, with the
    // person known elsewhere and without.
    private static void Again(List<MadeSitting> sittings)
    {
        var prints = sittings.SelectMany((s, n) => Prints(s).Select(p => (Sitting: n, p.Person, p.Print))).ToList();
        List<double> same = [],
            others = [];
        foreach (var (one, i) in prints.Select((p, i) => (p, i)))
        {
            foreach (var two in prints.Skip(i + 1).Where(p => p.Sitting != one.Sitting))
            {
                (one.Person == two.Person ? same : others).Add(one.Print.Likeness(two.Print));
            }
        }
        Console.WriteLine(
            Line($"  one person in two sittings: likeness median {Median(same):0.00}, lowest {same.Min():0.00}; two people: median ")
                + Line($"{Median(others):0.00}, highest {others.Max():0.00}")
        );
        int right = 0,
            wrong = 0,
            none = 0,
            strangers = 0;
        foreach (var (sitting, person, print) in prints)
        {
            var known = prints
                .Where(p => p.Sitting != sitting && (p.Sitting % 3) != (sitting % 3))
                .Select(p => new KnownVoice(FormattableString.Invariant($"{p.Person}"), "", p.Print))
                .ToList();
            var guess = KnownVoices.Guess(print, known);
            (right, wrong, none) =
                guess is null ? (right, wrong, none + 1)
                : guess.Name == FormattableString.Invariant($"{person}") ? (right + 1, wrong, none)
                : (right, wrong + 1, none);
            strangers += KnownVoices.Guess(print, known.Where(k => k.Name != FormattableString.Invariant($"{person}"))) is null ? 0 : 1;
        }
        Console.WriteLine(
            Line($"  a voice heard before: of {prints.Count}, {right} named rightly, {wrong} wrongly, {none} left open; of as many that ")
                + Line($"were not heard before, {strangers} named wrongly")
        );
    }

    private static IEnumerable<(int Person, VoicePrint Print)> Prints(MadeSitting sitting)
    {
        var pitch = new PitchTracker();
        pitch.Add(sitting.Mix);
        var sounds = Sounds(sitting.Mix);
        return sitting
            .Truth.GroupBy(t => t.Voice)
            .Select(g => (sitting.People[g.Key], VoicePrint.Of(sounds, pitch.Steps, [.. g.Select(t => new StepRange(t.First, t.End))])!));
    }

    private static double Median(List<double> values) => values.Order().ElementAt(values.Count / 2);

    private static IReadOnlyList<StepRange> Speaking(short[] mix) =>
        VoiceActivity.Speech(SpeechNetwork.Chances(mix), SilenceSegmenter.Energy(mix));

    /// <summary>Who speaks when from one mix at 16 kHz, with the number of voices given or found.</summary>
    internal static VoiceChances OfMix(short[] mix, int? voices)
    {
        var pitch = new PitchTracker();
        pitch.Add(mix);
        var speech = Speaking(mix);
        return SpeakerClustering.Of(
            Sounds(mix),
            pitch.Steps,
            speech,
            voices,
            VoiceActivity.StandsClear(speech, SilenceSegmenter.Energy(mix))
        );
    }

    private static IReadOnlyList<float[]> Sounds(short[] mix)
    {
        var sounds = new Mfcc();
        sounds.Add(mix);
        return sounds.Frames;
    }

    // By a mic each, and by the one mix without and with the number of voices given.
    private static void ShowAll(List<MadeSitting> sittings, string spoiled = "")
    {
        Show(
            "a mic each" + spoiled,
            sittings,
            s =>
                MicDiarisation.Of([.. s.Mics.Select(m => SilenceSegmenter.Energy(m))])
                ?? throw new InvalidOperationException("No mic was found to be worn.")
        );
        Show("one mix, number of voices found", sittings, s => OfMix(s.Mix, null));
        Show("one mix, number of voices given", sittings, s => OfMix(s.Mix, s.Truth.Select(t => t.Voice).Distinct().Count()));
    }

    private static void Show(string how, List<MadeSitting> sittings, Func<MadeSitting, VoiceChances> find)
    {
        var watch = Stopwatch.StartNew();
        var found = sittings.Select(s => (Sitting: s, Chances: find(s))).ToList();
        var took = watch.Elapsed;
        var errors = found.Select(f => DiarisationError.Between(f.Sitting.Truth, f.Chances.Spoken(), Collar)).ToList();
        foreach (var (error, (sitting, chances)) in errors.Zip(found))
        {
            Console.WriteLine(
                Line(
                    $"    {sitting.Truth.Select(t => t.Voice).Distinct().Count()} voices, overlap {sitting.Overlap:0%}: {error.Rate:0.0%} "
                )
                    + Line($"(missed {Part(error, error.Missed)}, false {Part(error, error.False)}, confused ")
                    + Line($"{Part(error, error.Confused)}), {chances.Rows.Count} found")
            );
        }
        Console.WriteLine(
            Line($"  {how}: {(double)errors.Sum(e => e.Missed + e.False + e.Confused) / errors.Sum(e => e.Speech):0.0%} of all speech, ")
                + Line($"worst {errors.Max(e => e.Rate):0.0%}; ")
                + Line($"{sittings.Sum(s => s.Mix.Length / SilenceSegmenter.SampleRate) / took.TotalSeconds:0}x real time")
        );
        var turns = found.SelectMany(f => TurnsOf(f.Sitting, f.Chances)).ToList();
        string Share(bool sure) =>
            turns.Where(t => t.Sure == sure).ToList() is { Count: > 0 } some
                ? Line($"{some.Count(t => t.Right)} of {some.Count} turns ({(double)some.Count(t => t.Right) / some.Count:0%})")
                : "none";
        Console.WriteLine($"    right of those called sure: {Share(true)}; of the others {Share(false)}");
    }

    // All that is truly said as words of 0.3 s, given to voices and laid in turns as a text is; a turn is right when most of it is said by
    // the person whom its voice shares most time with, and no other voice more.
    private static IEnumerable<(bool Sure, bool Right)> TurnsOf(MadeSitting sitting, VoiceChances chances)
    {
        const int word = 30;
        var speaks = sitting
            .Truth.GroupBy(t => t.Voice)
            .ToDictionary(g => g.Key, g => g.SelectMany(t => new StepRange(t.First, t.End).Steps).ToHashSet());
        List<StepRange> words =
        [
            .. StepRuns
                .Of(chances.Steps, i => speaks.Values.Any(s => s.Contains(i)))
                .Runs.SelectMany(r =>
                    r.Steps.Where(i => (i - r.First.Value) % word == 0).Select(i => StepRange.Of(i, Math.Min(i + word, r.End.Value)))
                ),
        ];
        var given = WordVoices.Give(chances, words);
        var turns = new List<(int Voice, List<int> Words)>();
        for (var i = 0; i < given.Count; i++)
        {
            if (turns is [.., var last] && last.Voice == given[i].Voice)
            {
                last.Words.Add(i);
            }
            else
            {
                turns.Add((given[i].Voice, [i]));
            }
        }
        int Common(IEnumerable<int> of, int person) => of.SelectMany(w => words[w].Steps).Count(speaks[person].Contains);
        var whose = new Dictionary<int, int>();
        foreach (
            var (voice, person, _) in turns
                .GroupBy(t => t.Voice)
                .SelectMany(g => speaks.Keys.Select(p => (g.Key, Person: p, Both: Common(g.SelectMany(t => t.Words), p))))
                .OrderByDescending(c => c.Both)
        )
        {
            if (!whose.ContainsKey(voice) && !whose.ContainsValue(person))
            {
                whose[voice] = person;
            }
        }
        return turns.Select(t =>
            (
                t.Words.Average(w => given[w].Sure.Value) >= Turn.UnsureBelow.Value,
                whose.TryGetValue(t.Voice, out var person) && speaks.Keys.All(p => Common(t.Words, p) <= Common(t.Words, person))
            )
        );
    }

    private static string Part(DiarisationError error, long part) => Line($"{(double)part / error.Speech:0.0%}");

    private static string Line(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
