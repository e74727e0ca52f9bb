using CsCheck;
using EmberLane.Core.Import;
using EmberLane.Core.Mends;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tests.Mends;

/// <summary>Mends proposed by rule, and what changes are called.</summary>
public sealed class SuggestedCorrectionTests
{
    [Fact]
    public void What_sounds_like_a_name_is_proposed_with_the_reason()
    {
        var mend = Assert.Single(NameMends.Propose(Heard("we cross at turn? hollow? every day"), ["Tern Hollow"]));
        Assert.Equal((3, 4, "Tern Hollow", true), (mend.First.Value, mend.Last.Value, mend.By, mend.IsLikely));
        Assert.Equal("sounds like Tern Hollow (90 of 100), and was doubtful", mend.Why);
        Assert.Equal("we cross at Tern Hollow every day", After("we cross at turn? hollow? every day", mend));
    }

    [Theory]
    [InlineData("maren said so", "Maren", "Maren said so")]
    [InlineData("the oak? hurst, family", "Oakhurst", "the Oakhurst, family")]
    [InlineData("at ternhollow? now", "Tern Hollow", "at Tern Hollow now")]
    public void Names_are_written_as_the_list_has_them_with_the_punctuation_kept(string heard, string term, string after) =>
        Assert.Equal(after, After(heard, Assert.Single(NameMends.Propose(Heard(heard), [term]))));

    [Theory]
    [InlineData("that is the quarry boat he said", "quarry boat")]
    [InlineData("turn left", "Tern")]
    [InlineData("nothing alike here", "Tern Hollow")]
    [InlineData("and the? bridge opens", "Tern Bridge")]
    [InlineData("a", "")]
    public void Nothing_is_proposed_for_what_is_right_sure_or_unlike(string heard, string term) =>
        Assert.Empty(NameMends.Propose(Heard(heard), [term]));

    [Theory]
    [InlineData("at Tern, Hollow we cross", "Tern Hollow")]
    [InlineData("so (Tern Hollow) said turn?", "Tern Hollow")]
    public void What_reads_as_the_list_has_it_is_left_alone_whatever_stands_around_its_words(string heard, string term) =>
        Assert.Empty(NameMends.Propose(Heard(heard), [term]));

    [Fact]
    public void A_name_within_joined_words_is_not_cut_out_of_them()
    {
        var transcript = Heard("the ferry turn? pike said");
        transcript = transcript with { Layers = new JoinWord(new(3), true).Apply(transcript).Layers };
        Assert.Empty(NameMends.Propose(transcript, ["Tern"]));
        Assert.Equal("Turnpike", Assert.Single(NameMends.Propose(transcript, ["Turnpike"])).By);
    }

    [Fact]
    public void Every_passage_that_sounds_like_a_term_is_found_as_by_looking_at_each()
    {
        string[] terms = ["Tern Hollow", "Maren Oakhurst", "Maren", "quay"];
        Gen.OneOfConst(
                "turn?",
                "tern",
                "hollow?",
                "hollows",
                "hello",
                "maren",
                "marine?",
                "oak?",
                "hurst",
                "oakhurst",
                "/",
                "the",
                "key?",
                "kay"
            )
            .Array[0, 25]
            .Sample(
                words =>
                {
                    var transcript = Heard(string.Join(' ', words));
                    var all = transcript.Words;
                    var expected = (
                        from term in terms
                        let count = term.Split(' ').Length
                        from length in Enumerable.Range(Math.Max(1, count - 1), 3)
                        from first in Enumerable.Range(0, Math.Max(0, all.Count - length + 1))
                        where length <= count + 1 && Enumerable.Range(first, length).All(i => all[i].Voice == all[first].Voice)
                        let said = transcript.Said(new(first), new(first + length - 1))
                        let alike = SoundsLike.Of(said, term)
                        where length != count || said.Split(' ').Zip(term.Split(' ')).All(w => SoundsLike.Of(w.First, w.Second) >= 0.5)
                        where
                            said != term && alike >= (Enumerable.Range(first, length).Any(i => transcript.IsDoubtful(all[i])) ? 0.66 : 0.84)
                        orderby alike descending, first, length
                        select (First: first, Last: first + length - 1, By: term)
                    ).ToList();
                    var chosen = new List<(int First, int Last, string By)>();
                    foreach (var mend in expected.Where(e => !chosen.Exists(c => c.First <= e.Last && e.First <= c.Last)))
                    {
                        chosen.Add(mend);
                    }
                    Assert.Equal(
                        chosen.OrderBy(c => c.First),
                        NameMends.Propose(transcript, terms).Select(m => (m.First.Value, m.Last.Value, m.By))
                    );
                },
                iter: 400
            );
    }

