using System.Text.Json;
using CsCheck;
using EmberLane.Core.Bites;
using EmberLane.Core.Edits;
using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tests.Bites;

/// <summary>Themes, ends, merging and splitting of bites, and changes of many at once.</summary>
public sealed class BiteWorkTests
{
    private const int Words = 20;

    private static readonly Transcript Text = new(
        [.. Enumerable.Range(0, Words).Select(i => new RecordWord(new(i), $"w{i}", Range(i, i), null, 0))],
        Layers.None
    );

    private static SittingTime At(long milliseconds) => new(MediaTime.FromMilliseconds(milliseconds));

    // A word each half second, 400 ms long.
    private static SittingRange Range(int first, int last) => new(At(first * 500L), At((last * 500L) + 400));

    private static Bite Kept(int first, int last, string theme = "", string note = "", int grade = 0, long id = 1) =>
        Bite.Of(1, 7, new(first), new(last), Range(first, last), theme, note, "Ada") is var bite
            ? bite with
            {
                Grade = grade,
                Mark = bite.Mark with { Id = id },
            }
            : throw new InvalidOperationException();

    [Theory]
    [InlineData(" school ,hut,, Hut , the strait", "school, hut, the strait")]
    [InlineData(" , ,", "")]
    public void Themes_are_parted_by_commas_and_each_is_there_once(string typed, string written) =>
        Assert.Equal(written, BiteThemes.Written(typed));

    [Fact]
    public void Themes_are_added_taken_away_and_renamed_in_their_place()
    {
        Assert.Equal("school, hut", BiteThemes.With("school", "hut"));
        Assert.Equal("school", BiteThemes.With("school", "SCHOOL"));
        Assert.Equal("hut", BiteThemes.Without("School, hut", "school"));
        Assert.Equal("pupils, hut", BiteThemes.Instead("school, hut", "School", "pupils"));
        Assert.Equal("hut", BiteThemes.Instead("school, hut", "school", "hut"));
    }

    [Fact]
    public void What_is_written_of_themes_is_read_as_the_same_themes() =>
        Gen.String.Sample(typed => Assert.Equal(BiteThemes.Of(typed), BiteThemes.Of(BiteThemes.Written(typed))));

    [Fact]
    public void An_end_moves_by_words_to_where_words_begin_and_end_and_the_other_end_stays()
    {
        var bite = Kept(5, 9) with { };
        bite = bite with { Mark = bite.Mark with { Range = new SittingRange(bite.Range.In, At(4_930)) } };
        var moved = BiteEnds.ByWords(bite, 7, Text, BiteEnd.Begin, -2);
        Assert.Equal((new WordNumber(3), new WordNumber(9)), (moved.First, moved.Last));
        Assert.Equal(new SittingRange(At(1_500), At(4_930)), moved.Range);
        Assert.Equal(new WordNumber(12), BiteEnds.ByWords(bite, 7, Text, BiteEnd.Stop, 3).Last);
        Assert.Equal(Range(5, 12), BiteEnds.ByWords(bite, 7, Text, BiteEnd.Stop, 3).Range);
        // As far as the other end and the text allow.
        Assert.Equal(new WordNumber(9), BiteEnds.ByWords(bite, 7, Text, BiteEnd.Begin, 50).First);
        Assert.Equal(new WordNumber(Words - 1), BiteEnds.ByWords(bite, 7, Text, BiteEnd.Stop, 50).Last);
    }

    [Fact]
    public void Words_taken_out_of_the_text_are_stepped_over()
    {
        var text = new Transcript(Text.Record, Layers.None with { Hidden = [new WordNumber(10), new WordNumber(11)] });
        Assert.Equal(new WordNumber(12), BiteEnds.ByWords(Kept(5, 9), 7, text, BiteEnd.Stop, 1).Last);
    }

    [Fact]
    public void By_ear_an_end_moves_a_little_and_the_words_stay()
    {
        var moved = BiteEnds.ByEar(Kept(5, 9), 7, Text, BiteEnd.Stop, MediaTime.FromMilliseconds(60));
        Assert.Equal(new BitePlace(7, new(5), new(9), new SittingRange(At(2_500), At(4_960))), moved);
        var far = BiteEnds.ByEar(Kept(5, 9), 7, Text, BiteEnd.Begin, MediaTime.FromMilliseconds(-60_000));
        Assert.Equal(At(500), far.Range.In);
    }

