using CsCheck;
using EmberLane.Core.Captions;
using EmberLane.Core.Speech;
using EmberLane.Engines.Speech;

namespace EmberLane.Core.Tests.Speech;

public sealed class SpeechTests
{
    private static SourceTime At(decimal seconds) => new(MediaTime.FromSecondsRounded(seconds));

    [Fact]
    public void Pieces_cover_the_sound_once_and_keep_to_their_lengths() =>
        Gen.Select(Gen.Float[0, 1000].Array[0, 3000], Gen.Int[1, 200], Gen.Int[0, 300])
            .Sample(
                (energy, shortest, more) =>
                {
                    var pieces = SilenceSegmenter.Plan(energy, shortest, shortest + more);
                    var at = 0;
                    foreach (var (first, end) in pieces)
                    {
                        Assert.Equal(at, first.Value);
                        Assert.InRange(end - first, end.Value == energy.Length ? 1 : shortest, shortest + more);
                        at = end.Value;
                    }
                    Assert.Equal(energy.Length, at);
                }
            );

    [Fact]
    public void A_piece_is_cut_in_the_pause_and_not_in_a_word()
    {
        var energy = Enumerable.Repeat(900f, 2000).ToArray();
        Array.Fill(energy, 1f, 700, 60);
        Assert.InRange(SilenceSegmenter.Plan(energy, 500, 1500)[0].End.Value, 712, 748);
    }

    [Theory]
    [InlineData("a b c", "a b c", 0, 0, 0)]
    [InlineData("a b c", "a x c", 1, 0, 0)]
    [InlineData("a b c", "a c", 0, 1, 0)]
    [InlineData("a c", "a b c", 0, 0, 1)]
    [InlineData("", "a b", 0, 0, 2)]
    [InlineData("The Ferry, sir.", "the ferry sir", 0, 0, 0)]
    public void Word_errors_are_counted_by_kind(string truth, string heard, int substituted, int deleted, int inserted)
    {
        var errors = WordErrorRate.Between(truth.Split(' ', StringSplitOptions.RemoveEmptyEntries), heard.Split(' '));
        Assert.Equal((substituted, deleted, inserted), (errors.Substituted, errors.Deleted, errors.Inserted));
    }

    [Fact]
    public void Word_errors_weigh_the_least_of_all_alignments_on_small_texts() =>
        Gen.Select(Gen.Char["abc"].Array[0, 6], Gen.Char["abc"].Array[0, 6])
            .Sample(
                (a, b) =>
                {
                    int Brute(int i, int j) =>
                        i == a.Length ? 3 * (b.Length - j)
                        : j == b.Length ? 3 * (a.Length - i)
                        : Math.Min(Brute(i + 1, j + 1) + (a[i] == b[j] ? 0 : 4), 3 + Math.Min(Brute(i + 1, j), Brute(i, j + 1)));
                    var errors = WordErrorRate.Between(a.Select(c => c.ToString()), b.Select(c => c.ToString()));
                    Assert.Equal(Brute(0, 0), (4 * errors.Substituted) + (3 * (errors.Deleted + errors.Inserted)));
                    Assert.Equal(b.Length - a.Length, errors.Inserted - errors.Deleted);
                }
            );

    [Fact]
    public void Words_written_as_JSON_and_read_are_the_same_to_the_microsecond() =>
        Gen.Select(
                Gen.Int[0, 10_000_000],
                Gen.Int[0, 2_000_000],
                Gen.Int[-1, 1000],
                Gen.OneOfConst("ferry", "it's", "“naïve”", "<b>", "漢字")
            )
            .Array[0, 20]
            .Sample(words =>
            {
                var list = new WordList(
                    "en",
                    [
                        .. words
                            .Select(w => new RecognisedWord(
                                w.Item4,
                                new SourceRange(At(w.Item1 / 1_000_000m), At((w.Item1 + w.Item2) / 1_000_000m)),
                                w.Item3 < 0 ? null : new PerMille(w.Item3),
                                w.Item3 % 2 == 0 ? "Maren" : null
                            ))
                            .OrderBy(w => w.Range.In),
                    ]
                );
                Assert.Equal(list.Words, WordsJson.Read(WordsJson.Write(list)).Words);
            });

