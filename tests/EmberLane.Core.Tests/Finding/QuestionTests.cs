using CsCheck;
using EmberLane.Core.Finding;

namespace EmberLane.Core.Tests.Finding;

public sealed class QuestionTests
{
    [Theory]
    [InlineData("Tern-Hollow’s don't CAFÉ", "tern hollows dont cafe")]
    [InlineData("  … — 🐟 ", "")]
    [InlineData("Straße 12a ﬁne", "straße 12a fine")]
    [InlineData("שָׁלוֹם עَرَبي", "שלום עربي")]
    [InlineData("हिन्दी", "हिन्दी")]
    public void Words_are_folded_to_letters_and_digits(string text, string words) =>
        Assert.Equal(words, string.Join(' ', FoldedWords.Of(text)));

    [Fact]
    public void What_was_folded_is_not_folded_further() =>
        Gen.String.Sample(text =>
        {
            var words = FoldedWords.Of(text);
            Assert.Equal(words, FoldedWords.Of(string.Join(' ', words)));
        });

    [Theory]
    [InlineData("en", "compass compasses")]
    [InlineData("en", "ferry ferries")]
    [InlineData("en-GB", "cross crossed crossing crosses")]
    [InlineData("en", "go went gone going goes")]
    [InlineData("en", "child children")]
    [InlineData("de", "fähre fähren")]
    [InlineData("fr", "parler parlait")]
    public void Forms_of_a_word_have_a_stem_in_common(string language, string forms)
    {
        var inflection = new Inflection(language);
        Assert.Single(forms.Split(' ').Select(inflection.StemOf).Distinct());
    }

    [Fact]
    public void Other_words_and_unknown_languages_keep_apart()
    {
        var english = new Inflection("en");
        Assert.Equal(4, "bridge ferry school letter".Split(' ').Select(english.StemOf).Distinct().Count());
        Assert.Equal("compasses", new Inflection("xx").StemOf("compasses"));
    }

    [Theory]
    [InlineData("turn", "tern")]
    [InlineData("hallow", "hollow")]
    [InlineData("maren", "marin")]
    [InlineData("tobias", "tobyas")]
    [InlineData("oakhurst", "okurst")]
    [InlineData("fennel", "funnel")]
    [InlineData("knight", "nite")]
    [InlineData("phil", "fill")]
    public void Names_that_sound_alike_are_near(string one, string other) =>
        Assert.NotNull(SoundsLike.Apart(SoundsLike.Said(one), SoundsLike.Said(other)));

    [Theory]
    [InlineData("hollow", "bridge")]
    [InlineData("maren", "market")]
    [InlineData("row", "cat")]
    [InlineData("tern", "bread")]
    [InlineData("ilse", "other")]
    public void Others_are_not(string one, string other) => Assert.Null(SoundsLike.Apart(SoundsLike.Said(one), SoundsLike.Said(other)));

    [Fact]
    public void How_far_apart_two_words_are_does_not_depend_on_which_comes_first()
    {
        var words = Gen.String[Gen.Char["aeioubcdfgklmnprstvw"], 1, 9];
        Gen.Select(words, words).Sample((a, b) => SoundsLike.Apart(a, b) == SoundsLike.Apart(b, a) && SoundsLike.Apart(a, a) == 0);
    }

    private static string Asked(string text, bool rough = false)
    {
        var question = QuestionText.Read(text, rough);
        return string.Join(" + ", question.Together.Select(Together).Concat(question.Without.Select(w => "not " + Phrase(w))));

        static string Together(AskedTogether t) =>
            t.Phrases.Count == 1
                ? Phrase(t.Phrases[0])
                : FormattableString.Invariant($"{string.Join(" near ", t.Phrases.Select(Phrase))} by {t.Within}");

        static string Phrase(AskedPhrase p) =>
            string.Join(
                ' ',
                p.Words.Select(w =>
                    (
                        w.How == WordFit.Exact ? "="
                        : w.How == WordFit.Rough ? "~"
                        : ""
                    ) + w.Key
                )
            );
    }

    [Theory]
    [InlineData("Compass father", "compass + father")]
    [InlineData("\"Turn Hollow\"", "=turn =hollow")]
    [InlineData("“turn hollow” bridge", "=turn =hollow + bridge")]
    [InlineData("~hollow -ferry -\"the boat\"", "~hollow + not ferry + not =the =boat")]
    [InlineData("near(letter \"the bridge\", 5) x", "letter near =the =bridge by 5 + x")]
    [InlineData("near(letter bridge)", "letter near bridge by 8")]
    [InlineData("near(letter bridge 900)", "letter near bridge by 30")]
    [InlineData("\"never closed", "=never =closed")]
    [InlineData("near(a b", "a near b by 8")]
    [InlineData("near(", "!")]
    [InlineData("at 10:30 o'clock", "at + 10 30 + oclock")]
    [InlineData("well-known", "well known")]
    [InlineData("father (compass)", "father + compass")]
    public void Questions_are_read(string text, string asked)
    {
        if (asked == "!")
        {
            Assert.Throws<FormatException>(() => Asked(text));
        }
        else
        {
            Assert.Equal(asked, Asked(text));
        }
    }

    [Fact]
    public void Rough_makes_plain_words_rough_and_leaves_quoted_ones_exact() =>
        Assert.Equal("~turn + ~hollow + =the =bridge", Asked("turn hollow \"the bridge\"", rough: true));

    [Fact]
    public void Limits_are_taken_out_of_the_words()
    {
        var question = QuestionText.Read(
            "ferry by:\"Maren Oak\" sitting:hut day:2026-06 kept:no aside:yes story:no length:30-60 kind:bite theme:school"
        );
        Assert.Single(question.Together);
        Assert.Equal(
            new FindLimits
            {
                By = "maren oak",
                Sitting = "hut",
                Day = "2026-06",
                Kept = false,
                Aside = true,
                InStory = false,
                Length = (30, 60),
                Kind = FoundKind.Bite,
                Theme = "school",
            },
            question.Limits
        );
        Assert.Equal((0, 30), QuestionText.Read("length:<30").Limits.Length);
    }

    [Theory]
    [InlineData("", "Type a word")]
    [InlineData("🐟 —", "Type a word")]
    [InlineData("- \" ~", "Type a word")]
    [InlineData("-ferry", "left out needs something")]
    [InlineData("by:", "needs something behind it")]
    [InlineData("kept:perhaps", "takes yes or no")]
    [InlineData("kind:film", "takes speech")]
    [InlineData("length:long", "takes seconds")]
    public void What_asks_for_nothing_is_refused_with_a_sentence(string text, string says) =>
        Assert.Contains(says, Assert.Throws<FormatException>(() => QuestionText.Read(text)).Message, StringComparison.Ordinal);

    [Fact]
    public void Long_questions_are_refused()
    {
        Assert.Contains(
            "letters",
            Assert.Throws<FormatException>(() => QuestionText.Read(new string('a', 10_000))).Message,
            StringComparison.Ordinal
        );
        var words = string.Join(' ', Enumerable.Repeat("a", 60));
        Assert.Contains("words", Assert.Throws<FormatException>(() => QuestionText.Read(words)).Message, StringComparison.Ordinal);
    }

    [Fact]
    public void Whatever_is_typed_is_read_or_refused() =>
        Gen.String[Gen.OneOf(Gen.Char["ab \"“”()-~:,<>0nearby"], Gen.Char), 0, 40]
            .Sample(text =>
            {
                try
                {
                    QuestionText.Read(text);
                }
                catch (FormatException refused)
                {
                    Assert.NotEmpty(refused.Message);
                }
            });
}
