using EmberLane.Core.Captions;

namespace EmberLane.Engines.Tests;

/// <summary>What is read of Word documents, by the clause of ECMA-376 part 1 that says it.</summary>
public sealed class WordDocumentTests
{
    private static string[] Lines()
    {
        using var file = File.OpenRead(Sample.Path("tracked-and-table.docx"));
        return WordDocument.ReadText(file).Split('\n');
    }

    [Fact]
    public void ECMA_376_17_13_5_deleted_text_of_tracked_changes_is_not_said_and_inserted_text_is() =>
        Assert.Equal("MAREN: The rope went over.", Lines()[0]);

    [Fact]
    public void ECMA_376_17_3_3_tabs_and_breaks_of_a_run_part_words_and_lines() =>
        Assert.Equal(["TOBIAS:\tTwice.", "And again."], Lines()[1..3]);

    [Fact]
    public void ECMA_376_17_4_a_row_of_a_table_is_a_line_with_its_time_and_name_and_headings_are_none() =>
        Assert.Equal("00:01:05 Ilse: We counted them.", Lines()[3]);

    [Fact]
    public void ECMA_376_17_5_2_what_stands_in_a_content_control_is_read_as_if_it_stood_alone() =>
        Assert.Equal("ILSE: All of them.", Lines()[4]);

    [Fact]
    public void What_is_written_is_read_again()
    {
        TextPiece Said(string name, long from, string words) =>
            new(name, new SittingTime(MediaTime.FromMilliseconds(from)), new SittingTime(MediaTime.FromMilliseconds(from + 900)), words);
        using var file = new MemoryStream(
            WordDocument.Write(
                "The hut",
                [Said("Ilse", 65_000, "It is <here> & now."), Said("Maren", 70_000, "No.\u0001")],
                names: true,
                times: true
            )
        );
        Assert.Equal(["The hut", "[00:01:05] Ilse: It is <here> & now.", "[00:01:10] Maren: No."], WordDocument.ReadText(file).Split('\n'));
    }

    [Fact]
    public void What_is_no_document_is_refused_with_what_to_do()
    {
        using var file = File.OpenRead(Sample.Path("rf64.wav"));
        Assert.Contains(
            "Save it again in Word",
            Assert.Throws<FormatException>(() => WordDocument.ReadText(file)).Message,
            StringComparison.Ordinal
        );
    }
}