    [Theory]
    [InlineData("", "not JSON")]
    [InlineData("[]", "schema")]
    [InlineData("{\"schema\":\"other/1\"}", "schema")]
    [InlineData("{\"schema\":5}", "schema")]
    [InlineData("{\"schema\":\"ember-lane.words/1\"}", "no list")]
    [InlineData("{\"schema\":\"ember-lane.words/1\",\"words\":[{\"t\":\"a\",\"s\":0,\"e\":1},{\"s\":1,\"e\":2}]}", "Word 2 has no text")]
    [InlineData("{\"schema\":\"ember-lane.words/1\",\"words\":[{\"t\":\"a\",\"s\":2,\"e\":1}]}", "ends before it begins")]
    [InlineData("{\"schema\":\"ember-lane.words/1\",\"words\":[{\"t\":\"a\",\"s\":-1,\"e\":1}]}", "“s” must be")]
    [InlineData("{\"schema\":\"ember-lane.words/1\",\"words\":[{\"t\":\"a\",\"s\":1e300,\"e\":1}]}", "“s” must be")]
    [InlineData("{\"schema\":\"ember-lane.words/1\",\"words\":[{\"t\":\"a\",\"s\":0,\"e\":1,\"c\":7}]}", "“c” must be")]
    [InlineData("{\"schema\":\"ember-lane.words/1\",\"words\":[7]}", "Word 1 has no text")]
    public void Bad_words_JSON_is_refused_with_the_place_and_the_reason(string json, string reason) =>
        Assert.Contains(reason, Assert.Throws<FormatException>(() => WordsJson.Read(json)).Message, StringComparison.Ordinal);

    [Fact]
    public void WebVTT_cues_share_their_time_among_their_words_and_keep_voices()
    {
        var words = WebVtt.ReadWords(
            "WEBVTT\r\n\r\n1\r\n00:01.000 --> 00:03.000 align:start\r\n<v Maren Oakhurst>aa bb</v>\r\n\r\n01:00:00.000 --> "
                + "01:00:02.000\r\none <01:00:01.500>two &amp; three\r\n"
        );
        Assert.Equal(["aa", "bb", "one", "two", "&", "three"], words.Select(w => w.Text));
        Assert.Equal((At(1), At(2), "Maren Oakhurst"), (words[0].Range.In, words[0].Range.Out, words[0].Voice));
        Assert.Equal(At(3601.5m), words[3].Range.In);
    }

    [Theory]
    [InlineData("hello", "Line 1")]
    [InlineData("WEBVTT\n\nx --> y\nw", "Line 3")]
    [InlineData("WEBVTT\n\n00:05.000 --> 00:04.000\nw", "ends before it begins")]
    [InlineData("WEBVTT\n\n00:99.000 --> 01:04.000\nw", "is not a time")]
    public void Bad_WebVTT_is_refused_with_its_line(string text, string reason) =>
        Assert.Contains(reason, Assert.Throws<FormatException>(() => WebVtt.ReadWords(text)).Message, StringComparison.Ordinal);

    [Theory]
    [InlineData("u000133 1 0.09 0.26 ferry(2) 0.871", "ferry", 871)]
    [InlineData("u000133 1 0.09 0.26 i 1.000100", "I", 1000)]
    [InlineData("u000133 1 0.09 0.26 i'll 0.5", "I'll", 500)]
    [InlineData("u000133  1 0.09 0.26 in 0.5 ", "in", 500)]
    public void A_line_of_the_local_recogniser_is_a_word_on_the_sound_it_was_cut_from(string line, string text, int confidence)
    {
        var word = PocketSphinx.Parse(line)!;
        Assert.Equal((text, confidence), (word.Text, word.Confidence?.Value));
        Assert.Equal(new SourceRange(At(1.42m), At(1.68m)), word.Range);
    }

