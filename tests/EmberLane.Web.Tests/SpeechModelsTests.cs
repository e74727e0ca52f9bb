using EmberLane.Application.Work;
using EmberLane.Core.Transcripts;
using EmberLane.Engines;
using EmberLane.Engines.Tests.Speech;
using EmberLane.Running;
using EmberLane.Store;

namespace EmberLane.Web.Tests;

/// <summary>Speech models that a studio lays in: found, used where nothing else was chosen, refused where they can not be.</summary>
public sealed class SpeechModelsTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private string Folder => Path.Combine(demo.Server.Options.Data, "models");

    [Fact]
    public void A_model_that_is_laid_into_the_folder_is_used_from_then_on_in_the_languages_that_it_knows()
    {
        demo.Open("/settings");
        Browser.UntilText("#models", "No speech model is there yet.");
        Browser.UntilText("#models", Folder);
        Directory.CreateDirectory(Folder);
        MadeModel.WriteMany(Path.Combine(Folder, "ggml-made.bin"), [" El", " barco", " sale", " a", " las", " nueve", "."], 3);
        File.WriteAllText(Path.Combine(Folder, "notes.bin"), "not one");
        try
        {
            demo.Open("/settings");
            Browser.UntilText(".choice:first-of-type", "Speech model ggml-made.bin");
            Browser.UntilText("#models", "notes.bin is not a speech model");
            demo.Open("/productions/1/read/2/texts");
            Browser.Choose("#again-language", "found by the recogniser");
            Browser.Type("#again-terms", "Tern Hollow, cable ferry");
            Browser.Click("#again .btn-plain");
            Browser.UntilText("#texts", "recognised: Speech model ggml-made.bin");
            var text = demo.Get<Texts>().Of(2)[0];
            Assert.Equal("es", text.Language);
            var made = demo.Get<Store.Transcripts>().Get(text.Id);
            Assert.Contains("barco sale a las nueve.", made.Said(TextPlace.First, made.Last), StringComparison.Ordinal);
            Assert.Equal(["Tern Hollow", "cable ferry"], demo.Get<Terms>().Of(1));
            // A smaller one that is chosen is the one that is offered first; work by one that is gone says so and is done by no other.
            MadeModel.Write(Path.Combine(Folder, "ggml-small-made.bin"), [" Yes", "."]);
            var smaller = demo.Get<Recognisers>().All.Single(r => r.Name.EndsWith("ggml-small-made.bin", StringComparison.Ordinal)).Key;
            demo.Get<Recognisers>().Choose(smaller);
            demo.Open("/productions/1/read/2/texts");
            Assert.Equal(smaller, Browser.Find("#again-by").GetAttribute("value"));
            File.Delete(Path.Combine(Folder, "ggml-small-made.bin"));
            Assert.Contains(
                "not there any more",
                Assert.Throws<ToolException>(() => demo.Get<Recognisers>().For(smaller)).Message,
                StringComparison.Ordinal
            );
            // Another recogniser offers what it knows, and what it can not do is refused before the work.
            Browser.Choose("#again-by", "On this machine");
            Browser.Until(() => Browser.All("#again-language option").Select(o => o.Text).LastOrDefault() == "English", "its one language");
            Assert.Contains("English only", demo.Get<Recognisers>().Find("local")!.Recogniser.WhyNot("auto"), StringComparison.Ordinal);
        }
        finally
        {
            Directory.Delete(Folder, recursive: true);
        }
    }

    [Fact]
    public void A_model_that_lies_elsewhere_is_named_by_its_path_and_listed_no_more_when_asked()
    {
        var elsewhere = Directory.CreateTempSubdirectory().FullName;
        try
        {
            var (model, none) = (Path.Combine(elsewhere, "far.bin"), Path.Combine(elsewhere, "none.bin"));
            MadeModel.Write(model, [" Yes", "."]);
            File.WriteAllText(none, "none");
            foreach (
                var (path, says) in new[]
                {
                    (none, "not a speech model"),
                    ("far.bin", "whole path"),
                    (elsewhere + "/gone.bin", "can not be read"),
                }
            )
            {
                demo.Open("/settings");
                Browser.Type("#model-path", path);
                Browser.Click("#models .line-form button");
                Browser.UntilText("#models [role=alert]", says);
                Assert.Equal(path, Browser.Find("#model-path").GetAttribute("value"));
            }
            demo.Open("/settings");
            Browser.Type("#model-path", model);
            Browser.Click("#models .line-form button");
            Browser.UntilText("#models .plain-list", "far.bin");
            Browser.UntilText(".choice:first-of-type", "far.bin");
            Browser.Click("#models .in-line button");
            Browser.UntilText("#models", "No speech model is there yet.");
            Assert.True(File.Exists(model));
        }
        finally
        {
            Directory.Delete(elsewhere, recursive: true);
        }
    }
}
