using System.Text.Json;
using CsCheck;
using EmberLane.Core.Captions;
using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tests.Transcripts;

/// <summary>What is set aside and flagged, and how it finds its words in another text of the sitting.</summary>
public sealed class MarksTests
{
    [Fact]
    public void What_is_set_aside_stays_in_the_record_is_not_doubtful_and_is_left_out_of_what_is_taken_out_unless_asked_for()
    {
        var before = Words("one", "two", "three", "four");
        var (layers, inverse) = Marking.TurnAside(before, new(1), new(2), Ada).Apply(before);
        var after = before with { Layers = layers };
        Assert.Equal("one two three four", after.Said(new(0), new(3)));
        Assert.Equal(2, after.Words.Count(after.IsDoubtful));
        Assert.Equal("one four\n", TranscriptText.Plain(after, new TextChoice(new(0), new(3), false, false)));
        Assert.Equal("one two three four\n", TranscriptText.Plain(after, new TextChoice(new(0), new(3), false, false, Aside: true)));
        Assert.DoesNotContain(
            "two",
            TranscriptText.SubRip(after, new TextChoice(new(0), new(3), true, true), new()),
            StringComparison.Ordinal
        );
        Assert.DoesNotContain(
            "two",
            TranscriptText.Words(after, new TextChoice(new(0), new(3), true, true), "en"),
            StringComparison.Ordinal
        );
        Assert.True((after with { Layers = inverse.Apply(after).Layers }).Layers.SameAs(Layers.None));
    }

    [Fact]
    public void What_is_off_the_record_comes_back_by_a_release_alone_with_a_name_and_a_reason()
    {
        var text = Words("one", "two", "three", "four");
        var mark = Marking.Over(text, MarkKind.OffTheRecord, new(1), new(2), Ada);
        var (layers, inverse) = new PutMark(mark).Apply(text);
        var held = text with { Layers = layers };
        Assert.Throws<EditRefusedException>(() => new TakeMark(mark).Apply(held));
        Assert.Throws<EditRefusedException>(() => Marking.TakeAway(held, mark.Id).Apply(held));
        Assert.Throws<EditRefusedException>(() => Marking.TurnAside(held, new(1), new(2), Ada));
        Assert.Throws<EditRefusedException>(() => new SwitchLayer(MarkLayer.OffTheRecord.Key, true).Apply(held));
        foreach (var (by, reason) in new[] { ("", "they said yes"), ("Maren", " "), (new string('x', 300), "yes") })
        {
            Assert.Throws<EditRefusedException>(() => new ReleaseMark(mark, reason, by).Apply(held));
        }
        var release = new ReleaseMark(mark, "agreed by letter", "Maren");
        var free = held with { Layers = release.Apply(held).Layers };
        Assert.True(free.Layers.SameAs(Layers.None with { NextMark = free.Layers.NextMark }));
        Assert.Equal("“two three” released by Maren: agreed by letter", EditWords.Of(release, held).Said);
        Assert.True(ReleaseMark.IsIn(inverse) && ReleaseMark.IsIn(new Together([release])));
        Assert.Equal(release, JsonSerializer.Deserialize<TranscriptEdit>(JsonSerializer.Serialize<TranscriptEdit>(release)));
        Assert.Throws<EditRefusedException>(() => release.Apply(free));
    }

    [Fact]
    public void What_is_off_the_record_is_in_nothing_that_is_taken_out_whatever_else_lies_over_it_or_is_asked_for()
    {
        var text = Words("one", "two", "three", "four");
        foreach (
            TranscriptEdit edit in new TranscriptEdit[]
            {
                Marking.TurnAside(text, new(0), new(2), Ada),
                new PutMark(Marking.Over(text, MarkKind.OffTheRecord, new(1), new(2), Ada, later: 1)),
            }
        )
        {
            text = text with { Layers = edit.Apply(text).Layers };
        }
        var off = text with { Layers = text.Layers with { Off = [MarkLayer.OffTheRecord.Key, MarkLayer.ByHand.Key] } };
        foreach (var now in new[] { text, off })
        {
            var all = new TextChoice(new(0), new(3), true, true, Hidden: true, Aside: true);
            string[] forms =
            [
                TranscriptText.Plain(now, all),
                TranscriptText.Csv(now, all),
                TranscriptText.SubRip(now, all, new()),
                TranscriptText.WebVtt(now, all, new()),
                TranscriptText.Words(now, all, "en"),
            ];
            Assert.All(forms, f => Assert.Contains("one", f, StringComparison.Ordinal));
            Assert.All(forms, f => Assert.DoesNotContain("two", f, StringComparison.Ordinal));
            Assert.All(forms, f => Assert.DoesNotContain("three", f, StringComparison.Ordinal));
        }
        // Bringing back what a person set aside leaves it alone.
        var back = text with
        {
            Layers = Marking.BringBack(text, new(0), new(3)).Apply(text).Layers,
        };
        Assert.Equal([1, 2], back.Words.Where(back.IsAside).Select(w => w.Number.Value));
        var held = Assert.Single(HeldWords.Of(back));
        Assert.Equal(("two three", back.RangeOf(new(1), new(2))), (held.Said, held.Range));
    }