    [Theory]
    [InlineData("u000133 1 0.0 0.2 <s> 0.99")]
    [InlineData("u000133 1 0.0 0.2 [NOISE] 0.99")]
    [InlineData("u000133 1 0.0 0.2 ++BREATH++ 0.99")]
    [InlineData("u000133 1 0.0 -0.2 word 0.99")]
    [InlineData("he said six words to me")]
    [InlineData("")]
    public void Silence_noises_and_plain_text_are_no_words(string line) => Assert.Null(PocketSphinx.Parse(line));

    [Fact]
    public void Utterances_are_what_is_said_between_pauses()
    {
        var energy = Enumerable.Repeat(25f, 3000).ToArray();
        Array.Fill(energy, 1e6f, 100, 400);
        Array.Fill(energy, 25f, 300, 10);
        Array.Fill(energy, 1e6f, 1000, 300);
        Array.Fill(energy, 1e6f, 1340, 20);
        Assert.Equal([StepRange.Of(88, 512), StepRange.Of(988, 1372)], Utterances(energy));
    }

    [Fact]
    public void Utterances_lie_apart_in_order_hold_all_that_is_loud_and_none_is_longer_than_ten_seconds() =>
        Gen.Select(Gen.Int[0, 3000], Gen.Int[1, 3000], Gen.Bool)
            .Array[0, 6]
            .Sample(
                runs =>
                {
                    float[] energy =
                    [
                        .. runs.SelectMany(r => Enumerable.Repeat(25f, r.Item1).Concat(Enumerable.Repeat(r.Item3 ? 1e6f : 2e5f, r.Item2))),
                    ];
                    var found = Utterances(energy);
                    var at = 0;
                    foreach (var (first, end) in found)
                    {
                        Assert.InRange(first.Value, at, energy.Length - 1);
                        Assert.InRange(end - first, 1, 1000);
                        at = end.Value;
                    }
                    var inside = found.SelectMany(u => u.Steps).ToHashSet();
                    Assert.True(at <= energy.Length);
                    Assert.All(Enumerable.Range(0, energy.Length).Where(i => energy[i] > 1000), i => Assert.Contains(i, inside));
                },
                iter: 100
            );

    [Fact]
    public void Digital_silence_holds_no_utterance_and_sound_that_never_changes_is_all_taken()
    {
        Assert.Empty(Utterances(new float[5000]));
        Assert.Empty(Utterances([]));
        Assert.Equal(2500, Utterances(Enumerable.Repeat(900f, 2500).ToArray()).Sum(u => u.End - u.First));
    }

    [Fact]
    public void The_reading_mix_follows_the_near_mic_and_never_gets_louder_than_the_loudest() =>
        Gen.Int[1, 5]
            .Sample(channels =>
            {
                var random = new Random(channels);
                var sound = Enumerable
                    .Range(0, 16_000 * channels)
                    .Select(i => (short)(random.Next(-20_000, 20_000) / (1 + (i % channels * 6))))
                    .ToArray();
                var mix = new AutoMix(channels, SilenceSegmenter.SampleRate).Mix(sound);
                Assert.Equal(16_000, mix.Length);
                for (var i = 8000; i < mix.Length; i++)
                {
                    var heard = Enumerable.Range(0, channels).Select(c => (int)sound[(i * channels) + c]).ToList();
                    Assert.InRange(mix[i], heard.Min() - 1, heard.Max() + 1);
                    Assert.InRange(mix[i] - heard[0], -1500, 1500);
                }
            });

    private static IReadOnlyList<StepRange> Utterances(float[] energy) =>
        VoiceActivity.Utterances(VoiceActivity.SpeechByLoudness(energy), energy);
}
