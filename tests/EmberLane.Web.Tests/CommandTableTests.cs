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

    [Theory]
    [InlineData(CommandPlaces.Everywhere, "app.js", "undo.js")]
    [InlineData(CommandPlaces.Gather, "gather.js")]
    [InlineData(CommandPlaces.Files, "files.js")]
    [InlineData(CommandPlaces.Watch, "watch.js")]
    [InlineData(CommandPlaces.Read, "read.js")]
    [InlineData(CommandPlaces.Bites, "bites.js")]
    [InlineData(CommandPlaces.Story, "story.js")]
    public void Every_command_of_a_place_is_named_in_its_own_script(string place, params string[] scripts)
    {
        var text = string.Concat(scripts.Select(s => File.ReadAllText(Path.Combine(Web, "wwwroot", "js", s))));
        var named = CommandTable.All.Where(c => c.Place == place).Select(c => c.Name).ToList();
        Assert.NotEmpty(named);
        Assert.All(named, n => Assert.Matches($"(?m)(^\\s+{n}: |\"{n}\")", text));
    }

    [Fact]
    public void No_page_writes_a_key_of_a_command_by_itself() =>
        Assert.DoesNotContain(Texts("Pages", "*.cshtml"), p => p.Contains("<kbd>U</kbd>", StringComparison.Ordinal));

    private static List<string> Texts(string folder, string which) =>
        [.. Directory.EnumerateFiles(Path.Combine(Web, folder), which, SearchOption.AllDirectories).Select(File.ReadAllText)];
}
