using EmberLane.Core.Tidy;

namespace EmberLane.Core.Tests.Tidy;

public sealed class RetakesTests
{
    private static string[][] Found(params string[] lines)
    {
        var talk = Telling.Of(lines);
        return [.. Retakes.Of(talk).Select(r => r.Attempts.Select(a => talk.Said(a.First, a.Last)).ToArray())];
    }

    [Fact]
    public void A_sentence_begun_and_begun_again_is_three_attempts_of_which_the_whole_one_is_proposed()
    {
        var talk = Telling.Of(
            "A: Tell me about the people who cross.",
            "B: Ninety years of people standing next to. Sorry. Ninety years of people. Let me say that again.",
            "B: Ninety years of people standing next to each other for six minutes. Where else do you get that?"
        );
        var retake = Assert.Single(Retakes.Of(talk));
        Assert.Equal(
            [
                "Ninety years of people standing next to.",
                "Ninety years of people.",
                "Ninety years of people standing next to each other for six minutes.",
            ],
            retake.Attempts.Select(a => talk.Said(a.First, a.Last))
        );
        Assert.Equal([false, false, true], retake.Attempts.Select(a => a.Whole));
        Assert.Equal((2, "the last, and whole"), (retake.Best, retake.Reason));
    }

    [Fact]
    public void A_sentence_said_again_word_for_word_or_nearly_so_is_found_with_stops_and_without()
    {
        Assert.Equal(
            [
                ["My welder carried the iron goose near the piano.", "My welder carried the iron goose near the piano."],
            ],
            Found(
                "A: It was late. My welder carried the iron goose near the piano. My welder carried the iron goose near the piano. "
                    + "Then it rained."
            )
        );
        Assert.Equal(
            [
                ["my welder carried the iron goose near the piano", "my welder just carried the goose to the piano"],
            ],
            Found(
                "A: it was late / my welder carried the iron goose near the piano / my welder just carried the goose to the piano / "
                    + "then it rained"
            )
        );
    }

    [Fact]
    public void Attempts_that_two_others_are_like_with_other_ends_are_one_retake() =>
        Assert.Equal(
            [
                [
                    "i am not against the bridge i want to say this properly",
                    "i am not against",
                    "i am not against the bridge i am against being told that nothing was here",
                ],
            ],
            Found(
                "A: i am not against the bridge i want to say this properly / no again / i am not against / again / "
                    + "i am not against the bridge i am against being told that nothing was here"
            )
        );

    [Fact]
    public void A_whole_answer_given_again_much_later_is_one_retake_of_all_its_sentences()
    {
        string[] answer =

            [
                "B: The ferry froze in the second winter. My father walked across the ice with a lantern. Nobody ever paid him for it.",
                "B: The ferry froze in that second winter. My father walked over the ice with a lantern in his hand. Nobody ever paid him.",
            ],
            between =

            [
                .. Enumerable
                    .Range(0, 12)
                    .SelectMany(i =>
                        new[] { $"A: What about number {i}?", $"B: House {i} was sold. Its {i} windows were green and its door was blue." }
                    ),
            ];
        var talk = Telling.Of(["A: When was it?", answer[0], .. between, answer[1]]);
        var retake = Assert.Single(Retakes.Of(talk), r => r.Attempts[0].First < 20);
        Assert.Equal(answer.Select(a => a[3..]), retake.Attempts.Select(a => talk.Said(a.First, a.Last)));
        Assert.All(retake.Attempts, a => Assert.True(a.Whole));
    }

    [Fact]
    public void A_thought_that_closes_with_the_words_that_it_opened_with_is_two_attempts_at_them() =>
        Assert.Equal(
            [
                ["What I will miss is the quiet of the early river.", "What I will miss is the quiet of the early river."],
            ],
            Found(
                "A: And you?",
                "B: What I will miss is the quiet of the early river. Nobody shouts at that hour. The herons stand there like "
                    + "old men. What I will miss is the quiet of the early river."
            )
        );

    [Theory]
    [InlineData("A: Yes, yes. No, no, no. Go on, go on.")]
    [InlineData("A: We had boats to paint. We had ropes to splice. We had nothing to eat.")]
    [InlineData(
        "A: The river wins. That was how we lived. My mother cooked for nine of us. The river wins. He drowned in May. The river wins."
    )]
    [InlineData("A: They always ask me how do you cross in the thick fog. How do you cross in the thick fog? Slowly.")]
    [InlineData("A: Why did you stay all winter long?", "B: Why did I stay all winter long? I liked it.")]
    [InlineData("A: The bridge is open on Sunday and the boat is closed. The boat is open on Monday and the school is full.")]
    public void What_comes_again_for_another_reason_is_no_retake(params string[] lines) => Assert.Empty(Found(lines));

    [Fact]
    public void An_earlier_attempt_is_proposed_where_the_last_whole_one_stumbles_clearly_more()
    {
        var retake = Assert.Single(
            Retakes.Of(
                Telling.Of(
                    "A: My sister sold the green boat to the doctor.",
                    "A: My um sister sold er the the green boat to um the doctor."
                )
            )
        );
        Assert.Equal((0, "whole, with 0 hesitations where the last whole one has 4"), (retake.Best, retake.Reason));
    }

    [Fact]
    public void Talk_without_words_without_times_or_without_an_end_is_read_too()
    {
        Assert.Empty(Retakes.Of(new Talk([])));
        Assert.Empty(Retakes.Of(Telling.Of("A: — …")));
        string[] words = [.. Enumerable.Range(0, 4_000).Select(i => $"word{(i * i) % 997}")];
        Assert.All(Retakes.Of(Telling.Of("A: " + string.Join(' ', words))), r => Assert.InRange(r.Attempts[^1].Last, 1, 3_999));
        var timeless = new Talk([
            .. "my welder carried the iron goose away. my welder carried the iron goose away."
                .Split(' ')
                .Select(w => new TalkWord(w, default, default, 0)),
        ]);
        Assert.Single(Retakes.Of(timeless));
        Assert.Empty(Retakes.Of(new Talk([.. Enumerable.Repeat(new TalkWord("again", default, default, 0), 5_000)])));
    }

    [Fact]
    public void Attempts_lie_in_order_and_apart_within_the_text_and_the_best_is_one_of_them()
    {
        var random = new Random(3);
        string[] some = ["the", "ferry", "was", "late", "and", "nobody", "came", "again", "sorry", "um", "river.", "bridge,", "why", "—"];
        for (var round = 0; round < 200; round++)
        {
            string Line(char voice) =>
                $"{voice}: " + string.Join(' ', Enumerable.Range(0, random.Next(1, 25)).Select(_ => some[random.Next(some.Length)]));
            var talk = Telling.Of([.. Enumerable.Range(0, 8).Select(i => Line(i % 3 == 0 ? 'A' : 'B'))]);
            foreach (var retake in Retakes.Of(talk))
            {
                Assert.True(retake.Attempts.Count >= 2);
                Assert.InRange(retake.Best, 0, retake.Attempts.Count - 1);
                Assert.All(retake.Attempts, a => Assert.True(a.First >= 0 && a.First <= a.Last && a.Last < talk.Words.Count));
                Assert.All(retake.Attempts.Zip(retake.Attempts.Skip(1)), p => Assert.True(p.First.Last < p.Second.First));
                Assert.Single(retake.Attempts.SelectMany(a => new[] { a.First, a.Last }).Select(p => talk.Words[p].Voice).Distinct());
            }
        }
    }
}
