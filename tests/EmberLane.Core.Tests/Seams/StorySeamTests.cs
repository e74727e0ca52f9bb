using EmberLane.Core.Seams;
using EmberLane.Core.Stories;

namespace EmberLane.Core.Tests.Seams;

/// <summary>
/// Seams of a story on a made sound that begins two seconds into its sitting: words are bursts of noise, a breath is soft.
/// </summary>
public sealed class StorySeamTests
{
    private static readonly SittingTime Begins = new(MediaTime.FromMilliseconds(2_000));

    // On the sitting's clock; the third is a breath.
    private static readonly (int From, int To, double Loud)[] Bursts =
    [
        (3_000, 3_500, 3_000),
        (4_000, 4_600, 3_000),
        (5_200, 5_500, 220),
        (6_000, 6_500, 3_000),
        (6_500, 7_000, 3_000),
        (8_000, 8_600, 3_000),
    ];

    private static SittingSeamSound Sound(double scale = 1)
    {
        var random = new Random(3);
        var samples = new short[10 * SeamSound.Rate];
        for (var i = 0; i < samples.Length; i++)
        {
            var ms = 2_000 + (i * 1000.0 / SeamSound.Rate);
            var loud = Bursts.Where(b => ms >= b.From && ms < b.To).Select(b => b.Loud * scale).DefaultIfEmpty(8).Max();
            samples[i] = (short)((random.NextDouble() - 0.5) * 2 * loud);
        }
        return new SittingSeamSound(SeamSound.OfHalves(new SeamSound(SeamSound.Decibels(samples)).Halves()), Begins);
    }

    private static SittingRange Range(long from, long to) =>
        new(new SittingTime(MediaTime.FromMilliseconds(from)), new SittingTime(MediaTime.FromMilliseconds(to)));

    private static SeamSide Side(
        long from,
        long to,
        SittingRange? before,
        SittingRange first,
        SittingRange last,
        SittingRange? behind,
        string said = "The water stood.",
        long sitting = 1,
        long? picture = null,
        SittingSeamSound? sound = null
    ) =>
        new(
            new Card(Guid.NewGuid(), 1, sitting, Range(from, to), null),
            Range(from, to),
            new CardEdges(before, first, last, behind),
            said,
            picture,
            sound ?? Sound()
        );

    private static SeamSide One(long to, string said = "The water stood.") =>
        Side(2_900, to, null, Range(3_000, 3_500), Range(4_000, 4_600), Range(6_000, 6_500), said);

    private static SeamSide Next(long from, long? picture = null) =>
        Side(from, 8_800, Range(6_500, 7_000), Range(8_000, 8_600), Range(8_000, 8_600), null, "Ninety years.", picture: picture);

    [Fact]
    public void A_lost_tail_a_lost_head_and_a_word_that_leaks_are_told_by_their_words()
    {
        Assert.Equal("“stood” loses its tail", StorySeam.Of(One(4_500), Next(7_900), true).Reasons[0]);
        Assert.Equal("“Ninety” loses its head", StorySeam.Of(One(4_700), Next(8_100), true).Reasons[0]);
        Assert.Equal("the word before “Ninety” is heard", StorySeam.Of(One(4_700), Next(6_900), true).Reasons[0]);
        Assert.True(StorySeam.Of(One(4_500), Next(7_900), true).Score >= StorySeam.Bad);
        var clean = StorySeam.Of(One(4_700), Next(7_900), true);
        Assert.Equal((0, 0), (clean.Score, clean.Reasons.Count));
        Assert.True(clean is { End.HasRoom: true, Begin.HasRoom: true });
    }

    [Fact]
    public void A_breath_that_is_cut_is_no_word_and_weighs_less()
    {
        var seam = StorySeam.Of(One(5_350), Next(7_900), true);
        Assert.Equal(["a breath is cut in half behind “stood”"], seam.Reasons);
        Assert.True(seam.Score < StorySeam.Bad);
    }

    [Fact]
    public void Where_words_run_into_each_other_it_is_listed_with_no_room()
    {
        var seam = StorySeam.Of(
            Side(5_900, 6_500, Range(4_000, 4_600), Range(6_000, 6_500), Range(6_000, 6_500), Range(6_500, 7_000), "over the"),
            Next(7_900),
            true
        );
        Assert.Equal(["no room behind “the”: the words run into each other"], seam.Reasons);
        Assert.False(seam.End!.HasRoom);
    }

