using System.Net;
using EmberLane.Core.Transcripts;
using EmberLane.Running;
using EmberLane.Store;

namespace EmberLane.Web.Tests;

/// <summary>The captions of a story: changed on their page, and as they leave.</summary>
public sealed class CaptionsPageTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private const string Room = "/productions/1/handoff/captions";

    private Browser Browser => demo.Browser;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private async Task<string> LeavesAsync(string part)
    {
        using var client = new HttpClient { BaseAddress = new Uri(demo.Server.Address) };
        return await client.GetStringAsync(
            new Uri($"/productions/1/handoff?handler=Package&part={part}&alone=true", UriKind.Relative),
            Cancel
        );
    }

    private void OpenFirst()
    {
        demo.Open(Room);
        Browser.Click(".caption-change");
        Browser.UntilText(".caption-open", "Split before a word");
    }

    [Fact]
    public async Task A_caption_is_retyped_moved_split_and_joined_and_leaves_so_and_a_mended_word_comes_through()
    {
        OpenFirst();
        var was = Browser.Text(".caption-open .speech");
        Browser.Empty("[name=text]");
        Browser.Type("[name=text]", "Typed by hand,\nin two lines.");
        Browser.Empty("[name=ends]");
        Browser.Type("[name=ends]", "0:01.500");
        Browser.Click(".caption-form .btn-ember");
        Browser.UntilText(".caption", "Typed by hand,");
        Assert.Contains("00:00:01,500\r\nTyped by hand,\r\nin two lines.\r\n", await LeavesAsync("srt"), StringComparison.Ordinal);
        Assert.Equal("Changed", Browser.Text(".caption-change"));

        OpenFirst();
        Browser.Click(".caption-words [value='3']");
        Browser.UntilText(".captions", "in two lines.");
        Assert.Contains("\r\nTyped by hand,\r\n\r\n", await LeavesAsync("srt"), StringComparison.Ordinal);
        OpenFirst();
        Browser.Click("[formaction*=Join]");
        Browser.UntilText(".caption", "Typed by hand, in two lines.");
        OpenFirst();
        Browser.Click("[formaction*=Reset]");
        Browser.UntilText(".caption", was.Split('\n')[0]);
        Browser.Press("u");
        Browser.UntilText(".caption", "Typed by hand, in two lines.");
        Browser.PressWithShift("u");
        Browser.UntilText(".caption", was.Split('\n')[0]);

        // A word that is mended in Read is mended here, too, also in a text that was typed beside it.
        var said = was.ReplaceLineEndings(" ").Split(' ');
        OpenFirst();
        Browser.Empty("[name=text]");
        Browser.Type("[name=text]", $"Hear, hear: {string.Join(' ', said)}");
        Browser.Click(".caption-form .btn-ember");
        Browser.UntilText(".caption", "Hear, hear:");
        var card = demo.Get<Stories>().Get(1, "")!.Story.Cards[0];
        var text = demo.Get<Footage>().Sitting(card.SittingId)!.TranscriptId!.Value;
        var place = demo.Get<Store.Transcripts>().Get(text).Words.Index().First(w => w.Item.Middle >= card.Range.In).Index + 1;
        demo.Get<Store.Transcripts>().Apply(text, t => Respell.Over(t, new(place), new(place), "windlass")!, "Ada");
        Assert.Contains("windlass", (await LeavesAsync("srt"))[..200], StringComparison.Ordinal);
        Assert.Contains("Hear, hear:", (await LeavesAsync("srt"))[..200], StringComparison.Ordinal);
        demo.Get<Store.Transcripts>().Step(text, redo: false, "Ada");
    }

    [Fact]
    public async Task What_can_not_be_read_is_refused_with_a_sentence_and_what_was_typed_stays()
    {
        OpenFirst();
        Browser.Empty("[name=ends]");
        Browser.Type("[name=ends]", "soon");
        Browser.Click(".caption-form .btn-ember");
        Browser.UntilText(".alert-line", "“soon” is no time");
        var stale = await demo.PostAsync($"{Room}?handler=Save", [new("First", "0"), new("Was", "something else"), new("text", "x")]);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, stale.StatusCode);
        Assert.Contains("were changed since", await stale.Content.ReadAsStringAsync(Cancel), StringComparison.Ordinal);
        var rules = await demo.PostAsync($"{Room}?handler=Rules", [new("line", "3"), new("lines", "2"), new("speed", "17")]);
        Assert.Contains("10 to 120", await rules.Content.ReadAsStringAsync(Cancel), StringComparison.Ordinal);
        foreach (var odd in (string[])["open=99999", "from=-4", "from=99999", "language=Klingon", "look=true&open=2"])
        {
            demo.Open($"{Room}?{odd}");
            Browser.UntilText("#captions-title", "captions");
        }
    }

    [Fact]
    public async Task A_translator_s_table_comes_back_as_captions_of_that_language()
    {
        var table = await LeavesAsync("translation");
        var rows = table.TrimEnd().Split("\r\n");
        var filled = rows.Skip(1)
            .Select((row, i) => i == 1 ? row : row + $"Zeile {i}")
            .Prepend(rows[0])
            .Append("99,0:01:00,0:01:02,Ada,Never said,Nie gesagt");
        var file = Path.Combine(demo.Data, "back.csv");
        await File.WriteAllTextAsync(file, string.Join("\r\n", filled), Cancel);
        demo.Open(Room);
        Browser.Type("[name=into]", "German");
        Browser.Find(".captions-side [name=file]").SendKeys(file);
        Browser.Click("[action*=Bring] button");
        Browser.UntilText("p.look-line", $"{rows.Length - 2} captions taken over. 1 row of the table had no translation.");
        Assert.Contains("Never said", Browser.Text("details.look-line"), StringComparison.Ordinal);
        Assert.Contains("Zeile 0", Browser.Text(".caption"), StringComparison.Ordinal);
        Assert.Contains("not in German yet", Browser.All(".caption")[1].Text, StringComparison.Ordinal);
        using var client = new HttpClient { BaseAddress = new Uri(demo.Server.Address) };
        var package = await client.GetStreamAsync(new Uri("/productions/1/handoff?handler=Package&part=srt", UriKind.Relative), Cancel);
        await using var zip = new System.IO.Compression.ZipArchive(package);
        using var german = new StreamReader(
            await zip.Entries.Single(e => e.Name.EndsWith("_german.srt", StringComparison.Ordinal)).OpenAsync(Cancel)
        );
        var srt = await german.ReadToEndAsync(Cancel);
        Assert.Equal(rows.Length - 2, srt.Split("Zeile").Length - 1);
        demo.Open("/productions/1/handoff");
        Assert.Contains("1 of", Browser.Text(".looked + .checks"), StringComparison.Ordinal);
        demo.Open(Room + "?language=German");
        Browser.Click("[action*=Away] button");
        Browser.UntilText("#captions-title", "captions");
        Assert.Empty(Browser.All(".captions-languages a"));
        Browser.Type("[name=into]", "German");
        Browser.Find(".captions-side [name=file]").SendKeys(WriteEmpty());
        Browser.Click("[action*=Bring] button");
        Browser.UntilText(".alert-line", "no column is called");
    }

    private string WriteEmpty()
    {
        var file = Path.Combine(demo.Data, "odd.csv");
        File.WriteAllText(file, "a;b\n1;2\n");
        return file;
    }
}
