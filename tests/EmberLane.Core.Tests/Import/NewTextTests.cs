using EmberLane.Core.Bites;
using EmberLane.Core.Import;
using EmberLane.Core.Marks;
using EmberLane.Core.Speech;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tests.Import;

/// <summary>Delivered texts as records of a sitting, differences between texts, and bites in texts they were not marked on.</summary>
public sealed class NewTextTests
{
    private static readonly SittingTime End = At(60_000);

    [Fact]
    public void A_text_with_names_has_their_voices_and_one_without_keeps_those_that_were_found()
    {
        var heard = Heard("we cross at turn hollow", "every day we do") with
        {
            Layers = Layers.None with { VoiceNames = Layers.None.VoiceNames.Add(1, "Tobias Fenn") },
        };
        var named = NewText.Of(TextFiles.Read("a.txt", "MAREN: We cross at Tern Hollow.\nTOBIAS: Every day we do."), heard, End, []);
        Assert.Equal(["Maren", "Tobias"], named.Names.OrderBy(n => n.Key).Select(n => n.Value));
        Assert.Equal([0, 0, 0, 0, 0, 1, 1, 1, 1], named.Words.Select(w => w.Voice));
        Assert.Equal(100, named.HeardPercent);
        var bare = NewText.Of(TextFiles.Read("a.txt", "We cross at Tern Hollow. Every day we do."), heard, End, []);
        Assert.Equal([0, 0, 0, 0, 0, 1, 1, 1, 1], bare.Words.Select(w => w.Voice));
        Assert.Equal("Tobias Fenn", bare.Names[1]);
    }

    [Fact]
    public void What_was_not_understood_is_laid_where_somebody_speaks_and_is_the_voice_that_speaks_there()
    {
        // Voice 0 says five words to 2.4 s, voice 1 four from 9.5 s on; between them voice 1 sings from 5 to 8 s, understood by nobody.
        var heard = Heard("we cross at turn hollow", "every day we do", gap: 7_000);
        var song = new SaidStretch(1, new SittingRange(At(5_000), At(8_000)));
        List<SaidStretch> said = [new(0, new SittingRange(At(0), heard.Words[4].Range.Out)), song];
        var text = NewText.Of(
            TextFiles.Read("a.txt", "We cross at Tern Hollow. Am Brunnen vor dem Tore. Every day we do."),
            heard,
            End,
            [],
            said
        );
        var sung = text.Words.Skip(5).Take(5).ToList();
        Assert.All(sung, w => Assert.Equal(1, w.Voice));
        Assert.Equal((song.Range.In, song.Range.Out), (sung[0].Range.In, sung[^1].Range.Out));
        Assert.All(sung.Zip(sung.Skip(1)), p => Assert.Equal(p.First.Range.Out, p.Second.Range.In));
        Assert.Equal([0, 0, 0, 0, 0], text.Words.Take(5).Select(w => w.Voice));
    }

    [Fact]
    public void What_was_not_understood_passes_over_a_silence_within_it_and_no_word_lies_in_one()
    {
        var heard = Heard("we cross at turn hollow", "every day we do", gap: 12_000);
        var from = heard.Words[4].Range.Out.FromZero.ToMillisecondsRounded();
        List<SaidStretch> said =
        [
            new(1, new SittingRange(At(from + 1_000), At(from + 3_000))),
            new(1, new SittingRange(At(from + 7_000), At(from + 9_000))),
        ];
        var text = NewText.Of(
            TextFiles.Read("a.txt", "We cross at Tern Hollow. Am Brunnen vor dem Tore. Every day we do."),
            heard,
            End,
            [],
            said
        );
        Assert.All(
            text.Words.Skip(5).Take(5),
            w => Assert.Contains(said, s => s.Range.In <= w.Range.In && w.Range.Out <= s.Range.Out && w.Range.In < w.Range.Out)
        );
    }

