using System.Net;
using System.Reflection;
using System.Text.RegularExpressions;
using EmberLane.Application.People;
using EmberLane.Core.People;
using EmberLane.Running;
using EmberLane.Store;
using EmberLane.Web.Access;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Web.Tests;

/// <summary>Who is let in, who may do what, and what becomes of those who may not.</summary>
public sealed partial class DoorTests : IAsyncLifetime
{
    private readonly string data = Directory.CreateTempSubdirectory("ember-door").FullName;
    private RunningServer server = null!;
    private DoorVisitor owner = null!;
    private long production,
        other;

    public async ValueTask InitializeAsync()
    {
        server = await RunningServer.StartAsync(data, demo: false, o => o with { Accounts = true });
        (production, other) = (Get<Footage>().AddProduction("Slack Water"), Get<Footage>().AddProduction("Night Trains"));
        owner = await DoorVisitor.OwnerAsync(server);
    }

    public async ValueTask DisposeAsync()
    {
        owner.Dispose();
        await server.DisposeAsync();
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(data, recursive: true);
    }

    private T Get<T>()
        where T : notnull => server.Services.GetRequiredService<T>();

    private string Room(string path) => FormattableString.Invariant($"/productions/{production}/{path}");

    private Task<DoorVisitor> MemberAsync(string name, Role role) =>
        DoorVisitor.JoinAsync(server, Get<Admitting>().Invite(production, role, name, 7, "Wren Adair"), name);

    // Every page with what a request to it needs of its address.
    private List<(Type Page, string Address)> Pages() =>
        [
            .. Get<EndpointDataSource>()
                .Endpoints.OfType<RouteEndpoint>()
                .Where(e => e.Metadata.GetMetadata<PageActionDescriptor>() is not null)
                .Select(e =>
                    (
                        Type.GetType(
                            e.Metadata.GetMetadata<PageActionDescriptor>()!.ViewEnginePath is var path && path == "/Index"
                                ? "EmberLane.Web.Pages.IndexModel, EmberLane.Web"
                                : $"EmberLane.Web.Pages{path.Replace('/', '.')}Model, EmberLane.Web"
                        )!,
                        "/"
                            + e.RoutePattern.RawText!.Replace("{production:long}", $"{production}", StringComparison.Ordinal)
                                .Replace("{sitting:long?}", "1", StringComparison.Ordinal)
                                .Replace("{sitting:long}", "1", StringComparison.Ordinal)
                                .Replace("{source:long}", "1", StringComparison.Ordinal)
                                .Replace("{story:long}", "1", StringComparison.Ordinal)
                                .Replace("/{look?}", "", StringComparison.Ordinal)
                                .Replace("{secret}", "none", StringComparison.Ordinal)
                                .TrimStart('/')
                    )
                )
                .Distinct(),
        ];

    private static IEnumerable<MethodInfo> Handlers(Type page, string verb) =>
        page.GetMethods(BindingFlags.Public | BindingFlags.Instance).Where(m => m.Name.StartsWith("On" + verb, StringComparison.Ordinal));

    private static string NameOf(MethodInfo handler, string verb) =>
        handler.Name[("On" + verb).Length..] is var name && name.EndsWith("Async", StringComparison.Ordinal)
            ? name[..^"Async".Length]
            : name;

    [Fact]
    public async Task Nobody_who_is_not_known_gets_any_page_any_news_or_any_footage()
    {
        using var nobody = new DoorVisitor(server.Address);
        var pages = Pages();
        Assert.True(pages.Count > 30);
        foreach (var (page, address) in pages.Where(p => p.Page.GetCustomAttribute<OpenAttribute>() is null))
        {
            using var answer = await nobody.GetAsync(address);
            Assert.Equal(HttpStatusCode.Redirect, answer.StatusCode);
            Assert.StartsWith("/sign-in?back=", answer.Headers.Location!.OriginalString, StringComparison.Ordinal);
            Assert.Equal(HttpStatusCode.Unauthorized, await nobody.StatusAsync(address, ("HX-Request", "true")));
        }
        Assert.Equal(HttpStatusCode.Unauthorized, await nobody.StatusAsync("/events?production=1", ("Sec-Fetch-Dest", "empty")));
        Assert.Equal(HttpStatusCode.Unauthorized, await nobody.StatusAsync("/media/1/play"));
        Assert.Equal(HttpStatusCode.OK, await nobody.StatusAsync("/css/ground.css"));
        Assert.Equal(
            ["Error", "First", "Join", "SignIn"],
            pages.Where(p => p.Page.GetCustomAttribute<OpenAttribute>() is not null).Select(p => p.Page.Name[..^"Model".Length]).Order()
        );
    }

