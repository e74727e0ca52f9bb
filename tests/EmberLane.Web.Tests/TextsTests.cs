using System.Globalization;
using EmberLane.Core.Captions;
using EmberLane.Core.Time;
using EmberLane.Core.Transcripts;
using EmberLane.Engines;
using EmberLane.Running;
using EmberLane.Store;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

/// <summary>The texts of a sitting: brought in, compared, chosen, cleared, recognised again in part.</summary>
public sealed class TextsTests(DemoServer demo) : IClassFixture<DemoServer>
{

    private Browser Browser => demo.Browser;

    private Sitting Hut => demo.Get<Footage>().Sitting(2)!;

    private Transcript Now => demo.Get<Store.Transcripts>().Get(Hut.TranscriptId!.Value);

    [Fact]
    public void A_text_as_typed_is_laid_onto_the_sound_compared_chosen_and_given_back_and_bites_stay()
    {
        var before = Hut.TranscriptId;
        var bites = demo.Get<Store.Bites>().Of(1).Where(b => b.SittingId == 2).ToList();
        var recognised = Now;
        var truth = Truth("school-hut");
        var text = WriteFile("typed hut.txt", string.Join('\n', truth.GroupBy(w => w.Turn).Select(g => $"{g.First().Who}: {string.Join(' ', g.Select(w => w.Text))}")));
        OpenTexts(2);
        Browser.Find("#bring-file").SendKeys(text);
        Browser.Click("form[action*=Bring] .btn-ember");
        Browser.UntilText("#difference-title", "brought in: typed hut.txt");
        Assert.Equal(before, Hut.TranscriptId);
        Browser.Until(() => Browser.All(".difference tbody tr").Count > 10, "the places where they differ");
        Browser.Click("#texts tr:not(.used) button");
        Browser.UntilText("#texts tr.used", "typed hut.txt");
        var laid = Now;
        Assert.Equal(truth.Count, laid.Words.Count);
        Assert.Equal(["Ilse Varga", "Interviewer"], laid.Voices().Select(laid.NameOf).Order());
        var near = laid.Words.Zip(truth).Count(p => Math.Abs(p.First.Range.In.FromZero.ToSecondsInexact() - p.Second.Start) <= 0.08);
        Assert.InRange((double)near / truth.Count, 0.8, 1);
        demo.OpenRead(2);
        Assert.Equal(bites.Count, Browser.Find("#bite-marks").GetDomProperty("textContent")!.Split(' ').Length);
        demo.Open("/productions/1/bites");
        Browser.UntilText("#main", laid.Said(Place(laid, bites[0]).First, Place(laid, bites[0]).First + 1));
        OpenTexts(2);
        Browser.Press("u");
        Browser.UntilText("#texts tr.used", "recognised: On this machine");
        Assert.Equal((before, recognised.Words.Count), (Hut.TranscriptId, Now.Words.Count));
    }

    [Fact]
    public void Clearing_takes_nothing_away_and_is_taken_back()
    {
        var before = demo.Get<Footage>().Sitting(1)!.TranscriptId;
        OpenTexts(1);
        Browser.Click("#texts tr.used button");
        Browser.Until(() => Browser.All("#texts tr.used").Count == 0, "no text in use");
        demo.Open("/productions/1/read/1");
        Browser.UntilText("#waiting", "not transcribed yet");
        demo.Open("/productions/1/bites");
        Browser.UntilText("#main", "the cable was singing");
        OpenTexts(1);
        Browser.Press("u");
        Browser.UntilText("#texts tr.used", "recognised");
        Assert.Equal(before, demo.Get<Footage>().Sitting(1)!.TranscriptId);
    }

    [Fact]
    public void A_page_that_waits_for_its_words_can_be_read_by_keyboard_as_soon_as_they_are_there()
    {
        var texts = demo.Get<Texts>();
        texts.Choose(1, null, "producer");
        demo.Open("/productions/1/read/1");
        Browser.UntilText("#waiting", "not transcribed yet");
        Assert.True(texts.Step(1, redo: false));
        demo.Get<Work.WorkNews>().Tell();
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('read')?.dataset.ready === 'true'"), "the words");
        Browser.Press(Keys.ArrowRight);
        Browser.Until(() => Browser.Run<long>("return CSS.highlights.get('playing').size") == 1, "the second word to be lit");
    }

    [Fact]
    public async Task A_part_is_recognised_again_and_the_rest_comes_along()
    {
        var before = demo.Get<Store.Transcripts>().Get(demo.Get<Footage>().Sitting(1)!.TranscriptId!.Value);
        OpenTexts(1);
        Browser.Find("#again-from").SendKeys("0:30");
        Browser.Find("#again-to").SendKeys("0:20");
        Browser.Click("form[action*=Again] .dialog-buttons button");
        Browser.UntilText("#notice", "Type the part as two times");
        Browser.Find("#again-from").Clear();
        Browser.Find("#again-from").SendKeys("0:06");
        Browser.Click("form[action*=Again] .dialog-buttons button");
        await RunningServer.UntilAsync(() => demo.Get<Jobs>().Newest("transcribe", 1) is { State: "done" or "failed" }, "the transcription");
        Assert.Equal("done", demo.Get<Jobs>().Newest("transcribe", 1)!.State);
        var after = demo.Get<Store.Transcripts>().Get(demo.Get<Footage>().Sitting(1)!.TranscriptId!.Value);
        Assert.Equal(Outside(before), Outside(after));
        Assert.Contains("thirty one years", after.Said(0, after.Words.Count - 1), StringComparison.Ordinal);
        Assert.Equal(before.Voices().Select(before.NameOf), after.Voices().Select(after.NameOf));
        Browser.UntilText("#texts tr.used", "recognised: On this machine");
        Browser.Press("u");
        Browser.Until(() => demo.Get<Store.Transcripts>().Get(demo.Get<Footage>().Sitting(1)!.TranscriptId!.Value).Words.Count == before.Words.Count, "the text before");

        static IEnumerable<string> Outside(Transcript t) => t.Words.Where(w => w.Range.In.FromZero > MediaTime.FromMilliseconds(20_500)).Select(t.TextOf);
    }

