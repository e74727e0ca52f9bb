using System.Text.Json;
using EmberLane.Core.Seams;
using EmberLane.Core.Speech;

namespace EmberLane.Core.Tests.Seams;

/// <summary>Joins of pieces of a made sound: words are bursts of noise whose begins and ends are known to the sample.</summary>
public sealed class SeamsTests
{
    /// <summary>Two words that touch, two pauses, a soft word: begins and ends in milliseconds, and how loud.</summary>
    private static readonly (int From, int To, double Loud)[] Bursts =
    [
        (1_000, 1_400, 3_000),
        (1_400, 1_800, 3_000),
        (2_300, 2_700, 3_000),
        (2_760, 3_200, 3_000),
        (5_000, 5_500, 300),
        (6_000, 6_600, 3_000),
    ];

    private static short[] Samples(double noise = 8)
    {
        var random = new Random(7);
        var samples = new short[8 * SeamSound.Rate];
        for (var i = 0; i < samples.Length; i++)
        {
            var ms = i * 1000.0 / SeamSound.Rate;
            var loud = Bursts.Where(b => ms >= b.From && ms < b.To).Select(b => b.Loud).DefaultIfEmpty(noise).Max();
            samples[i] = (short)((random.NextDouble() - 0.5) * 2 * loud);
        }
        return samples;
    }

    private static SeamSound Sound() => new(SeamSound.Decibels(Samples()));

    private static SourceRange Range(long from, long to) =>
        new(new SourceTime(MediaTime.FromMilliseconds(from)), new SourceTime(MediaTime.FromMilliseconds(to)));

    // As a recogniser gives them: ends up to 80 ms wrong.
    private static List<RecognisedWord> Words(int early = 0) =>
        [.. Bursts.Select((b, i) => new RecognisedWord(i == 3 ? "bridge?" : "word", Range(b.From + early, b.To - early)))];

    private static double Ms(MediaTime time) => time.Units * 1000.0 / MediaTime.UnitsPerSecond;

    [Fact]
    public void A_cut_within_a_words_tail_goes_into_the_quiet_behind_it_with_a_fade_that_fits()
    {
        var piece = Assert.Single(SeamMending.Mend(Sound(), [Range(1_080, 1_740)], Words(60)));
        Assert.Equal(new EdgeFaults(true, false), piece.Before);
        Assert.Equal(default, piece.After);
        Assert.InRange(Ms(piece.Range.Out.FromZero), 1_810, 2_290);
        Assert.InRange(Ms(piece.Range.In.FromZero), 700, 990);
        Assert.InRange(piece.Out!.FadeMs, 10, 30);
        Assert.Contains("mended at its end", piece.Reasons);
    }

    [Fact]
    public void A_cut_into_the_next_word_goes_back_and_never_into_another()
    {
        var piece = Assert.Single(SeamMending.Mend(Sound(), [Range(2_300, 2_800)], Words()));
        Assert.True(piece.Before.Leaks);
        Assert.Equal(default, piece.After);
        Assert.InRange(Ms(piece.Range.Out.FromZero), 2_700, 2_760);
    }

    [Fact]
    public void Where_words_run_into_each_other_nothing_is_moved_and_it_is_listed()
    {
        var piece = Assert.Single(SeamMending.Mend(Sound(), [Range(1_000, 1_400)], Words()));
        Assert.Equal((MediaTime.FromMilliseconds(1_400), false), (piece.Range.Out.FromZero, piece.Out!.HasRoom));
        Assert.Contains(piece.Reasons, r => r.Contains("run into each other", StringComparison.Ordinal));
        Assert.True(piece.Score >= 20);
    }

    [Fact]
    public void A_cut_that_lies_well_in_the_quiet_stays_to_the_sample()
    {
        var piece = Assert.Single(SeamMending.Mend(Sound(), [Range(2_200, 4_000)], Words()));
        Assert.Equal(Range(2_200, 4_000), piece.Range);
        Assert.Equal((default, default), (piece.Before, piece.After));
        // Its last word asks something.
        Assert.Equal(["it ends with a question"], piece.Reasons);
    }

    [Fact]
    public void A_piece_that_ends_with_the_sound_is_not_cut_beyond_it()
    {
        var sound = new SeamSound(SeamSound.Decibels(Samples().AsSpan(0, 66 * SeamSound.Rate / 10)));
        var piece = Assert.Single(SeamMending.Mend(sound, [Range(5_900, 6_540)], Words(60)));
        Assert.True(piece.Range.Out.FromZero <= MediaTime.FromMilliseconds(6_600), $"{Ms(piece.Range.Out.FromZero)}");
    }

