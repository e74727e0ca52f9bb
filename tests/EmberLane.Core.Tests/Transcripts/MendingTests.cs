using System.Text.Json;
using CsCheck;
using EmberLane.Core.Captions;
using EmberLane.Core.Speech;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tests.Transcripts;

/// <summary>Voices given and joined, words taken out, replaced everywhere, and the text taken out.</summary>
public sealed class MendingTests
{
    private static Transcript Made(params (string Text, int Voice)[] words) =>
        new(
            [
                .. words.Select(
                    (w, i) =>
                        new RecordWord(
                            new(i),
                            w.Text,
                            new SittingRange(
                                new SittingTime(MediaTime.FromMilliseconds(i * 500)),
                                new SittingTime(MediaTime.FromMilliseconds((i * 500) + 400))
                            ),
                            new(900),
                            w.Voice
                        )
                ),
            ],
            Layers.None
        );

    private static Transcript Said(string text) => Made([.. text.Split(' ').Select(w => (w, 0))]);

    private static Transcript After(Transcript transcript, TranscriptEdit edit) =>
        transcript with
        {
            Layers = edit.Apply(transcript).Layers,
        };

    private static string Turns(Transcript transcript) =>
        string.Join(
            " | ",
            Core.Transcripts.Turns.Lay(transcript).Select(t => $"{transcript.NameOf(t.Voice)}: {transcript.Said(t.First, t.Last)}")
        );

    [Fact]
    public void A_passage_is_given_to_somebody_new_and_a_turn_breaks_where_the_voice_changes()
    {
        var transcript = Made(("a", 0), ("b", 0), ("c", 0), ("d", 1));
        var given = After(transcript, VoiceEdits.Give(transcript, new(1), new(1), transcript.FreshVoice(), " Ilse "));
        Assert.Equal("Voice A: a | Ilse: b | Voice A: c | Voice B: d", Turns(given));
        Assert.Equal([0, 2, 1], given.Voices());
        Assert.Equal([0, 0, 0, 1], given.Words.Select(w => w.Voice));
        Assert.Equal("Voice A: a b c | Voice B: d", Turns(After(given, VoiceEdits.Give(given, new(1), new(1), 0, null))));
        Assert.Throws<EditRefusedException>(() => VoiceEdits.Give(given, new(1), new(1), 2, null));
        Assert.Throws<EditRefusedException>(() => VoiceEdits.Give(given, new(2), new(1), 0, null));
    }

    [Fact]
    public void Two_voices_that_are_one_person_are_joined_and_the_name_stays()
    {
        var transcript = After(Made(("a", 0), ("b", 1), ("c", 2)), new NameVoice(2, "Maren"));
        var joined = After(transcript, VoiceEdits.Join(transcript, 2, 1));
        Assert.Equal("Voice A: a | Maren: b c", Turns(joined));
        Assert.Throws<EditRefusedException>(() => VoiceEdits.Join(joined, 2, 1));
        Assert.Throws<EditRefusedException>(() => VoiceEdits.Join(joined, 1, 1));
    }

    [Fact]
    public void A_word_taken_out_of_the_text_is_not_read_not_doubtful_not_found_and_keeps_its_time()
    {
        var transcript = Said("the the ferry");
        var hidden = After(transcript, new HideWord(new(1), true));
        Assert.Equal("the ferry", hidden.Said(new(0), new(2)));
        Assert.Equal(3, hidden.Words.Count);
        Assert.Equal([new Found(new(0), new(2))], WordSearch.Find(hidden, "the ferry", whole: true, matchCase: false));
        Assert.Equal("the the ferry", After(hidden, new HideWord(new(1), false)).Said(new(0), new(2)));
    }

    [Theory]
    [InlineData("turn hollow", true, false, "0 5")]
    [InlineData("turn hollow", true, true, "5")]
    [InlineData("turn", true, false, "0 5")]
    [InlineData("turn", false, false, "0 3 5")]
    [InlineData("hollow", true, false, "1 6")]
    [InlineData("urn hol", false, false, "0 5")]
    [InlineData("", true, false, "")]
    [InlineData("not there", true, false, "")]
    public void Places_are_found_by_whole_words_parts_and_case(string asked, bool whole, bool matchCase, string firsts) =>
        Assert.Equal(
            firsts,
            string.Join(
                ' ',
                WordSearch.Find(Said("Turn Hollow, and turned back turn hollow."), asked, whole, matchCase).Select(f => f.First)
            )
        );

