namespace EmberLane.Engines.Tests;

/// <summary>
/// What is read of WAV files, by the clause that says it: RIFF (Multimedia Programming Interface and Data Specifications 1.0), EBU Tech
/// 3306 (RF64), ITU-R BS.2088 (BW64) and iXML.
/// </summary>
public sealed class WaveChunksTests
{
    private static readonly string[] Lav = ["Lav Ilse"];

    [Fact]
    public void RIFF_chapter_2_a_chunk_of_odd_length_is_followed_by_a_byte_that_is_not_counted() =>
        Assert.Equal(("14", "2"), Read("riff-odd-chunk.wav"));

    [Fact]
    public void RIFF_chapter_2_chunks_may_come_in_any_order() => Assert.Equal(("14", "2"), Read("riff-ixml-first.wav"));

    [Fact]
    public void RIFF_chapter_2_a_chunk_that_the_file_does_not_hold_to_its_end_is_not_taken() =>
        Assert.Equal((null, null), Read("riff-cut-in-chunk.wav"));

    [Fact]
    public void EBU_Tech_3306_the_true_length_of_data_stands_in_ds64_where_its_own_is_all_ones() =>
        Assert.Equal(("14", "2"), Read("rf64.wav"));

    [Fact]
    public void EBU_Tech_3306_without_ds64_nothing_behind_the_data_can_be_found() =>
        Assert.Equal((null, null), Read("rf64-without-ds64.wav"));

    [Fact]
    public void ITU_R_BS_2088_a_BW64_file_is_read_as_RF64_is() => Assert.Equal(("14", "2"), Read("bw64.wav"));

    [Fact]
    public void A_file_without_notes_and_one_that_is_no_wave_file_have_none()
    {
        Assert.Equal((null, null), Read("riff-no-ixml.wav"));
        Assert.Equal((null, null), Read("tracked-and-table.docx"));
    }

    [Fact]
    public void iXML_TRACK_names_belong_to_the_channels_by_INTERLEAVE_INDEX() =>
        Assert.Equal(Lav, WaveChunks.Notes(Sample.Path("rf64.wav")).ChannelNames);

    private static (string? Scene, string? Take) Read(string name) =>
        (WaveChunks.Notes(Sample.Path(name)).Scene, WaveChunks.Notes(Sample.Path(name)).Take);
}