    [Fact]
    public void A_word_found_right_is_doubtful_no_more_and_stays_so_in_a_text_of_which_another_part_is_recognised_again()
    {
        var text = Words("one", "two", "three");
        var (layers, inverse) = Marking.Settle(text, new(0), new(1), Ada)!.Apply(text);
        var settled = text with { Layers = layers };
        Assert.Equal([2], settled.Words.Where(settled.IsDoubtful).Select(w => w.Number.Value));
        Assert.Null(Marking.Settle(settled, new(0), new(1), Ada));
        Assert.Equal(
            [1000, 1000, 300],
            Core.Import.Merged.Of(
                    settled,
                    [],
                    new SittingRange(new SittingTime(MediaTime.FromMilliseconds(9000)), new SittingTime(MediaTime.FromMilliseconds(9900)))
                )
                .Words.Select(w => w.Confidence?.Value)
        );
        Assert.True((settled with { Layers = inverse.Apply(settled).Layers }).Layers.SameAs(Layers.None));
        Assert.Equal("“one two” is right", EditWords.Of(Marking.Settle(text, new(0), new(1), Ada)!, text).Said);
    }

    [Fact]
    public void A_voice_is_confirmed_as_it_was_heard_and_doubted_again_when_that_is_taken_back()
    {
        var heard = new Transcript(
            [.. Words("one", "two").Record.Select(w => w with { VoiceSure = w.Number.Value == 0 ? new PerMille(400) : null })],
            Layers.None
        );
        var (layers, inverse) = VoiceEdits.Confirm(heard, new(0), new(1))!.Apply(heard);
        var sure = heard with { Layers = layers };
        Assert.Equal((PerMille.All, 0), (sure.SureOf(sure.Words[0]), sure.VoiceOf(sure.Words[0])));
        Assert.Null(VoiceEdits.Confirm(sure, new(0), new(1)));
        Assert.Equal(new PerMille(400), (heard with { Layers = inverse.Apply(sure).Layers }).SureOf(heard.Words[0]));
        Assert.Throws<EditRefusedException>(() => VoiceEdits.Give(sure, new(0), new(1), 0, null));
        Assert.Single(((Together)VoiceEdits.Give(heard, new(0), new(1), 0, null)).Edits);
    }

    [Fact]
    public void A_flag_is_put_changed_and_taken_away_with_what_was_there_before_brought_back()
    {
        var text = Words("one", "two");
        var first = Marked(text, Marking.Flag(text, new(1), MarkKind.UseThis, " for the\nopening ", Ada));
        var flag = first.FlagsBefore(first.Words[1]).Single();
        Assert.Equal(
            (MarkKind.UseThis, "for the opening", "Ada", (DateTimeOffset?)DateTimeOffset.UnixEpoch),
            (flag.Kind, flag.Note, flag.Owner, flag.When)
        );
        var (second, again) = Marking.Flag(first, new(1), MarkKind.AskAbout, "", Ada, flag.Id).Apply(first);
        Assert.Equal([MarkKind.AskAbout], second.Marks.Values.Select(m => m.Kind));
        var read = JsonSerializer.Deserialize<TranscriptEdit>(JsonSerializer.Serialize(again))!;
        Assert.True(read.Apply(text with { Layers = second }).Layers.SameAs(first.Layers));
        Assert.Empty(Marked(first, Marking.Flag(first, new(1), null, "", Ada, flag.Id)).Layers.Marks);
        // Two people's flags stand side by side.
        Assert.Equal(
            ["for the opening", "how so"],
            Marked(first, Marking.Flag(first, new(1), MarkKind.AskAbout, "how so", Ben)) is var both
                ? both.FlagsBefore(both.Words[1]).Select(f => f.Note)
                : []
        );
    }

