using CsCheck;
using EmberLane.Core.Import;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tests.Import;

/// <summary>Single places of one text written as another text of the sitting has them.</summary>
public sealed class TakenOverTests
{
    [Fact]
    public void What_is_said_differently_is_written_over_our_word_and_keeps_its_time()
    {
        Transcript ours = Said("we cross at turn hollow"),
            theirs = Said("we cross at Tern hollow", late: 40);
        var after = Take(ours, theirs, 0);
        Assert.Equal("we cross at Tern hollow", Text(after));
        Assert.Equal(ours.Words.Select(w => w.Range), after.Words.Select(w => w.Range));
    }

    [Fact]
    public void A_passage_that_only_the_other_has_comes_with_its_times_and_the_voice_of_the_same_name_however_long_it_is()
    {
        var passage = string.Join(' ', Enumerable.Range(0, 60).Select(i => $"word{i}"));
        Transcript ours = Named(Said("before after", step: 31_000), 0, "Maren"),
            theirs = Named(Said($"before {passage} after", voice: 3), 3, "maren");
        var after = Take(ours, theirs, 0);
        Assert.Equal($"before {passage} after", Text(after));
        Assert.All(after.Words, w => Assert.Equal(0, after.VoiceOf(w)));
        Assert.Contains(theirs.Words[10].Range, after.Words.Select(w => w.Range));
        Assert.True(after.Words.Zip(after.Words.Skip(1)).All(p => p.First.Range.In <= p.Second.Range.In));
    }

    [Fact]
    public void What_only_ours_has_leaves_the_text_and_its_sound_stays()
    {
        var ours = Said("one um two");
        var after = Take(ours, Said("one two"), 0);
        Assert.Equal("one two", after.Said(new(0), new(2)));
        Assert.Equal([new WordNumber(1)], after.Layers.Hidden);
        Assert.Equal(3, after.Words.Count);
    }

    [Fact]
    public void Joined_words_are_one_when_texts_are_compared_and_when_a_place_is_taken()
    {
        var joined = Said("at tern hollow now") is var text ? text with { Layers = new JoinWord(new(2), true).Apply(text).Layers } : text;
        Assert.Empty(TextDifference.Between(joined, Said("at ternhollow now")).Places);
        var taken = Take(Said("at now", step: 2000), joined, 0);
        Assert.Equal(("at ternhollow now", 3), (Text(taken), taken.Words.Count));
    }

    [Fact]
    public void Words_before_the_first_one_come_too() =>
        Assert.Equal("so we begin", Text(Take(Said("we begin", from: 5000), Said("so we begin", from: 4000), 0)));

    [Fact]
    public void Taking_every_place_one_after_another_makes_the_texts_read_alike() =>
        Gen.Select(
                Gen.OneOfConst("a", "b", "ferry", "cable", "hollow").Array[0, 12],
                Gen.OneOfConst("a", "b", "ferry", "cables", "x").Array[0, 12]
            )
            .Sample(
                (one, other) =>
                {
                    Transcript ours = Said(string.Join(' ', one)),
                        theirs = Said(string.Join(' ', other));
                    for (var round = 0; TextDifference.Between(ours, theirs).Places is { Count: > 0 }; round++)
                    {
                        Assert.InRange(round, 0, 40);
                        ours = Take(ours, theirs, 0);
                    }
                    Assert.Equal(string.Join(' ', other), Text(ours));
                }
            );

    private static Transcript Take(Transcript ours, Transcript theirs, int place) =>
        ours with
        {
            Layers = TakenOver.Edit(ours, theirs, TextDifference.Between(ours, theirs).Places[place]).Apply(ours).Layers,
        };

    private static string Text(Transcript text) => text.Said(new(0), new(text.Words.Count - 1));

    private static Transcript Named(Transcript text, int voice, string name) =>
        text with
        {
            Layers = new NameVoice(voice, name).Apply(text).Layers,
        };

    private static Transcript Said(string text, int late = 0, int step = 500, int voice = 0, int from = 0) =>
        new(
            [
                .. text.Split(' ', StringSplitOptions.RemoveEmptyEntries)
                    .Select(
                        (w, i) =>
                            new RecordWord(
                                new(i),
                                w,
                                new SittingRange(At(from + (i * step) + late), At(from + (i * step) + late + 400)),
                                new(500),
                                voice
                            )
                    ),
            ],
            Layers.None
        );

    private static SittingTime At(long milliseconds) => new(MediaTime.FromMilliseconds(milliseconds));
}
