using System.Collections.Concurrent;
using System.Text.RegularExpressions;
using EmberLane.Core.People;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.AspNetCore.Mvc.ViewFeatures;
using Microsoft.AspNetCore.Razor.TagHelpers;

namespace EmberLane.Web.Access;

/// <summary>
/// Leaves out of a room's page what whoever looks at it may not do: buttons and links go, a form keeps what it shows without its buttons.
/// What is left out is refused all the same (<see cref="PageGate"/>); this only spares people the refusal.
/// </summary>
[HtmlTargetElement("form", Attributes = "method")]
[HtmlTargetElement("form", Attributes = "hx-post")]
[HtmlTargetElement("button", Attributes = "hx-post")]
[HtmlTargetElement("a", Attributes = "[href^='?handler=']")]
[HtmlTargetElement("a", Attributes = "may")]
public sealed partial class YoursTagHelper : TagHelper
{
    private static readonly ConcurrentDictionary<(CompiledPageActionDescriptor, string, string), Rights> Needed = new();

    /// <summary>On a link to another page: what that takes.</summary>
    public Rights? May { get; set; }

    /// <summary>The page that is made.</summary>
    [ViewContext]
    [HtmlAttributeNotBound]
    public ViewContext ViewContext { get; set; } = null!;

    /// <summary>After those that make a form's address.</summary>
    public override int Order => 1_000;

    /// <inheritdoc/>
    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        var http = ViewContext.HttpContext;
        if (
            Visitor.Of(http) is not { IsOwner: false } visitor
            || !http.Request.RouteValues.ContainsKey("production")
            || http.GetEndpoint()?.Metadata.GetMetadata<CompiledPageActionDescriptor>() is not { } page
            || NeededFor(context, page) is not { } needed
            || Gate.RightsAt(visitor, page.HandlerTypeInfo, http.Request.RouteValues).HasAny(needed)
        )
        {
            return;
        }
        if (context.TagName == "form")
        {
            output.Attributes.SetAttribute("class", (output.Attributes["class"]?.Value + " not-yours").Trim());
        }
        else
        {
            output.SuppressOutput();
        }
    }

    private Rights? NeededFor(TagHelperContext context, CompiledPageActionDescriptor page) =>
        May ?? (Asked(context) is var (method, name) ? Needed.GetOrAdd((page, method, name), Find) : null);

    // The handler of this very page that a form, a button or a link asks for; null where it asks for nothing, or for another page.
    private static (string Method, string Name)? Asked(TagHelperContext context)
    {
        string? Value(string name) => context.AllAttributes.TryGetAttribute(name, out var found) ? found.Value?.ToString() : null;
        if (Value("href") is { } href)
        {
            return (HttpMethods.Get, HandlerOf(href));
        }
        if (Value("hx-post") is { } posted)
        {
            return posted.StartsWith('?') ? (HttpMethods.Post, HandlerOf(posted)) : null;
        }
        return Value("method") is not "post" ? null
            : Value("asp-page-handler") is { } handler ? (HttpMethods.Post, handler)
            : Value("action") is not { } action ? (HttpMethods.Post, "")
            : action.StartsWith('?') ? (HttpMethods.Post, HandlerOf(action))
            : null;
    }

    private static string HandlerOf(string address) => HandlerName().Match(address).Groups[1].Value;

    private static Rights Find((CompiledPageActionDescriptor Page, string Method, string Name) asked) =>
        asked.Page.HandlerMethods.FirstOrDefault(h =>
            string.Equals(h.HttpMethod, asked.Method, StringComparison.OrdinalIgnoreCase)
            && string.Equals(h.Name ?? "", asked.Name, StringComparison.OrdinalIgnoreCase)
        )
            is { } handler
            ? Gate.NeededBy(handler.MethodInfo, asked.Page.HandlerTypeInfo, asked.Method)
            : Rights.All;

    [GeneratedRegex("[?&]handler=([A-Za-z]+)")]
    private static partial Regex HandlerName();
}