    [Fact]
    public void Marks_that_can_not_be_and_words_that_are_not_there_are_refused()
    {
        var text = Words("one");
        Assert.Throws<EditRefusedException>(() => Marking.Flag(text, new(0), MarkKind.Bite, "", Ada));
        Assert.Throws<EditRefusedException>(() => Marking.Flag(text, new(0), MarkKind.UseThis, new string('x', 201), Ada).Apply(text));
        Assert.Throws<EditRefusedException>(() => Marking.Flag(text, new(0), MarkKind.UseThis, "", Ada, instead: 7));
        Assert.Throws<EditRefusedException>(() => Marking.Flag(text, new(0), null, "", Ada));
        Assert.Throws<EditRefusedException>(() => Marking.BringBack(text, new(0), new(0)));
        var mark = Marking.Over(text, MarkKind.UseThis, new(0), new(0), Ada);
        Assert.Throws<EditRefusedException>(() => new PutMark(mark with { Last = new(1) }).Apply(text));
        Assert.Throws<EditRefusedException>(() => new PutMark(mark with { First = new(-1) }).Apply(text));
        Assert.Throws<EditRefusedException>(() => new PutMark(mark with { Kind = MarkKind.Bite }).Apply(text));
        Assert.Throws<EditRefusedException>(() => new PutMark(mark with { Id = 0 }).Apply(text));
        Assert.Throws<EditRefusedException>(() => new PutMark(mark).Apply(Marked(text, new PutMark(mark))));
        Assert.Throws<EditRefusedException>(() => new TakeMark(mark).Apply(text));
        Assert.Throws<JsonException>(() =>
            JsonSerializer.Deserialize<TranscriptEdit>(
                JsonSerializer
                    .Serialize<TranscriptEdit>(new PutMark(mark))
                    .Replace("flag.use-this", "flag.unknown", StringComparison.Ordinal)
            )
        );
    }

    [Fact]
    public void Part_of_what_is_aside_is_brought_back_and_the_rest_stays_aside_in_its_owners_name()
    {
        var text = Words("a", "b", "c", "d", "e", "f");
        var aside = Marked(text, Marking.TurnAside(text, new(0), new(4), Ada));
        aside = Marked(aside, Marking.TurnAside(aside, new(3), new(5), Ben));
        var edit = Marking.TurnAside(aside, new(3), new(3), Ben);
        var back = Marked(aside, edit);
        Assert.Equal([0, 1, 2, 4, 5], back.Words.Where(back.IsAside).Select(w => w.Number.Value));
        Assert.Equal(
            [("Ada", 0, 2), ("Ada", 4, 4), ("Ben", 4, 5)],
            back.Layers.Marks.Values.Select(m => (m.Owner, m.First.Value, m.Last.Value)).Order()
        );
        Assert.Equal("“d” brought back", EditWords.Of(edit, back).Said);
        Assert.True(Marked(back, edit.Apply(aside).Inverse).Layers.SameAs(aside.Layers));
        Assert.Equal(6, back.Layers.Marks.Values.Select(m => m.Id).Concat(aside.Layers.Marks.Keys).Distinct().Count() + 1);
    }

    [Fact]
    public void Any_setting_aside_and_bringing_back_leaves_the_words_that_it_says_and_is_taken_back_whole() =>
        Gen.Select(Gen.Int[0, 9], Gen.Int[0, 9])
            .Array[1, 12]
            .Sample(turns =>
            {
                var plain = Words("a", "b", "c", "d", "e", "f", "g", "h", "i", "j");
                var (now, expected, back) = (plain, new SortedSet<int>(), new Stack<(TranscriptEdit Edit, Layers Before)>());
                foreach (var (one, other) in turns)
                {
                    var (first, last) = (Math.Min(one, other), Math.Max(one, other));
                    var places = Enumerable.Range(first, last - first + 1).ToList();
                    var (layers, inverse) = Marking.TurnAside(now, new(first), new(last), Ada).Apply(now);
                    back.Push((inverse, now.Layers));
                    now = now with { Layers = layers };
                    if (places.All(expected.Contains))
                    {
                        expected.ExceptWith(places);
                    }
                    else
                    {
                        expected.UnionWith(places);
                    }
                    Assert.Equal(expected, now.Words.Where(now.IsAside).Select(w => w.Number.Value));
                }
                foreach (var (edit, before) in back)
                {
                    now = Marked(now, edit);
                    Assert.True(now.Layers.SameAs(before));
                }
            });

