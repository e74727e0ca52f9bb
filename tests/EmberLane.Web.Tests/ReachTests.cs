using System.Net;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using EmberLane.Running;
using EmberLane.Store;
using EmberLane.Web.Access;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Web.Tests;

/// <summary>From where the server is reached, by which name, and encrypted by what.</summary>
public sealed class ReachTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-reach").FullName;

    public void Dispose()
    {
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private string Data => Path.Combine(folder, "data");

    // A certificate of this test's own, valid for so many days from yesterday.
    private (string Chain, string Key) Certificate(int days = 30, bool named = true, string name = "localhost", string file = "own")
    {
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        var request = new CertificateRequest("CN=Ember Lane test", key, HashAlgorithmName.SHA256);
        if (named)
        {
            var names = new SubjectAlternativeNameBuilder();
            names.AddDnsName(name);
            names.AddDnsName("*.ferry.example");
            request.CertificateExtensions.Add(names.Build());
        }
        using var made = request.CreateSelfSigned(DateTimeOffset.UtcNow.AddDays(-60), DateTimeOffset.UtcNow.AddDays(days));
        var (chain, secret) = (Path.Combine(folder, file + ".pem"), Path.Combine(folder, file + ".key"));
        File.WriteAllText(chain, made.ExportCertificatePem());
        File.WriteAllText(secret, key.ExportPkcs8PrivateKeyPem());
        return (chain, secret);
    }

    [Theory]
    [InlineData("--certificate", "serve", "--address", "0.0.0.0")]
    [InlineData("--certificate", "serve", "--address", "192.168.7.20", "--accounts")]
    [InlineData("no address of this machine", "serve", "--address", "studio.example")]
    [InlineData("--key goes with", "serve", "--key", "/dev/null")]
    [InlineData("there is no such file", "serve", "--certificate", "/nowhere/chain.pem")]
    [InlineData("without a path", "serve", "--behind", "http://ember.example")]
    [InlineData("without a path", "serve", "--behind", "https://ember.example/lane")]
    [InlineData("address that people open", "serve", "--behind", "ember example")]
    [InlineData("needs --proxy", "serve", "--address", "0.0.0.0", "--behind", "https://ember.example")]
    [InlineData("--proxy goes with", "serve", "--proxy", "10.0.0.2")]
    [InlineData("number of the address", "serve", "--behind", "https://ember.example", "--proxy", "gate.example")]
    [InlineData("Either", "serve", "--behind", "https://ember.example", "--certificate", "/dev/null")]
    public async Task A_server_that_others_could_listen_in_on_is_not_started(string reason, params string[] arguments)
    {
        var refused = await Assert.ThrowsAsync<ArgumentException>(() =>
            Commands.CommandLine.RunAsync([.. arguments, "--data", Data], TextWriter.Null, CancellationToken.None)
        );
        Assert.Contains(reason, refused.Message, StringComparison.Ordinal);
        Assert.False(Directory.Exists(Data));
    }

    [Theory]
    [InlineData("localhost", true)]
    [InlineData("127.0.0.1", true)]
    [InlineData("tern.ferry.example", true)]
    [InlineData("TERN.ferry.EXAMPLE", true)]
    [InlineData("a.tern.ferry.example", false)]
    [InlineData("ferry.example", false)]
    [InlineData("ferry.example.elsewhere.example", false)]
    [InlineData("10.0.0.7", true)]
    [InlineData("[fd00::7]", true)]
    public void It_answers_to_the_names_of_its_certificate_only(string host, bool answers) =>
        Assert.Equal(answers, Reach.AnswersTo(host, new Options { Data = Data }, ["*.ferry.example", "10.0.0.7", "fd00::7"]));

    [Fact]
    public async Task With_a_certificate_it_speaks_TLS_and_its_cookies_go_over_nothing_else()
    {
        var (chain, key) = Certificate();
        await using var server = await RunningServer.StartAsync(
            Data,
            demo: false,
            o => o with { Certificate = chain, CertificateKey = key }
        );
        var cookies = new CookieContainer();
        using var handler = new HttpClientHandler { AllowAutoRedirect = false, CookieContainer = cookies };
        handler.ServerCertificateCustomValidationCallback = (_, sent, _, _) =>
            sent!.ExportCertificatePem() == File.ReadAllText(chain).TrimEnd('\n');
        var address = FormattableString.Invariant($"https://localhost:{server.Options.Port}");
        using var visitor = new DoorVisitor(address, handler);
        using var made = await visitor.PostAsync(
            "/first",
            "/first",
            ("word", server.Services.GetRequiredService<FirstOwner>().Word),
            ("name", "Wren Adair"),
            ("password", DoorVisitor.Password),
            ("again", DoorVisitor.Password)
        );
        Assert.Equal(HttpStatusCode.Redirect, made.StatusCode);
        var kept = cookies.GetCookies(new Uri(address))["__Host-ember"]!;
        Assert.True(kept.Secure && kept.HttpOnly && kept.Path == "/");
        Assert.All(cookies.GetAllCookies().Where(c => c.Name.Contains("ntiforgery", StringComparison.Ordinal)), c => Assert.True(c.Secure));
        Assert.Equal(HttpStatusCode.OK, await visitor.StatusAsync("/settings"));
        Assert.Equal(HttpStatusCode.MisdirectedRequest, await visitor.StatusAsync("/settings", ("Host", "elsewhere.example")));
        using var hosted = await visitor.GetAsync("/settings", ("Host", "tern.ferry.example"));
        Assert.Contains("max-age", hosted.Headers.GetValues("Strict-Transport-Security").Single(), StringComparison.Ordinal);
        using var plain = new HttpClient();
        await Assert.ThrowsAnyAsync<HttpRequestException>(() => plain.GetAsync(new Uri($"http://localhost:{server.Options.Port}/")));
    }

    [Fact]
    public void A_renewed_certificate_is_taken_while_the_server_runs_and_a_broken_one_is_not()
    {
        var clock = new MovedClock();
        var (chain, key) = Certificate();
        var served = new ServerCertificate(chain, key, clock);
        var first = served.Now().Thumbprint;
        Certificate(days: 60);
        File.SetLastWriteTimeUtc(chain, DateTime.UtcNow.AddSeconds(5));
        Assert.Equal(first, served.Now().Thumbprint);
        clock.Now += TimeSpan.FromMinutes(2);
        var second = served.Now().Thumbprint;
        Assert.NotEqual(first, second);
        File.WriteAllText(chain, "-----BEGIN CERTIFICATE-----\nhalf");
        File.SetLastWriteTimeUtc(chain, DateTime.UtcNow.AddSeconds(10));
        clock.Now += TimeSpan.FromMinutes(2);
        Assert.Equal(second, served.Now().Thumbprint);
    }

    private sealed class MovedClock : TimeProvider
    {
        public DateTimeOffset Now { get; set; } = DateTimeOffset.UtcNow;

        public override DateTimeOffset GetUtcNow() => Now;
    }

    [Fact]
    public void A_certificate_that_no_browser_takes_is_refused_with_the_reason()
    {
        string Why(string chain, string? key) =>
            Assert.Throws<StoreException>(() => new ServerCertificate(chain, key, TimeProvider.System)).Message;
        var (own, key) = Certificate();
        var (expired, expiredKey) = Certificate(days: -1, file: "old");
        var (unnamed, unnamedKey) = Certificate(named: false, file: "unnamed");
        Assert.Contains("has expired", Why(expired, expiredKey), StringComparison.Ordinal);
        Assert.Contains("names no host", Why(unnamed, unnamedKey), StringComparison.Ordinal);
        Assert.Contains("PEM", Why(own, expiredKey), StringComparison.Ordinal);
        Assert.Contains("PEM", Why(own, null), StringComparison.Ordinal);
        File.WriteAllBytes(Path.Combine(folder, "noise.pem"), RandomNumberGenerator.GetBytes(5_000));
        Assert.Contains("PEM", Why(Path.Combine(folder, "noise.pem"), key), StringComparison.Ordinal);
        Assert.Contains("PEM", Why(Path.Combine(folder, "nowhere.pem"), key), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Behind_a_proxy_only_that_is_answered_and_only_what_came_by_https()
    {
        await using var server = await RunningServer.StartAsync(
            Data,
            demo: false,
            o => o with { Behind = new Uri("https://ember.example") }
        );
        using var proxy = new DoorVisitor(server.Address, new HttpClientHandler { AllowAutoRedirect = false, UseCookies = false });
        (string, string) tls = ("X-Forwarded-Proto", "https"),
            host = ("Host", "ember.example");
        Assert.Equal(HttpStatusCode.OK, await proxy.StatusAsync("/first", tls, host, ("X-Forwarded-For", "203.0.113.9")));
        Assert.Equal(HttpStatusCode.Forbidden, await proxy.StatusAsync("/first", host));
        Assert.Equal(HttpStatusCode.Forbidden, await proxy.StatusAsync("/first", ("X-Forwarded-Proto", "http"), host));
        Assert.Equal(HttpStatusCode.MisdirectedRequest, await proxy.StatusAsync("/first", tls, ("Host", "elsewhere.example")));
        using var form = await proxy.GetAsync("/first", tls, host);
        Assert.All(form.Headers.GetValues("Set-Cookie"), c => Assert.Contains("secure", c, StringComparison.Ordinal));
    }

    [Fact]
    public async Task Behind_a_proxy_elsewhere_this_machine_itself_is_not_answered_either()
    {
        await using var server = await RunningServer.StartAsync(
            Data,
            demo: false,
            o => o with { Behind = new Uri("https://ember.example"), Proxy = IPAddress.Parse("203.0.113.1") }
        );
        using var visitor = new DoorVisitor(server.Address);
        Assert.Equal(HttpStatusCode.Forbidden, await visitor.StatusAsync("/first", ("X-Forwarded-Proto", "https")));
        await RunningServer.UntilAsync(() => server.Services.GetRequiredService<WarmUp>().Done, "the warm-up");
        Assert.Equal(HttpStatusCode.OK, await visitor.StatusAsync("/healthz"));
    }
}