    [Fact]
    public void Every_change_that_a_page_makes_says_what_it_takes() =>
        Assert.All(
            Pages().Where(p => p.Address.StartsWith("/productions", StringComparison.Ordinal)),
            p =>
                Assert.All(
                    Handlers(p.Page, "Post"),
                    h =>
                        Assert.True(
                            h.GetCustomAttribute<NeedsAttribute>() is not null || p.Page.GetCustomAttribute<NeedsAttribute>() is not null,
                            $"{p.Page}.{h.Name} says not what it needs."
                        )
                )
        );

    [Theory]
    [InlineData(Role.Guest)]
    [InlineData(Role.Director)]
    [InlineData(Role.Logger)]
    [InlineData(Role.Editor)]
    public async Task What_a_role_may_not_do_is_refused_in_every_room_with_a_sentence(Role role)
    {
        using var member = await MemberAsync("Ida Loom", role);
        var rights = RoleRules.Of(role);
        var refused = 0;
        foreach (var (page, address) in Pages().Where(p => p.Address.StartsWith("/productions", StringComparison.Ordinal)))
        {
            foreach (
                var name in Handlers(page, "Post").Where(h => !rights.HasAny(Gate.NeededBy(h, page, "POST"))).Select(h => NameOf(h, "Post"))
            )
            {
                var (status, said) = await member.AskAsync("/me", $"{address}?handler={name}");
                Assert.True(status == HttpStatusCode.Forbidden, $"{address} {name}: {status}");
                Assert.Contains("not yours to do here", said, StringComparison.Ordinal);
                refused++;
            }
            foreach (
                var name in Handlers(page, "Get").Where(h => !rights.HasAny(Gate.NeededBy(h, page, "GET"))).Select(h => NameOf(h, "Get"))
            )
            {
                Assert.Equal(HttpStatusCode.Forbidden, await member.StatusAsync($"{address}?handler={name}"));
                refused++;
            }
        }
        Assert.True(refused > 20, $"{refused}");
        // Not one of them changed anything: the log of changes is empty, and the door's tells who tried.
        Assert.Empty(Get<Changes>().Of(production, 10, null, null, null));
        Assert.Contains(Get<DoorLog>().Newest(5, productionId: production), l => l is { Event: DoorEvent.Forbidden, Who: "Ida Loom" });
    }

    [Fact]
    public async Task A_production_that_one_is_not_in_is_not_there()
    {
        using var member = await MemberAsync("Ida Loom", Role.Producer);
        Assert.Equal(HttpStatusCode.OK, await member.StatusAsync(Room("read")));
        Assert.DoesNotContain("Night Trains", await member.ReadAsync("/"), StringComparison.Ordinal);
        foreach (var (_, address) in Pages().Where(p => p.Address.StartsWith("/productions", StringComparison.Ordinal)))
        {
            var theirs = address.Replace($"/productions/{production}/", $"/productions/{other}/", StringComparison.Ordinal);
            Assert.Equal(HttpStatusCode.NotFound, await member.StatusAsync(theirs));
            Assert.Equal(HttpStatusCode.NotFound, (await member.AskAsync("/me", theirs)).Status);
        }
        Assert.Equal(HttpStatusCode.NotFound, await member.StatusAsync(FormattableString.Invariant($"/events?production={other}")));
        var (status, _) = await member.AskAsync("/", $"/?handler=Rename&id={other}", ("name", "Taken over"));
        Assert.Equal(HttpStatusCode.NotFound, status);
        Assert.Equal("Night Trains", Get<Footage>().Production(other)!.Name);
    }

    [Fact]
    public async Task Settings_accounts_and_new_productions_are_for_owners()
    {
        using var member = await MemberAsync("Ida Loom", Role.Producer);
        Assert.Equal(HttpStatusCode.Forbidden, await member.StatusAsync("/settings"));
        Assert.Equal(HttpStatusCode.Forbidden, await member.StatusAsync("/accounts"));
        Assert.Equal(HttpStatusCode.Forbidden, (await member.AskAsync("/", "/", ("name", "Mine"))).Status);
        Assert.Equal(HttpStatusCode.Forbidden, (await member.AskAsync("/", "/settings?handler=Backup")).Status);
        Assert.Equal(2, Get<Productions>().All().Count);
        Assert.Equal(HttpStatusCode.OK, await owner.StatusAsync("/settings"));
        Assert.Equal(HttpStatusCode.OK, await owner.StatusAsync("/accounts"));
    }