    [Fact]
    public void A_mark_holds_words_that_are_added_within_it_and_keeps_its_time_when_a_word_of_its_ends_goes()
    {
        var text = Words("one", "two", "three");
        var aside = Marked(text, Marking.TurnAside(text, new(0), new(1), Ada));
        SittingTime At(long ms) => new(MediaTime.FromMilliseconds(ms));
        var more = Marked(aside, new AddWord(new(3), new(0), "more", new SittingRange(At(850), At(950)), 0));
        Assert.Equal(["one", "more", "two"], more.Words.Where(more.IsAside).Select(more.TextOf));
        var onAdded = Marked(text, new AddWord(new(3), new(0), "more", new SittingRange(At(850), At(950)), 0));
        onAdded = Marked(onAdded, Marking.TurnAside(onAdded, new(1), new(2), Ada));
        var gone = Marked(onAdded, new WithdrawWord(new(3)));
        Assert.Equal(["two"], gone.Words.Where(gone.IsAside).Select(gone.TextOf));
    }

    [Fact]
    public void Every_kind_is_found_by_its_key_and_keys_are_not_shared()
    {
        Assert.All(MarkKind.All, k => Assert.Same(k, MarkKind.Find(k.Key)));
        Assert.Equal(MarkKind.All.Count, MarkKind.All.Select(k => k.Key).Distinct().Count());
        Assert.Equal(MarkKind.All.Count, typeof(MarkKind).GetFields().Count(f => f.FieldType == typeof(MarkKind)));
        Assert.Null(MarkKind.Find("flag"));
    }

    [Fact]
    public void A_text_with_other_words_gets_the_marks_by_their_time()
    {
        // Spoken at 0, 1, 2 and 3 s; the other text hears the second one as two words and misses the last.
        var from = WithMarks(Words("I", "kept", "it", "there"), [1], [3]);
        var to = new Transcript(
            [Word(0, "I", 0, 800), Word(1, "cap", 1000, 1400), Word(2, "it", 1400, 1790), Word(3, "it", 2000, 2800)],
            Layers.None
        );
        var carried = to with { Layers = CarriedMarks.Of(from, to)!.Apply(to).Layers };
        Assert.Equal([1, 2], carried.Words.Where(carried.IsAside).Select(w => w.Number.Value));
        Assert.Equal((3, "3", "Ada"), carried.Words.SelectMany(carried.FlagsBefore).Select(f => (f.First.Value, f.Note, f.Owner)).Single());
        Assert.Null(CarriedMarks.Of(from, carried));
        Assert.Null(CarriedMarks.Of(Words("a"), to));
        Assert.Null(CarriedMarks.Of(from, new Transcript([], Layers.None)));
    }

    [Fact]
    public void The_same_words_get_the_same_marks_whatever_is_marked() =>
        Gen.Select(Gen.Int[0, 7].Array[0, 8], Gen.Int[0, 7].Array[0, 3])
            .Sample(
                (aside, flags) =>
                {
                    var plain = Words("a", "b", "c", "d", "e", "f", "g", "h");
                    var from = WithMarks(plain, aside, flags);
                    var edit = CarriedMarks.Of(from, plain);
                    var to = edit is null ? plain : Marked(plain, edit);
                    Assert.Equal(
                        from.Words.Select(w => (from.AsideBy(w), string.Join(',', from.FlagsBefore(w).Select(f => f.Note)))),
                        to.Words.Select(w => (to.AsideBy(w), string.Join(',', to.FlagsBefore(w).Select(f => f.Note))))
                    );
                }
            );

