using System.Text;
using EmberLane.Core.Speech;
using EmberLane.Engines.Speech;
using EmberLane.Engines.Speech.Models;

namespace EmberLane.Engines.Tests.Speech;

/// <summary>Speech models: files that are models and files that are none, and what a made one says.</summary>
public sealed class SpeechModelTests : IDisposable
{
    private static readonly string[] Sentence = [" The", " ferry", " leaves", " at", " n", "ine", "."];

    private readonly string folder = Directory.CreateTempSubdirectory().FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    private string Made(string name) => Path.Combine(folder, name);

    private async Task<string> SoundAsync(int seconds)
    {
        var wav = Made("sound.wav");
        var random = new Random(3);
        var samples = Enumerable.Range(0, seconds * SilenceSegmenter.SampleRate).Select(_ => (short)random.Next(-3000, 3000)).ToArray();
        await PcmFile.WriteAsync(wav + ".raw", samples, CancellationToken.None);
        await PcmFile.WriteWavAsync(wav + ".raw", 0, samples.Length, wav, CancellationToken.None);
        return wav;
    }

    [Fact]
    public async Task A_model_says_its_sentence_with_times_and_how_sure_it_is()
    {
        MadeModel.Write(Made("ggml-made.bin"), Sentence);
        var model = SpeechModelFile.Read(Made("ggml-made.bin"));
        Assert.Equal((false, "1+1 layers", null), (model.KnowsManyLanguages, model.Size, model.Heads));
        var heard = await new ModelRecogniser(model).RecogniseAsync(
            new ToRecognise(await SoundAsync(6), "", "en", ["Ida Marlow", "Tern Hollow"]),
            CancellationToken.None
        );
        Assert.Equal("en", heard.Language);
        Assert.Equal(["The", "ferry", "leaves", "at", "nine."], heard.Words.Select(w => w.Text));
        Assert.All(heard.Words, w => Assert.True(w.Range.In < w.Range.Out && w.Confidence > new PerMille(900)));
        Assert.All(heard.Words.Zip(heard.Words.Skip(1)), p => Assert.True(p.First.Range.Out <= p.Second.Range.In));
        Assert.True(heard.Words[^1].Range.Out.FromZero <= MediaTime.FromMilliseconds(2_000));
    }

    [Fact]
    public async Task A_model_of_many_languages_finds_the_language_and_is_asked_for_those_that_it_knows()
    {
        MadeModel.WriteMany(Made("many.bin"), [" El", " barco", " sale"], 3);
        var recogniser = new ModelRecogniser(SpeechModelFile.Read(Made("many.bin")));
        Assert.Null(recogniser.WhyNot("cy"));
        Assert.Contains("does not know the language", recogniser.WhyNot("xx"), StringComparison.Ordinal);
        var heard = await recogniser.RecogniseAsync(
            new ToRecognise(await SoundAsync(3), "", SpokenLanguage.Found, []),
            CancellationToken.None
        );
        Assert.Equal("es", heard.Language);
        Assert.Equal(["El", "barco", "sale"], heard.Words.Select(w => w.Text));
    }

    [Fact]
    public async Task A_model_of_a_form_that_is_in_use_finds_times_by_what_it_attends_to()
    {
        MadeModel.WriteTiny(Made("tiny.bin"), Sentence);
        var model = SpeechModelFile.Read(Made("tiny.bin"));
        Assert.Equal(("tiny", "Tiny"), (model.Size, model.Heads));
        var heard = await new ModelRecogniser(model).RecogniseAsync(
            new ToRecognise(await SoundAsync(3), "", "en", []),
            CancellationToken.None
        );
        Assert.Equal(5, heard.Words.Count);
    }

