using EmberLane.Application.Rooms;
using EmberLane.Core.Stories;
using EmberLane.Running;
using EmberLane.Store;

namespace EmberLane.Web.Tests;

/// <summary>What is found, read or kept is dragged, or copied, into a story at any place.</summary>
public sealed class DragOutTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    private StoredStory Stored => demo.Get<Desk>().StoryOf(demo.Get<Footage>().Production(1)!, "producer");

    private System.Collections.Immutable.ImmutableList<Piece> Pieces => Stored.Story.Pieces;

    // What a card says, by its place in the story.
    private string Said(int place) => demo.Get<Stories>().ReadingsOf(Stored.Id)[Pieces[place].Id].Said;

    // What a drag of this handle carries; a drag between windows cannot be made by the driver.
    private string Carried(string handle) =>
        Browser.Run<string>(
            $$"""
            const carried = new DataTransfer();
            document.querySelector('{{handle}}').dispatchEvent(new DragEvent('dragstart', { bubbles: true, dataTransfer: carried }));
            return carried.getData('application/x-ember-clip');
            """
        );

    private void DropOn(int place, double share, string clip)
    {
        demo.OpenStory();
        var before = Pieces.Count;
        Browser.Run<object?>(
            $$"""
            const carried = new DataTransfer(), piece = document.querySelectorAll('.piece')[{{place}}], box = piece.getBoundingClientRect();
            carried.setData('application/x-ember-clip', arguments[0]);
            const at = { bubbles: true, cancelable: true, dataTransfer: carried, clientY: box.top + box.height * {{share.ToString(
                System.Globalization.CultureInfo.InvariantCulture
            )}} };
            piece.dispatchEvent(new DragEvent('dragover', at));
            window.shownDrop = document.querySelectorAll('.drop-before, .drop-behind').length;
            piece.dispatchEvent(new DragEvent('drop', at));
            return null;
            """,
            clip
        );
        Assert.Equal(1, Browser.Run<long>("return window.shownDrop"));
        Browser.Until(() => Pieces.Count == before + 1, "a card more");
        Browser.Until(() => Browser.All(".piece").Count == before + 1, "the card on the page");
    }

    private void TakeBack()
    {
        var now = Pieces.Count;
        Browser.Press("u");
        Browser.Until(() => Pieces.Count == now - 1, "the story as it was");
    }

    [Fact]
    public void The_sentence_of_a_hit_is_dragged_before_the_first_card_or_copied_behind_any()
    {
        // The voices of the demonstration are misheard: a word as the text has it.
        var asked = demo.Crossing.Said(demo.Crossing.Words).Split(' ').First(w => w.Length > 6 && w.All(char.IsLetter));
        demo.Open("/productions/1/find?q=" + asked);
        DropOn(0, 0.1, Carried(".hit .drag-out"));
        Assert.Contains(asked, Said(0), StringComparison.OrdinalIgnoreCase);
        TakeBack();
        demo.Open("/productions/1/find?q=" + asked);
        Browser.Find(".hit").Click();
        Browser.Press("c");
        Browser.Until(() => Browser.Text("#notice").Contains("copied", StringComparison.Ordinal), "that it is copied");
        demo.OpenStory();
        var before = Pieces.Count;
        Browser.Run<object?>("document.querySelectorAll('.card-piece')[1].focus(); return null");
        Browser.Press("v");
        Browser.Until(() => Pieces.Count == before + 1, "a card more");
        Assert.Contains(asked, Said(2), StringComparison.OrdinalIgnoreCase);
        TakeBack();
    }

    [Fact]
    public void Selected_words_and_kept_bites_are_dragged_behind_the_card_under_the_pointer()
    {
        demo.Open("/productions/1/read/1");
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('read')?.dataset.ready === 'true'"), "Read");
        Browser.PressWithShift(OpenQA.Selenium.Keys.ArrowRight);
        Browser.Until(() => Browser.Find("#actions").Displayed, "selected words");
        var words = Browser.Text("#selected-figure");
        Assert.StartsWith("2 words", words, StringComparison.Ordinal);
        DropOn(1, 0.9, Carried("#actions .drag-out"));
        Assert.Equal(2, Said(2).Split(' ').Length);
        TakeBack();
        demo.Open("/productions/1/bites");
        var said = Browser.Find(".bite .speech").Text;
        DropOn(1, 0.9, Carried(".bite .drag-out"));
        Assert.Equal(said, Said(2));
        TakeBack();
    }
}