    [Fact]
    public void A_typed_heading_is_no_voice_and_its_words_stay()
    {
        var heard = Heard("we cross at turn hollow", "every day we do");
        var text = NewText.Of(
            TextFiles.Read(
                "a.txt",
                "Slack Water, first day\nPlace: the slipway\nDate: 14 June\n\nMAREN: We cross at Tern Hollow.\nPART TWO:\n"
                    + "TOBIAS: Every day we do."
            ),
            heard,
            End,
            []
        );
        Assert.Equal(["Maren", "Tobias"], text.Names.OrderBy(n => n.Key).Select(n => n.Value));
        Assert.Equal(2, text.Words.Select(w => w.Voice).Distinct().Count());
        // A person who is known stays one, however little was heard of them.
        var known = NewText.Of(
            TextFiles.Read("a.txt", "MAREN: We cross at Tern Hollow.\nILSE: Mm-hmm, yes.\nTOBIAS: Every day we do."),
            heard,
            End,
            ["Ilse Varga"]
        );
        Assert.Contains("Ilse Varga", known.Names.Values);
        Assert.StartsWith(
            "Slack Water, first day the slipway 14 June We",
            string.Join(' ', text.Words.Select(w => w.Text)),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Somebody_whose_one_sentence_was_not_understood_stays_a_voice_where_there_is_talk()
    {
        var heard = Heard("we cross at turn hollow", "every day we do", gap: 7_000);
        List<SaidStretch> said = [new(2, new SittingRange(At(5_000), At(8_000)))];
        var text = NewText.Of(
            TextFiles.Read("a.txt", "MAREN: We cross at Tern Hollow.\nGAST: Guten Morgen zusammen.\nTOBIAS: Every day we do."),
            heard,
            End,
            [],
            said
        );
        Assert.Equal(["Maren", "Gast", "Tobias"], text.Names.OrderBy(n => n.Key).Select(n => n.Value));
    }

    [Theory]
    [InlineData("MAREN OAKHURST", "Maren Oakhurst")]
    [InlineData("tobias", "Tobias Fenn")]
    [InlineData("OAKHURST", "Oakhurst")]
    [InlineData("ILSE VARGA", "Ilse Varga")]
    [InlineData("Dr. McKeel", "Dr. McKeel")]
    [InlineData("JK", "JK")]
    public void A_typed_name_is_the_known_person_it_means(string typed, string who)
    {
        string[] people = ["Maren Oakhurst", "Tobias Fenn", "Anna Oakhurst"];
        Assert.Equal(who, SpeakerName.Of(typed, people));
    }

    [Fact]
    public void Words_json_keeps_its_times_and_without_names_takes_the_voices_that_were_found()
    {
        var heard = Heard("we cross", "every day");
        var json = WordsJson.Write(
            new WordList(
                "en",
                [
                    .. "we cross every day"
                        .Split(' ')
                        .Select(
                            (w, i) =>
                                new RecognisedWord(
                                    w,
                                    new SourceRange(
                                        new SourceTime(MediaTime.FromMilliseconds(7 + (i * 900))),
                                        new SourceTime(MediaTime.FromMilliseconds(400 + (i * 900)))
                                    )
                                )
                        ),
                ]
            )
        );
        var text = NewText.Of(TextFiles.Read("a.json", json), heard, End, []);
        Assert.Equal([7, 907, 1807, 2707], text.Words.Select(w => w.Range.In.FromZero.ToMillisecondsRounded()));
        Assert.Equal([0, 0, 1, 1], text.Words.Select(w => w.Voice));
    }

    [Fact]
    public void Where_nothing_was_heard_lines_share_their_times_and_captions_that_overlap_follow_one_another_in_order_of_time()
    {
        var text = NewText.Of(
            TextFiles.Read(
                "a.srt",
                "1\n00:00:02,000 --> 00:00:04,000\naa bb\n\n2\n00:00:03,000 --> 00:00:05,000\ncc\n\n3\n00:00:01,000 --> 00:00:01,500\ndd\n"
            ),
            null,
            End,
            []
        );
        Assert.Equal(
            [(1000, 1500), (2000, 3000), (3000, 4000), (4000, 5000)],
            text.Words.Select(w => ((int)w.Range.In.FromZero.ToMillisecondsRounded(), (int)w.Range.Out.FromZero.ToMillisecondsRounded()))
        );
        var open = NewText.Of(TextFiles.Read("a.txt", "[0:10] aa bb\ngoes on\n[0:40] cc"), null, End, []);
        Assert.Equal([10_000, 10_480, 10_960, 11_920, 40_000], open.Words.Select(w => w.Range.In.FromZero.ToMillisecondsRounded()));
        Assert.Null(open.HeardPercent);
    }

    [Fact]
    public void Two_hours_of_one_word_do_not_become_a_word_of_two_hours()
    {
        var caption = Assert.Single(
            NewText.Of(TextFiles.Read("a.vtt", "WEBVTT\n\n00:10.000 --> 02:00:00.000\nferry\n"), null, End, []).Words
        );
        Assert.Equal(
            (10_000, 15_000),
            (caption.Range.In.FromZero.ToMillisecondsRounded(), caption.Range.Out.FromZero.ToMillisecondsRounded())
        );
        Assert.StartsWith(
            "Word 2: “ferry” lasts 2:00:00.0",
            Assert
                .Throws<FormatException>(() =>
                    TextFiles.Read(
                        "a.json",
                        "{\"schema\":\"ember-lane.words/1\",\"language\":\"en\",\"words\":[{\"t\":\"the\",\"s\":0,\"e\":1},"
                            + "{\"t\":\"ferry\",\"s\":1,\"e\":7201}]}"
                    )
                )
                .Message,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("a.txt", "[0:10] aa\n[1:30] behind", "Line 2: its time 1:30.0 lies behind the sitting's end at 1:00.0.")]
    [InlineData("a.txt", "no times at all", "This text has no times")]
    [InlineData(
        "a.json",
        "{\"schema\":\"ember-lane.words/1\",\"language\":\"en\",\"words\":[{\"t\":\"aa\",\"s\":1,\"e\":2},"
            + "{\"t\":\"bb\",\"s\":70,\"e\":71}]}",
        "Word 2 (“bb”) is at 1:10.0, behind the sitting's end"
    )]
    public void What_can_not_lie_in_the_sitting_is_refused(string name, string text, string reason) =>
        Assert.StartsWith(
            reason,
            Assert.Throws<FormatException>(() => NewText.Of(TextFiles.Read(name, text), null, End, [])).Message,
            StringComparison.Ordinal
        );

    [Fact]
    public void The_text_of_another_sitting_is_refused() =>
        Assert.StartsWith(
            "Only 0 of 100 words",
            Assert
                .Throws<FormatException>(() =>
                    NewText.Of(TextFiles.Read("a.txt", "concrete pylons settle differently"), Heard("we cross at turn hollow"), End, [])
                )
                .Message,
            StringComparison.Ordinal
        );

    [Fact]
    public void A_typed_text_is_laid_onto_joined_words_as_one_and_not_onto_words_that_left_the_text()
    {
        var heard = Heard("we um cross at tern hollow today");
        heard = heard with
        {
            Layers = new Together([
                new JoinWord(new(5), true),
                new HideWord(new(1), true),
                new NameVoice(heard.VoiceOf(heard.Words[0]), "Maren"),
            ])
                .Apply(heard)
                .Layers,
        };
        var laid = NewText.Of(TextFiles.Read("a.txt", "We cross at Ternhollow today."), heard, End, []);
        Assert.Equal((100, "Maren"), (laid.HeardPercent, laid.Names.Values.Single()));
        Assert.Equal(new SittingRange(heard.Words[4].Range.In, heard.Words[5].Range.Out), laid.Words[3].Range);
    }

    [Fact]
    public void Places_that_do_not_fit_have_flags_where_a_reader_meets_them()
    {
        var heard = Heard("we cross at tern hollow every single day when the water lets us and nobody minds the cold at all here");
        var shorter = NewText.Of(TextFiles.Read("a.txt", "We cross at Tern Hollow and nobody minds the cold at all here."), heard, End, []);
        var flag = Assert.Single(Flags(shorter));
        Assert.Equal(
            (5, MarkKind.LookAgain, "8 words were heard here that this text does not have: every single day when the water lets us"),
            (flag.First.Value, flag.Kind, flag.Note)
        );
        var longer = NewText.Of(
            TextFiles.Read(
                "a.txt",
                $"We cross at Tern Hollow {string.Concat(Enumerable.Repeat("whatever somebody unexpectedly typewrote inbetween ", 4))} "
                    + "every single day when the water lets us and nobody minds the cold at all here."
            ),
            heard,
            End,
            []
        );
        var typed = Flags(longer).Single(f => f.First.Value == 5);
        Assert.StartsWith("20 words of this text were not heard here: whatever", typed.Note, StringComparison.Ordinal);
        Assert.Equal(Mark.LongestNote, typed.Note.Length);
        Assert.Empty(
            Flags(
                NewText.Of(
                    TextFiles.Read(
                        "a.txt",
                        "We cross at Tern Hollow every single day when the water lets us and nobody minds the cold at all here."
                    ),
                    heard,
                    End,
                    []
                )
            )
        );
    }

    private static IEnumerable<Mark> Flags(NewText laid)
    {
        var kept = new Transcript(laid.Words, Layers.None);
        return laid.Flags(kept, new Signed("Ember Lane", null)) is { } edit ? edit.Apply(kept).Layers.Marks.Values : [];
    }

    [Fact]
    public void Two_texts_differ_where_their_words_do_and_not_by_case_or_punctuation()
    {
        var difference = TextDifference.Between(
            Heard("we cross at turn hollow every day"),
            Heard("We cross at Tern Hollow, every single day.")
        );
        Assert.Equal(6, difference.Same);
        Assert.Equal([("turn", "Tern"), ("", "single")], difference.Places.Select(p => (p.OursSaid, p.TheirsSaid)));
        Assert.Equal(1500, difference.Places[0].Range.In.FromZero.ToMillisecondsRounded());
        Assert.DoesNotContain(difference.Places, p => p.IsPassage);
        var passage = Assert.Single(TextDifference.Between(Heard("one two"), Heard("one aa bb cc dd ee ff gg two")).Places);
        Assert.True(passage.IsPassage);
    }

    [Fact]
    public void A_bite_finds_its_words_in_another_text_by_its_time_and_none_where_nothing_is_said()
    {
        var text = Heard("one two three four five");
        var bite = Bite.Of(1, 7, new(0), new(4), new SittingRange(At(600), At(1900)), "", "", "producer").Mark;
        Assert.Equal((new TextPlace(1), new TextPlace(3)), MarkPlace.Of(bite, text, isOwn: false));
        Assert.Equal((new TextPlace(0), new TextPlace(4)), MarkPlace.Of(bite, text, isOwn: true));
        Assert.Null(MarkPlace.In(text, new SittingRange(At(30_000), At(40_000))));
    }

    private static SittingTime At(long milliseconds) => new(MediaTime.FromMilliseconds(milliseconds));

    // Words half a second apart, four tenths long; a text is a voice.
    // The second one so many milliseconds later than it would follow.
    private static Transcript Heard(string first, string second, int gap)
    {
        var text = Heard(first, second);
        var later = MediaTime.FromMilliseconds(gap);
        return new Transcript(
            [.. text.Words.Select(w => w.Voice == 0 ? w : w with { Range = new SittingRange(w.Range.In + later, w.Range.Out + later) })],
            Layers.None
        );
    }

    private static Transcript Heard(params string[] texts)
    {
        var words = new List<RecordWord>();
        foreach (var (voice, text) in texts.Index())
        {
            words.AddRange(
                text.Split(' ')
                    .Select((w, i) => (w, n: words.Count + i))
                    .ToList()
                    .Select(p => new RecordWord(new(p.n), p.w, new SittingRange(At(p.n * 500), At((p.n * 500) + 400)), null, voice))
            );
        }
        return new Transcript(words, Layers.None);
    }
}
