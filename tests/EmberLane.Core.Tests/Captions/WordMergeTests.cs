using CsCheck;
using EmberLane.Core.Captions;

namespace EmberLane.Core.Tests.Captions;

public sealed class WordMergeTests
{
    private static readonly Gen<string> Texts = Gen.OneOfConst("a", "b", "c", "d", "e").Array[0, 8].Select(w => string.Join(' ', w));

    [Theory]
    [InlineData("a b c d", "a b\nc d", "a b C d", "a b\nC d")]
    [InlineData("a b c d", "x a b c d", "a b c e", "x a b c e")]
    [InlineData("a b c d", "a d", "a b c d", "a d")]
    [InlineData("a b c d e", "a x d e", "a b c d E", "a x d E")]
    [InlineData("a b", "a b", "", "")]
    public void What_each_changed_is_in_it(string before, string typed, string now, string merged) =>
        Assert.Equal(merged, WordMerge.Of(before, typed, now));

    [Theory]
    [InlineData("a b c", "a x c", "a y c")]
    [InlineData("a b c", "a x", "a b d")]
    [InlineData("a b c d", "a x d", "a b c D")]
    public void The_same_words_changed_in_two_ways_are_no_one_s(string before, string typed, string now) =>
        Assert.Null(WordMerge.Of(before, typed, now));

    [Fact]
    public void Where_only_one_changed_it_is_that_one_s_text() =>
        Gen.Select(Texts, Texts)
            .Sample(
                (before, other) =>
                    WordMerge.Of(before, before, other) == other
                    && WordMerge.Of(before, other, before) == other
                    && WordMerge.Of(before, other, other) == other
            );

    [Fact]
    public void Words_lie_beside_each_other_in_order_as_many_as_by_trying_all() =>
        Gen.Select(Texts, Texts)
            .Sample(
                (one, other) =>
                {
                    string[] a = WordMerge.WordsOf(one),
                        b = WordMerge.WordsOf(other);
                    var beside = WordMerge.Beside(a, b);
                    var pairs = beside.Index().Where(p => p.Item >= 0).ToList();
                    return pairs.All(p => a[p.Index] == b[p.Item])
                        && pairs.Zip(pairs.Skip(1)).All(p => p.First.Item < p.Second.Item)
                        && pairs.Count == Longest(a, b, 0, 0);
                },
                iter: 500
            );

    private static int Longest(string[] a, string[] b, int i, int j) =>
        i == a.Length || j == b.Length ? 0
        : a[i] == b[j] ? 1 + Longest(a, b, i + 1, j + 1)
        : Math.Max(Longest(a, b, i + 1, j), Longest(a, b, i, j + 1));
}
