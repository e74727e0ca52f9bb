using EmberLane.Core.Speech;
using EmberLane.Core.Voices;

namespace EmberLane.Core.Tests.Voices;

/// <summary>Who speaks, from one mix: voices that are made of noise through two resonances each, as vowels are.</summary>
public sealed class SpeakerClusteringTests
{
    private const int Rate = SilenceSegmenter.SampleRate,
        Step = 100;

    private static readonly (double One, double Two)[] Throats = [(300, 2300), (700, 1200), (500, 1700), (380, 950)];

    [Theory]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    public void As_many_voices_are_found_as_speak_and_each_where_it_speaks(int voices)
    {
        var (sound, truth) = Talk(voices, 24, seed: voices);
        var chances = Find(sound, null);
        Assert.Equal(voices, chances.Rows.Count);
        Assert.Equal("voice 1", chances.Labels[0]);
        Assert.InRange(DiarisationError.Between(truth, chances.Spoken(), 25).Rate, 0, 0.05);
    }

    [Fact]
    public void As_many_are_found_as_are_asked_for()
    {
        var (sound, _) = Talk(3, 18, seed: 8);
        Assert.Equal(2, Find(sound, 2).Rows.Count);
        Assert.Single(Find(sound, 1).Rows);
    }

    [Fact]
    public void The_same_sound_gives_the_same_answer()
    {
        var (sound, _) = Talk(3, 12, seed: 5);
        Assert.Equal(Find(sound, null).Spoken(), Find(sound, null).Spoken());
    }

    [Fact]
    public void Silence_has_no_voices_and_a_single_word_has_one()
    {
        Assert.Empty(Find(new short[Rate * 5], null).Rows);
        Assert.Empty(Find([], null).Rows);
        Assert.Single(Find([.. new short[Rate], .. Talk(1, 1, seed: 3).Sound[(Rate / 2)..Rate], .. new short[Rate]], null).Rows);
    }

    [Fact]
    public void Sounds_come_out_the_same_whole_and_in_parts()
    {
        var (sound, _) = Talk(1, 1, seed: 4);
        Mfcc whole = new(),
            parts = new();
        whole.Add(sound);
        for (var at = 0; at < sound.Length; at += 777)
        {
            parts.Add(sound.AsSpan(at, Math.Min(777, sound.Length - at)));
        }
        Assert.Equal(whole.Frames.Count, parts.Frames.Count);
        // The window's first sample has no sample before it, so that the border of a part can differ there alone.
        Assert.All(whole.Frames.Zip(parts.Frames), f => Assert.Equal(f.First[0], f.Second[0], 0.5f));
    }

    [Theory]
    [InlineData(4, null)]
    [InlineData(40, null)]
    [InlineData(40, 3)]
    public void The_number_of_voices_does_not_grow_with_the_time_and_who_speaks_seldom_is_one_of_them(int minutes, int? given)
    {
        var (sounds, energy, truth) = LongTalk(minutes);
        var chances = SpeakerClustering.Of(sounds, [], VoiceActivity.SpeechByLoudness(energy), given);
        Assert.Equal(3, chances.Rows.Count);
        Assert.InRange(DiarisationError.Between(truth, chances.Spoken(), 25).Rate, 0, 0.05);
    }

    // Three who speak in turns, the third once in a while. Each makes eight kinds of sound, some of them in a turn and each turn a little
    // otherwise, as people do: what one voice says is far from one normal distribution.
    private static (List<float[]> Sounds, float[] Energy, List<Spoken> Truth) LongTalk(int minutes)
    {
        var random = new Random(11);
        float Normal() => (float)(Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble()));
        float[] Vector(float size) => [.. Enumerable.Range(0, Mfcc.Coefficients).Select(_ => size * Normal())];
        var kinds = Enumerable.Range(0, 8).Select(_ => Vector(3)).ToArray();
        var people = Enumerable.Range(0, 3).Select(_ => (Place: Vector(1.5f), Own: kinds.Select(_ => Vector(1)).ToArray())).ToArray();
        var sounds = new List<float[]>();
        var energy = new List<float>();
        var truth = new List<Spoken>();
        for (var turn = 0; sounds.Count < minutes * 60 * Step; turn++)
        {
            var who = turn % 9 == 4 ? 2 : turn % 2;
            int start = sounds.Count,
                end = start + random.Next(3 * Step, 9 * Step);
            var mood = Vector(0.3f);
            int[] some = [.. Enumerable.Range(0, kinds.Length).OrderBy(_ => random.Next()).Take(7)];
            while (sounds.Count < end)
            {
                var kind = some[random.Next(some.Length)];
                for (var i = random.Next(5, 16); i > 0; i--)
                {
                    sounds.Add([.. kinds[kind].Select((k, c) => k + people[who].Place[c] + people[who].Own[kind][c] + mood[c] + Normal())]);
                    energy.Add(1e6f);
                }
            }
            truth.Add(new Spoken(who, new(start), new(sounds.Count)));
            for (var i = 0; i < Step / 2; i++)
            {
                sounds.Add(Vector(1));
                energy.Add(1);
            }
        }
        return (sounds, [.. energy], truth);
    }

    private static VoiceChances Find(short[] sound, int? voices)
    {
        var sounds = new Mfcc();
        sounds.Add(sound);
        var pitch = new PitchTracker();
        pitch.Add(sound);
        return SpeakerClustering.Of(sounds.Frames, pitch.Steps, VoiceActivity.SpeechByLoudness(SilenceSegmenter.Energy(sound)), voices);
    }

    private static (short[] Sound, List<Spoken> Truth) Talk(int voices, int turns, int seed)
    {
        var random = new Random(seed);
        var truth = new List<Spoken>();
        var sound = new List<short>(new short[Rate / 2]);
        for (var turn = 0; turn < turns; turn++)
        {
            var steps = random.Next(2 * Step, 4 * Step);
            truth.Add(new Spoken(turn % voices, new(sound.Count * Step / Rate), new((sound.Count * Step / Rate) + steps)));
            sound.AddRange(Say(Throats[turn % voices], steps * Rate / Step, random));
            sound.AddRange(new short[Rate / 2]);
        }
        return ([.. sound], truth);
    }

    // The resonances sway by a tenth, as they do when somebody talks.
    private static IEnumerable<short> Say((double One, double Two) throat, int samples, Random random)
    {
        double a1 = 0,
            a2 = 0,
            b1 = 0,
            b2 = 0,
            sway = 1;
        for (var i = 0; i < samples; i++)
        {
            sway = i % 1600 == 0 ? 0.95 + (0.1 * random.NextDouble()) : sway;
            var x = random.NextDouble() - 0.5;
            double a = x + (1.94 * Math.Cos(2 * Math.PI * throat.One * sway / Rate) * a1) - (0.94 * a2),
                b = x + (1.94 * Math.Cos(2 * Math.PI * throat.Two * sway / Rate) * b1) - (0.94 * b2);
            (a1, a2, b1, b2) = (a, a1, b, b1);
            yield return (short)Math.Clamp(1200 * (a + (0.7 * b)), short.MinValue, short.MaxValue);
        }
    }
}
