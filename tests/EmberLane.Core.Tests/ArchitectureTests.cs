using System.Reflection;
using System.Text.RegularExpressions;

namespace EmberLane.Core.Tests;

public sealed partial class ArchitectureTests
{
    private static readonly string[] Outside =
    [
        "EmberLane.Engines",
        "EmberLane.Store",
        "EmberLane.Application",
        "EmberLane.Web",
        "Microsoft.Data.Sqlite",
        "CliWrap",
        "Microsoft.AspNetCore",
    ];

    private static IEnumerable<string> UsedBy(Type type) => type.Assembly.GetReferencedAssemblies().Select(a => a.Name!);

    [Fact]
    public void The_core_knows_nothing_of_store_engines_web_SQL_or_processes() =>
        Assert.DoesNotContain(
            UsedBy(typeof(MediaTime)),
            name =>
                Outside.Any(o => name.StartsWith(o, StringComparison.Ordinal))
                || name is "System.Data.Common" or "System.Diagnostics.Process"
        );

    [Fact]
    public void Engines_and_store_do_not_know_each_other_nor_the_web()
    {
        Assert.DoesNotContain(UsedBy(typeof(Engines.Ffmpeg)), n => n is "EmberLane.Store" or "EmberLane.Application" or "EmberLane.Web");
        Assert.DoesNotContain(UsedBy(typeof(Store.Database)), n => n is "EmberLane.Engines" or "EmberLane.Application" or "EmberLane.Web");
    }

    [Fact]
    public void What_the_rooms_do_knows_neither_pages_nor_the_web_server_nor_the_queue()
    {
        var used = UsedBy(typeof(Application.Options)).ToList();
        Assert.Contains("EmberLane.Store", used);
        Assert.DoesNotContain(
            used,
            n =>
                n is "EmberLane.Web" or "EmberLane.Queue"
                || n.StartsWith("Microsoft.AspNetCore", StringComparison.Ordinal)
                || n.StartsWith("NATS.", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void No_type_of_the_core_holds_time_as_a_double() =>
        Assert.DoesNotContain(
            typeof(MediaTime)
                .Assembly.GetTypes()
                .Where(t =>
                    t.Namespace
                        is "EmberLane.Core.Time"
                            or "EmberLane.Core.Stories"
                            or "EmberLane.Core.Handoff"
                            or "EmberLane.Core.Transcripts"
                            or "EmberLane.Core.Bites"
                )
                .SelectMany(t => t.GetFields(BindingFlags.Instance | BindingFlags.Static | BindingFlags.Public | BindingFlags.NonPublic)),
            f => f.FieldType == typeof(double) || f.FieldType == typeof(float)
        );

    private const int Widest = 140;

    private static readonly string[] Made = ["bin", "obj", "lib", "node_modules", "screenshots"];

    [Fact]
    public void A_namespace_is_that_of_its_whole_file()
    {
        var files = Written().Files.Where(f => f.EndsWith(".cs", StringComparison.Ordinal)).ToList();
        Assert.True(files.Count > 300, $"only {files.Count} files were found");
        Assert.DoesNotContain(
            files.SelectMany(File.ReadLines),
            l => l.StartsWith("namespace ", StringComparison.Ordinal) && !l.EndsWith(';')
        );
    }

    [Fact]
    public void No_line_of_code_pages_or_styles_is_wider_than_140_columns()
    {
        var (root, files) = Written();
        Assert.True(files.Count > 300, $"only {files.Count} files were found");
        Assert.Empty(
            files.SelectMany(f =>
                File.ReadLines(f)
                    .Index()
                    .Where(l => l.Item.Length > Widest)
                    .Select(l => $"{Path.GetRelativePath(root, f)}:{l.Index + 1} has {l.Item.Length} columns")
            )
        );
    }

    [Fact]
    public void Views_are_markup_that_shows_what_their_model_has_worked_out()
    {
        var (root, files) = Written();
        var views = files.Where(f => f.EndsWith(".cshtml", StringComparison.Ordinal)).ToList();
        Assert.True(views.Count > 40, $"only {views.Count} views were found");
        Assert.Empty(
            views.SelectMany(f =>
                File.ReadLines(f)
                    .Index()
                    .Where(l => Reckons().IsMatch(l.Item))
                    .Select(l => $"{Path.GetRelativePath(root, f)}:{l.Index + 1} {l.Item.Trim()}")
            )
        );
    }

    // A function, or figures of a list.
    [GeneratedRegex(
        @"@functions|^\s*(static\s+)?[\w<>?.]+\s+\w+\([^()]*\)\s*(=>|$)"
            + @"|\.(GroupBy|OrderBy\w*|Aggregate|Sum|Average|Zip|ToDictionary|ToLookup)\("
    )]
    private static partial Regex Reckons();

    // What people write: code, pages, scripts, styles and SQL.
    private static (string Root, List<string> Files) Written()
    {
        var root = new DirectoryInfo(AppContext.BaseDirectory);
        while (root.GetFiles("EmberLane.slnx").Length == 0)
        {
            root = root.Parent ?? throw new InvalidOperationException("The tests do not run within the project's folder.");
        }
        var files = new[] { "src", "tests", "bench", "demo" }
            .SelectMany(f => Directory.EnumerateFiles(Path.Combine(root.FullName, f), "*", SearchOption.AllDirectories))
            .Where(f => Path.GetExtension(f) is ".cs" or ".cshtml" or ".js" or ".css" or ".sql")
            .Where(f => !Path.GetRelativePath(root.FullName, f).Split(Path.DirectorySeparatorChar).Any(Made.Contains))
            .ToList();
        return (root.FullName, files);
    }
}
