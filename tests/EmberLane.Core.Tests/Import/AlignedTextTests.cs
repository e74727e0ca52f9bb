using CsCheck;
using EmberLane.Core.Import;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tests.Import;

/// <summary>Typed text beside heard text.</summary>
public sealed class AlignedTextTests
{
    private static readonly Gen<string[]> Texts = Gen.OneOfConst("ferry", "cable", "the", "and", "water", "bridge", "Hollow", "one").Array[
        0,
        60
    ];

    [Theory]
    [InlineData("hollow", "Hollow,", 1)]
    [InlineData("turn", "Tern", 0.5)]
    [InlineData("night", "knight", 0.9)]
    [InlineData("rough", "ro", 0.5)]
    public void Words_that_look_or_sound_alike_are_alike(string one, string other, double least) =>
        Assert.InRange(SoundsLike.Of(one, other), least, 1);

    [Theory]
    [InlineData("ferry", "compass")]
    [InlineData("...", "...")]
    [InlineData("", "word")]
    public void Others_are_not(string one, string other) => Assert.InRange(SoundsLike.Of(one, other), 0, 0.4);

    [Fact]
    public void Letters_alone_never_tell_two_words_to_be_less_alike_than_they_are() =>
        Gen.Select(Gen.String[Gen.Char["aehklnoqrtuwyzäΩ-' "], 0, 30], Gen.String[Gen.Char["aehklnoqrtuwyzäΩ-' "], 0, 30])
            .Sample(
                (one, other) =>
                {
                    SoundForm a = SoundForm.Of(one),
                        b = SoundForm.Of(other);
                    Assert.True(a.AtMostLike(b) >= SoundsLike.Of(a, b) - 1e-12, $"{a.AtMostLike(b)} is less than {SoundsLike.Of(a, b)}");
                    Assert.Equal(a.AtMostLike(b), b.AtMostLike(a));
                }
            );

    [Fact]
    public void A_misheard_word_lies_beside_the_typed_one_and_a_missing_one_beside_nothing() =>
        Assert.Equal(
            [0, 1, 2, -1, 4],
            WordAlignment.Of("at Tern Hollow they cross".Split(' '), "at turn hollow gigantic cross".Split(' '))
        );

    [Fact]
    public void Words_that_are_the_same_by_chance_far_away_are_left_alone()
    {
        string heard = "we cross at tern hollow every day " + string.Concat(Enumerable.Repeat("nothing else ", 20)) + "and you",
            typed = "we cross at tern hollow every day they made this up and you";
        Assert.Equal([0, 1, 2, 3, 4, 5, 6, -1, -1, -1, -1, -1, -1], WordAlignment.Of(typed.Split(' '), heard.Split(' ')));
    }

    [Fact]
    public void The_same_text_lies_beside_itself() =>
        Texts.Sample(t => Assert.Equal(Enumerable.Range(0, t.Length), WordAlignment.Of(t, t)));

    [Fact]
    public void Words_lie_beside_words_in_order_each_at_most_once_and_only_beside_what_is_alike() =>
        Gen.Select(Texts, Texts)
            .Sample(
                (a, b) =>
                {
                    var beside = WordAlignment.Of(a, b);
                    var used = beside.Where(j => j >= 0).ToList();
                    Assert.Equal(a.Length, beside.Length);
                    Assert.True(used.SequenceEqual(used.Distinct().Order()));
                    Assert.All(
                        beside.Index().Where(p => p.Item >= 0),
                        p => Assert.True(SoundsLike.Of(a[p.Index], b[p.Item]) >= WordAlignment.AlikeFrom)
                    );
                }
            );

    [Fact]
    public void Long_texts_are_parted_at_fixed_points_and_agree_with_what_is_known()
    {
        var random = new Random(2);
        string[] text = [.. Enumerable.Range(0, 5000).Select(_ => $"w{random.Next(900)}")];
        int[] kept = [.. Enumerable.Range(0, 5000).Where(_ => random.Next(10) > 0)];
        var beside = WordAlignment.Of(text, [.. kept.Select(k => text[k])]);
        Assert.InRange(kept.Index().Count(k => beside[k.Item] == k.Index), 0.98 * kept.Length, kept.Length);
    }

    [Fact]
    public void One_word_again_and_again_for_hours_ends() =>
        Assert.Equal(
            20_000,
            WordAlignment.Of([.. Enumerable.Repeat("yes", 20_000)], [.. Enumerable.Repeat("yes", 20_000)]).Count(b => b >= 0)
        );

    [Fact]
    public void Typed_words_take_the_times_of_the_heard_ones_and_share_what_lies_between()
    {
        var laid = AlignedText.Lay(Typed("We cross at Tern Hollow every day"), Heard("we cross at turn hollow day"));
        Assert.Equal([0, 500, 1000, 1500, 2000, 2400, 2500], laid.Words.Select(w => w.Range.In.FromZero.ToMillisecondsRounded()));
        Assert.Equal([950, 950, 950, 800, 950, 200, 950], laid.Words.Select(w => w.Sure.Value));
        Assert.Equal(85, laid.HeardPercent);
        Assert.Empty(laid.Misfits);
    }

    [Fact]
    public void A_passage_that_was_not_typed_and_one_that_was_not_heard_are_named()
    {
        var laid = AlignedText.Lay(
            Typed("one two three four five six alpha beta gamma delta epsilon zeta eta thirteen fourteen"),
            Heard("one two three four five six seven eight nine ten eleven twelve thirteen fourteen")
        );
        var heard = AlignedText.Lay(
            Typed("one two thirteen fourteen"),
            Heard("one two seven eight nine ten eleven twelve thirteen fourteen")
        );
        var typed = AlignedText.Lay(Typed("one two alpha beta gamma delta epsilon zeta three"), Heard("one two three"));
        Assert.Empty(laid.Misfits);
        var missing = Assert.Single(heard.Misfits);
        Assert.Equal(
            (false, "seven eight nine ten eleven twelve", 1000L),
            (missing.Typed, missing.Said, missing.Range.In.FromZero.ToMillisecondsRounded())
        );
        var added = Assert.Single(typed.Misfits);
        Assert.Equal((true, "alpha beta gamma delta epsilon zeta"), (added.Typed, added.Said));
    }

    [Fact]
    public void Every_word_gets_a_time_and_none_begins_before_the_one_before_it() =>
        Gen.Select(Texts, Texts)
            .Sample(
                (a, b) =>
                {
                    var laid = AlignedText.Lay(Typed(string.Join(' ', a)), Heard(string.Join(' ', b)));
                    Assert.Equal(a.Length, laid.Words.Count);
                    Assert.All(
                        laid.Words.Zip(laid.Words.Skip(1)),
                        p => Assert.True(p.First.Range.In <= p.Second.Range.In && p.First.Range.Out >= p.First.Range.In)
                    );
                }
            );

    private static List<TypedWord> Typed(string text) =>
        [.. text.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(w => new TypedWord(w, 1, null))];

    // Words half a second apart, four tenths long.
    private static List<RecordWord> Heard(string text) =>
        [
            .. text.Split(' ', StringSplitOptions.RemoveEmptyEntries)
                .Select(
                    (w, i) =>
                        new RecordWord(
                            new(i),
                            w,
                            new SittingRange(
                                new SittingTime(MediaTime.FromMilliseconds(i * 500L)),
                                new SittingTime(MediaTime.FromMilliseconds((i * 500L) + 400))
                            ),
                            null,
                            0
                        )
                ),
        ];
}