    [Fact]
    public void A_model_of_English_only_refuses_other_languages_before_any_work()
    {
        MadeModel.Write(Made("english.bin"), Sentence);
        var recogniser = new ModelRecogniser(SpeechModelFile.Read(Made("english.bin")));
        Assert.Contains("knows English only", recogniser.WhyNot("fr"), StringComparison.Ordinal);
        Assert.Contains("knows English only", recogniser.WhyNot(SpokenLanguage.Found), StringComparison.Ordinal);
        File.Delete(Made("english.bin"));
        Assert.Contains("not there any more", recogniser.WhyNot(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_file_that_is_no_model_or_only_a_part_of_one_is_told_with_what_to_do()
    {
        MadeModel.Write(Made("whole.bin"), Sentence);
        var whole = await File.ReadAllBytesAsync(Made("whole.bin"), CancellationToken.None);
        foreach (
            var (bytes, says) in new (byte[], string)[]
            {
                ([], "not a speech model"),
                ("#!/bin/sh\nrm"u8.ToArray(), "not a speech model"),
                (whole[..40], "ends early"),
                (whole[..2_000], "ends early"),
                (whole[..300_000], "ends early"),
                (whole[..^1], "ends early"),
                ([.. whole, 1, 2, 3], "ends early"),
                ([.. whole, .. whole[..64]], "damaged"),
                ([.. whole[..4], .. new byte[44]], "not of a speech model"),
                ([.. whole[..4], .. Enumerable.Repeat((byte)255, 400)], "not of a speech model"),
            }
        )
        {
            await File.WriteAllBytesAsync(Made("bad.bin"), bytes, CancellationToken.None);
            Assert.Contains(says, SpeechModels.Look(Made("bad.bin")).WhyNot, StringComparison.Ordinal);
        }
        Assert.Contains("can not be read", SpeechModels.Look(Made("none.bin")).WhyNot, StringComparison.Ordinal);
        Assert.Contains("can not be read", SpeechModels.Look(folder).WhyNot, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Whatever_bytes_are_changed_a_file_is_a_model_or_is_told_why_it_is_none()
    {
        MadeModel.Write(Made("whole.bin"), Sentence);
        var whole = await File.ReadAllBytesAsync(Made("whole.bin"), CancellationToken.None);
        var tables = whole.AsSpan().IndexOf("encoder.positional_embedding"u8);
        var random = new Random(5);
        for (var i = 0; i < 200; i++)
        {
            var changed = (byte[])whole.Clone();
            for (var n = random.Next(1, 4); n > 0; n--)
            {
                var from = random.Next(2) == 0 ? 0 : tables - 16;
                changed[from + random.Next(64)] = (byte)random.Next(256);
            }
            await File.WriteAllBytesAsync(Made("changed.bin"), changed, CancellationToken.None);
            var found = SpeechModels.Look(Made("changed.bin"));
            Assert.True(found.Model is null != found.WhyNot is null);
        }
    }

    [Theory]
    // The name of its first table is another one; and the library can not find the word for a space, and ends the whole program.
    [InlineData("encoder.positional_embedding", "x")]
    [InlineData("\u0001\0\0\0 ", "\u0001\0\0\0q")]
    public async Task A_model_with_a_good_head_and_a_damaged_body_fails_with_a_word_and_ends_nothing_else(string was, string becomes)
    {
        MadeModel.Write(Made("broken.bin"), Sentence);
        var bytes = await File.ReadAllBytesAsync(Made("broken.bin"), CancellationToken.None);
        Encoding.ASCII.GetBytes(becomes).CopyTo(bytes.AsSpan()[bytes.AsSpan().IndexOf(Encoding.ASCII.GetBytes(was))..]);
        await File.WriteAllBytesAsync(Made("broken.bin"), bytes, CancellationToken.None);
        var recogniser = new ModelRecogniser(SpeechModelFile.Read(Made("broken.bin")));
        var wav = await SoundAsync(2);
        var failed = await Assert.ThrowsAsync<ToolException>(() =>
            recogniser.RecogniseAsync(new ToRecognise(wav, "", "en", []), CancellationToken.None)
        );
        Assert.Contains("broken.bin could not be used", failed.Message, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Cancelling_ends_the_program_that_listens_at_once()
    {
        MadeModel.WriteTiny(Made("slow.bin"), Sentence);
        var recogniser = new ModelRecogniser(SpeechModelFile.Read(Made("slow.bin")));
        using var stop = new CancellationTokenSource();
        var hearing = recogniser.RecogniseAsync(new ToRecognise(await SoundAsync(28), "", "en", []), stop.Token);
        await stop.CancelAsync();
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() => hearing);
    }

    [Fact]
    public void Models_are_the_files_of_the_folder_that_end_in_bin_and_those_that_were_named()
    {
        MadeModel.Write(Made("b.bin"), Sentence);
        File.WriteAllText(Made("a.bin"), "none");
        File.WriteAllText(Made("read me.txt"), "none");
        Assert.Equal([Made("a.bin"), Made("b.bin"), "/elsewhere/c.bin"], SpeechModels.Paths(folder, ["/elsewhere/c.bin", Made("a.bin")]));
        Assert.Equal(["/elsewhere/c.bin"], SpeechModels.Paths(Made("no such folder"), ["/elsewhere/c.bin"]));
    }
}
