using Microsoft.AspNetCore.Razor.TagHelpers;

namespace EmberLane.Web.Rooms;

/// <summary><c>&lt;key of="read.keep"/&gt;</c>: the key of a command, as a hint on its button.</summary>
[HtmlTargetElement("key", TagStructure = TagStructure.NormalOrSelfClosing)]
public sealed class KeyTagHelper : TagHelper
{
    /// <summary>The command's place and name, with a stop between.</summary>
    public string Of { get; set; } = "";

    /// <inheritdoc/>
    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        var (place, name) = (Of[..Of.IndexOf('.', StringComparison.Ordinal)], Of[(Of.IndexOf('.', StringComparison.Ordinal) + 1)..]);
        output.TagName = "kbd";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Content.SetContent(string.Concat(CommandTable.Shown(CommandTable.Find(place, name).Keys[0]).Select(Short)));
    }

    // A button has little room.
    private static string Short(string part) =>
        part switch
        {
            "Shift" => "⇧",
            "Enter" => "⏎",
            _ => part,
        };
}
