using System.Reflection;
using System.Text.Json;
using EmberLane.Running;
using EmberLane.Web.Rooms;

namespace EmberLane.Web.Tests;

/// <summary>The table of commands, and that pages and scripts hold to it.</summary>
public sealed class CommandTableTests
{
    private static readonly string Web = Path.Combine(RunningServer.Repository, "src", "EmberLane.Web");

    public static TheoryData<string> Where() =>
        [.. typeof(CommandPlaces).GetFields(BindingFlags.Public | BindingFlags.Static).Select(f => (string)f.GetRawConstantValue()!)];

    [Theory]
    [MemberData(nameof(Where))]
    public void In_a_place_no_key_and_no_name_means_two_things(string place)
    {
        var here = CommandTable.In(place).ToList();
        Assert.NotEmpty(here);
        Assert.Equal(here.Count, here.Select(c => c.Name).Distinct().Count());
        var keys = here.SelectMany(c => c.Keys).ToList();
        Assert.Equal(keys.Count, keys.Distinct().Count());
        Assert.All(here, c => Assert.Same(c, CommandTable.Find(place, c.Name)));
        Assert.Equal(
            here.Select(c => c.Name),
            JsonDocument.Parse(CommandTable.Json(place)).RootElement.EnumerateArray().Select(c => c.GetProperty("name").GetString())
        );
    }

    [Theory]
    [InlineData("Shift+F", "Shift F")]
    [InlineData("ArrowLeft", "←")]
    [InlineData("+", "+")]
    [InlineData("-", "−")]
    [InlineData("1–9", "1–9")]
    public void Keys_are_shown_as_they_stand_on_a_keyboard(string key, string shown) =>
        Assert.Equal(shown, string.Join(' ', CommandTable.Shown(key)));

    [Fact]
    public void A_hint_of_a_command_that_is_not_there_is_a_fault() =>
        Assert.Throws<ArgumentException>(() => CommandTable.Find(CommandPlaces.Bites, "keep"));

    [Fact]
    public void Every_command_is_done_by_a_script_or_by_a_button_and_no_page_writes_a_key_by_itself()
    {
        var scripts = Texts("wwwroot/js", "*.js");
        var pages = Texts("Pages", "*.cshtml");
        Assert.All(
            CommandTable.All,
            c =>
                Assert.True(
                    scripts.Any(s =>
                        s.Contains($"  {c.Name}: ", StringComparison.Ordinal) || s.Contains($"  {c.Name},", StringComparison.Ordinal)
                    )
                        || scripts.Any(s => s.Contains($"\"{c.Name}\": ", StringComparison.Ordinal))
                        || pages.Any(p => p.Contains($"data-action=\"{c.Name}\"", StringComparison.Ordinal)),
                    $"{c.Place}.{c.Name}"
                )
        );
        Assert.DoesNotContain(pages, p => p.Contains("<kbd>U</kbd>", StringComparison.Ordinal));
    }

    private static List<string> Texts(string folder, string which) =>
        [.. Directory.EnumerateFiles(Path.Combine(Web, folder), which, SearchOption.AllDirectories).Select(File.ReadAllText)];
}
