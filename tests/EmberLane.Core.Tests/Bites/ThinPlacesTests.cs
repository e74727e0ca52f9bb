using EmberLane.Core.Bites;

namespace EmberLane.Core.Tests.Bites;

public sealed class ThinPlacesTests
{
    private static MediaTime Seconds(int seconds) => MediaTime.FromMilliseconds(1000L * seconds);

    private static OnTheme On(string theme, string name, int spoken, int kept) => new(theme, name, Seconds(spoken), Seconds(kept));

    private static OfPerson Of(string name, int spoken, int kept) => new(name, Seconds(spoken), Seconds(kept));

    [Fact]
    public void What_is_missing_is_told_in_words_with_the_question_that_would_fill_it()
    {
        var thin = ThinPlaces.Of(
            [
                On("the school", "Maren", 40, 12),
                On("the school", "Ilse", 0, 0),
                On("the bridge", "Maren", 20, 8),
                On("the bridge", "Ilse", 41, 0),
            ],
            [Of("Maren", 200, 20), Of("Ilse", 300, 9), Of("Asker", 60, 0)],
            new Dictionary<string, int> { ["the school"] = 1, ["the bridge"] = 3 }
        );
        Assert.Equal(
            [
                ("Nobody but Maren speaks of “the school”.", "school"),
                ("“the school” has no bite that is good.", "school kept:no"),
                ("Ilse speaks of “the bridge” for 0:41.0; none of it is kept.", "bridge by:\"Ilse\" kept:no"),
                ("Ilse has 0:09.0 kept of 5:00.0 spoken.", "by:\"Ilse\" kept:no"),
                ("Nothing of Asker is kept, of 1:00.0 spoken.", "by:\"Asker\" kept:no"),
            ],
            thin.Select(t => (t.Says, t.Question))
        );
    }

    [Fact]
    public void Where_nothing_has_a_grade_none_is_missed_and_nobody_asks_for_himself()
    {
        Assert.Empty(
            ThinPlaces.Of(
                [On("hut", "Maren", 40, 12), On("hut", "Ilse", 30, 5), On("hut", "Asker", 9, 0)],
                [Of("Maren", 100, 20), Of("Ilse", 100, 20), Of("Asker", 10, 0)],
                new Dictionary<string, int> { ["hut"] = 0 }
            )
        );
    }

    [Theory]
    [InlineData("why I stayed", "stayed")]
    [InlineData("the one", "the one")]
    [InlineData("Tern-Hollow!", "TernHollow")]
    [InlineData("\"—\"", "")]
    public void The_words_of_a_theme_are_those_that_say_something(string theme, string words) =>
        Assert.Equal(words, ThinPlaces.WordsOf(theme));
}
