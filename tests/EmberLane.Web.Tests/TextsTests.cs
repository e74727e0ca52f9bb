using System.Globalization;
using EmberLane.Core.Captions;
using EmberLane.Core.Marks;
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
        var text = WriteFile(
            "typed hut.txt",
            string.Join('\n', truth.GroupBy(w => w.Turn).Select(g => $"{g.First().Who}: {string.Join(' ', g.Select(w => w.Text))}"))
        );
        OpenTexts(2);
        Browser.Type("#bring-file", text);
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
        // What was set aside and flagged in the recogniser's text is so in this one.
        Assert.InRange(laid.Words.Count(laid.IsAside), 10, 25);
        Assert.Equal(["the last whole one", "who came, and when"], laid.Words.SelectMany(laid.FlagsBefore).Select(f => f.Note));
        demo.OpenRead(2);
        Assert.Equal(bites.Count, Browser.All("#bite-marks li").Count);
        demo.Open("/productions/1/bites");
        Browser.UntilText("#main", laid.Said(Place(laid, bites[0]).First, Place(laid, bites[0]).First + 1));
        OpenTexts(2);
        Browser.Press("u");
        Browser.UntilText("#texts tr.used", "recognised: On this machine");
        Assert.Equal((before, recognised.Words.Count), (Hut.TranscriptId, Now.Words.Count));
    }

    [Fact]
    public void A_paragraph_that_a_typed_text_lacks_is_flagged_where_it_is_missing()
    {
        var turns = Truth("school-hut").GroupBy(w => w.Turn).ToList();
        var lacking = turns.Where(t => t.Key > 3).MaxBy(t => t.Count())!;
        OpenTexts(2);
        Browser.Type(
            "#bring-file",
            WriteFile(
                "lacking.txt",
                string.Join(
                    '\n',
                    turns
                        .Where(t => t != lacking)
                        .Select(g => $"{g.First().Who.ToUpperInvariant()}: {string.Join(' ', g.Select(w => w.Text))}")
                )
            )
        );
        Browser.Click("form[action*=Bring] .btn-ember");
        Browser.UntilText("#difference-title", "brought in: lacking.txt");
        var text = demo.Get<Store.Transcripts>().Get(demo.Get<Texts>().Of(2)[0].Id);
        var flag = Assert.Single(
            text.Words.SelectMany(text.FlagsBefore),
            f => f.Note.Contains("were heard here that this text does not have", StringComparison.Ordinal)
        );
        var at = text.At(text.PlaceOf(flag.First)!.Value).Range.In.FromZero.ToSecondsInexact();
        Assert.InRange(at, lacking.First().Start, lacking.Last().Start + 8);
        Assert.Equal(["Ilse Varga", "Interviewer"], text.Layers.VoiceNames.Values.Order());
    }

    [Fact]
    public void More_places_than_are_shown_at_once_are_leafed_through_and_taking_one_stays_there()
    {
        string[] said = ["water", "ferry", "bridge", "cable"];
        var used = AddMade(1400, 50, i => $"{said[i % 4]}{i}");
        var other = AddMade(1400, 50, i => i % 4 == 2 ? $"xyz{i}" : $"{said[i % 4]}{i}");
        using var read = ReadBy(used);
        demo.Open(FormattableString.Invariant($"/productions/1/read/2/texts?compare={other}"));
        Browser.UntilText("#places tbody tr:first-child", "water0 ferry1 bridge2 cable3");
        Browser.UntilText(".parts", "Places 1 to 300 of 350");
        Browser.Click(".parts a");
        Browser.UntilText(".parts", "Places 301 to 350 of 350");
        Browser.UntilText("#places tbody tr:last-child", "bridge1398 cable1399");
        Browser.Click("#places tbody tr:last-child [hx-post]");
        Browser.UntilText(".parts", "Places 301 to 349 of 349");
        Assert.Equal("xyz1398", Now.Said(new(1398), new(1398)));
    }

    [Fact]
    public void More_places_than_are_shown_are_replaced_when_the_rest_is_ticked_and_the_unticked_stay()
    {
        using var read = ReadBy(AddMade(720, 100, i => i % 6 == 0 ? "bridge" : "fery"));
        demo.OpenRead(2);
        Browser.Click("#text-menu summary");
        Browser.Click("[data-action=replace]");
        Browser.Type("#replace-asked", "fery");
        Browser.Type("#replace-by", "ferry");
        Browser.UntilText("#places [role=status]", "600 places, the first 500 shown");
        Browser.Click("#places li:nth-child(2) input");
        Browser.UntilText("#places > label", "and the 100 behind them, unseen");
        Browser.Click("#places > label");
        Browser.Click("#replace-dialog .btn-ember");
        Browser.UntilText("#page", "bridge ferry fery ferry");
        Assert.Equal((1, 599), (Now.Words.Count(w => Now.TextOf(w) == "fery"), Now.Words.Count(w => Now.TextOf(w) == "ferry")));
    }

    [Fact]
    public void Hours_of_talk_have_room_for_their_figures_and_voices_without_names_their_letters()
    {
        using var read = ReadBy(AddMade(720, 10_000, i => $"word{i}"));
        demo.OpenRead(2);
        Browser.UntilText("#strip", "1:50:00");
        var figures = Browser.Run<double>(
            "return Math.max(...[...document.querySelectorAll('#strip > text')].map((t) => t.getBoundingClientRect().right)) + 0.0001"
        );
        var voices = Browser.Run<double>(
            "return Math.min(...[...document.querySelectorAll('.strip-voice')].map((t) => t.getBoundingClientRect().left)) + 0.0001"
        );
        Assert.True(figures < voices, $"The figures end at {figures}, the voices begin at {voices}.");
        Assert.Empty(Browser.All("#strip .strip-pause"));
        Browser.Until(
            () =>
                Browser.Run<string>(
                    "return [...document.querySelectorAll('#voices .person-mark text')].map((t) => t.textContent).sort().join(' ')"
                ) == "A B",
            "the letters of the voices"
        );
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
        Browser.UntilText("#main", "he cable was singing");
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
        Assert.True(texts.Step(1, redo: false, "producer"));
        demo.Get<Application.Work.News>().Tell();
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('read')?.dataset.ready === 'true'"), "the words");
        Browser.Press(Keys.ArrowRight);
        Browser.Until(() => Browser.Run<long>("return CSS.highlights.get('playing').size") == 1, "the second word to be lit");
    }

    [Fact]
    public async Task A_selection_is_recognised_again_beside_the_text_in_use_compared_taken_place_by_place_and_chosen()
    {
        var before = demo.Crossing;
        var first = demo.PlaceOf("one thousand people");
        var word = demo.WordOf("one thousand people");
        // A word that nobody said, so that the recogniser hears this place otherwise.
        demo.Get<Store.Transcripts>()
            .Apply(
                demo.Get<Footage>().Sitting(1)!.TranscriptId!.Value,
                t => new Together([
                    new Retype(word.Next, "xylophones"),
                    Marking.Flag(t, first, MarkKind.UseThis, "sixty", new Signed("producer", null)),
                ]),
                "producer"
            );
        demo.OpenReadAt(word);
        Browser.PressWithShift(Keys.ArrowDown);
        Browser.Click("#actions [data-action=again]");
        Browser.Until(
            () => Browser.Find("#again-from").GetAttribute("value")!.StartsWith("0:00:2", StringComparison.Ordinal),
            "the part to be filled in"
        );
        var from = Browser.Find("#again-from").GetAttribute("value")!;
        Browser.Empty("#again-from");
        Browser.Type("#again-from", "9:00");
        Browser.Click("#again .dialog-buttons button");
        Browser.UntilText("#notice", "Type the part as two times");
        Browser.Empty("#again-from");
        Browser.Type("#again-from", from);
        Browser.Click("#again .dialog-buttons button");
        await RunningServer.UntilAsync(
            () => demo.Get<Jobs>().Newest("transcribe", 1) is { State: "done" or "failed" },
            "the transcription"
        );
        Assert.Equal("done", demo.Get<Jobs>().Newest("transcribe", 1)!.State);
        Assert.Equal("one xylophones people", demo.Crossing.Said(first, first + 2));
        demo.OpenRead(1);
        Browser.UntilText("#others", "A newer text of this sitting is here (recognised: On this machine).");
        Browser.Click("#others a");
        Browser.UntilText(".difference", "xylophones");
        Browser.Click(".difference [data-hear]");
        Browser.Until(
            () => Browser.Run<bool>("return document.getElementById('sound').currentTime > 19 && !document.getElementById('sound').paused"),
            "the place to be heard"
        );
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('sound').paused"), "it to end by itself");
        var rows = Browser.All(".difference tbody tr").Count;
        Browser.Until(
            () =>
            {
                Browser
                    .All(".difference tbody tr")
                    .Single(r => r.FindElement(By.TagName("mark")).Text.Contains("xylophones", StringComparison.Ordinal))
                    .FindElement(By.CssSelector("[hx-post]"))
                    .Click();
                return true;
            },
            "the place to be taken"
        );
        Browser.Until(
            () =>
                !demo.Crossing.Said(new(0), new(demo.Crossing.Words.Count - 1)).Contains("xylophones", StringComparison.Ordinal)
                && Browser.All(".difference tbody tr").Count < rows,
            "the place to be written"
        );
        Browser.Press("u");
        Browser.UntilText(".difference", "xylophones");
        Browser.Click("#texts tr:not(.used) button");
        Browser.Until(
            () => !demo.Crossing.Said(new(0), new(demo.Crossing.Words.Count - 1)).Contains("xylophones", StringComparison.Ordinal),
            "the newer text"
        );
        Assert.Equal(Outside(before), Outside(demo.Crossing));
        Assert.Equal(before.Voices().Select(before.NameOf), demo.Crossing.Voices().Select(demo.Crossing.NameOf));
        Assert.Equal("sixty", demo.Crossing.Words.SelectMany(demo.Crossing.FlagsBefore).Single().Note);
        demo.OpenRead(1);
        Assert.Equal("", Browser.Text("#others"));
        demo.Get<Texts>().Step(1, redo: false, "producer");
        Assert.Equal("one xylophones people", demo.Crossing.Said(first, first + 2));
        demo.Get<Store.Transcripts>().Step(demo.Get<Footage>().Sitting(1)!.TranscriptId!.Value, redo: false, "producer");

        static IEnumerable<string> Outside(Transcript t) =>
            t
                .Words.Where(w =>
                    w.Range.In.FromZero < MediaTime.FromMilliseconds(20_000) || w.Range.In.FromZero > MediaTime.FromMilliseconds(34_000)
                )
                .Select(t.TextOf);
    }

    [Fact]
    public async Task Voices_are_found_anew_for_the_same_words_by_the_number_of_people_that_is_given()
    {
        OpenTexts(1);
        Browser.Choose("#again-by", "the words as they are: only who speaks");
        Browser.Type("#again-from", "0:06");
        Browser.Type("#again-to", "0:20");
        Browser.Click("#again .dialog-buttons button");
        Browser.UntilText("#notice", "Voices are found over all words of a text.");
        Browser.Empty("#again-from");
        Browser.Empty("#again-to");
        Browser.Type("#again-voices", "21");
        Browser.Run<object?>("document.querySelector('#again').noValidate = true; return null");
        Browser.Click("#again .dialog-buttons button");
        Browser.UntilText("#notice", "from 1 to 20");
        Browser.Empty("#again-voices");
        Browser.Type("#again-voices", "2");
        Browser.Click("#again .dialog-buttons button");
        await RunningServer.UntilAsync(
            () => demo.Get<Jobs>().Newest("transcribe", 1) is { Title: "Voices of The first crossing", State: "done" or "failed" },
            "the voices"
        );
        var made = demo.Get<Store.Transcripts>().Get(demo.Get<Texts>().Of(1)[0].Id);
        Assert.Equal(demo.Crossing.Said(new(0), new(demo.Crossing.Words.Count - 1)), made.Said(new(0), new(made.Words.Count - 1)));
        Assert.Equal(2, made.Voices().Count);
        Browser.UntilText("#texts", "the same words, voices found anew");
        demo.OpenRead(1);
        Browser.UntilText("#others", "the same words, voices found anew");
        Browser.Click("#others button");
        Browser.Until(() => Browser.Text("#others").Length == 0, "the line to go");
        demo.OpenRead(1);
        Assert.Equal("", Browser.Text("#others"));
    }

    [Fact]
    public void The_language_of_a_sitting_is_chosen_once_and_a_recogniser_that_does_not_know_it_says_so()
    {
        demo.Get<Application.Work.Recognisers>().ChooseLanguage(3, "de");
        demo.Open("/productions/1/gather?sitting=3");
        Browser.Click("#transcribe");
        Browser.UntilText("#notice", "The local recogniser knows English only.");
        Browser.Click("#transcribe-how");
        Browser.UntilText("h1", "Texts of The bridge walk");
        Assert.Equal("de", Browser.Find("#again-language").GetAttribute("value"));
        Browser.Click("#again .dialog-buttons button");
        Browser.UntilText("#notice", "knows English only");
        demo.Get<Application.Work.Recognisers>().ChooseLanguage(3, "en");
    }

    [Theory]
    [InlineData(
        "other.txt",
        "ANSELM: Concrete cures at its own pace whatever the minister promised, and pylons settle differently on clay than on gravel, "
            + "which nobody budgeted.",
        "It seems to be the text of something else"
    )]
    [InlineData("broken.docx", "this is no document", "This is not a Word document")]
    [InlineData("back.srt", "1\n00:00:05,000 --> 00:00:02,000\nno\n", "Line 2: the caption ends before it begins.")]
    [InlineData("empty.txt", " \n", "There are no words in this text.")]
    public void A_text_that_does_not_fit_is_refused_with_the_reason_and_changes_nothing(string name, string text, string reason)
    {
        var before = demo.Get<Texts>().Of(2).Count;
        OpenTexts(2);
        Browser.Type("#bring-file", WriteFile(name, text));
        Browser.Click("form[action*=Bring] .btn-ember");
        Browser.UntilText("[role=alert]", reason);
        Assert.Equal(before, demo.Get<Texts>().Of(2).Count);
    }

    [Fact]
    public void A_text_without_times_waits_for_the_sound_and_one_with_times_is_read_at_once_where_nothing_was_recognised()
    {
        OpenTexts(3);
        Browser.Type("#bring-pasted", "ANSELM: The bridge.");
        Browser.Click("form[action*=Bring] .btn-ember");
        Browser.UntilText("[role=alert]", "Transcribe the sitting first");
        Browser.Type("#bring-pasted", "[00:00:02] INTERVIEWER: We are <b>on</b> the bridge.\n[00:00:05] ANSELM: That we are.");
        Browser.Click("form[action*=Bring] .btn-ember");
        Browser.UntilText("#texts tr.used", "pasted.txt");
        demo.OpenRead(3);
        Browser.UntilText("#page", "We are <b>on</b> the bridge.");
        Browser.UntilText("#voices", "Anselm");
    }

    [Fact]
    public void A_word_document_with_a_table_and_names_reads_as_lines()
    {
        var spoken = new List<TextPiece> { new("Ilse Varga", default, default, "Control \u0001 and <tags> & quotes \" stay text") };
        using var written = new MemoryStream(WordDocument.Write("The hut", spoken, names: true, times: true));
        Assert.Equal("The hut\n[00:00:00] Ilse Varga: Control  and <tags> & quotes \" stay text", WordDocument.ReadText(written));
        using var table = new MemoryStream(
            WordTable([
                ["Time", "Speaker", "Text"],
                ["00:00:05", "Ilse", "Chalk dust."],
                ["", "Interviewer", "And then?"],
            ])
        );
        Assert.Equal("00:00:05 Ilse: Chalk dust.\nInterviewer: And then?", WordDocument.ReadText(table));
        using var cut = new MemoryStream(WordDocument.Write("x", spoken, true, true)[..200]);
        Assert.Throws<FormatException>(() => WordDocument.ReadText(cut));
    }

    private static byte[] WordTable(string[][] rows)
    {
        using var file = new MemoryStream();
        using (
            var document = DocumentFormat.OpenXml.Packaging.WordprocessingDocument.Create(
                file,
                DocumentFormat.OpenXml.WordprocessingDocumentType.Document
            )
        )
        {
            var table = new DocumentFormat.OpenXml.Wordprocessing.Table(
                rows.Select(r => new DocumentFormat.OpenXml.Wordprocessing.TableRow(
                    r.Select(c => new DocumentFormat.OpenXml.Wordprocessing.TableCell(
                        new DocumentFormat.OpenXml.Wordprocessing.Paragraph(
                            new DocumentFormat.OpenXml.Wordprocessing.Run(new DocumentFormat.OpenXml.Wordprocessing.Text(c))
                        )
                    ))
                ))
            );
            document.AddMainDocumentPart().Document = new DocumentFormat.OpenXml.Wordprocessing.Document(
                new DocumentFormat.OpenXml.Wordprocessing.Body(table)
            );
        }
        return file.ToArray();
    }

    private static (TextPlace First, TextPlace Last) Place(Transcript transcript, Core.Bites.Bite bite) =>
        MarkPlace.In(transcript, bite.Range)!.Value;

    private string WriteFile(string name, string text)
    {
        var path = Path.Combine(demo.Data, name);
        File.WriteAllText(path, text);
        return path;
    }

    // A text of the second sitting whose words come so many milliseconds after each other; two voices, a hundred words each.
    private long AddMade(int words, int apart, Func<int, string> text) =>
        demo.Get<Store.Transcripts>()
            .AddBeside(
                2,
                "made",
                "en",
                [
                    .. Enumerable
                        .Range(0, words)
                        .Select(i => new RecordWord(
                            new(i),
                            text(i),
                            new SittingRange(
                                new SittingTime(MediaTime.FromMilliseconds(i * apart)),
                                new SittingTime(MediaTime.FromMilliseconds((i * apart) + (apart * 4 / 5)))
                            ),
                            null,
                            i / 100 % 2
                        )),
                ],
                new Dictionary<int, string>()
            );

    // The second sitting is read by this text until the end of the test.
    private Restored ReadBy(long text)
    {
        var before = Hut.TranscriptId;
        demo.Get<Texts>().Choose(2, text, "producer");
        return new Restored(() => demo.Get<Texts>().Choose(2, before, "producer"));
    }

    private sealed class Restored(Action restore) : IDisposable
    {
        public void Dispose() => restore();
    }

    private void OpenTexts(int sitting)
    {
        demo.Open(FormattableString.Invariant($"/productions/1/read/{sitting}/texts"));
        Browser.UntilText("h1", "Texts of");
    }

    // The demonstration's true words; a turn is a run of words of one person.
    private static List<(string Text, double Start, string Who, int Turn)> Truth(string name)
    {
        using var document = System.Text.Json.JsonDocument.Parse(
            File.ReadAllText(Path.Combine(RunningServer.Repository, "demo", "footage", name + ".truth.json"))
        );
        var words = new List<(string Text, double Start, string Who, int Turn)>();
        foreach (var word in document.RootElement.GetProperty("words").EnumerateArray())
        {
            var who = word.GetProperty("v").GetString()!;
            words.Add(
                (
                    word.GetProperty("t").GetString()!,
                    word.GetProperty("s").GetDouble(),
                    who,
                    words is [.., var last] ? last.Turn + (last.Who == who ? 0 : 1) : 0
                )
            );
        }
        return words;
    }
}