    [Fact]
    public void Replacing_keeps_the_punctuation_the_times_and_leaves_unticked_places_alone()
    {
        var transcript = Said("Turn Hollow, and turned back turn hollow.");
        Assert.Equal(
            "Tern Hollow, and turned back turn hollow.",
            After(transcript, WordSearch.Replace(transcript, "turn hollow", "Tern Hollow", true, false, [new(0)])).Said(new(0), new(6))
        );
        Assert.Equal(
            "Ternhollow, and turned back Ternhollow.",
            Say(After(transcript, WordSearch.Replace(transcript, "turn hollow", "Ternhollow", true, false, [new(0), new(5)])))
        );
        Assert.Equal(
            "Tern by Hollow, and turned back turn hollow.",
            Say(After(transcript, WordSearch.Replace(transcript, "Turn Hollow", "Tern by Hollow", true, false, [new(0)])))
        );
        Assert.Equal(
            "Tern Hollow, and Terned back turn hollow.",
            Say(After(transcript, WordSearch.Replace(transcript, "turn", "Tern", false, false, [new(0), new(3)])))
        );
        Assert.Throws<EditRefusedException>(() => WordSearch.Replace(transcript, "turn", " ", true, false, [new(0)]));
        Assert.Throws<EditRefusedException>(() => WordSearch.Replace(transcript, "turn", "x", true, false, [new(0), new(1)]));

        static string Say(Transcript t) => t.Said(new(0), new(t.Words.Count - 1));
    }

    [Fact]
    public void Joined_words_are_found_and_replaced_as_the_one_word_that_they_read()
    {
        var transcript = Said("a Tern hollow ferry, tern hollow.");
        var joined = After(transcript, new Together([new JoinWord(new(2), true), new JoinWord(new(5), true)]));
        Assert.Equal("a Ternhollow ferry, ternhollow.", joined.Said(new(0), new(5)));
        Assert.Equal(
            [new Found(new(1), new(2)), new Found(new(4), new(5))],
            WordSearch.Find(joined, "ternhollow", whole: true, matchCase: false)
        );
        Assert.Equal([new Found(new(1), new(3))], WordSearch.Find(joined, "hollow ferry", whole: false, matchCase: false));
        Assert.Empty(WordSearch.Find(joined, "hollow", whole: true, matchCase: false));
        var replaced = After(joined, WordSearch.Replace(joined, "ternhollow", "Landing", true, false, [new(1), new(4)]));
        Assert.Equal("a Landing ferry, Landing.", replaced.Said(new(0), new(5)));
        Assert.Equal(joined.Words.Select(w => w.Range), replaced.Words.Select(w => w.Range));
        var parted = After(joined, WordSearch.Replace(joined, "ternhollow", "Tern Hollow", true, false, [new(4)]));
        Assert.Equal("a Ternhollow ferry, Tern Hollow.", parted.Said(new(0), new(5)));
    }

    [Fact]
    public void Any_run_of_mending_is_taken_back_through_the_text_of_the_log() =>
        Gen.Select(Gen.Int[0, 4], Gen.Int[0, 5], Gen.Int[0, 3])
            .Array[1, 12]
            .Sample(steps =>
            {
                var transcript = Made(("a", 0), ("b", 1), ("a", 0), ("c", 2), ("b", 1), ("a", 0));
                var before = new Stack<(Layers Layers, string Inverse)>();
                foreach (var (kind, word, voice) in steps)
                {
                    try
                    {
                        TranscriptEdit edit = kind switch
                        {
                            0 => VoiceEdits.Give(
                                transcript,
                                new(Math.Min(word, 3)),
                                new(Math.Min(word, 3) + 2),
                                voice,
                                voice == 3 ? "New" : null
                            ),
                            1 => VoiceEdits.Join(transcript, voice, (voice + 1) % 3),
                            2 => new Together([new HideWord(new(word), voice % 2 == 0), new HideWord(new((word + 1) % 6), true)]),
                            3 => WordSearch.Replace(
                                transcript,
                                "a",
                                "x y",
                                true,
                                false,
                                [.. WordSearch.Find(transcript, "a", true, false).Select(f => transcript.At(f.First).Number)]
                            ),
                            _ => new Retype(new(word), "z"),
                        };
                        var (layers, inverse) = edit.Apply(transcript);
                        before.Push((transcript.Layers, JsonSerializer.Serialize(inverse)));
                        transcript = transcript with { Layers = layers };
                    }
                    catch (EditRefusedException)
                    {
                        // Not every step fits; those that do not change nothing.
                    }
                }
                while (before.TryPop(out var step))
                {
                    transcript = transcript with
                    {
                        Layers = JsonSerializer.Deserialize<TranscriptEdit>(step.Inverse)!.Apply(transcript).Layers,
                    };
                    Assert.Equal(step.Layers.Added, transcript.Layers.Added.Where(a => step.Layers.Added.ContainsKey(a.Key)));
                    Assert.All(
                        transcript.Layers.Added.Where(a => !step.Layers.Added.ContainsKey(a.Key)),
                        a => Assert.True(a.Value.IsWithdrawn)
                    );
                    Assert.Equal(step.Layers.Retyped, transcript.Layers.Retyped);
                    Assert.Equal(step.Layers.VoiceNames, transcript.Layers.VoiceNames);
                    Assert.Equal(step.Layers.Given, transcript.Layers.Given);
                    Assert.Equal(step.Layers.Hidden, transcript.Layers.Hidden);
                }
            });

