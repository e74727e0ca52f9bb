using EmberLane.Store;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

public sealed class LooseFootageTests(DemoServer demo) : IClassFixture<DemoServer>
{
    [Fact]
    public async Task What_is_said_at_a_cutaways_start_is_written_down_when_asked_for_found_and_used_as_its_description()
    {
        var source = demo.Get<Footage>().Sources(1).First(s => s.SittingId is null);
        Assert.Null(source.Said);
        demo.Open("/productions/1/gather/files?of=loose");
        demo.Browser.Click($"#file-{source.Id} input");
        demo.Browser.UntilText("#ticked", "1 ticked");
        demo.Browser.Click("button[hx-post*='handler=Said']");
        demo.Browser.UntilText("#said", "The first ten seconds of 1 file");
        await demo.IdleAsync();
        var said = demo.Get<Footage>().Source(source.Id)!.Said!;
        Assert.True(said.Split(' ').Length >= 3, said);
        demo.Open("/productions/1/gather/files?q=" + Uri.EscapeDataString(said));
        demo.Browser.UntilText("#count", "1 of 12 files");
        demo.Browser.Click($"#file-{source.Id} input");
        demo.Browser.Click("[data-action=labels]");
        demo.Browser.Click("[data-fill]");
        demo.Browser.UntilText("#labels-dialog", said);
        demo.Browser.Type("#label-description", Keys.Enter);
        demo.Browser.UntilText("#said", "Written on 1 file.");
        Assert.Equal(said, demo.Get<Footage>().Source(source.Id)!.Labels.Description);
        demo.Open("/productions/1/gather?sitting=1");
        demo.Browser.UntilText(".loose", said.Split(' ')[0]);
    }
}
