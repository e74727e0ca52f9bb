using EmberLane.Core.Sync;
using EmberLane.Running;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace EmberLane.Web.Tests;

/// <summary>News of background work comes while a person is doing something.</summary>
public sealed class NewsTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private Browser Browser => demo.Browser;

    [Fact]
    public async Task A_button_that_is_pressed_while_news_comes_is_clicked_nevertheless()
    {
        await OpenGatherAsync();
        var button = Browser.Find("#sheet form[action*=Sync] button");
        new Actions(Browser.Driver).MoveToElement(button).ClickAndHold().Perform();
        Tell();
        Assert.True(Stands("sheet"), "The sheet was replaced under the pointer.");
        new Actions(Browser.Driver).Release().Perform();
        Browser.Until(() => demo.Get<Store.Jobs>().Newest("sync", 1) is not null, "the sync to be asked for");
        Browser.Until(() => !Stands("sheet"), "the sheet to be drawn anew");
    }

    [Fact]
    public async Task The_keyboard_stays_where_it_is_when_news_draws_its_fragment_anew()
    {
        await OpenGatherAsync();
        Browser.Run<object?>("document.querySelector('#sheet form[action*=Sync] button').focus(); return null");
        Tell();
        Browser.Until(() => !Stands("sheet"), "the sheet to be drawn anew");
        Assert.Equal("Sync again", Browser.Driver.SwitchTo().ActiveElement().Text);
    }

    [Fact]
    public async Task News_does_not_cover_an_answer_that_a_person_waits_for_and_is_shown_after_it()
    {
        await OpenGatherAsync();
        // An answer that takes its time.
        Browser.Run<object?>(
            """
            const send = XMLHttpRequest.prototype.send, open = XMLHttpRequest.prototype.open;
            XMLHttpRequest.prototype.open = function (verb, ...rest) { this.verb = verb; open.call(this, verb, ...rest); };
            XMLHttpRequest.prototype.send = function (body) {
                this.verb === "POST" ? window.answer = () => send.call(this, body) : send.call(this, body);
            };
            return null;
            """
        );
        Browser.Click("#sheet form[action*=Sync] button");
        Browser.Until(() => Browser.Run<bool>("return Boolean(window.answer)"), "the request");
        Tell();
        Assert.True(Stands("sheet"), "The sheet was replaced while its answer was under way.");
        Browser.Run<object?>("window.answer(); return null");
        Browser.Until(() => !Stands("sheet"), "the answer");
        Mark();
        Browser.Until(() => !Stands("sheet"), "the news that was put off");
    }

    [Fact]
    public async Task A_field_is_not_replaced_while_somebody_types_in_it()
    {
        await OpenGatherAsync();
        Browser.Click("#sheet details summary");
        Browser.Type("#sheet details input[name=title]", "x");
        Tell();
        Assert.True(Stands("sheet"));
        Browser.Type("#sheet details input[name=title]", "y");
        Assert.EndsWith("xy", Browser.Find("#sheet details input[name=title]").GetAttribute("value"), StringComparison.Ordinal);
        Browser.Run<object?>("document.activeElement.blur(); return null");
        Tell();
        Assert.True(Stands("sheet"));
        // As it was before: nothing would be lost any more.
        Browser.Type(
            "#sheet details input[name=title]",
            OpenQA.Selenium.Keys.End + OpenQA.Selenium.Keys.Backspace + OpenQA.Selenium.Keys.Backspace
        );
        Browser.Run<object?>("document.activeElement.blur(); return null");
        Tell();
        Browser.Until(() => !Stands("sheet"), "the news once what was typed is taken back");
    }

    [Fact]
    public async Task Pictures_of_cameras_that_are_placed_while_the_page_is_open_come_by_themselves()
    {
        await demo.IdleAsync();
        var footage = demo.Get<Store.Footage>();
        var cameras = footage.SourcesOf(2).Where(s => s.Facts.Picture is not null).ToList();
        cameras.ForEach(c => footage.Place(c.Id, Placement.Nowhere()));
        // A sync that is under way as long as the test wants.
        Run("INSERT INTO job (production_id, kind, subject_id, title, state) VALUES (1, 'sync', 2, 'Sync of The school hut', 'running')");
        demo.OpenRead(2);
        Browser.UntilText("#angles", "The cameras are being placed on the sitting's clock. Their pictures come by themselves.");
        cameras.ForEach(c => footage.Place(c.Id, c.Placement));
        Run("UPDATE job SET state = 'done' WHERE state = 'running'");
        demo.Get<Application.Work.News>().Tell();
        Browser.Until(() => Browser.All("#angles video").Count == cameras.Count, "the pictures");

        void Run(string sql)
        {
            using var connection = new Microsoft.Data.Sqlite.SqliteConnection(
                $"Data Source={Path.Combine(demo.Data, "ember.sqlite")};Pooling=False"
            );
            connection.Open();
            using var command = connection.CreateCommand();
            command.CommandText = sql;
            command.ExecuteNonQuery();
        }
    }

    // All is quiet but for the news that a test tells.
    private async Task OpenGatherAsync()
    {
        await demo.IdleAsync();
        demo.Open("/productions/1/gather?sitting=1");
        Mark();
    }

    // Marks what stands, so that its replacement is seen.
    private void Mark() =>
        Browser.Run<object?>("document.querySelectorAll('#lane, #sheet, #sitting-list').forEach((e) => { e.stands = true; }); return null");

    private bool Stands(string id) => Browser.Run<bool>("return document.getElementById(arguments[0])?.stands === true", id);

    // News as the page's own line tells it, once; then until it is shown where nobody is busy.
    private void Tell()
    {
        Browser.Run<object?>("document.body.dispatchEvent(new CustomEvent('work')); return null");
        Browser.Until(() => !Stands("lane"), "the lane to be drawn anew");
        Browser.Until(() => !Stands("sitting-list"), "the list of sittings to be drawn anew");
    }
}
