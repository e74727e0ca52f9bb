using System.Net;
using System.Text.RegularExpressions;
using EmberLane.Running;
using EmberLane.Web.Access;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Web.Tests;

/// <summary>
/// Somebody with a browser of their own, as far as the server sees: cookies, forms, and nothing that is followed by itself.
/// </summary>
internal sealed partial class DoorVisitor : IDisposable
{
    public const string Password = "seven herons at dusk";

    private readonly HttpClient client;

    public DoorVisitor(string address, HttpMessageHandler? handler = null) =>
        client = new HttpClient(handler ?? new HttpClientHandler { AllowAutoRedirect = false, CookieContainer = Cookies })
        {
            BaseAddress = new Uri(address),
        };

    public CookieContainer Cookies { get; } = new();

    /// <summary>The first owner of a server.</summary>
    public static async Task<DoorVisitor> OwnerAsync(RunningServer server, string name = "Wren Adair")
    {
        var visitor = new DoorVisitor(server.Address);
        var word = server.Services.GetRequiredService<FirstOwner>().Word;
        using var made = await visitor.PostAsync(
            "/first",
            "/first",
            ("word", word),
            ("name", name),
            ("password", Password),
            ("again", Password)
        );
        Assert.Equal(HttpStatusCode.Redirect, made.StatusCode);
        return visitor;
    }

    /// <summary>Somebody who makes an account by an address that they were given.</summary>
    public static async Task<DoorVisitor> JoinAsync(RunningServer server, string secret, string name)
    {
        var visitor = new DoorVisitor(server.Address);
        using var made = await visitor.PostAsync(
            "/join/" + secret,
            "/join/" + secret,
            ("name", name),
            ("password", Password),
            ("again", Password)
        );
        Assert.Equal(HttpStatusCode.Redirect, made.StatusCode);
        return visitor;
    }

    /// <summary>Sends a change without a form; what the answer is.</summary>
    public async Task<HttpStatusCode> SendAsync(string path)
    {
        using var answer = await client.PostAsync(new Uri(path, UriKind.Relative), null);
        return answer.StatusCode;
    }

    /// <summary>Signs in; whether it was let in.</summary>
    public async Task<bool> SignInAsync(string name, string password)
    {
        using var answer = await PostAsync("/sign-in", "/sign-in", ("name", name), ("password", password));
        return answer.StatusCode == HttpStatusCode.Redirect;
    }

    public async Task<HttpResponseMessage> GetAsync(string path, params (string Name, string Value)[] headers)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, new Uri(path, UriKind.Relative));
        foreach (var (name, value) in headers)
        {
            request.Headers.Add(name, value);
        }
        return await client.SendAsync(request, TestContext.Current.CancellationToken);
    }

    public async Task<string> ReadAsync(string path)
    {
        using var answer = await GetAsync(path);
        return WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken));
    }

    public async Task<HttpStatusCode> StatusAsync(string path, params (string Name, string Value)[] headers)
    {
        using var answer = await GetAsync(path, headers);
        return answer.StatusCode;
    }

    /// <summary>Sends a form of the page at <paramref name="from"/>.</summary>
    public async Task<HttpResponseMessage> PostAsync(string from, string path, params (string Name, string Value)[] fields)
    {
        var token = Token().Match(await ReadAsync(from)).Groups[1].Value;
        using var form = new FormUrlEncodedContent(
            fields.Select(f => KeyValuePair.Create(f.Name, f.Value)).Append(KeyValuePair.Create("__RequestVerificationToken", token))
        );
        return await client.PostAsync(new Uri(path, UriKind.Relative), form, TestContext.Current.CancellationToken);
    }

    /// <summary>As <see cref="PostAsync"/>, from a part of a page; what was answered, in words.</summary>
    public async Task<(HttpStatusCode Status, string Said)> AskAsync(string from, string path, params (string Name, string Value)[] fields)
    {
        using var answer = await PostAsync(from, path, fields);
        return (answer.StatusCode, WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)));
    }

    public void Dispose() => client.Dispose();

    [GeneratedRegex("\"RequestVerificationToken\":\"([^\"]+)")]
    private static partial Regex Token();
}
