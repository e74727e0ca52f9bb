using System.Globalization;
using EmberLane.Core.Speech;
using EmberLane.Core.Tidy;
using EmberLane.Engines.Speech;
using EmberLane.Footage;
using Talk = EmberLane.Core.Tidy.Talk;

namespace EmberLane.Bench;

/// <summary>
/// Sounds that fill a pause and that the recogniser's words lack: made voices that say “um” and “er” within the lines of the demonstration;
/// the word is left out of the list, and so is every twelfth other word, which is the hard case. Noise 15 dB below the talk, word ends that
/// lie wrong by up to 60 ms.
/// </summary>
internal static class FillersBench
{
    private const int Rate = SilenceSegmenter.SampleRate,
        Decimation = 3,
        Wrong = 60,
        Dropped = 12;

    private static readonly RoomSound Room = new(0.2, 15);

    private static readonly string[] Fillers = ["um", "uh", "er", "uhm", "erm"];

    private static readonly (string Name, int Cents, double Tempo)[] Tuned = [("slt", -120, 0.95), ("awb", 0, 0.97)],
        Reported = [("rms", -40, 0.98), ("kal16", 60, 0.95), ("slt", 250, 0.9)];

    public static async Task RunAsync(string repository)
    {
        var texts = Directory
            .EnumerateFiles(Path.Combine(repository, "demo", "script"), "*.txt")
            .Order(StringComparer.Ordinal)
            .SelectMany(Script.Read)
            .Where(l => l.Who != "*")
            .Select(l => l.Text)
            .ToList();
        await ShowAsync("the half that is tuned on", Tuned, [.. texts.Where((_, i) => i % 2 == 0)]);
        await ShowAsync("the half that is reported", Reported, [.. texts.Where((_, i) => i % 2 == 1)]);
        foreach (var tuning in new[] { true, false })
        {
            var real = await RealPeople.PrepareAsync(repository, tuning);
            int found = 0,
                gaps = 0;
            for (var n = 0; n < 6; n++)
            {
                var (mix, speech) = real.Talk(300, 3_000 + n, Room);
                var random = new Random(n);
                // Words of a third of a second, every twelfth of which was not heard: nobody says um.
                var words = TidyBench.Heard(speech, random).Words;
                var kept = words.Where(_ => random.Next(Dropped) > 0).ToList();
                gaps += words.Count - kept.Count;
                found += FilledSounds.Of(new Talk(kept), SpeechNetwork.Chances(mix), SteadyVoice.Of(mix), MediaTime.Zero).Count;
            }
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"fillers without a word, real people who say none, the half that is {(tuning ? "tuned on" : "reported")}: "
                        + $"{found} taken "
                        + $"for one in 30 min, {gaps} of whose words are missing"
                )
            );
        }
    }

    private static async Task ShowAsync(string what, (string Name, int Cents, double Tempo)[] voices, List<string> texts)
    {
        var folder = Directory.CreateTempSubdirectory("ember-fillers");
        try
        {
            int planted = 0,
                found = 0,
                right = 0,
                gaps = 0;
            foreach (var (v, (name, cents, tempo)) in voices.Index())
            {
                var voice = new FliteVoice(name, cents, tempo);
                var random = new Random(v);
                var dry = new List<float>(new float[Rate]);
                var words = new List<TalkWord>();
                var truth = new List<TalkPause>();
                foreach (var text in texts)
                {
                    var said = text.Split(' ');
                    var at = 1 + random.Next(Math.Max(1, said.Length - 1));
                    await SayAsync(string.Join(' ', said[..at]), voice, filler: false);
                    Rest(random.Next(30));
                    await SayAsync(
                        Fillers[random.Next(Fillers.Length)],
                        new FliteVoice(name, cents, 0.55 + (0.25 * random.NextDouble())),
                        filler: true
                    );
                    Rest(random.Next(40));
                    if (at < said.Length)
                    {
                        await SayAsync(string.Join(' ', said[at..]), voice, filler: false);
                    }
                    Rest(random.Next(10, 120));
                }
                var mix = MadePeople.InRoom(
                    [
                        [.. dry],
                    ],
                    [0.5],
                    Room,
                    random
                );
                var heard = FilledSounds.Of(new Talk(words), SpeechNetwork.Chances(mix), SteadyVoice.Of(mix), MediaTime.Zero);
                planted += truth.Count;
                found += heard.Count;
                right += truth.Count(t => heard.Any(h => h.Stretch.In < t.Out && h.Stretch.Out > t.In));

                void Rest(int steps) => dry.AddRange(new float[Rate / Step.PerSecond * steps]);

                async Task SayAsync(string what, FliteVoice by, bool filler)
                {
                    var line = await by.SayAsync(what, folder.FullName);
                    var begins = 1000L * dry.Count / Rate;
                    foreach (var word in line.Words)
                    {
                        long from = begins + (long)(1000 * word.Start),
                            to = begins + (long)(1000 * word.End);
                        if (filler)
                        {
                            truth.Add(new TalkPause(MediaTime.FromMilliseconds(from), MediaTime.FromMilliseconds(to)));
                        }
                        else if (random.Next(Dropped) == 0)
                        {
                            gaps++;
                        }
                        else
                        {
                            from = Math.Max(
                                from + random.Next(-Wrong, Wrong + 1),
                                words.Count > 0 ? words[^1].Out.ToMillisecondsRounded() : 0
                            );
                            to = Math.Max(from + 30, to + random.Next(-Wrong, Wrong + 1));
                            words.Add(new TalkWord(word.Text, MediaTime.FromMilliseconds(from), MediaTime.FromMilliseconds(to), 0));
                        }
                    }
                    dry.AddRange(line.Samples.Where((_, i) => i % Decimation == 0));
                }
            }
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"fillers without a word, made voices, {what}: recall {(double)right / planted:0.0%} of {planted}, precision "
                        + $"{(double)right / Math.Max(1, found):0.0%}; {gaps} other words are missing"
                )
            );
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }
}