    private static readonly TextChoice All = new(new(0), new(int.MaxValue - 1), true, true);

    private static Transcript Talk()
    {
        var talk = Made(("=SUM(A1)", 0), ("said,", 0), ("\"quoted\"", 0), ("then", 1), ("<b>", 1), ("out", 1));
        talk = After(talk, new NameVoice(0, "Maren <O>"));
        return After(talk, new HideWord(new(5), true));
    }

    [Fact]
    public void Text_and_table_say_who_and_when_and_a_formula_is_never_handed_to_a_spreadsheet()
    {
        Assert.Equal("[00:00:00] MAREN <O>: =SUM(A1) said, \"quoted\"\n[00:00:01] VOICE B: then <b>\n", TranscriptText.Plain(Talk(), All));
        Assert.Equal("said, \"quoted\"\n", TranscriptText.Plain(Talk(), new TextChoice(new(1), new(2), false, false)));
        Assert.Equal(
            "start,end,name,words\r\n00:00:00.000,00:00:01.400,Maren <O>,\"'=SUM(A1) said, "
                + "\"\"quoted\"\"\"\r\n00:00:01.500,00:00:02.400,Voice B,then <b>\r\n",
            TranscriptText.Csv(Talk(), All)
        );
        Assert.Equal("words\r\nthen\r\n", TranscriptText.Csv(Talk(), new TextChoice(new(3), new(3), false, false)));
        Assert.Equal("then <b> out\n", TranscriptText.Plain(Talk(), new TextChoice(new(3), new(5), false, false, Hidden: true)));
        Assert.Equal(6, WordsJson.Read(TranscriptText.Words(Talk(), All with { Hidden = true }, "en")).Words.Count);
        Assert.EndsWith("‹b› out\r\n\r\n", TranscriptText.SubRip(Talk(), All with { Hidden = true }, new()), StringComparison.Ordinal);
    }

    [Fact]
    public void Captions_are_read_back_by_our_own_reader_with_voices_and_times()
    {
        var vtt = TranscriptText.WebVtt(Talk(), All, new());
        Assert.Contains("<v Maren &lt;O&gt;>=SUM(A1) said, \"quoted\"", vtt, StringComparison.Ordinal);
        var words = Core.Captions.WebVtt.ReadWords(vtt);
        Assert.Equal(["=SUM(A1)", "said,", "\"quoted\"", "then", "<b>"], words.Select(w => w.Text));
        Assert.Equal(1500, words[3].Range.In.FromZero.ToMillisecondsRounded());
        Assert.StartsWith(
            "1\r\n00:00:00,000 --> 00:00:01,400\r\nMaren ‹O›: =SUM(A1) said, \"quoted\"\r\n\r\n2\r\n",
            TranscriptText.SubRip(Talk(), All, new() { Line = 42 }),
            StringComparison.Ordinal
        );
        var json = WordsJson.Read(TranscriptText.Words(Talk(), All, "en"));
        Assert.Equal(("en", 5, "Maren <O>"), (json.Language, json.Words.Count, json.Words[0].Voice));
        Assert.Equal("WEBVTT\n", TranscriptText.WebVtt(Made(), All, new()));
    }

    [Fact]
    public void No_caption_is_longer_than_two_lines_or_six_seconds_and_no_word_is_lost()
    {
        var random = new Random(4);
        var talk = Made([.. Enumerable.Range(0, 400).Select(_ => (new string('w', random.Next(1, 14)), random.Next(40) / 39))]);
        var srt = TranscriptText.SubRip(talk, All with { Names = false }, new() { Line = 42 });
        var cues = srt.Split("\r\n\r\n", StringSplitOptions.RemoveEmptyEntries).Select(c => c.Split("\r\n")).ToList();
        Assert.All(cues, c => Assert.InRange(c.Length, 3, 4));
        Assert.All(cues.SelectMany(c => c.Skip(2)), line => Assert.InRange(line.Length, 1, 42));
        Assert.All(cues, c => Assert.InRange(Seconds(c[1][17..]) - Seconds(c[1][..12]), 0, 6));
        Assert.Equal(talk.Said(new(0), new(399)), string.Join(' ', cues.SelectMany(c => c.Skip(2))));
        var named = After(talk, new NameVoice(0, "Maren Oakhurst, ferry master"));
        var lines = TranscriptText
            .SubRip(named, All, new() { Line = 42 })
            .Split("\r\n\r\n", StringSplitOptions.RemoveEmptyEntries)
            .Select(c => c.Split("\r\n")[2..])
            .ToList();
        Assert.All(lines, l => Assert.InRange(l.Length, 1, 2));
        Assert.All(lines.SelectMany(l => l), l => Assert.InRange(l.Length, 1, 42));

        static double Seconds(string clock) =>
            TimeSpan.Parse(clock.Replace(',', '.'), System.Globalization.CultureInfo.InvariantCulture).TotalSeconds;
    }
}
