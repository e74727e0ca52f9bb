using CsCheck;
using EmberLane.Core.Finding.Sounds;

namespace EmberLane.Core.Tests.Finding;

public sealed class SoundTests
{
    private static readonly Pronouncing Known = Pronouncing.Read([
        "turned T ER1 N D",
        "hello HH AH0 L OW1",
        "hollow HH AA1 L OW0",
        "tern T ER1 N",
        "tern(2) T EH1 R N",
        "nobody N OW1 B AA2 D IY2",
        "sent S EH1 N T",
        "no sounds of these X Q",
        "",
        "(2",
        "lone",
    ]);

    // The least cost of turning a stretch that ends with a sound into the question, begun anywhere: plainly.
    private static int Plain(byte[] said, byte[] asked, int end)
    {
        var least = int.MaxValue;
        for (var begin = 0; begin <= end + 1; begin++)
        {
            var stretch = said[begin..(end + 1)];
            var costs = new int[stretch.Length + 1, asked.Length + 1];
            for (var i = 0; i <= stretch.Length; i++)
            {
                for (var j = 0; j <= asked.Length; j++)
                {
                    costs[i, j] = (i, j) switch
                    {
                        (0, 0) => 0,
                        (0, _) => costs[0, j - 1] + Phonemes.More(asked[j - 1]),
                        (_, 0) => costs[i - 1, 0] + Phonemes.More(stretch[i - 1]),
                        _ => new[]
                        {
                            costs[i - 1, j - 1] + Phonemes.Instead(asked[j - 1], stretch[i - 1]),
                            costs[i - 1, j] + Phonemes.More(stretch[i - 1]),
                            costs[i, j - 1] + Phonemes.More(asked[j - 1]),
                        }.Min(),
                    };
                }
            }
            least = Math.Min(least, costs[stretch.Length, asked.Length]);
        }
        return least;
    }

    private static readonly Gen<byte[]> Sounds = Gen.Int[1, Phonemes.Unknown - 1].Select(c => (byte)c).Array[1, 14];

    [Fact]
    public void A_block_finds_what_plain_comparison_finds_in_each_of_its_lanes() =>
        Gen.Select(Sounds.Array[1, SoundBlock.Lanes], Gen.Int[1, Phonemes.Unknown - 1].Select(c => (byte)c).Array[4, 7])
            .Sample(
                (said, asked) =>
                {
                    const byte most = 60;
                    var ends = new List<SoundEnd>();
                    new SoundBlock([.. said.Select(s => SaidSounds.Of([s]))]).EndsOf(SoundQuestion.Of(asked)!, most, ends);
                    Assert.Equal(
                        said.SelectMany((s, lane) => s.Select((_, at) => (Lane: lane, At: at, Cost: Plain(s, asked, at))))
                            .Where(e => e.Cost <= most),
                        ends.OrderBy(e => e.Lane).ThenBy(e => e.At).Select(e => (e.Lane, e.At, (int)e.Cost))
                    );
                },
                iter: 300
            );

    [Fact]
    public void What_is_said_right_costs_nothing_and_begins_where_it_is_said() =>
        Gen.Select(Sounds, Gen.Int[1, Phonemes.Unknown - 1].Select(c => (byte)c).Array[4, 7], Sounds)
            .Sample(
                (before, asked, behind) =>
                {
                    var said = SaidSounds.Of([before, asked, behind]);
                    var question = SoundQuestion.Of(asked)!;
                    var ends = new List<SoundEnd>();
                    new SoundBlock([said]).EndsOf(question, 0, ends);
                    Assert.Contains(ends, e => e.At == before.Length + asked.Length - 1);
                    Assert.Equal(before.Length, question.BeginOf(said, before.Length + asked.Length - 1));
                    Assert.Equal(1, SaidSounds.WordAt(said, before.Length));
                    Assert.Equal(2, SaidSounds.WordAt(said, said.Length - 1));
                },
                iter: 300
            );

    [Fact]
    public void A_lane_gives_back_what_was_laid_into_it() =>
        Sounds
            .Array[1, SoundBlock.Lanes]
            .Sample(said =>
            {
                var block = new SoundBlock(said);
                Assert.Equal(said, said.Select((_, lane) => block.Lane(lane)));
            });

    [Fact]
    public void Costs_do_not_depend_on_which_sound_comes_first()
    {
        for (byte a = 1; a < Phonemes.Codes; a++)
        {
            for (byte b = 1; b < Phonemes.Codes; b++)
            {
                Assert.Equal(Phonemes.Instead(a, b), Phonemes.Instead(b, a));
                Assert.Equal(a == b && a < Phonemes.Unknown, Phonemes.Instead(a, b) == 0);
            }
        }
    }

    [Fact]
    public void A_dictionary_says_how_words_are_said_and_spelling_where_it_does_not()
    {
        Assert.Equal(Phonemes.CodesOf("T ER N D"), Known.Of("turned"));
        Assert.Equal(Phonemes.CodesOf("S AE L T M ER"), Known.Of("saltmere"));
        Assert.Equal(Phonemes.CodesOf("N IY"), Known.Of("kney"));
        // Its words are English.
        Assert.NotEqual(Known.Of("turned"), Known.Of("turned", "de"));
        Assert.Equal([Phonemes.Unknown], Known.Of("1983"));
        Assert.Equal([Phonemes.Unknown], Known.Of("שלום"));
    }

    [Fact]
    public void A_name_is_said_in_some_ways_the_likely_first()
    {
        var ways = Known.WaysOf(["tern", "hollow"]);
        Assert.Equal(Phonemes.CodesOf("T ER N HH AA L OW"), ways[0]);
        Assert.Contains(ways, w => w.SequenceEqual(Phonemes.CodesOf("T EH R N HH AA L OW")));
        Assert.Equal(ways.Count, ways.Select(Convert.ToHexString).Distinct().Count());
        Assert.InRange(Known.WaysOf([.. Enumerable.Repeat("tern", 12)]).Count, 1, 4);
    }

    [Theory]
    [InlineData("AA B")]
    [InlineData("")]
    public void Too_few_sounds_are_not_looked_for(string names) =>
        Assert.Null(SoundQuestion.Of(names.Length == 0 ? [] : Phonemes.CodesOf(names)));

    [Theory]
    [InlineData(20, 0, true)]
    [InlineData(30, 28, true)]
    [InlineData(30, 20, false)]
    [InlineData(40, 40, false)]
    public void Far_ones_count_where_none_is_much_nearer(int share, int nearest, bool isNear) =>
        Assert.Equal(isNear, SoundQuestion.IsNear(share, nearest));
}
