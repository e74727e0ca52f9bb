using System.CommandLine;
using EmberLane.Application;
using EmberLane.Application.Rooms;
using EmberLane.Core;
using EmberLane.Core.Captions;
using EmberLane.Core.Handoff;
using EmberLane.Core.Time;
using EmberLane.Engines;
using EmberLane.Store;

namespace EmberLane.Web.Commands;

/// <summary>
/// <c>ember handoff --data DIR --production NAME --story NAME --out FOLDER</c>: the package of a story, or some of it. A server may be
/// running on the data.
/// </summary>
internal static class HandoffCommand
{
    private sealed record Asked(
        string Data,
        string Production,
        string Story,
        string Out,
        string? Only,
        string? Rate,
        string? Start,
        ListOptions.Asked Lists,
        CopyOptions.Asked Copy
    );

    public static Command Make(TextWriter output)
    {
        var data = CommandLine.Data();
        var production = new Option<string>("--production")
        {
            Description = "The production.",
            HelpName = "NAME",
            Required = true,
        };
        var story = new Option<string>("--story")
        {
            Description = "The story.",
            HelpName = "NAME",
            Required = true,
        };
        var folder = new Option<string>("--out")
        {
            Description = "The folder that the files are put into.",
            HelpName = "FOLDER",
            Required = true,
        };
        var only = new Option<string?>("--only")
        {
            Description =
                $"Some of it, with commas between: {string.Join(", ", PackagePart.All.Select(p => p.Name))}; "
                + $"or copies to hear and see: {string.Join(", ", CopyOptions.Names)}.",
            HelpName = "PARTS",
        };
        var rate = new Option<string?>("--rate")
        {
            Description = "Frames a second: 23.976, 24, 25, 29.97, 29.97df, 30, 48, 50, 59.94, 59.94df, 60. Else as the story is counted.",
            HelpName = "RATE",
        };
        var start = new Option<string?>("--start") { Description = "The timecode of the first frame.", HelpName = "01:00:00:00" };
        var lists = new ListOptions();
        var copy = new CopyOptions();
        var command = new Command("handoff", "A package of a story that an editor opens.")
        {
            data,
            production,
            story,
            folder,
            only,
            rate,
            start,
        };
        lists.AddTo(command);
        copy.AddTo(command);
        command.SetAction(
            (asked, cancel) =>
                RunAsync(
                    new Asked(
                        asked.GetValue(data)!,
                        asked.GetValue(production)!,
                        asked.GetValue(story)!,
                        asked.GetValue(folder)!,
                        asked.GetValue(only),
                        asked.GetValue(rate),
                        asked.GetValue(start),
                        lists.Of(asked),
                        copy.Of(asked)
                    ),
                    output,
                    cancel
                )
        );
        return command;
    }

