using System.Globalization;
using System.Text.Json;
using CsCheck;
using EmberLane.Core.Marks;
using EmberLane.Core.Speech;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tests;

/// <summary>Whole numbers that must not meet: each has a type, and outside the program it is the plain number that it always was.</summary>
public sealed class WholeNumbersTests
{
    [Fact]
    public void Edits_are_written_with_plain_numbers_as_by_versions_before_and_read_again()
    {
        const string written =
            """{"$type":"add-word","Number":7,"After":-1,"Text":"so","Range":{"In":{"FromZero":{"Units":1}},"""
            + """ "Out":{"FromZero":{"Units":2}}},"Voice":0}""";
        var edit = JsonSerializer.Deserialize<TranscriptEdit>(written)!;
        Assert.Equal((new WordNumber(7), WordNumber.BeforeFirst), edit is AddWord add ? (add.Number, add.After) : default);
        var mark = new Mark(3, MarkKind.LookAgain, new(1), new(2), new(default, default), "Ada", "", null);
        var together = JsonSerializer.Serialize<TranscriptEdit>(new Together([new Retype(new(5), "so"), new PutMark(mark)]));
        Assert.Contains("\"Word\":5,", together, StringComparison.Ordinal);
        Assert.Contains("\"First\":1,\"Last\":2,", together, StringComparison.Ordinal);
        Assert.Equal(together, JsonSerializer.Serialize(JsonSerializer.Deserialize<TranscriptEdit>(together)));
        Assert.Equal("[0,1000]", JsonSerializer.Serialize(new[] { PerMille.None, PerMille.All }));
    }

    [Theory]
    [InlineData("12", 12)]
    [InlineData("-1", -1)]
    [InlineData("1.5", null)]
    [InlineData("2147483648", null)]
    [InlineData("seven", null)]
    [InlineData("", null)]
    [InlineData(null, null)]
    public void A_words_number_is_read_from_an_address_or_refused(string? text, int? number)
    {
        Assert.Equal(number is not null, WordNumber.TryParse(text, CultureInfo.GetCultureInfo("de-DE"), out var read));
        Assert.Equal(number ?? 0, read.Value);
    }

    [Fact]
    public void Places_and_steps_differ_by_counts() =>
        Gen.Select(Gen.Int[-50, 50], Gen.Int[-50, 50])
            .Sample(
                (a, b) =>
                {
                    TextPlace one = new(a),
                        other = new(b);
                    Assert.Equal(other, one + (other - one));
                    Assert.Equal(other - one, (other - 1) - (one - 1));
                    Assert.Equal(a.CompareTo(b), one.CompareTo(other));
                    Assert.Equal((a < b, a <= b, a > b, a >= b), (one < other, one <= other, one > other, one >= other));
                    Assert.Equal(Math.Max(0, TextPlace.Count(one, other)), TextPlace.Between(one, other).Count());
                    Assert.Equal(Math.Max(0, b - a), StepRange.Of(a, b).Steps.Count());
                    Assert.Equal(new Step(Math.Max(0, a)), Step.At(new Step(a).FromStart));
                }
            );

    [Fact]
    public void Shares_are_of_a_whole_and_never_more_than_all_of_it()
    {
        Assert.Equal(new PerMille(333), PerMille.Of(1, 3));
        Assert.Equal(PerMille.None, PerMille.Of(5, 0));
        Assert.Equal(PerMille.All, PerMille.Of(7, 5));
        Assert.Equal(PerMille.All, PerMille.Of(long.MaxValue, long.MaxValue));
        Assert.Equal(
            (new PerMille(500), PerMille.None, PerMille.All),
            (PerMille.OfShare(0.4996), PerMille.OfShare(-1), PerMille.OfShare(2))
        );
        Assert.Equal((0.999m, 99), (new PerMille(999).Share, new PerMille(999).Percent));
    }
}
