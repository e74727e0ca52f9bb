using EmberLane.Core.Speech;

namespace EmberLane.Core.Tests.Speech;

/// <summary>Words put together from the parts in which speech models give them, and laid onto the sound.</summary>
public sealed class TokenWordsTests
{
    private static SourceTime At(long milliseconds) => new(MediaTime.FromMilliseconds(milliseconds));

    private static SourceRange Range(long from, long to) => new(At(from), At(to));

    private static SpokenToken[] Tokens(params string[] parts) =>
        [.. parts.Select((p, i) => new SpokenToken(p, Range(100 * i, 100 * (i + 1)), new PerMille(900 - (10 * i))))];

    private static string[] Words(string passage, bool spaced, params string[] parts) =>
        [.. TokenWords.Of(passage, Tokens(parts), spaced).Select(w => w.Text)];

    [Fact]
    public void Parts_make_words_that_last_from_the_first_to_the_last_and_are_as_sure_as_the_least_sure()
    {
        var words = TokenWords.Of(" Tern Hollow, it's.", Tokens(" T", "ern", " Hollow", ",", " it", "'s", "."), spaced: true);
        Assert.Equal(["Tern", "Hollow,", "it's."], words.Select(w => w.Text));
        Assert.Equal([Range(0, 200), Range(200, 400), Range(400, 700)], words.Select(w => w.Range));
        Assert.Equal([890, 870, 840], words.Select(w => w.Confidence!.Value.Value));
    }

    [Theory]
    [InlineData(" Größe zählt", " Gr", "\uFFFD", "\uFFFD", "e", " z", "\uFFFD", "hlt")]
    [InlineData(" Größe zählt", " Gr\uFFFD", "\uFFFDße", " zählt")]
    [InlineData(" Größe zählt", " Größe", " z\uFFFD", "\uFFFDhlt")]
    public void Letters_that_came_in_pieces_are_whole_again(string passage, params string[] parts) =>
        Assert.Equal(["Größe", "zählt"], Words(passage, true, parts));

    [Fact]
    public void A_language_without_spaces_has_a_word_a_part_and_its_marks_stay_with_the_word_before() =>
        Assert.Equal(["渡船", "九", "点。"], Words("渡船九点。", false, "渡船", "九", "\uFFFD", "。"));

    [Fact]
    public void Noises_in_brackets_and_lone_marks_are_no_words() =>
        Assert.Equal(
            ["yes", "no"],
            Words(
                " [ Music ] yes - (laughs) no ♪ la ♪ ...",
                true,
                " [",
                " Music",
                " ]",
                " yes",
                " -",
                " (laughs)",
                " no",
                " ♪",
                " la",
                " ♪",
                " ..."
            )
        );

    [Fact]
    public void No_parts_make_no_words_and_parts_that_the_passage_lacks_are_kept() =>
        Assert.Equal([0, 2], new[] { Words("", true).Length, Words("", true, " one", " two").Length });

    [Fact]
    public void Words_are_laid_in_order_and_end_where_the_speech_ends()
    {
        // Half a second of talk, a pause of a second, half a second of talk.
        var energy = Enumerable.Range(0, 200).Select(i => i is < 50 or >= 150 ? 1e6f : 1f).ToArray();
        var laid = HeardWords.Within(
            [
                new RecognisedWord("one", Range(0, 250)),
                new RecognisedWord("two", Range(200, 1_500)),
                new RecognisedWord("three", Range(1_500, 2_600)),
                new RecognisedWord("late", Range(2_100, 2_600)),
            ],
            energy
        );
        Assert.Equal(["one", "two", "three"], laid.Select(w => w.Text));
        Assert.Equal([Range(0, 200), Range(200, 500), Range(1_500, 2_000)], laid.Select(w => w.Range));
    }

    [Fact]
    public void Words_at_one_moment_follow_each_other_and_never_end_before_they_begin()
    {
        var words = Enumerable.Range(0, 5).Select(i => new RecognisedWord($"w{i}", Range(1_000 - (10 * (i % 2)), 1_000))).ToList();
        var laid = HeardWords.Within(words, Enumerable.Repeat(1e6f, 300).ToArray());
        Assert.Equal(5, laid.Count);
        Assert.All(laid, w => Assert.True(w.Range.In < w.Range.Out));
        Assert.All(laid.Zip(laid.Skip(1)), p => Assert.True(p.First.Range.Out <= p.Second.Range.In));
        Assert.Empty(HeardWords.Within(words, []));
    }

    [Fact]
    public void Languages_have_a_name_each_and_English_comes_first()
    {
        Assert.Equal("English", SpokenLanguage.All[0].Name);
        Assert.Equal(SpokenLanguage.All.Count, SpokenLanguage.All.Select(l => l.Name).Distinct().Count());
        Assert.Equal(["cy", "auto", null, null], new[] { "cy", "auto", "xx", null }.Select(SpokenLanguage.Of));
        Assert.True(SpokenLanguage.HasSpaces("de"));
        Assert.False(SpokenLanguage.HasSpaces("ja"));
    }
}