    [Theory]
    [InlineData("other.txt", "ANSELM: Concrete cures at its own pace whatever the minister promised, and pylons settle differently on clay than on gravel, which nobody budgeted.", "It seems to be the text of something else")]
    [InlineData("broken.docx", "this is no document", "This is not a Word document")]
    [InlineData("back.srt", "1\n00:00:05,000 --> 00:00:02,000\nno\n", "Line 2: the caption ends before it begins.")]
    [InlineData("empty.txt", " \n", "There are no words in this text.")]
    public void A_text_that_does_not_fit_is_refused_with_the_reason_and_changes_nothing(string name, string text, string reason)
    {
        var before = demo.Get<Texts>().Of(2).Count;
        OpenTexts(2);
        Browser.Find("#bring-file").SendKeys(WriteFile(name, text));
        Browser.Click("form[action*=Bring] .btn-ember");
        Browser.UntilText("[role=alert]", reason);
        Assert.Equal(before, demo.Get<Texts>().Of(2).Count);
    }

    [Fact]
    public void A_text_without_times_waits_for_the_sound_and_one_with_times_is_read_at_once_where_nothing_was_recognised()
    {
        OpenTexts(3);
        Browser.Find("#bring-pasted").SendKeys("ANSELM: The bridge.");
        Browser.Click("form[action*=Bring] .btn-ember");
        Browser.UntilText("[role=alert]", "Transcribe the sitting first");
        Browser.Find("#bring-pasted").SendKeys("[00:00:02] INTERVIEWER: We are <b>on</b> the bridge.\n[00:00:05] ANSELM: That we are.");
        Browser.Click("form[action*=Bring] .btn-ember");
        Browser.UntilText("#texts tr.used", "pasted.txt");
        demo.OpenRead(3);
        Browser.UntilText("#page", "We are <b>on</b> the bridge.");
        Browser.UntilText("#voices", "ANSELM");
    }

    [Fact]
    public void A_word_document_with_a_table_and_names_reads_as_lines()
    {
        var spoken = new List<TextPiece> { new("Ilse Varga", default, default, "Control \u0001 and <tags> & quotes \" stay text") };
        using var written = new MemoryStream(WordDocument.Write("The hut", spoken, names: true, times: true));
        Assert.Equal("The hut\n[00:00:00] Ilse Varga: Control  and <tags> & quotes \" stay text", WordDocument.ReadText(written));
        using var table = new MemoryStream(WordTable([["Time", "Speaker", "Text"], ["00:00:05", "Ilse", "Chalk dust."], ["", "Interviewer", "And then?"]]));
        Assert.Equal("00:00:05 Ilse: Chalk dust.\nInterviewer: And then?", WordDocument.ReadText(table));
        using var cut = new MemoryStream(WordDocument.Write("x", spoken, true, true)[..200]);
        Assert.Throws<FormatException>(() => WordDocument.ReadText(cut));
    }

    private static byte[] WordTable(string[][] rows)
    {
        using var file = new MemoryStream();
        using (var document = DocumentFormat.OpenXml.Packaging.WordprocessingDocument.Create(file, DocumentFormat.OpenXml.WordprocessingDocumentType.Document))
        {
            var table = new DocumentFormat.OpenXml.Wordprocessing.Table(rows.Select(r => new DocumentFormat.OpenXml.Wordprocessing.TableRow(r.Select(c => new DocumentFormat.OpenXml.Wordprocessing.TableCell(
                new DocumentFormat.OpenXml.Wordprocessing.Paragraph(new DocumentFormat.OpenXml.Wordprocessing.Run(new DocumentFormat.OpenXml.Wordprocessing.Text(c))))))));
            document.AddMainDocumentPart().Document = new DocumentFormat.OpenXml.Wordprocessing.Document(new DocumentFormat.OpenXml.Wordprocessing.Body(table));
        }
        return file.ToArray();
    }

    private static (int First, int Last) Place(Transcript transcript, Core.Bites.Bite bite) => Core.Bites.BitePlace.In(transcript, bite.Range)!.Value;

    private string WriteFile(string name, string text)
    {
        var path = Path.Combine(demo.Data, name);
        File.WriteAllText(path, text);
        return path;
    }

    private void OpenTexts(int sitting)
    {
        demo.Open(FormattableString.Invariant($"/productions/1/read/{sitting}/texts"));
        Browser.UntilText("h1", "Texts of");
    }

    // The demonstration's true words; a turn is a run of words of one person.
    private static List<(string Text, double Start, string Who, int Turn)> Truth(string name)
    {
        using var document = System.Text.Json.JsonDocument.Parse(File.ReadAllText(Path.Combine(RunningServer.Repository, "demo", "footage", name + ".truth.json")));
        var words = new List<(string Text, double Start, string Who, int Turn)>();
        foreach (var word in document.RootElement.GetProperty("words").EnumerateArray())
        {
            var who = word.GetProperty("v").GetString()!;
            words.Add((word.GetProperty("t").GetString()!, word.GetProperty("s").GetDouble(), who, words is [.., var last] ? last.Turn + (last.Who == who ? 0 : 1) : 0));
        }
        return words;
    }
}
