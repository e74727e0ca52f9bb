using EmberLane.Core.Mics;

namespace EmberLane.Core.Tests.Mics;

public sealed class MicTests
{
    private static readonly string[] People = ["Maren Oakhurst", "Tobias Fenn", "Tobias Roe"];

    private static KnownChannel Channel(
        int n,
        string name = "",
        ChannelSound? sound = null,
        bool picture = false,
        int of = 3,
        MicChoice? choice = null
    ) => new(1, n, name, picture, of, sound, choice ?? MicChoice.None);

    [Theory]
    [InlineData("Lav Maren", MicKind.Lav, "Maren Oakhurst")]
    [InlineData("MAREN_LAV", MicKind.Lav, "Maren Oakhurst")]
    [InlineData("Lav Tobias", MicKind.Lav, "Tobias")]
    [InlineData("radio 2", MicKind.Lav, "")]
    [InlineData("Boom 1", MicKind.Boom, "")]
    [InlineData("MixL", MicKind.Mix, "")]
    [InlineData("cam scratch", MicKind.Camera, "")]
    public void A_name_tells_kind_and_person(string name, MicKind kind, string person)
    {
        var mic = Assert.Single(MicGuess.Of([Channel(0, name)], People));
        Assert.Equal((kind, person), (mic.Kind, mic.Person));
        Assert.Contains(name, mic.Why, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("maren", "Maren Oakhurst")]
    [InlineData("MAREN OAKHURST", "Maren Oakhurst")]
    [InlineData("  Tobias ", "Tobias")]
    [InlineData("", "")]
    public void A_part_of_a_name_finds_the_one_person_who_has_it(string typed, string whole)
    {
        Assert.Equal(whole, MicGuess.WholeName(typed, People));
        Assert.Equal("Maren", MicGuess.WholeName("Maren", ["Maren Oakhurst", "Maren Veld"]));
        Assert.Equal("Maren", MicGuess.WholeName("maren", ["Maren Oakhurst", "Maren"]));
    }

    [Fact]
    public void Without_names_the_sound_tells_and_the_lavs_are_heard()
    {
        var mics = MicGuess.Of(
            [
                Channel(0, sound: new(-18, 27, null)),
                Channel(1, sound: new(-20, 12, null)),
                Channel(2, sound: new(-75, 3, null)),
                Channel(3, sound: new(-18, 27, 0)),
                Channel(4, sound: new(-19, 24, null)),
                Channel(0, picture: true, of: 1),
            ],
            []
        );
        Assert.Equal([MicKind.Lav, MicKind.Boom, MicKind.Unused, MicKind.Unused, MicKind.Lav, MicKind.Camera], mics.Select(m => m.Kind));
        Assert.Equal([true, false, false, false, true, false], mics.Select(m => m.Heard));
        Assert.Equal("the same sound as channel 1", mics[3].Why);
    }

    [Fact]
    public void Without_lavs_the_next_best_is_heard_and_what_a_person_decided_stands()
    {
        Assert.Equal([false, true], MicGuess.Of([Channel(0, picture: true, of: 1), Channel(0, of: 1)], []).Select(m => m.Heard));
        Assert.Equal(
            [true, true, false],
            MicGuess.Of([Channel(0, "Lav Ilse"), Channel(1, "Boom"), Channel(0, picture: true, of: 1)], []).Select(m => m.Heard)
        );
        Assert.Equal([true], MicGuess.Of([Channel(0, picture: true, of: 2)], []).Select(m => m.Heard));
        var decided = MicGuess.Of(
            [Channel(0, "Lav Maren", choice: new(MicKind.Boom, "", false)), Channel(1, "Boom", choice: new(null, "Ilse", true))],
            People
        );
        Assert.Equal((MicKind.Boom, "", false), (decided[0].Kind, decided[0].Person, decided[0].Heard));
        Assert.Equal((MicKind.Boom, "Ilse", true), (decided[1].Kind, decided[1].Person, decided[1].Heard));
        Assert.Empty(MicGuess.Of([], []));
    }

    // Two people speak in turn for a second each, with pauses; bleed 18 dB below on the lavs, everybody alike on the boom, and a channel
    // with hiss only.
    [Fact]
    public void A_worn_mic_a_boom_a_copy_and_an_empty_channel_are_told_apart_by_their_levels()
    {
        const int steps = 6_000;
        var random = new Random(3);
        float[] one = new float[steps],
            other = new float[steps],
            boom = new float[steps],
            hiss = new float[steps];
        var syllable = 1.0;
        for (var i = 0; i < steps; i++)
        {
            if (i % 20 == 0)
            {
                syllable = Math.Pow(10, -random.NextDouble());
            }
            double first = i / 100 % 4 == 0 ? syllable : 0,
                second = i / 100 % 4 == 2 ? syllable : 0;
            one[i] = (float)(1e6 * (first + (0.016 * second) + 1e-5));
            other[i] = (float)(4e6 * (second + (0.016 * first) + 1e-5));
            boom[i] = (float)(5e5 * (first + second + 1e-4));
            hiss[i] = (float)(3 + random.NextDouble());
        }
        var sounds = ChannelLevels.Of([one, other, boom, hiss, [.. other]]);
        Assert.All(sounds.Take(2), s => Assert.InRange(s.Spread, MicGuess.NearVoice, 60));
        Assert.InRange(sounds[2].Spread, 0, 15);
        Assert.True(sounds[3].Loud < -80);
        Assert.Equal([null, null, null, null, 1], sounds.Select(s => s.CopyOf));
        Assert.Equal(
            [MicKind.Lav, MicKind.Lav, MicKind.Boom, MicKind.Unused, MicKind.Unused],
            MicGuess.Of([.. sounds.Select((s, i) => Channel(i, sound: s, of: 5))], []).Select(m => m.Kind)
        );
    }

    [Fact]
    public void Nothing_to_listen_to_is_no_error()
    {
        Assert.Empty(ChannelLevels.Of([]));
        Assert.Equal(
            -120,
            Assert
                .Single(
                    ChannelLevels.Of([
                        [],
                    ])
                )
                .Loud
        );
        Assert.Equal(0, Assert.Single(ChannelLevels.Of([new float[500]])).Spread);
    }
}
