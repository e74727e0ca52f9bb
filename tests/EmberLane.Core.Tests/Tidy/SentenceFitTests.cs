using EmberLane.Core.Tidy;

namespace EmberLane.Core.Tests.Tidy;

public sealed class SentenceFitTests
{
    private static string Fitted(Talk talk, string first, string last)
    {
        int Place(string word) => Enumerable.Range(0, talk.Words.Count).Single(i => talk.Words[i].Text.Trim('.', ',', '?') == word);
        var (from, to) = SentenceFit.Of(talk, Place(first), Place(last));
        return talk.Said(from, to);
    }

    [Fact]
    public void Words_are_widened_from_stop_to_stop_within_what_one_voice_says()
    {
        var talk = Telling.Of(
            "A: It rained. I put it under / the compass. My father kept everything there.",
            "B: Why under the bench? Tell me"
        );
        Assert.Equal("I put it under the compass.", Fitted(talk, "put", "put"));
        Assert.Equal("I put it under the compass. My father kept everything there.", Fitted(talk, "compass", "father"));
        Assert.Equal("It rained.", Fitted(talk, "It", "rained"));
        Assert.Equal("Tell me", Fitted(talk, "Tell", "Tell"));
    }

    [Fact]
    public void Without_stops_pauses_part_what_is_said()
    {
        var talk = Telling.Of("A: it rained all day / i put it under the compass / my father kept everything there");
        Assert.Equal("i put it under the compass", Fitted(talk, "under", "under"));
        Assert.Equal("it rained all day", Fitted(talk, "rained", "all"));
    }

    [Fact]
    public void An_endless_sentence_is_left_somewhere_and_ends_of_a_talk_are_ends()
    {
        var talk = Telling.Of("A: " + string.Join(' ', Enumerable.Range(0, 300).Select(i => "w" + i)) + " end.");
        var (first, last) = SentenceFit.Of(talk, 150, 150);
        Assert.InRange(last - first, 1, 121);
        Assert.Equal((0, 0), SentenceFit.Of(Telling.Of("A: Yes."), 0, 0));
    }
}
