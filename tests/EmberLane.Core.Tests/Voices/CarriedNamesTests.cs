using EmberLane.Core.Transcripts;
using EmberLane.Core.Voices;

namespace EmberLane.Core.Tests.Voices;

public sealed class CarriedNamesTests
{
    [Fact]
    public void A_voice_that_speaks_when_a_named_one_did_gets_that_name_and_nobody_gets_two()
    {
        var before = new Transcript(
            Words("AAAAABBBBBAAAA"),
            Layers.None with
            {
                VoiceNames = Layers.None.VoiceNames.Add(0, "Maren").Add(1, "Tobias"),
            }
        );
        // Voice 2 is Maren, 1 Tobias; 0 says two words of hers, which is no second Maren.
        Assert.Equal(
            [(1, "Tobias"), (2, "Maren")],
            Ordered(CarriedNames.Of(before, Words("CCCCCBBBBBCCAA"), new Dictionary<int, string>()))
        );
    }

    [Fact]
    public void A_name_that_the_mics_gave_stays_and_who_talks_across_two_people_is_left_unnamed()
    {
        var before = new Transcript(
            Words("AAAABBBB"),
            Layers.None with
            {
                VoiceNames = Layers.None.VoiceNames.Add(0, "Maren").Add(1, "Tobias"),
            }
        );
        Assert.Equal(
            [(0, "Ilse"), (1, "Tobias")],
            Ordered(CarriedNames.Of(before, Words("AAAABBBB"), new Dictionary<int, string> { [0] = "Ilse" }))
        );
        Assert.Empty(CarriedNames.Of(before, Words("CCCCCCCC"), new Dictionary<int, string>()));
        Assert.Empty(CarriedNames.Of(new Transcript([], Layers.None), Words("AAB"), new Dictionary<int, string>()));
        Assert.Empty(CarriedNames.Of(before, [], new Dictionary<int, string>()));
    }

    private static IEnumerable<(int, string)> Ordered(IReadOnlyDictionary<int, string> names) =>
        names.OrderBy(n => n.Key).Select(n => (n.Key, n.Value));

    // A word every half second, each by the voice of its letter.
    private static List<RecordWord> Words(string voices) =>
        [
            .. voices.Select(
                (v, i) =>
                    new RecordWord(
                        new(i),
                        "w",
                        new SittingRange(
                            new SittingTime(MediaTime.FromMilliseconds(i * 500)),
                            new SittingTime(MediaTime.FromMilliseconds((i * 500) + 400))
                        ),
                        new(500),
                        v - 'A'
                    )
            ),
        ];
}