    [Fact]
    public async Task A_role_that_is_changed_while_a_page_is_open_holds_at_once()
    {
        using var member = await MemberAsync("Ida Loom", Role.Producer);
        var account = Get<Accounts>().Named("Ida Loom")!.Id;
        Assert.Equal(HttpStatusCode.OK, await member.StatusAsync(Room("people")));
        Get<Members>().Set(production, account, Role.Guest, "Wren Adair");
        var (status, said) = await member.AskAsync(
            "/me",
            Room("people?handler=Invite"),
            ("label", "Bo"),
            ("role", "Producer"),
            ("days", "7")
        );
        Assert.Equal(HttpStatusCode.Forbidden, status);
        Assert.Contains("You are guest", said, StringComparison.Ordinal);
        Get<Members>().Set(production, account, null, "Wren Adair");
        Assert.Equal(HttpStatusCode.NotFound, await member.StatusAsync(Room("read")));
        Assert.Empty(Get<Admissions>().OpenOf(production));
    }

    [Fact]
    public async Task A_cookie_that_was_forged_or_changed_is_nobodys()
    {
        var cookie = owner.Cookies.GetCookies(new Uri(server.Address))["ember"]!;
        Assert.True(cookie.HttpOnly);
        foreach (var value in new[] { cookie.Value[..^3] + "AAA", "AAAA", "", new string('x', 9_000), "%00" })
        {
            using var forger = new DoorVisitor(server.Address, new HttpClientHandler { AllowAutoRedirect = false, UseCookies = false });
            using var answer = await forger.GetAsync("/settings", ("Cookie", "ember=" + value));
            Assert.Equal(HttpStatusCode.Redirect, answer.StatusCode);
        }
        using var copied = new DoorVisitor(server.Address, new HttpClientHandler { AllowAutoRedirect = false, UseCookies = false });
        Assert.Equal(HttpStatusCode.OK, await copied.StatusAsync("/settings", ("Cookie", "ember=" + cookie.Value)));
    }

    [Fact]
    public async Task Sessions_that_are_ended_end_at_once_and_the_one_that_ended_them_goes_on()
    {
        using var elsewhere = new DoorVisitor(server.Address);
        Assert.True(await elsewhere.SignInAsync("wren ADAIR", DoorVisitor.Password));
        Assert.Equal(HttpStatusCode.OK, await elsewhere.StatusAsync("/settings"));
        using var ended = await owner.PostAsync("/me", "/me?handler=EndSessions");
        Assert.Equal(HttpStatusCode.Redirect, ended.StatusCode);
        Assert.Equal(HttpStatusCode.Redirect, await elsewhere.StatusAsync("/settings"));
        Assert.Equal(HttpStatusCode.OK, await owner.StatusAsync("/settings"));
    }

    [Fact]
    public async Task After_five_wrong_passwords_the_right_one_is_refused_too_until_an_owner_helps()
    {
        using var member = await MemberAsync("Ida Loom", Role.Guest);
        using var guesser = new DoorVisitor(server.Address);
        for (var n = 0; n < 5; n++)
        {
            Assert.False(await guesser.SignInAsync("Ida Loom", "a wrong password"));
        }
        Assert.False(await guesser.SignInAsync("Ida Loom", DoorVisitor.Password));
        var account = Get<Accounts>().Named("Ida Loom")!;
        Assert.Contains("too many wrong passwords", await owner.ReadAsync("/accounts"), StringComparison.Ordinal);
        using var unlocked = await owner.PostAsync("/accounts", "/accounts?handler=Unlock", ("account", $"{account.Id}"));
        Assert.True(await guesser.SignInAsync("Ida Loom", DoorVisitor.Password));
        // Who was signed in already was not put out by the guesser.
        Assert.Equal(HttpStatusCode.OK, await member.StatusAsync(Room("read")));
    }