    [Fact]
    public void The_same_angle_a_jump_and_a_question_without_its_answer_are_told()
    {
        SeamSide one = One(4_700, "Were you afraid?") with { Picture = 4 };
        Assert.Equal(["the same angle on both sides"], StorySeam.Of(one, Next(7_900, picture: 4), true).Reasons);
        Assert.Empty(StorySeam.Of(one, Next(7_900, picture: 5), true).Reasons);
        var elsewhere = Next(7_900, picture: 4);
        elsewhere = elsewhere with { Card = elsewhere.Card with { SittingId = 2 }, Sound = Sound(0.1) };
        var seam = StorySeam.Of(one, elsewhere, true);
        Assert.Contains(seam.Reasons, r => r.StartsWith("the level jumps by 2", StringComparison.Ordinal));
        Assert.Contains("a question, and what follows is not its answer", seam.Reasons);
        // With something between the two nothing jumps.
        Assert.Equal(["a question, and what follows is not its answer"], StorySeam.Of(one, elsewhere, false).Reasons);
        Assert.Equal(["a question, and what follows is not its answer"], StorySeam.Of(one, null, true).Reasons);
    }

    [Fact]
    public void Where_the_sound_goes_on_there_is_nothing_to_judge()
    {
        var seam = StorySeam.Of(One(4_300), Side(4_300, 8_800, null, Range(4_000, 4_600), Range(8_000, 8_600), null), true);
        Assert.Equal((0, null, null), (seam.Score, seam.End, seam.Begin));
    }

    [Fact]
    public void A_sound_that_nobody_measured_is_not_judged()
    {
        var seam = StorySeam.Of(One(4_500) with { Sound = null }, Next(8_100) with { Sound = null }, true);
        Assert.Equal((0, null, null), (seam.Score, seam.End, seam.Begin));
    }

    [Fact]
    public void Ends_are_mended_onto_frames_that_lie_in_the_quiet_and_a_good_end_stays()
    {
        var edges = new CardEdges(Range(3_000, 3_500), Range(4_000, 4_600), Range(4_000, 4_600), Range(6_000, 6_500));
        foreach (var rate in FrameRate.Supported)
        {
            var mended = CardEnds.Mended(Sound(), Range(4_050, 4_550), edges, rate);
            Assert.InRange(mended.In.FromZero.ToMillisecondsRounded(), 3_501, 3_999);
            Assert.InRange(mended.Out.FromZero.ToMillisecondsRounded(), 4_601, 5_199);
            Assert.Equal(mended.In.FromZero, rate.TimeOf(rate.NearestFrame(mended.In.FromZero)));
            Assert.Equal(mended, CardEnds.Mended(Sound(), mended, edges, rate));
            var ends = CardEnds.Of(Sound(), mended, edges);
            Assert.Equal((default, default), (ends.Begin!.Before, ends.End!.Before));
        }
    }

    [Fact]
    public void A_stretch_without_words_or_room_stays_as_it_is()
    {
        Assert.Equal(Range(4_050, 4_550), CardEnds.Mended(Sound(), Range(4_050, 4_550), CardEdges.None, FrameRate.R25));
        var run = new CardEdges(Range(6_000, 6_500), Range(6_500, 7_000), Range(6_500, 7_000), null);
        Assert.Equal(Range(6_500, 7_100).In, CardEnds.Mended(Sound(), Range(6_500, 7_100), run, FrameRate.R25).In);
    }

    [Fact]
    public void Half_decibels_in_a_byte_tell_a_sound_within_a_quarter_of_one()
    {
        var exact = new SeamSound([0f, 12.3f, 55.6f, 90f, 300f]);
        var kept = SeamSound.OfHalves(exact.Halves());
        Assert.Equal(exact.Count, kept.Count);
        Assert.All(Enumerable.Range(0, 4), step => Assert.InRange(kept.At(step) - exact.At(step), -0.25, 0.25));
        Assert.Equal((127.5, 0, 0), (kept.At(4), kept.At(-1), kept.At(5)));
    }
}
