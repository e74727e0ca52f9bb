using EmberLane.Core.Transcripts;
using EmberLane.Running;
using EmberLane.Store;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

/// <summary>Mends proposed by rule, and the log of changes.</summary>
public sealed class MendsTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private long Id => demo.Get<Footage>().Sitting(1)!.TranscriptId!.Value;

    private Transcript Now => demo.Get<Store.Transcripts>().Get(Id);

    [Fact]
    public void Names_of_the_list_and_sentences_are_proposed_made_at_once_and_taken_back()
    {
        var said = Now.Said(new(0), new(Now.Words.Count - 1));
        demo.OpenRead(1);
        Browser.Click("#text-menu summary");
        Browser.Click("#text-menu a[href$=mends]");
        // “march” is heard without its capital.
        Browser.Type("#terms", "March\nthe <b>quarry</b>");
        Browser.Click(".terms button");
        Browser.UntilText("#names .places", "years in march March");
        Browser.Click("#sentences [data-tick-all]");
        Browser.Click(".mends .btn-ember");
        Browser.UntilText("#sentences h2", "0 places");
        var mended = Now.Said(new(0), new(Now.Words.Count - 1));
        Assert.Contains("in March", mended, StringComparison.Ordinal);
        Assert.StartsWith("So this is", mended, StringComparison.Ordinal);
        Assert.Contains("told me to stop. ", mended, StringComparison.Ordinal);
        Assert.Equal("March\nthe <b>quarry</b>", Browser.Find("#terms").GetAttribute("value"));
        Browser.Find("h1").Click();
        Browser.Press("u");
        Browser.UntilText("#names .places", "years in march March");
        Assert.Equal(said, Now.Said(new(0), new(Now.Words.Count - 1)));
    }

    [Fact]
    public void Who_changed_what_is_listed_and_one_change_is_taken_back_alone_unless_it_was_changed_again()
    {
        var store = demo.Get<Store.Transcripts>();
        store.Apply(Id, new Retype(new(20), "<i>first</i>"), "logger");
        store.Apply(Id, new Retype(new(21), "second"), "producer");
        store.Apply(Id, new Retype(new(20), "third"), "producer");
        var record = Now.Words[21].Text;
        demo.Open("/productions/1/read/1/changes");
        Browser.UntilText("#changes tbody tr:nth-child(3)", "logger");
        Browser.UntilText("#changes tbody tr:nth-child(3)", "is “<i>first</i>”");
        Browser.Click("#changes tbody tr:nth-child(3) button");
        Browser.UntilText("#notice", "changed again later");
        Browser.Click("#changes tbody tr:nth-child(2) button");
        Browser.UntilText("#changes tbody tr:nth-child(1)", $"“{record}” as recognised again");
        Assert.Equal(("third", record), (Now.TextOf(Now.Words[20]), Now.TextOf(Now.Words[21])));
        Browser.Click("#changes tbody tr:nth-child(2) a");
        Browser.Until(() => Browser.Driver.Url.EndsWith("#word-20", StringComparison.Ordinal), "the word");
        store.Apply(Id, new Retype(new(20), null), "producer");
    }

    [Fact]
    public async Task Files_of_one_sitting_are_transcribed_from_the_command_line_with_who_says_it()
    {
        string film = Path.Combine(RunningServer.Repository, "demo", "footage"),
            recorder = Path.Combine(demo.Data, "footage", "slack-water", "SND0615_T03.WAV"),
            words = Path.Combine(demo.Data, "hut.words.json");
        Assert.Equal(
            0,
            await Commands.CommandLine.RunAsync(
                ["transcribe", recorder, Path.Combine(film, "A004C011_HUT.MOV"), "--sitting", "--voices", "auto", "--out", words],
                TextWriter.Null,
                CancellationToken.None
            )
        );
        var read = Core.Speech.WordsJson.Read(await File.ReadAllTextAsync(words, TestContext.Current.CancellationToken)).Words;
        Assert.Equal(["mic 1", "room"], read.Select(w => w.Voice!).Distinct().Order());
        Assert.All(read, w => Assert.InRange(w.VoiceSure!.Value.Value, 0, 1000));
    }
}