    [Fact]
    public async Task Wrong_names_and_wrong_passwords_get_the_same_answer()
    {
        using var guesser = new DoorVisitor(server.Address);
        async Task<string> AnswerAsync(string name)
        {
            var said = (await guesser.AskAsync("/sign-in", "/sign-in", ("name", name), ("password", "not the password"))).Said;
            return FormToken().Replace(said.Replace(name, "", StringComparison.Ordinal).Split("<main")[1], "");
        }
        Assert.Equal(await AnswerAsync("Wren Adair"), await AnswerAsync("Nobody Known"));
        Assert.Contains(SigningIn.Refusal, await AnswerAsync("Wren Adair"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Tries_without_end_from_one_address_are_told_to_wait()
    {
        using var guesser = new DoorVisitor(server.Address);
        var answers = new List<HttpStatusCode>();
        for (var n = 0; n < 60 && !answers.Contains(HttpStatusCode.TooManyRequests); n++)
        {
            answers.Add((await guesser.AskAsync("/sign-in", "/sign-in", ("name", $"Name {n}"), ("password", "not the password"))).Status);
        }
        Assert.Contains(HttpStatusCode.TooManyRequests, answers);
        Assert.Equal(HttpStatusCode.OK, await owner.StatusAsync("/settings"));
    }

    [Fact]
    public async Task Who_sends_more_than_hands_can_do_is_told_to_wait_and_others_are_not()
    {
        using var held = await MemberAsync("Hanne Held", Role.Logger);
        using var other = await MemberAsync("Olaf Other", Role.Logger);
        var until = DateTime.UtcNow + Patience.Of(60);
        var answers = new List<HttpStatusCode>();
        do
        {
            answers.AddRange(
                await Task.WhenAll(Enumerable.Range(0, 100).Select(_ => held.SendAsync("/productions/999999/read/1?handler=Keep")))
            );
        } while (!answers.Contains(HttpStatusCode.TooManyRequests) && DateTime.UtcNow < until);
        Assert.Contains(HttpStatusCode.TooManyRequests, answers);
        Assert.True(answers.IndexOf(HttpStatusCode.TooManyRequests) > 900, "what a held key sends is not too much");
        Assert.NotEqual(HttpStatusCode.TooManyRequests, await other.SendAsync("/productions/999999/read/1?handler=Keep"));
        Assert.Equal(HttpStatusCode.OK, await held.StatusAsync("/"));
    }

    [Theory]
    [InlineData("//elsewhere.example/")]
    [InlineData("https://elsewhere.example/")]
    [InlineData("/\\elsewhere.example")]
    [InlineData("javascript:alert(1)")]
    public async Task Signing_in_leads_back_to_this_site_only(string back)
    {
        using var visitor = new DoorVisitor(server.Address);
        using var answer = await visitor.PostAsync(
            "/sign-in",
            "/sign-in",
            ("name", "Wren Adair"),
            ("password", DoorVisitor.Password),
            ("back", back)
        );
        Assert.Equal("/", answer.Headers.Location!.OriginalString);
    }

    [Fact]
    public async Task The_first_owner_is_made_by_the_word_alone_and_once()
    {
        var fresh = Directory.CreateTempSubdirectory("ember-first").FullName;
        await using (var young = await RunningServer.StartAsync(fresh, demo: false, o => o with { Accounts = true }))
        {
            using var taker = new DoorVisitor(young.Address);
            Assert.Equal("/first", (await taker.GetAsync("/sign-in")).Headers.Location!.OriginalString);
            var (status, said) = await taker.AskAsync(
                "/first",
                "/first",
                ("word", "aaaa-aaaa-aaaa-aaaa"),
                ("name", "Mallow"),
                ("password", DoorVisitor.Password),
                ("again", DoorVisitor.Password)
            );
            Assert.Equal(HttpStatusCode.OK, status);
            Assert.Contains("That is not the word", said, StringComparison.Ordinal);
            Assert.True(young.Services.GetRequiredService<FirstOwner>().IsWanted);
            using var first = await DoorVisitor.OwnerAsync(young);
            Assert.Equal("/", (await taker.GetAsync("/first")).Headers.Location!.OriginalString);
            Assert.Single(young.Services.GetRequiredService<Accounts>().All());
        }
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(fresh, recursive: true);
    }

    [Fact]
    public async Task A_link_lets_read_until_it_is_withdrawn_and_signs_what_is_marked()
    {
        var secret = Get<Admitting>().Link(production, Rights.Mark | Rights.Run | Rights.Order, "Screening", 14, "Wren Adair");
        using var viewer = new DoorVisitor(server.Address);
        using var opened = await viewer.GetAsync("/join/" + secret);
        Assert.Equal(Room("shown"), opened.Headers.Location!.OriginalString);
        Assert.Contains("Screening (link)", await viewer.ReadAsync(Room("shown")), StringComparison.Ordinal);
        Assert.Equal(Room("shown"), (await viewer.GetAsync("/")).Headers.Location!.OriginalString);
        foreach (
            var (_, address) in Pages()
                .Where(p =>
                    p.Page.GetCustomAttribute<ByLinkAttribute>() is null && p.Address.StartsWith("/productions", StringComparison.Ordinal)
                )
        )
        {
            Assert.Equal(HttpStatusCode.NotFound, await viewer.StatusAsync(address));
            Assert.Equal(HttpStatusCode.NotFound, (await viewer.AskAsync(Room("shown"), address)).Status);
        }
        Assert.Equal(HttpStatusCode.NotFound, await viewer.StatusAsync(FormattableString.Invariant($"/productions/{other}/shown")));
        Get<Admissions>().Withdraw(Get<Admissions>().OpenOf(production).Single().Id, "Wren Adair");
        Assert.Equal(HttpStatusCode.Redirect, await viewer.StatusAsync(Room("shown")));
        var (status, said) = ((await viewer.GetAsync("/join/" + secret)).StatusCode, await viewer.ReadAsync("/join/" + secret));
        Assert.Equal(HttpStatusCode.Gone, status);
        Assert.Contains("It was withdrawn", said, StringComparison.Ordinal);
    }

    [Fact]
    public async Task An_address_that_lets_nobody_in_says_why_and_is_written_down()
    {
        using var visitor = new DoorVisitor(server.Address);
        Assert.Contains("There is no such address", await visitor.ReadAsync("/join/" + new string('a', 43)), StringComparison.Ordinal);
        var secret = Get<Admitting>().Invite(production, Role.Guest, "Ida Loom", 7, "Wren Adair");
        using var first = await DoorVisitor.JoinAsync(server, secret, "Ida Loom");
        Assert.Contains("It was used already", await visitor.ReadAsync("/join/" + secret), StringComparison.Ordinal);
        Assert.Contains(Get<DoorLog>().Newest(3, productionId: production), l => l.Event == DoorEvent.AdmissionRefused);
    }

    [Fact]
    public async Task A_forgotten_password_is_chosen_anew_by_an_address_that_the_terminal_makes()
    {
        using var told = new StringWriter();
        Assert.Equal(
            0,
            await Commands.CommandLine.RunAsync(["people", "--data", data, "--new-password", "wren adair"], told, CancellationToken.None)
        );
        var path = told.ToString().Trim()[told.ToString().IndexOf("/join/", StringComparison.Ordinal)..];
        using var visitor = new DoorVisitor(server.Address);
        using var kept = await visitor.PostAsync(
            path,
            path + "?handler=Renew",
            ("password", "the tide table on the wall"),
            ("again", "the tide table on the wall")
        );
        Assert.Equal(HttpStatusCode.Redirect, kept.StatusCode);
        Assert.Equal(HttpStatusCode.OK, await visitor.StatusAsync("/settings"));
        Assert.Equal(HttpStatusCode.Redirect, await owner.StatusAsync("/settings"));
        Assert.False(await owner.SignInAsync("Wren Adair", DoorVisitor.Password));
    }

    [Fact]
    public async Task The_log_files_hold_no_names_of_people()
    {
        using var member = await MemberAsync("Zephyrine Quill", Role.Guest);
        Assert.Equal(HttpStatusCode.Forbidden, await member.StatusAsync("/settings"));
        await member.SignInAsync("Zephyrine Quill", "not the password");
        var log = string.Concat(
            Directory
                .EnumerateFiles(Path.Combine(data, "log"))
                .Select(f =>
                {
                    using var file = new StreamReader(new FileStream(f, FileMode.Open, FileAccess.Read, FileShare.ReadWrite));
                    return file.ReadToEnd();
                })
        );
        Assert.DoesNotContain("Zephyrine", log, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Figures_are_for_owners_and_this_machine_itself_and_name_nobody()
    {
        using var member = await MemberAsync("Zephyrine Quill", Role.Producer);
        Assert.Equal(HttpStatusCode.OK, await member.StatusAsync(Room("read")));
        (string, string) proxied = ("X-Forwarded-For", "203.0.113.9");
        Assert.Equal(HttpStatusCode.NotFound, await member.StatusAsync("/metrics", proxied));
        Assert.Equal(HttpStatusCode.OK, await owner.StatusAsync("/metrics", proxied));
        using var machine = new DoorVisitor(server.Address);
        var told = await machine.ReadAsync("/metrics");
        Assert.Contains("ember_work{state=\"failed\"} 0", told, StringComparison.Ordinal);
        Assert.Contains("page=\"productions/{production:long}/read/{sitting:long?}\",status=\"2xx\"", told, StringComparison.Ordinal);
        Assert.Contains("ember_backup_age_seconds -1", told, StringComparison.Ordinal);
        Assert.DoesNotContain("Zephyrine", told, StringComparison.Ordinal);
        Assert.DoesNotContain("Slack", told, StringComparison.Ordinal);
    }

    [GeneratedRegex("__RequestVerificationToken[^>]+")]
    private static partial Regex FormToken();
}
