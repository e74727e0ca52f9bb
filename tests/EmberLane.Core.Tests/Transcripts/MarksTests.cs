using System.Text.Json;
using CsCheck;
using EmberLane.Core.Captions;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tests.Transcripts;

/// <summary>What is set aside and flagged, and how it finds its words in another text of the sitting.</summary>
public sealed class MarksTests
{
    [Fact]
    public void What_is_set_aside_stays_in_the_record_is_not_doubtful_and_is_left_out_of_what_is_taken_out_unless_asked_for()
    {
        var before = Words("one", "two", "three", "four");
        var (layers, inverse) = new Together([new SetWordAside(1, true), new SetWordAside(2, true)]).Apply(before);
        var after = before with { Layers = layers };
        Assert.Equal("one two three four", after.Said(0, 3));
        Assert.Equal(2, after.Words.Count(after.IsDoubtful));
        Assert.Equal("one four\n", TranscriptText.Plain(after, new TextChoice(0, 3, false, false)));
        Assert.Equal("one two three four\n", TranscriptText.Plain(after, new TextChoice(0, 3, false, false, Aside: true)));
        Assert.DoesNotContain("two", TranscriptText.SubRip(after, new TextChoice(0, 3, true, true)), StringComparison.Ordinal);
        Assert.DoesNotContain("two", TranscriptText.Words(after, new TextChoice(0, 3, true, true), "en"), StringComparison.Ordinal);
        Assert.True((after with { Layers = inverse.Apply(after).Layers }).Layers.SameAs(Layers.None));
    }

    [Fact]
    public void A_word_found_right_is_doubtful_no_more_and_stays_so_in_a_text_of_which_another_part_is_recognised_again()
    {
        var text = Words("one", "two", "three");
        var (layers, inverse) = SettleWord.All(text, 0, 1)!.Apply(text);
        var settled = text with { Layers = layers };
        Assert.Equal([2], settled.Words.Where(settled.IsDoubtful).Select(w => w.Number));
        Assert.Null(SettleWord.All(settled, 0, 1));
        Assert.Equal([1000, 1000, 300], Core.Import.Merged.Of(settled, [], new SittingRange(new SittingTime(MediaTime.FromMilliseconds(9000)), new SittingTime(MediaTime.FromMilliseconds(9900)))).Words.Select(w => w.Confidence));
        Assert.True((settled with { Layers = inverse.Apply(settled).Layers }).Layers.SameAs(Layers.None));
        Assert.Equal("“one” is right; “two” is right", EditWords.Of(SettleWord.All(text, 0, 1)!, text).Said);
    }

    [Fact]
    public void A_voice_is_confirmed_as_it_was_heard_and_doubted_again_when_that_is_taken_back()
    {
        var heard = new Transcript([.. Words("one", "two").Record.Select(w => w with { VoiceSure = w.Number == 0 ? 400 : null })], Layers.None);
        var (layers, inverse) = VoiceEdits.Confirm(heard, 0, 1)!.Apply(heard);
        var sure = heard with { Layers = layers };
        Assert.Equal((1000, 0), (sure.SureOf(sure.Words[0]), sure.VoiceOf(sure.Words[0])));
        Assert.Null(VoiceEdits.Confirm(sure, 0, 1));
        Assert.Equal(400, (heard with { Layers = inverse.Apply(sure).Layers }).SureOf(heard.Words[0]));
        Assert.Throws<EditRefusedException>(() => VoiceEdits.Give(sure, 0, 1, 0, null));
        Assert.Single(((Together)VoiceEdits.Give(heard, 0, 1, 0, null)).Edits);
    }

    [Fact]
    public void A_flag_is_put_changed_and_taken_away_with_what_was_there_before_brought_back()
    {
        var text = Words("one", "two");
        var (first, back) = new SetFlag(1, new Flag(FlagKind.UseThis, " for the\nopening ")).Apply(text);
        Assert.Equal(new Flag(FlagKind.UseThis, "for the opening"), first.Flags[1]);
        var (second, again) = new SetFlag(1, new Flag(FlagKind.AskAbout, "")).Apply(text with { Layers = first });
        Assert.Equal(FlagKind.AskAbout, second.Flags[1].Kind);
        var read = JsonSerializer.Deserialize<TranscriptEdit>(JsonSerializer.Serialize(again))!;
        Assert.True(read.Apply(text with { Layers = second }).Layers.SameAs(first));
        Assert.Empty(back.Apply(text with { Layers = first }).Layers.Flags);
    }

    [Fact]
    public void Flags_that_can_not_be_and_words_that_are_not_there_are_refused()
    {
        var text = Words("one");
        Assert.Throws<EditRefusedException>(() => new SetFlag(0, new Flag((FlagKind)9, "")).Apply(text));
        Assert.Throws<EditRefusedException>(() => new SetFlag(0, new Flag(FlagKind.UseThis, new string('x', 201))).Apply(text));
        Assert.Throws<EditRefusedException>(() => new SetFlag(1, new Flag(FlagKind.UseThis, "")).Apply(text));
        Assert.Throws<EditRefusedException>(() => new SetWordAside(-1, true).Apply(text));
    }

    [Fact]
    public void A_text_with_other_words_gets_the_marks_by_their_time()
    {
        // Spoken at 0, 1, 2 and 3 s; the other text hears the second one as two words and misses the last.
        var from = Marked(Words("I", "kept", "it", "there"), new SetWordAside(1, true), new SetFlag(3, new Flag(FlagKind.LookAgain, "dates")));
        var to = new Transcript([Word(0, "I", 0, 800), Word(1, "cap", 1000, 1400), Word(2, "it", 1400, 1790), Word(3, "it", 2000, 2800)], Layers.None);
        var carried = to with { Layers = CarriedMarks.Of(from, to)!.Apply(to).Layers };
        Assert.Equal([1, 2], carried.Layers.Aside);
        Assert.Equal((3, "dates"), (carried.Layers.Flags.Single().Key, carried.Layers.Flags.Single().Value.Note));
        Assert.Null(CarriedMarks.Of(from, carried));
        Assert.Null(CarriedMarks.Of(Words("a"), to));
        Assert.Null(CarriedMarks.Of(from, new Transcript([], Layers.None)));
    }