    [Fact]
    public void Jumps_in_level_are_told_and_where_the_sound_goes_on_there_is_no_seam()
    {
        var pieces = SeamMending.Mend(Sound(), [Range(4_900, 5_600), Range(5_900, 6_700), Range(6_700, 7_500)], Words());
        Assert.InRange(pieces[0].JumpAfter, 14, 26);
        Assert.Contains(pieces[0].Reasons, r => r.StartsWith("the level jumps by", StringComparison.Ordinal));
        Assert.Null(pieces[1].Out);
        Assert.Equal((MediaTime.FromMilliseconds(6_700), 0), (pieces[1].Range.Out.FromZero, (int)pieces[1].JumpAfter));
        // A piece without a word stays as it is.
        Assert.Equal((Range(6_700, 7_500), 0), (pieces[2].Range, pieces[2].Score));
    }

    [Fact]
    public void Whatever_is_cut_pieces_keep_their_order_and_no_mend_makes_a_fault()
    {
        var random = new Random(21);
        var sound = Sound();
        for (var n = 0; n < 300; n++)
        {
            var words = Words(random.Next(-30, 60));
            var pieces = Enumerable
                .Range(0, random.Next(1, 6))
                .Select(_ => random.Next(0, 7_500) is var from ? Range(from, from + random.Next(1, 4_000)) : default)
                .ToList();
            var mended = SeamMending.Mend(sound, pieces, words);
            Assert.Equal(pieces.Count, mended.Count);
            Assert.All(
                mended,
                m =>
                {
                    Assert.True(m.Range.In < m.Range.Out && m.Range.In.FromZero >= MediaTime.Zero);
                    Assert.True(!m.After.Clips || m.Before.Clips);
                    Assert.True(!m.After.Leaks || m.Before.Leaks);
                }
            );
        }
    }

    [Fact]
    public void A_zero_crossing_is_the_nearest_and_one_that_is_not_near_is_none()
    {
        short[] samples = [.. Enumerable.Range(0, 400).Select(i => (short)(i < 210 ? 100 : -100))];
        Assert.Equal(210, ZeroCrossing.Near(samples, 200));
        Assert.Equal(210, ZeroCrossing.Near(samples, 231));
        Assert.Equal(100, ZeroCrossing.Near(samples, 100));
        Assert.Equal(0, ZeroCrossing.Near([], 0));
    }

    [Fact]
    public void Loudness_is_the_same_however_the_sound_is_parted()
    {
        var samples = Samples();
        var whole = SeamSound.Decibels(samples);
        var at = 70 * SeamSound.StepSamples;
        float[] parts = [.. SeamSound.Decibels(samples.AsSpan(0, at)), .. SeamSound.Decibels(samples.AsSpan(at), samples[at - 1])];
        Assert.Equal(whole, parts);
    }

    [Fact]
    public void The_answer_has_the_form_that_was_promised()
    {
        var pieces = SeamMending.Mend(
            Sound(),
            SeamsJson.ReadCuts("""[{"in":1.08,"out":1.74},{"in":2.3,"out":2.8,"note":"x"}]"""),
            Words(60)
        );
        using var json = JsonDocument.Parse(SeamsJson.Write(pieces));
        var first = json.RootElement[0];
        Assert.Equal(
            ["in", "out", "inMovedMs", "outMovedMs", "fadeInMs", "fadeOutMs", "before", "after", "score", "reasons"],
            first.EnumerateObject().Select(p => p.Name)
        );
        Assert.Equal(["clips", "leaks", "levelJumpDb"], first.GetProperty("before").EnumerateObject().Select(p => p.Name));
        Assert.Equal(1.74m + (first.GetProperty("outMovedMs").GetDecimal() / 1000), first.GetProperty("out").GetDecimal(), 4);
        Assert.True(first.GetProperty("before").GetProperty("clips").GetBoolean());
        Assert.False(first.GetProperty("after").GetProperty("clips").GetBoolean());
    }

    [Theory]
    [InlineData("")]
    [InlineData("nothing")]
    [InlineData("{}")]
    [InlineData("[1,2]")]
    [InlineData("""[{"in":1}]""")]
    [InlineData("""[{"in":2,"out":1}]""")]
    [InlineData("""[{"in":1,"out":1}]""")]
    [InlineData("""[{"in":-1,"out":1}]""")]
    [InlineData("""[{"in":"1","out":2}]""")]
    [InlineData("""[{"in":1,"out":1e30}]""")]
    public void Cuts_that_are_none_are_refused_with_which_and_why(string json) =>
        Assert.EndsWith(".", Assert.Throws<FormatException>(() => SeamsJson.ReadCuts(json)).Message, StringComparison.Ordinal);
}
