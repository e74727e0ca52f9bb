using EmberLane.Core.Media;
using EmberLane.Core.People;
using EmberLane.Core.Transcripts;
using EmberLane.Running;
using EmberLane.Store;
using EmberLane.Web.Access;
using Microsoft.Extensions.DependencyInjection;
using OpenQA.Selenium;
using OpenQA.Selenium.VirtualAuth;

namespace EmberLane.Web.Tests;

/// <summary>Coming in as people do: with a browser, a word from the terminal, an invitation, a link, a passkey.</summary>
public sealed class DoorPageTests : IAsyncLifetime
{
    private readonly string data = Directory.CreateTempSubdirectory("ember-door-page").FullName;
    private RunningServer server = null!;
    private Browser browser = null!;
    private long production,
        sitting;

    public async ValueTask InitializeAsync()
    {
        server = await RunningServer.StartAsync(data, demo: false, o => o with { Accounts = true });
        production = Get<Footage>().AddProduction("Slack Water");
        var facts = new SourceFacts("wav", MediaTime.FromMilliseconds(9_000), null, [], StartOfFile.Unknown, null, null, null);
        sitting = Get<Footage>().BringIn(production, "The crossing", [new NewSource("/nowhere/a.wav", "a.wav", 1, "a", facts)])!.Value;
        SittingTime At(int n) => new(MediaTime.FromMilliseconds(n * 1000));
        string[] said = ["The", "cable", "was", "singing", "that", "morning."];
        Get<Store.Transcripts>()
            .Add(
                sitting,
                "local",
                "en",
                [.. said.Select((word, n) => new RecordWord(new(n), word, new SittingRange(At(n), At(n + 1)), null, 0))],
                new Dictionary<int, string> { [0] = "Tobias Fenn" }
            );
        browser = new Browser();
    }

    public async ValueTask DisposeAsync()
    {
        browser.Dispose();
        await server.DisposeAsync();
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(data, recursive: true);
    }

    private T Get<T>()
        where T : notnull => server.Services.GetRequiredService<T>();

    // Browsers know passkeys by names only: the same machine, by its name.
    private void Open(string path) => browser.Open(FormattableString.Invariant($"http://localhost:{server.Options.Port}{path}"));

    private string Room(string path) => FormattableString.Invariant($"/productions/{production}/{path}");

    private void At(string part) =>
        Browser.Until(() => browser.Driver.Url.Contains(part, StringComparison.Ordinal), "an address with " + part);

    private void Password(string form)
    {
        browser.Type($"#{form}-password", DoorVisitor.Password);
        browser.Type($"#{form}-again", DoorVisitor.Password);
    }

    private void MakeOwner()
    {
        Open("/");
        At("/first");
        browser.Type("#first-word", Get<FirstOwner>().Word.ToUpperInvariant());
        browser.Type("#first-name", "Wren Adair");
        Password("first");
        browser.Click(".door-form .btn-ember");
        browser.UntilText("#person-menu", "Wren Adair");
    }

    private void SignOut()
    {
        browser.Click("#person-menu summary");
        browser.Click("#person-menu form[action='/sign-in?handler=Out'] button");
        At("/sign-in");
    }

    private string Made() => browser.Find("#made-address").GetAttribute("value")!.Replace("http://", "", StringComparison.Ordinal);

    [Fact]
    public void The_owner_invites_a_director_who_marks_a_passage_and_can_not_mend_it()
    {
        MakeOwner();
        Open(Room("people"));
        browser.Type("#invite-label", "Ida Loom");
        browser.Choose("#invite-role", "director");
        browser.Click("#invite .btn-ember");
        var address = Made();
        Assert.Equal("", ScreenReader.Trouble(browser));
        SignOut();

        browser.Open("http://" + address);
        browser.UntilText("main", "Wren Adair invites Ida Loom into Slack Water as director");
        Assert.Equal("", ScreenReader.Trouble(browser));
        browser.Type("#join-password", DoorVisitor.Password);
        browser.Type("#join-again", "something else entirely");
        browser.Click(".door-form .btn-ember");
        browser.UntilText("[role=alert]", "The two passwords are not the same");
        Password("join");
        browser.Click(".door-form .btn-ember");

        At("/read");
        Browser.Until(() => browser.Run<bool>("return document.getElementById('read')?.dataset.ready === 'true'"), "the page of turns");
        browser.Press("b");
        browser.Click("#keep-dialog .btn-ember");
        Browser.Until(() => Get<Store.Bites>().Of(production).SingleOrDefault()?.Owner, "the bite");
        Assert.Equal("Ida Loom", Get<Store.Bites>().Of(production).Single().Owner);
        Browser.Until(() => !browser.Find("#keep-dialog").Displayed, "the dialog to close");
        browser.Press("e");
        browser.Type("#correct-text", "Cables" + Keys.Enter);
        browser.UntilText("#notice", "That is not yours to do here");
        browser.Press(Keys.Escape);
        browser.Click("#person-menu summary");
        browser.UntilText("#who-here", "Here you are director: you may read, listen, comment and mark.");
        Assert.Empty(browser.All("#person-menu a[href$='/people']"));
        Assert.Empty(browser.All(".top-tools a[href='/settings']"));
    }

