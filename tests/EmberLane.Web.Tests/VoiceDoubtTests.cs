using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Import;
using EmberLane.Core.Time;
using EmberLane.Core.Transcripts;
using EmberLane.Running;
using EmberLane.Store;

namespace EmberLane.Web.Tests;

/// <summary>Where the number of voices could not be told for sure: what is asked, what is heard, and what is done then.</summary>
public sealed class VoiceDoubtTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private static SittingRange Range(int from, int to) =>
        new(new SittingTime(MediaTime.FromMilliseconds(1000 * from)), new SittingTime(MediaTime.FromMilliseconds(1000 * to)));

    // The words of the hut as one voice says them, of which it is not sure that it is one.
    private long Doubted()
    {
        var text = demo.Get<Store.Transcripts>().Get(demo.Get<Footage>().Sitting(2)!.TranscriptId!.Value);
        var made = demo.Get<Store.Transcripts>()
            .AddFromJob(
                0,
                "",
                2,
                "local",
                "en",
                [
                    .. text.Words.Select(
                        (w, i) => new RecordWord(new WordNumber(i), text.Said(new TextPlace(i), new TextPlace(i)), w.Range, null, 0)
                    ),
                ],
                new Dictionary<int, string>(),
                doubted: new DoubtedVoices(2, [Range(5, 9), Range(20, 24)], [Range(40, 44)])
            );
        demo.Get<Texts>().Choose(2, made, "Test");
        return made;
    }

    [Fact]
    public async Task It_is_asked_whether_it_is_one_person_places_are_heard_and_another_number_is_found_at_once()
    {
        Doubted();
        demo.OpenRead(2);
        Browser.UntilText("#voice-doubt", "1 voice was told apart; it may be 2.");
        Assert.Equal(3, Browser.All("#voice-doubt a").Count);
        Browser.Click("#voice-doubt a:last-of-type");
        Browser.Until(
            () => ClockText.Read(Browser.Text("#clock")) is { } at && at > MediaTime.FromMilliseconds(37_000),
            "the cursor at the first word of the place"
        );
        Assert.True(ClockText.Read(Browser.Text("#clock")) < MediaTime.FromMilliseconds(44_000));
        Browser.Click("#voice-doubt button:first-of-type");
        Browser.UntilText("#voice-doubt", "2 voices: they are being found.");
        await RunningServer.UntilAsync(
            () => demo.Get<Jobs>().Newest(WorkKinds.Transcribe, 2) is { Title: "Voices of The school hut", State: "done" or "failed" },
            "the voices"
        );
        Browser.UntilText("#others", "the same words, voices found anew");
        var found = demo.Get<Store.Transcripts>().Get(demo.Get<Texts>().Of(2)[0].Id);
        Assert.Equal(2, found.Voices().Count);
        Assert.Null(demo.Get<Store.Transcripts>().DoubtOf(demo.Get<Texts>().Of(2)[0].Id));
    }

    [Fact]
    public void Once_a_person_says_that_the_number_is_right_it_is_asked_no_more()
    {
        var text = Doubted();
        demo.OpenRead(2);
        Browser.Click("#voice-doubt button:last-of-type");
        Browser.Until(() => Browser.Text("#voice-doubt").Length == 0, "the question to go");
        Assert.Null(demo.Get<Store.Transcripts>().DoubtOf(text));
        demo.OpenRead(2);
        Assert.Equal("", Browser.Text("#voice-doubt"));
    }
}
