using CsCheck;
using EmberLane.Core.Finding;

namespace EmberLane.Core.Tests.Finding;

public sealed class PassageSearchTests
{
    private static SaidPassage Of(params int[] terms) =>
        new(terms, [.. Enumerable.Range(0, terms.Length)], new int[terms.Length], terms.Length);

    private static WantedPhrase Phrase(params int[] terms) => new([.. terms.Select(t => (IReadOnlyList<(int[], int)>)[([t], 0)])]);

    private static WantedTogether Alone(params int[] terms) => new([Phrase(terms)], 1);

    private static (int, int)[] In(SaidPassage passage, IReadOnlyList<WantedTogether> together, params WantedPhrase[] without) =>
        [.. new PassageSearch(together, without).In(passage).Select(h => (h.First, h.Last))];

    [Fact]
    public void Words_phrases_and_words_together_are_found_where_they_stand()
    {
        var passage = Of(1, 2, 3, 1, 2, 9, 9, 3);
        Assert.Equal([(0, 0), (3, 3)], In(passage, [Alone(1)]));
        Assert.Equal([(0, 1), (3, 4)], In(passage, [Alone(1, 2)]));
        Assert.Equal([(0, 2)], In(passage, [Alone(1, 2, 3)]));
        Assert.Equal([(1, 2), (4, 7)], In(passage, [Alone(2), Alone(3)]));
        Assert.Empty(In(passage, [Alone(4)]));
        Assert.Equal([(0, 2)], In(passage, [new([Phrase(1), Phrase(3)], 2)]));
    }

    [Fact]
    public void What_is_left_out_counts_as_far_as_it_is_near()
    {
        int[] far = [1, .. Enumerable.Repeat(9, FindQuestion.Around), 2];
        Assert.Equal([(0, 0)], In(Of(far), [Alone(1)], Phrase(2)));
        Assert.Empty(In(Of([1, .. far.Skip(2)]), [Alone(1)], Phrase(2)));
    }

    [Fact]
    public void Words_of_the_next_stretch_end_a_hit_and_never_begin_one()
    {
        var passage = Of(1, 2, 1, 2) with { Own = 2 };
        Assert.Equal([(0, 1)], In(passage, [Alone(1, 2)]));
        Assert.Equal([(1, 2)], In(passage, [Alone(2, 1)]));
    }

    [Fact]
    public void Two_terms_may_stand_for_one_word_and_the_nearest_way_counts()
    {
        WantedTogether wanted = new(
            [
                new([
                    [([5, 6], 20), ([7], 10), ([5], 40)],
                ]),
            ],
            1
        );
        var hits = new PassageSearch([wanted], []).In(Of(5, 6, 7, 5));
        Assert.Equal([(0, 1, 20), (2, 2, 10), (3, 3, 40)], hits.Select(h => (h.First, h.Last, h.Apart)));
    }

    [Fact]
    public void A_phrase_is_found_as_looking_at_every_place_finds_it()
    {
        var terms = Gen.Int[1, 4];
        Gen.Select(terms.Array[0, 40], terms.Array[1, 3])
            .Sample(
                (said, asked) =>
                {
                    var expected = new List<(int, int)>();
                    for (var i = 0; i + asked.Length <= said.Length; i++)
                    {
                        if (said.Skip(i).Take(asked.Length).SequenceEqual(asked) && (expected.Count == 0 || i > expected[^1].Item2))
                        {
                            expected.Add((i, i + asked.Length - 1));
                        }
                    }
                    Assert.Equal(expected, In(Of(said), [Alone(asked)]));
                }
            );
    }

    [Fact]
    public void Words_together_are_found_wherever_some_stretch_holds_all_of_them_and_each_hit_does()
    {
        var terms = Gen.Int[1, 12];
        Gen.Select(terms.Array[0, 120], Gen.Int[1, 3].Array[1, 3], Gen.Int[1, 6])
            .Sample(
                (said, asked, within) =>
                {
                    WantedTogether wanted = new([.. asked.Select(a => Phrase(a))], within);
                    var hits = In(Of(said), asked.Length == 1 ? [Alone(asked)] : [wanted]);
                    bool Holds(int first, int last) =>
                        asked.All(a => said.Skip(first).Take(last + 1 - first).Contains(a))
                        && last - first < FindQuestion.Spread
                        && last - first <= within;
                    var any = false;
                    for (var i = 0; i < said.Length && !any; i++)
                    {
                        for (var j = i; j < said.Length && !any; j++)
                        {
                            any = Holds(i, j);
                        }
                    }
                    Assert.Equal(any, hits.Length > 0);
                    Assert.All(hits, h => Assert.True(Holds(h.Item1, h.Item2)));
                    Assert.True(hits.Zip(hits.Skip(1)).All(p => p.First.Item2 < p.Second.Item1));
                }
            );
    }

    [Fact]
    public void A_passage_comes_back_from_its_bytes_which_hold_every_run_of_its_terms()
    {
        Gen.Select(Gen.Int[0, 300_000].Array[1, 60], Gen.Int[0, 59], Gen.Int[1, 5])
            .Sample(
                (terms, from, count) =>
                {
                    int[] words = [.. terms.Select((t, i) => (i * 2) + (t % 3))],
                        voices = [.. terms.Select(t => t % 2)];
                    var passage = new SaidPassage(terms, words, voices, terms.Length / 2);
                    var bytes = passage.ToBytes();
                    var back = SaidPassage.Of(bytes);
                    Assert.Equal(terms, back.Terms);
                    Assert.Equal(words, back.Words);
                    Assert.Equal(voices, back.Voices);
                    Assert.Equal(terms.Length / 2, back.Own);
                    Assert.True(SaidPassage.MayHold(bytes, SaidPassage.RunOf(terms.Skip(from).Take(count))));
                }
            );
    }
}