    [Fact]
    public void What_a_guest_may_not_do_is_not_offered()
    {
        Open("/join/" + Get<Application.People.Admitting>().Invite(production, Role.Guest, "Ida Loom", 7, "Wren Adair"));
        Password("join");
        browser.Click(".door-form .btn-ember");
        At(Room("read"));
        browser.UntilText("#person-menu", "Ida Loom");
        Open(Room("gather"));
        browser.UntilText("main", "The crossing");
        Assert.DoesNotContain(browser.All("main a"), a => a.Displayed && a.Text == "Bring footage in");
        Assert.DoesNotContain(browser.All("main button"), b => b.Displayed && b.Text is "Rename" or "Transcribe" or "Sync again");
        Assert.Equal("", ScreenReader.Trouble(browser));
        Open("/settings");
        browser.UntilText("h1", "That is not yours to do here");
        Open(Room("handoff"));
        Assert.DoesNotContain(browser.All("main a[href^='?handler=']"), a => a.Displayed);
        browser.Click("#person-menu summary");
        browser.Click("#person-menu form[action='/sign-in?handler=Out'] button");
        At("/first");
        Open(Room("read"));
        At("/first");
    }

    [Fact]
    public void A_passkey_is_made_once_and_signs_in_without_a_password()
    {
        MakeOwner();
        browser.Driver.AddVirtualAuthenticator(
            new VirtualAuthenticatorOptions()
                .SetProtocol(VirtualAuthenticatorOptions.Protocol.CTAP2)
                .SetTransport(VirtualAuthenticatorOptions.Transport.INTERNAL)
                .SetHasResidentKey(true)
                .SetHasUserVerification(true)
                .SetIsUserVerified(true)
        );
        Open("/me");
        browser.Type("#passkey-name", "this laptop");
        browser.Click("form[data-passkey=create] .btn");
        browser.UntilText("[role=status].fine-line", "The passkey is made");
        browser.UntilText("#passkeys", "this laptop");
        Assert.Equal("", ScreenReader.Trouble(browser));
        SignOut();

        Assert.Equal("", ScreenReader.Trouble(browser));
        browser.Click("form[data-passkey=get] .btn");
        browser.UntilText("#person-menu", "Wren Adair");
        Assert.Contains(Get<DoorLog>().Newest(5), l => l is { Event: DoorEvent.SignedIn, Said: "signed in by passkey" });

        Open("/me");
        browser.Click("#passkeys li .btn");
        browser.UntilText("[role=status].fine-line", "opens nothing any more");
        SignOut();
        browser.Click("form[data-passkey=get] .btn");
        browser.UntilText("[role=alert]:not([hidden])", "That passkey belongs to no account here");
    }

    [Fact]
    public void A_page_that_is_open_when_its_session_ends_says_so_and_keeps_what_was_typed()
    {
        MakeOwner();
        Open(Room("read/") + sitting);
        Browser.Until(() => browser.Run<bool>("return document.getElementById('read')?.dataset.ready === 'true'"), "the page of turns");
        Get<Accounts>().EndSessions(Get<Accounts>().Named("Wren Adair")!.Id, "ended", "somebody else");
        browser.Press("b");
        browser.Type("#keep-note", "the cable sings");
        browser.Click("#keep-dialog .btn-ember");
        browser.UntilText("#notice", "You are signed out");
        Assert.Equal("the cable sings", browser.Find("#keep-note").GetAttribute("value"));
        Assert.Empty(Get<Store.Bites>().Of(production));
        Open(Room("read/") + sitting);
        At("/sign-in?back=");
        browser.Type("#sign-in-name", "wren adair");
        browser.Type("#sign-in-password", DoorVisitor.Password);
        browser.Click(".door-form .btn-ember");
        At(Room("read/") + sitting);
        Open("/accounts");
        browser.UntilText("#happened", "ended all sessions of Wren Adair");
        Assert.Equal("", ScreenReader.Trouble(browser));
    }
}
