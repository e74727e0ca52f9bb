using System.Text.Json;
using CsCheck;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tests.Transcripts;

public sealed class TranscriptTests
{
    private static Transcript Made(params (string Text, int Voice, int Pause)[] words)
    {
        long at = 0;
        var record = new List<RecordWord>();
        foreach (var (text, voice, pause) in words)
        {
            at += pause;
            record.Add(
                new RecordWord(
                    new(record.Count),
                    text,
                    new SittingRange(
                        new SittingTime(MediaTime.FromMilliseconds(at)),
                        new SittingTime(MediaTime.FromMilliseconds(at + 300))
                    ),
                    new(300),
                    voice
                )
            );
            at += 300;
        }
        return new Transcript(record, Layers.None);
    }

    [Fact]
    public void A_retyped_word_keeps_its_time_and_the_record_and_is_no_longer_doubtful()
    {
        var transcript = Made(("turn", 0, 0), ("hollow", 0, 0));
        var (layers, inverse) = new Retype(new(0), " Tern\n").Apply(transcript);
        var mended = transcript with { Layers = layers };
        Assert.Equal("Tern hollow", mended.Said(new(0), new(1)));
        Assert.Equal("turn", mended.Words[0].Text);
        Assert.False(mended.IsDoubtful(mended.Words[0]));
        Assert.Equal("turn hollow", (mended with { Layers = inverse.Apply(mended).Layers }).Said(new(0), new(1)));
    }

    [Theory]
    [InlineData("")]
    [InlineData("   \t\n")]
    public void A_word_can_not_be_emptied(string text) =>
        Assert.Throws<EditRefusedException>(() => new Retype(new(0), text).Apply(Made(("a", 0, 0))));

    [Fact]
    public void Words_and_voices_that_are_not_there_and_texts_too_long_are_refused()
    {
        var transcript = Made(("a", 0, 0));
        Assert.Throws<EditRefusedException>(() => new Retype(new(1), "b").Apply(transcript));
        Assert.Throws<EditRefusedException>(() => new Retype(new(0), new string('x', 201)).Apply(transcript));
        Assert.Throws<EditRefusedException>(() => new NameVoice(3, "Maren").Apply(transcript));
        Assert.Throws<EditRefusedException>(() => new NameVoice(0, new string('x', 81)).Apply(transcript));
    }

    [Fact]
    public void A_voice_without_a_name_is_called_by_a_letter_and_a_name_stands_for_all_its_words()
    {
        var transcript = Made(("a", 0, 0), ("b", 1, 0), ("c", 0, 0));
        Assert.Equal("Voice B", transcript.NameOf(1));
        Assert.Equal("Ilse", (transcript with { Layers = new NameVoice(1, "Ilse").Apply(transcript).Layers }).NameOf(1));
    }

    [Fact]
    public void Any_run_of_edits_is_taken_back_to_the_layers_before() =>
        Gen.Select(Gen.Int[0, 2], Gen.OneOfConst<string?>("x", "y z", null))
            .Array[0, 20]
            .Sample(steps =>
            {
                var transcript = Made(("a", 0, 0), ("b", 1, 0), ("c", 2, 0));
                var inverses = new Stack<TranscriptEdit>();
                foreach (var (n, text) in steps)
                {
                    var (layers, inverse) = (n == 1 ? (TranscriptEdit)new NameVoice(n, text) : new Retype(new(n), text)).Apply(transcript);
                    transcript = transcript with { Layers = layers };
                    inverses.Push(inverse);
                }
                while (inverses.TryPop(out var inverse))
                {
                    transcript = transcript with
                    {
                        Layers = JsonSerializer.Deserialize<TranscriptEdit>(JsonSerializer.Serialize(inverse))!.Apply(transcript).Layers,
                    };
                }
                Assert.Empty(transcript.Layers.Retyped);
                Assert.Empty(transcript.Layers.VoiceNames);
            });

    [Fact]
    public void Turns_hold_every_word_once_in_order_and_break_where_the_voice_changes() =>
        Gen.Select(Gen.Int[0, 2], Gen.Int[0, 1500])
            .Array[0, 400]
            .Sample(words =>
            {
                var transcript = Made([.. words.Select(w => ("w", w.Item1, w.Item2))]);
                var turns = Turns.Lay(transcript);
                Assert.Equal(
                    TextPlace.Between(TextPlace.First, transcript.Last),
                    turns.SelectMany(t => TextPlace.Between(t.First, t.Last))
                );
                Assert.All(turns, t => Assert.Single(transcript.Between(t.First, t.Last).Select(w => w.Voice).Distinct()));
                Assert.All(turns, t => Assert.InRange(t.Last - t.First + 1, 1, 140));
            });

    [Fact]
    public void A_long_turn_is_broken_at_a_pause_and_goes_on()
    {
        var words = Enumerable.Range(0, 100).Select(i => ("w", 0, i == 70 ? 900 : 10)).ToArray();
        var turns = Turns.Lay(Made(words));
        Assert.Equal([(0, false), (70, true)], turns.Select(t => (t.First.Value, t.GoesOn)));
    }

    [Theory]
    [InlineData("a\tb\r\nc", "a b c")]
    [InlineData("\u0000x\u0007", "x")]
    [InlineData("e\u0301", "é")]
    public void Typed_text_is_made_fit_for_one_line(string typed, string kept) => Assert.Equal(kept, TypedText.OneLine(typed));

    [Fact]
    public void Half_a_letter_is_dropped() => Assert.Equal("xy", TypedText.OneLine("x\uD800y"));
}