    private static async Task<int> RunAsync(Asked asked, TextWriter output, CancellationToken cancel)
    {
        if (!File.Exists(Path.Combine(asked.Data, "ember.sqlite")))
        {
            throw new StoreException($"{asked.Data} holds no database. Name the data folder of your server with --data.");
        }
        try
        {
            var only = (asked.Only ?? "").Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
            var copies = only.Intersect(CopyOptions.Names).ToList();
            var named = only.Except(copies).ToList();
            var parts = copies.Count > 0 && named.Count == 0 ? [] : PackagePart.Named(named);
            var wishes = copies.ConvertAll(name => (Name: name, Wish: asked.Copy.WishOf(name).Check()));
            await using var services = new ServiceCollection()
                .AddLogging()
                .AddRooms(new Options { Data = asked.Data })
                .BuildServiceProvider();
            services.GetRequiredService<Readings>().MakeFirst();
            var (production, story) = Found(services, asked);
            var desk = services.GetRequiredService<HandoffDesk>();
            var counted = Counted(story, asked);
            var handed = await HandoffDesk.WithSumsAsync(
                desk.Of(production, counted, asked.Lists.WayOf(counted.Start.Count) with { Shape = asked.Copy.Narrower }),
                cancel
            );
            var files = HandoffDesk.Files(handed, parts, handed.Setup.Rules);
            var made = new List<WrittenFile>();
            foreach (var (name, wish) in wishes)
            {
                var file = Path.Combine(asked.Out, handed.Stem + wish.Ending);
                var result = await services.GetRequiredService<CopyDesk>().MakeAsync(production, counted, wish, file, null, cancel);
                await output.WriteLineAsync($"{Path.GetFileName(file)}: {wish.Says}; {CopyOptions.Told(result.Loudness)}");
                made.Add(await PackageFolder.WrittenAsync(file, cancel));
            }
            List<PackageFile> all = [.. files, HandoffDesk.ManifestOf(handed, files.Select(f => f.Written).Concat(made))];
            PackageFolder.Write(asked.Out, all);
            var checks = handed.Checks.Concat(HandoffChecks.Of(handed, handed.Setup.Rules)).Append(desk.ClippedWords(counted));
            foreach (var check in checks.Where(c => !c.Fine))
            {
                await output.WriteLineAsync($"Mind: {check.Title}. {check.Detail}");
            }
            await output.WriteLineAsync($"{Many.Of(all.Count + made.Count, "file")} in {asked.Out}");
            return 0;
        }
        catch (Exception refused) when (refused is EditRefusedException or FormatException)
        {
            throw new ArgumentException(refused.Message, refused);
        }
        catch (Exception failed) when (failed is ToolException or FileNotFoundException)
        {
            throw new IOException(failed.Message, failed);
        }
    }

    private static (Production Production, StoredStory Story) Found(ServiceProvider services, Asked asked)
    {
        var productions = services.GetRequiredService<Productions>().All();
        var production =
            Of(productions, asked.Production, p => p.Name)
            ?? throw new ArgumentException(
                $"There is no production called “{asked.Production}” in {asked.Data}. There are: {Named(productions.Select(p => p.Name))}."
            );
        var stories = services.GetRequiredService<Store.Stories>();
        var heads = stories.Of(production.Id);
        var head =
            Of(heads, asked.Story, s => s.Title)
            ?? throw new ArgumentException(
                $"There is no story called “{asked.Story}” in {production.Name}. There are: {Named(heads.Select(s => s.Title))}."
            );
        return (production, stories.Get(head.Id, "")!);

        // As it is typed before any other case of it.
        static T? Of<T>(IReadOnlyList<T> all, string name, Func<T, string> nameOf)
            where T : class =>
            all.FirstOrDefault(a => nameOf(a) == name)
            ?? all.FirstOrDefault(a => nameOf(a).Equals(name.Trim(), StringComparison.OrdinalIgnoreCase));

        static string Named(IEnumerable<string> names) => names.Any() ? string.Join(", ", names.Select(n => $"“{n}”")) : "none";
    }

    private static StoredStory Counted(StoredStory story, Asked asked)
    {
        var count = asked.Rate is { } rate ? CountOf(rate) : story.Start.Count;
        var start = asked.Start ?? (count == story.Start.Count ? story.Start.ToString() : "01:00:00:00");
        return story with { Story = story.Story with { Start = count.Parse(start) } };
    }

    private static TimecodeCount CountOf(string text)
    {
        var drop = text.EndsWith("df", StringComparison.OrdinalIgnoreCase);
        return
            FrameRate.TryParse(drop ? text[..^2] : text, out var rate)
            && FrameRate.Supported.Contains(rate.Value)
            && (!drop || TimecodeCount.CanDrop(rate.Value))
            ? new TimecodeCount(rate.Value, drop)
            : throw new FormatException(
                $"“{text}” is not a rate that lists are written at. Known are "
                    + "23.976, 24, 25, 29.97, 29.97df, 30, 48, 50, 59.94, 59.94df, 60."
            );
    }
}