    [Fact]
    public void The_same_words_get_the_same_marks_whatever_is_marked() => Gen.Select(Gen.Int[0, 7].Array[0, 8], Gen.Int[0, 7].Array[0, 3]).Sample((aside, flags) =>
    {
        var plain = Words("a", "b", "c", "d", "e", "f", "g", "h");
        var from = Marked(plain, [.. aside.Select(n => new SetWordAside(n, true)), .. flags.Select(n => new SetFlag(n, new Flag(FlagKind.UseThis, $"{n}")))]);
        var edit = CarriedMarks.Of(from, plain);
        Assert.True((edit is null ? plain.Layers : edit.Apply(plain).Layers).SameAs(from.Layers));
    });

    [Fact]
    public void Marks_that_came_from_another_text_do_not_go_back_to_it_at_other_words()
    {
        var words = Gen.Select(Gen.Int[1, 30], Gen.Int[0, 12]).Array[1, 10].Select(lengths => lengths.Aggregate((Words: new List<RecordWord>(), At: 0), (now, next) =>
        {
            now.Words.Add(Word(now.Words.Count, "w", (now.At + next.Item2) * 100, (now.At + next.Item2 + next.Item1) * 100));
            return (now.Words, now.At + next.Item2 + next.Item1);
        }).Words);
        Gen.Select(words, words, Gen.Int[0, 9].Array[0, 6], Gen.Int[0, 9].Array[0, 3], Gen.Int[0, 9].Array[0, 3]).Sample((one, other, aside, flags, otherAside) =>
        {
            var from = Marked(new Transcript(one, Layers.None), [.. aside.Select(n => new SetWordAside(n % one.Count, true)), .. flags.Select(n => new SetFlag(n % one.Count, new Flag(FlagKind.UseThis, $"{n}")))]);
            var to = new Transcript(other, Layers.None);
            var carried = Carried(from, to);
            Assert.Null(CarriedMarks.Of(carried, from));
            // Marks of both: after each text has the other's, nothing goes on moving.
            var both = Marked(carried, [.. otherAside.Select(n => new SetWordAside(n % other.Count, true))]);
            var back = Carried(both, from);
            Assert.Null(CarriedMarks.Of(back, Carried(back, both)));
            Assert.Null(CarriedMarks.Of(Carried(back, both), back));
        });
    }

    [Theory]
    [InlineData("hello there", "Hello There", "HELLO THERE", "hello there")]
    [InlineData("“tern 4", "“Tern 4", "“TERN 4", "“tern 4")]
    [InlineData("i", "I", "i", "I")]
    public void Capitals_go_round(string text, string first, string second, string third)
    {
        var now = Words(text.Split(' '));
        foreach (var expected in new[] { first, second, third })
        {
            now = Marked(now, Spelling.NextCase(now, 0, now.Words.Count - 1)!);
            Assert.Equal(expected, now.Said(0, 9));
        }
    }

    [Fact]
    public void A_joined_word_has_one_capital_and_its_mark_behind_its_last_part()
    {
        var joined = Marked(Words("tern", "hollow"), new JoinWord(1, true));
        var capital = Marked(joined, Spelling.NextCase(joined, 0, 1)!);
        Assert.Equal("Ternhollow", capital.Said(0, 1));
        Assert.Equal("Ternhollow.", Marked(capital, Spelling.NextMark(capital, 0)!).Said(0, 1));
        Assert.Null(Spelling.NextCase(Words("4", "…"), 0, 1));
    }

    [Theory]
    [InlineData("so", "so.")]
    [InlineData("so.", "so,")]
    [InlineData("so,", "so?")]
    [InlineData("so?", "so")]
    [InlineData("so!", "so.")]
    [InlineData("3.5", "3.5.")]
    public void The_mark_behind_a_word_goes_round(string text, string next) => Assert.Equal(next, Marked(Words(text), Spelling.NextMark(Words(text), 0)!).Said(0, 0));

    [Fact]
    public void A_person_reads_what_was_marked()
    {
        var text = Words("one", "two");
        Assert.Equal(("“two” set aside", (int?)1), EditWords.Of(new SetWordAside(1, true), text));
        Assert.Equal("“two” brought back", EditWords.Of(new SetWordAside(1, false), text).Said);
        Assert.Equal("a flag “ask about it” before “one”: which year", EditWords.Of(new SetFlag(0, new Flag(FlagKind.AskAbout, "which year")), text).Said);
        Assert.Equal("no flag before “one”", EditWords.Of(new SetFlag(0, null), text).Said);
    }

    private static Transcript Marked(Transcript text, params TranscriptEdit[] edits) => edits.Aggregate(text, (t, e) => t with { Layers = e.Apply(t).Layers });

    private static Transcript Carried(Transcript from, Transcript to) => CarriedMarks.Of(from, to) is { } edit ? Marked(to, edit) : to;

    private static Transcript Words(params string[] words) => new([.. words.Select((w, i) => Word(i, w, i * 1000, (i * 1000) + 800))], Layers.None);

    private static RecordWord Word(int number, string text, long from, long to) => new(number, text, new SittingRange(new SittingTime(MediaTime.FromMilliseconds(from)), new SittingTime(MediaTime.FromMilliseconds(to))), 300, 0);
}