    [Fact]
    public void Sentences_begin_with_a_capital_and_end_with_a_stop_or_a_question_mark()
    {
        var transcript = Heard("did she ever get it fixed / he fixed it / and / no");
        var mended = Apply(transcript, SentenceMends.Propose(transcript));
        Assert.Equal("Did she ever get it fixed? He fixed it. And. No.", mended.Said(new(0), new(mended.Words.Count - 1)));
        Assert.Empty(SentenceMends.Propose(mended));
    }

    [Fact]
    public void A_pause_ends_a_sentence_but_not_after_a_word_that_hangs()
    {
        var transcript = Heard("it sings _ then you hear it and _ the boat comes");
        var mended = Apply(transcript, SentenceMends.Propose(transcript));
        Assert.Equal("It sings. Then you hear it and the boat comes.", mended.Said(new(0), new(mended.Words.Count - 1)));
    }

    [Theory]
    [InlineData("it sings", "we hear it", 300, "It sings. We hear it.")]
    [InlineData("it sings", "loudly", 300, "It sings loudly.")]
    [InlineData("it sings", "if", 300, "It sings if.")]
    [InlineData("it sings", "we hear it", 150, "It sings we hear it.")]
    [InlineData("then I think", "we hear it", 300, "Then I think we hear it.")]
    public void A_short_pause_ends_a_sentence_only_before_a_word_that_sentences_open_with(
        string before,
        string after,
        int pause,
        string said
    )
    {
        var words = $"{before} {after}"
            .Split(' ')
            .Select((w, i) => (Text: w, Start: (i * 400) + (i >= before.Split(' ').Length ? pause : 0)))
            .Select(
                (w, i) =>
                    new RecordWord(
                        new(i),
                        w.Text,
                        new SittingRange(
                            new SittingTime(MediaTime.FromMilliseconds(w.Start)),
                            new SittingTime(MediaTime.FromMilliseconds(w.Start + 400))
                        ),
                        null,
                        0
                    )
            );
        var transcript = new Transcript([.. words], Layers.None);
        var mended = Apply(transcript, SentenceMends.Propose(transcript));
        Assert.Equal(said, mended.Said(new(0), new(20)));
    }

    [Fact]
    public void Mends_never_touch_a_word_twice_and_apply_to_any_text() =>
        Gen.OneOfConst("turn?", "hollow?", "did", "maren", "/", "_", "the", "Tern", "Hollow", ".", "İ", "ß")
            .Array[0, 40]
            .Sample(words =>
            {
                var transcript = Heard(string.Join(' ', words));
                foreach (var mends in new[] { NameMends.Propose(transcript, ["Tern Hollow", "Maren"]), SentenceMends.Propose(transcript) })
                {
                    var touched = mends.SelectMany(m => TextPlace.Between(m.First, m.Last)).ToList();
                    Assert.Equal(touched.Distinct(), touched);
                    Assert.NotNull(Apply(transcript, mends));
                }
            });

