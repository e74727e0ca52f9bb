using CsCheck;
using EmberLane.Core.Captions;
using EmberLane.Core.Handoff;
using EmberLane.Core.Speech;

namespace EmberLane.Core.Tests.Captions;

/// <summary>A translator's table that comes back.</summary>
public sealed class TranslationTableTests
{
    private static LaidCaption Caption(string text, long from)
    {
        SourceTime At(long ms) => new(MediaTime.FromMilliseconds(ms));
        var word = new CaptionWord(
            new RecognisedWord(text, new SourceRange(At(from), At(from + 900)), null, "Maren"),
            Guid.NewGuid(),
            1,
            new SittingRange(new SittingTime(At(from).FromZero), new SittingTime(At(from + 900).FromZero))
        );
        var lines = TypedLines.Of(text, ["Maren"], 37);
        return new LaidCaption(new Caption(At(from).FromZero, At(from + 900).FromZero, lines, 0, 1), [word], null, null, false);
    }

    [Fact]
    public void Rows_find_their_captions_by_text_and_of_several_by_time()
    {
        LaidCaption[] captions = [Caption("Yes.", 0), Caption("I stayed.", 1_000), Caption("Yes.", 9_000)];
        var rows = TranslationTable.Read(
            "number;in;text;translation\r\n3;0:09.000;Yes.;Doch.\r\n2;0:01.000;I stayed.;\r\n1;0:00.000;Yes.;Ja.\r\n7;;Gone.;Fort.\r\n"
        );
        var fit = TranslationTable.Fit(rows, captions);
        Assert.Equal([(captions[2], "Doch."), (captions[0], "Ja.")], fit.Found.Select(f => (f.Caption, f.Row.Translation)));
        Assert.Equal(["Gone."], fit.Unfound.Select(r => r.Text));
        Assert.Equal([3], fit.Empty.Select(r => r.Line));
    }

    [Theory]
    [InlineData("", "empty")]
    [InlineData("a,b\n1,2\n", "text")]
    [InlineData("number,text\n1,Yes.\n", "translation")]
    [InlineData("text,translation\n\"Yes,Ja\nNo,Nein\n", "quotation mark")]
    public void A_table_that_is_none_is_refused_with_what_it_lacks(string table, string says) =>
        Assert.Contains(says, Assert.Throws<FormatException>(() => TranslationTable.Read(table)).Message, StringComparison.Ordinal);

    [Fact]
    public void What_goes_out_comes_back_for_any_text()
    {
        Gen.String[1, 40]
            .Array[1, 12]
            .Sample(
                texts =>
                {
                    var captions = texts
                        .Select(TypedText.OneLine)
                        .Where(t => t.Length > 0)
                        .Select((t, i) => Caption(t, i * 1_000))
                        .Where(c => c.Caption.Lines.Count > 0)
                        .ToList();
                    var said = captions.Select(c => string.Join(' ', c.Caption.Lines.Select(l => l.Shown))).ToList();
                    var table = CsvRows.Written(
                        ["number", "in", "text", "translation"],
                        said.Select((t, i) => (string[])[$"{i}", $"0:{i:00}.000", t, "x" + i])
                    );
                    var fit = TranslationTable.Fit(TranslationTable.Read(table), captions);
                    return fit.Unfound.Count == 0 && fit.Found.Select(f => f.Caption).SequenceEqual(captions);
                },
                iter: 500
            );
    }
}
