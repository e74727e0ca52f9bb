using EmberLane.Core.Tidy;

namespace EmberLane.Core.Tests.Tidy;

public sealed class HesitationsTests
{
    private static readonly HesitationWords English = HesitationWords.Of("en", []);

    private static string[] Found(HesitationWords words, params string[] lines)
    {
        var talk = Telling.Of(lines);
        return [.. Hesitations.Of(talk, words).Select(h => $"{TidyJson.KindOf(h.Kind)}: {talk.Said(h.First, h.Last)}")];
    }

    [Theory]
    [InlineData("Um, thirty years, er, in March.", "filled: Um,", "filled: er,")]
    [InlineData("Then, you know, you hear it.", "phrase: you know,")]
    [InlineData("It was, I mean, it was cold.", "phrase: I mean,")]
    [InlineData("It was sort of grey.", "phrase: sort of")]
    [InlineData("There were, like, ten of us.", "like: like,")]
    [InlineData("There were like ten of us.", "like: like")]
    [InlineData("To paint the rails, and, and nobody told me.", "twice: and,")]
    [InlineData("We had we had no money.", "twice: We had")]
    [InlineData("The um the rope broke.", "filled: um", "twice: The")]
    [InlineData("I saw the fer- the ferry.", "broken: fer-", "twice: the")]
    [InlineData("So we went— The boat was late.", "false start: So we went—")]
    [InlineData("And then we were we had a boat.", "false start: we were")]
    public void What_is_said_while_looking_for_words_is_found_by_kind(string line, params string[] hesitations) =>
        Assert.Equal(hesitations.Order(), Found(English, "A: " + line).Order());

    [Theory]
    [InlineData("Do you know the ferry?")]
    [InlineData("As you know, it is gone.")]
    [InlineData("You know what he said.")]
    [InlineData("I mean it.")]
    [InlineData("What do I mean by that?")]
    [InlineData("A kind of rope.")]
    [InlineData("I like boats.")]
    [InlineData("He looks like his father.")]
    [InlineData("She was like a mother to us.")]
    [InlineData("We would like, if we may, to go.")]
    [InlineData("It was very very cold.")]
    [InlineData("No, no, no.")]
    [InlineData("He said that that was it.")]
    [InlineData("I fixed it. It was late.")]
    [InlineData("I think I was nine.")]
    [InlineData("The well-known captain came.")]
    [InlineData("It was — as I said — late.")]
    public void Words_with_a_meaning_are_none(string line) => Assert.Empty(Found(English, "A: " + line));

    [Fact]
    public void A_hum_that_is_a_whole_answer_stays() =>
        Assert.Equal(["filled: Um,"], Found(English, "A: Was it late?", "B: Mm.", "A: Um, how late?"));

    [Fact]
    public void A_production_adds_phrases_of_its_own_and_other_languages_have_their_sounds_only()
    {
        Assert.Equal(["phrase: to be honest"], Found(HesitationWords.Of("en", ["To be honest"]), "A: It was to be honest cold."));
        Assert.Equal(["filled: Ähm,"], Found(HesitationWords.Of("de", []), "A: Ähm, you know, das war so."));
        Assert.Throws<EditRefusedException>(() => HesitationWords.Of("en", ["…"]));
        Assert.Throws<EditRefusedException>(() => HesitationWords.Of("en", ["one two three four five six seven"]));
    }

    [Fact]
    public void No_word_is_in_two_of_them_and_each_is_of_one_voice()
    {
        var random = new Random(6);
        string[] some = ["the", "um", "you", "know", "I", "mean", "like", "was", "we", "fer-", "went—", "late.", "it", "sort", "of"];
        for (var round = 0; round < 300; round++)
        {
            var talk = Telling.Of([
                .. Enumerable
                    .Range(0, 5)
                    .Select(i =>
                        $"{(i % 2 == 0 ? 'A' : 'B')}: "
                        + string.Join(' ', Enumerable.Range(0, random.Next(1, 15)).Select(_ => some[random.Next(some.Length)]))
                    ),
            ]);
            var found = Hesitations.Of(talk, English);
            var places = found
                .SelectMany(h =>
                    Enumerable.Range(h.First, h.Last - h.First + 1).Where(p => talk.Words[p].Voice == talk.Words[h.First].Voice)
                )
                .ToList();
            Assert.Equal(places.Count, places.Distinct().Count());
            Assert.All(found, h => Assert.Equal(talk.Words[h.First].Voice, talk.Words[h.Last].Voice));
        }
    }
}