    [Fact]
    public void However_ends_are_moved_a_bite_keeps_a_word_and_a_length() =>
        Gen.Select(Gen.Int[0, Words - 1], Gen.Int[0, Words - 1], Gen.Int[-30, 30], Gen.Long[-5_000, 5_000], Gen.Bool)
            .Sample(
                (one, other, words, milliseconds, isBegin) =>
                {
                    var bite = Kept(Math.Min(one, other), Math.Max(one, other));
                    var end = isBegin ? BiteEnd.Begin : BiteEnd.Stop;
                    var moved = BiteEnds.ByWords(bite, 7, Text, end, words);
                    var heard = BiteEnds.ByEar(
                        bite with
                        {
                            Mark = bite.Mark with { First = moved.First, Last = moved.Last, Range = moved.Range },
                        },
                        7,
                        Text,
                        end,
                        MediaTime.FromMilliseconds(milliseconds)
                    );
                    foreach (var place in new[] { moved, heard })
                    {
                        Assert.True(place.First <= place.Last && place.Range.In < place.Range.Out && place.Range.In >= At(0));
                    }
                }
            );

    [Fact]
    public void Merged_bites_are_one_over_all_of_them_with_all_that_was_said_of_them()
    {
        var merged = MergedBite.Of([Kept(8, 12, "hut, school", "later", 3, 2), Kept(2, 4, "school", "first", 1)]);
        Assert.Equal(new BitePlace(7, new(2), new(12), Range(2, 12)), merged.Place);
        Assert.Equal(("hut, school", "later · first", 3), (merged.Theme, merged.Note, merged.Grade));
        Assert.Throws<EditRefusedException>(() => MergedBite.Of([Kept(2, 4)]));
        Assert.Throws<EditRefusedException>(() => MergedBite.Of([Kept(2, 4), Kept(5, 6) with { SittingId = 2 }]));
        Assert.Throws<EditRefusedException>(() => MergedBite.Of([Kept(2, 4), Kept(5, 6) with { TranscriptId = 2 }]));
    }

    [Fact]
    public void A_split_bite_is_two_that_hold_all_of_its_words()
    {
        var (before, behind) = BiteSplit.At(Kept(2, 6), 7, Text, new(5));
        Assert.Equal((new BitePlace(7, new(2), new(4), Range(2, 4)), new BitePlace(7, new(5), new(6), Range(5, 6))), (before, behind));
        Assert.All([1, 2, 7, 99], w => Assert.Throws<EditRefusedException>(() => BiteSplit.At(Kept(2, 6), 7, Text, new(w))));
    }

    [Fact]
    public void A_change_of_many_is_led_back_by_its_inverse_and_survives_being_written()
    {
        var before = new Dictionary<long, BiteState> { [1] = new("hut", "", false, false), [2] = new("", "note", true, false) };
        var edit = new BitesEdit([
            BiteEdit.Of(1, before[1] with { Grade = 2, Place = new BitePlace(7, new(1), new(2), Range(1, 2)) }),
            BiteEdit.Of(2, before[2] with { Kind = "story", Gone = true }),
        ]);
        var (after, inverse) = edit.Apply(before);
        Assert.Equal(before, inverse.Apply(after).State);
        Assert.Equal(edit, JsonSerializer.Deserialize<BitesEdit>(JsonSerializer.Serialize(edit)));
        Assert.Equal(
            ["grade 1", "place 1", "theme 2", "note 2", "aside 2", "grade 2", "kind 2", "place 2"],
            BitesEdit.Touches(edit, inverse)
        );
        // As it was written before there were changes of many.
        Assert.Equal(
            new BitesEdit([new BiteEdit(3, "rope", "", false, true)]),
            JsonSerializer.Deserialize<BitesEdit>("""{"Id":3,"Theme":"rope","Note":"","Aside":false,"Gone":true}""")
        );
    }

    [Theory]
    [InlineData(4, "")]
    [InlineData(-1, "")]
    [InlineData(0, "a kind that is longer than a word should be")]
    public void What_is_no_grade_or_kind_is_refused(int grade, string kind) =>
        Assert.Throws<EditRefusedException>(() =>
            BiteEdit.Of(1, new BiteState("", "", false, false) { Grade = grade, Kind = kind }).Apply(new BiteState("", "", false, false))
        );
}
