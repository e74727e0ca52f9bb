using System.Text.Json;
using EmberLane.Application.Demo;

namespace EmberLane.Bench;

/// <summary>The demonstration footage laid out in a folder that goes away, with its truth.</summary>
internal sealed class DemoFootage : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-bench").FullName;
    private readonly string footage;

    private DemoFootage(string footage) => this.footage = footage;

    public static async Task<DemoFootage> LayOutAsync(string repository)
    {
        var laid = new DemoFootage(Path.Combine(repository, "demo", "footage"));
        foreach (var sheet in Directory.EnumerateFiles(laid.footage, "*.recorder.json"))
        {
            await RecorderFile.WriteAsync(sheet, laid.folder, CancellationToken.None);
        }
        return laid;
    }

    public string Work(string name) => Path.Combine(folder, name);

    public string Find(string file) => File.Exists(Work(file)) ? Work(file) : Path.Combine(footage, file);

    /// <summary>The sittings: title, the file whose sound is read, its words, and the clips with their true offsets and drifts.</summary>
    public IEnumerable<(
        string Title,
        string Reference,
        List<string> Words,
        List<(string File, double Offset, double Ppm)> Clips
    )> Truths() =>
        Directory
            .EnumerateFiles(footage, "*.truth.json")
            .Order(StringComparer.Ordinal)
            .Select(f =>
            {
                using var json = JsonDocument.Parse(File.ReadAllText(f));
                var root = json.RootElement;
                return (
                    root.GetProperty("sitting").GetString()!,
                    root.GetProperty("reference").GetString()!,
                    root.GetProperty("words").EnumerateArray().Select(w => w.GetProperty("t").GetString()!).ToList(),
                    root.GetProperty("clips")
                        .EnumerateArray()
                        .Select(c =>
                            (
                                c.GetProperty("file").GetString()!,
                                c.GetProperty("offsetSeconds").GetDouble(),
                                c.GetProperty("driftPpm").GetDouble()
                            )
                        )
                        .ToList()
                );
            });

    public void Dispose() => Directory.Delete(folder, recursive: true);
}