    [Fact]
    public void Marks_that_came_from_another_text_do_not_go_back_to_it_at_other_words()
    {
        var words = Gen.Select(Gen.Int[1, 30], Gen.Int[0, 12])
            .Array[1, 10]
            .Select(lengths =>
                lengths
                    .Aggregate(
                        (Words: new List<RecordWord>(), At: 0),
                        (now, next) =>
                        {
                            now.Words.Add(
                                Word(now.Words.Count, "w", (now.At + next.Item2) * 100, (now.At + next.Item2 + next.Item1) * 100)
                            );
                            return (now.Words, now.At + next.Item2 + next.Item1);
                        }
                    )
                    .Words
            );
        Gen.Select(words, words, Gen.Int[0, 9].Array[0, 6], Gen.Int[0, 9].Array[0, 3], Gen.Int[0, 9].Array[0, 3])
            .Sample(
                (one, other, aside, flags, otherAside) =>
                {
                    var from = WithMarks(
                        new Transcript(one, Layers.None),
                        aside.Select(n => n % one.Count),
                        flags.Select(n => n % one.Count)
                    );
                    var to = new Transcript(other, Layers.None);
                    var carried = Carried(from, to);
                    Assert.Null(CarriedMarks.Of(carried, from));
                    // Marks of both: after each text has the other's, nothing goes on moving.
                    var both = WithMarks(carried, otherAside.Select(n => n % other.Count), []);
                    var back = Carried(both, from);
                    Assert.Null(CarriedMarks.Of(back, Carried(back, both)));
                    Assert.Null(CarriedMarks.Of(Carried(back, both), back));
                }
            );
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
            now = Marked(now, Spelling.NextCase(now, new(0), new(now.Words.Count - 1))!);
            Assert.Equal(expected, now.Said(new(0), new(9)));
        }
    }

    [Fact]
    public void A_joined_word_has_one_capital_and_its_mark_behind_its_last_part()
    {
        var joined = Marked(Words("tern", "hollow"), new JoinWord(new(1), true));
        var capital = Marked(joined, Spelling.NextCase(joined, new(0), new(1))!);
        Assert.Equal("Ternhollow", capital.Said(new(0), new(1)));
        Assert.Equal("Ternhollow.", Marked(capital, Spelling.NextMark(capital, new(0))!).Said(new(0), new(1)));
        Assert.Null(Spelling.NextCase(Words("4", "…"), new(0), new(1)));
    }

    [Theory]
    [InlineData("so", "so.")]
    [InlineData("so.", "so,")]
    [InlineData("so,", "so?")]
    [InlineData("so?", "so")]
    [InlineData("so!", "so.")]
    [InlineData("3.5", "3.5.")]
    public void The_mark_behind_a_word_goes_round(string text, string next) =>
        Assert.Equal(next, Marked(Words(text), Spelling.NextMark(Words(text), new(0))!).Said(new(0), new(0)));

    [Fact]
    public void A_person_reads_what_was_marked()
    {
        var text = Words("one", "two");
        var aside = Marking.TurnAside(text, new(1), new(1), Ada);
        Assert.Equal(("“two” set aside", (WordNumber?)new WordNumber(1)), EditWords.Of(aside, text));
        Assert.Equal("“two” brought back", EditWords.Of(aside.Apply(text).Inverse, text).Said);
        var flag = Marking.Flag(text, new(0), MarkKind.AskAbout, "which year", Ada);
        Assert.Equal("a flag “ask about it” before “one”: which year", EditWords.Of(flag, text).Said);
        Assert.Equal("no flag before “one”", EditWords.Of(flag.Apply(text).Inverse, text).Said);
        var longer = Words("a", "b", "c", "d", "e", "f", "g");
        Assert.Equal("“a b c d e f …” set aside", EditWords.Of(Marking.TurnAside(longer, new(0), new(6), Ada), longer).Said);
    }

    private static readonly Signed Ada = new("Ada", DateTimeOffset.UnixEpoch),
        Ben = new("Ben", DateTimeOffset.UnixEpoch.AddDays(1));

    // Words that are aside, each by a mark of its own, and words with a flag of their number.
    private static Transcript WithMarks(Transcript text, IEnumerable<int> aside, IEnumerable<int> flags)
    {
        foreach (var word in aside.Distinct().Where(n => !text.IsAside(text.Words[n])).ToList())
        {
            text = Marked(text, Marking.TurnAside(text, new(word), new(word), Ada));
        }
        return flags.Distinct().Aggregate(text, (t, n) => Marked(t, Marking.Flag(t, new(n), MarkKind.UseThis, $"{n}", Ada)));
    }

    private static Transcript Marked(Transcript text, params TranscriptEdit[] edits) =>
        edits.Aggregate(text, (t, e) => t with { Layers = e.Apply(t).Layers });

    private static Transcript Carried(Transcript from, Transcript to) => CarriedMarks.Of(from, to) is { } edit ? Marked(to, edit) : to;

    private static Transcript Words(params string[] words) =>
        new([.. words.Select((w, i) => Word(i, w, i * 1000, (i * 1000) + 800))], Layers.None);

    private static RecordWord Word(int number, string text, long from, long to) =>
        new(
            new(number),
            text,
            new SittingRange(new SittingTime(MediaTime.FromMilliseconds(from)), new SittingTime(MediaTime.FromMilliseconds(to))),
            new(300),
            0
        );
}