    [Fact]
    public void Joined_words_are_one_in_every_form_and_two_again_after_the_inverse()
    {
        var transcript = Heard("we go in to town / yes");
        var (layers, inverse) = new JoinWord(new(3), true).Apply(transcript);
        var joined = transcript with { Layers = layers };
        Assert.Equal("we go into town yes", joined.Said(new(0), new(5)));
        var all = new Core.Captions.TextChoice(new(0), new(5), true, true);
        Assert.Equal(
            "[00:00:00] VOICE A: we go into town\n[00:00:02] VOICE B: yes\n",
            EmberLane.Core.Captions.TranscriptText.Plain(joined, all)
        );
        Assert.Equal(
            [("into", 1000L, 2000L)],
            Core.Speech.WordsJson.Read(EmberLane.Core.Captions.TranscriptText.Words(joined, all, "en"))
                .Words.Where(w => w.Text == "into")
                .Select(w => (w.Text, w.Range.In.FromZero.ToMillisecondsRounded(), w.Range.Out.FromZero.ToMillisecondsRounded()))
        );
        Assert.Equal("we go in to town yes", (joined with { Layers = inverse.Apply(joined).Layers }).Said(new(0), new(5)));
        Assert.Equal(
            "we go into town yes",
            string.Join(' ', Merged.Of(joined, [], new SittingRange(At(90), At(91))).Words.Select(w => w.Text))
        );
        Assert.Throws<EditRefusedException>(() => new JoinWord(new(0), true).Apply(transcript));
        Assert.Throws<EditRefusedException>(() => new JoinWord(new(5), true).Apply(transcript));
    }

    [Fact]
    public void Changes_are_told_in_words()
    {
        var transcript = Heard("we cross at turn hollow");
        Assert.Equal(("“turn” is “Tern”", new WordNumber(3)), EditWords.Of(new Retype(new(3), "Tern"), transcript));
        Assert.Equal(
            ("“we” out of the text; “cross” out of the text; “at” out of the text; and 1 more", new WordNumber(0)),
            EditWords.Of(new Together([.. Enumerable.Range(0, 4).Select(n => new HideWord(new(n), true))]), transcript)
        );
        Assert.Equal(("a voice is Maren", (WordNumber?)null), EditWords.Of(new NameVoice(0, "Maren"), transcript));
        Assert.Equal(("“at” given to Voice B", new WordNumber(2)), EditWords.Of(new Together([new GiveWord(new(2), 1)]), transcript));
    }

    [Fact]
    public void A_part_that_was_recognised_again_lies_in_the_text_by_its_time_with_the_voices_that_were_there()
    {
        var before = Heard("one two / three four five");
        before = before with
        {
            Layers = before.Layers with
            {
                Retyped = before.Layers.Retyped.Add(new(0), "First"),
                VoiceNames = before.Layers.VoiceNames.Add(1, "Maren"),
            },
        };
        var part = new[] { Word(0, "drei", 2, 9), Word(1, "vier", 3, 9) };
        var (words, names) = Merged.Of(before, part, new SittingRange(At(2), At(4)));
        Assert.Equal(["First", "two", "drei", "vier", "five"], words.Select(w => w.Text));
        Assert.Equal([0, 0, 1, 1, 1], words.Select(w => w.Voice));
        Assert.Equal(Enumerable.Range(0, 5), words.Select(w => w.Number.Value));
        Assert.Equal("Maren", names[1]);
    }

    private static string After(string heard, SuggestedCorrection mend)
    {
        var mended = Apply(Heard(heard), [mend]);
        return mended.Said(new(0), new(mended.Words.Count - 1));
    }

    private static Transcript Apply(Transcript transcript, IReadOnlyList<SuggestedCorrection> mends) =>
        Respell.All(transcript, mends.Select(m => (m.First, m.Last, m.By))) is { } edit
            ? transcript with
            {
                Layers = edit.Apply(transcript).Layers,
            }
            : transcript;

    // Words half a second long; “?” behind one makes it doubtful, “/” changes the voice, “_” is a second of pause.
    private static Transcript Heard(string text)
    {
        var words = new List<RecordWord>();
        int voice = 0,
            at = 0;
        foreach (var part in text.Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            (voice, at) = (voice + (part == "/" ? 1 : 0), at + (part == "_" ? 2 : 0));
            if (part is not ("/" or "_"))
            {
                words.Add(Word(words.Count, part.TrimEnd('?'), at++, voice) with { Confidence = new(part.EndsWith('?') ? 100 : 900) });
            }
        }
        return new Transcript(words, Layers.None);
    }

    private static RecordWord Word(int number, string text, int half, int voice) =>
        new(new(number), text, new SittingRange(At(half), At(half + 1)), null, voice);

    private static SittingTime At(int halves) => new(MediaTime.FromMilliseconds(500L * halves));
}
