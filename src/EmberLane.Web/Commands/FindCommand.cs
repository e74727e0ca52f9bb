using System.Buffers;
using System.CommandLine;
using System.Diagnostics;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using EmberLane.Application.Backups;
using EmberLane.Core.Finding;
using EmberLane.Engines.Speech;
using EmberLane.Store;
using EmberLane.Web.Rooms;

namespace EmberLane.Web.Commands;

/// <summary>
/// <c>ember find QUESTION --data DIR [--production NAME] [--rough] [--limit N] [--json]</c>: where something was said, written or named, in
/// all productions of a data folder. A server may be running on it.
/// </summary>
internal static class FindCommand
{
    private const int First = 50,
        Most = 100_000;

    private static readonly JsonWriterOptions Plain = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping, Indented = true };

    private sealed record Asked(string Question, string Data, string? Production, bool Rough, int Limit, bool Json);

    public static Command Make(TextWriter output)
    {
        var question = new Argument<string>("QUESTION") { Description = "What to look for; how to ask is said in docs/formats.md." };
        var data = CommandLine.Data();
        var production = new Option<string?>("--production") { Description = "In this production alone.", HelpName = "NAME" };
        var rough = new Option<bool>("--rough") { Description = "Words that are spelled or sound nearly so, too; the nearest first." };
        var limit = new Option<int>("--limit")
        {
            Description = "So many hits at most; all are counted.",
            HelpName = "N",
            DefaultValueFactory = _ => First,
        };
        limit.Validators.Add(asked =>
        {
            if (asked.GetValueOrDefault<int>() is < 1 or > Most)
            {
                asked.AddError(FormattableString.Invariant($"--limit takes a number from 1 to {Most}."));
            }
        });
        var json = new Option<bool>("--json") { Description = "As JSON; else a line each." };
        var command = new Command("find", "Where something was said, written or named.") { question, data, production, rough, limit, json };
        command.SetAction(
            async (asked, _) =>
                await RunAsync(
                    new Asked(
                        asked.GetValue(question)!,
                        asked.GetValue(data)!,
                        asked.GetValue(production),
                        asked.GetValue(rough),
                        asked.GetValue(limit),
                        asked.GetValue(json)
                    ),
                    output
                )
        );
        return command;
    }

    private static async Task<int> RunAsync(Asked asked, TextWriter output)
    {
        var path = Path.Combine(asked.Data, "ember.sqlite");
        if (!File.Exists(path))
        {
            throw new StoreException($"{asked.Data} holds no database. Name the data folder of your server with --data.");
        }
        FindQuestion question;
        try
        {
            question = QuestionText.Read(asked.Question, asked.Rough);
        }
        catch (FormatException bad)
        {
            throw new ArgumentException(bad.Message, bad);
        }
        var database = BackupShelf.Open(asked.Data);
        new Readings(database, new Store.Transcripts(database, TimeProvider.System)).MakeFirst();
        var productions = new Productions(database, TimeProvider.System).All();
        var production = asked.Production is { } name
            ? productions.FirstOrDefault(p => p.Name.Equals(name, StringComparison.OrdinalIgnoreCase))
                ?? throw new ArgumentException($"There is no production called “{name}” in {asked.Data}.")
            : null;
        var watch = Stopwatch.StartNew();
        var found = new Finder(database, EnglishPronouncing.Read).Find(question, production?.Id, asked.Limit);
        var took = watch.Elapsed;
        var names = productions.ToDictionary(p => p.Id, p => p.Name);
        var codes = new Timecodes(new Footage(database, TimeProvider.System));
        await output.WriteAsync(asked.Json ? Json(found, names, codes, took) : Lines(found, names, codes));
        return 0;
    }

    private sealed class Timecodes(Footage footage)
    {
        private readonly Dictionary<long, MarginCode?> known = [];

        public string Of(FoundHit hit)
        {
            if (hit is not { Sitting: { } sitting, Range: { } range })
            {
                return "";
            }
            if (!known.TryGetValue(sitting.Id, out var code))
            {
                known[sitting.Id] = code = MarginCode.Of(sitting, footage.SourcesOf(sitting.Id));
            }
            return code?.At(range.In) ?? "";
        }
    }

    private static string TextOf(FoundHit hit) =>
        string.Join(' ', new[] { hit.Text.Before, hit.Text.Said, hit.Text.After }.Where(t => t.Length > 0));

    private static string Json(FindResult found, Dictionary<long, string> names, Timecodes codes, TimeSpan took)
    {
        var buffer = new ArrayBufferWriter<byte>();
        using (var json = new Utf8JsonWriter(buffer, Plain))
        {
            json.WriteStartObject();
            json.WriteStartArray("hits");
            foreach (var hit in found.Hits)
            {
                json.WriteStartObject();
                json.WriteString("production", names.GetValueOrDefault(hit.ProductionId, ""));
                json.WriteString("sitting", hit.Sitting?.Title ?? "");
                json.WriteString("kind", hit.Kind.ToString().ToLowerInvariant());
                Number("first", hit.Places?.First);
                Number("last", hit.Places?.Last);
                // Of a picture that lies in no sitting: the time in its file.
                Number("in", Seconds(hit.Range?.In.FromZero ?? hit.Shot?.Range.In.FromZero));
                Number("out", Seconds(hit.Range?.Out.FromZero ?? hit.Shot?.Range.Out.FromZero));
                json.WriteString("timecode", codes.Of(hit));
                json.WriteString("who", hit.Who);
                json.WriteString("text", TextOf(hit));
                json.WriteEndObject();
            }
            json.WriteEndArray();
            json.WriteNumber("count", found.Count);
            json.WriteNumber("milliseconds", decimal.Round((decimal)took.TotalMilliseconds, 1));
            json.WriteEndObject();

            void Number(string name, decimal? value)
            {
                if (value is { } number)
                {
                    json.WriteNumber(name, number);
                }
                else
                {
                    json.WriteNull(name);
                }
            }
        }
        return Encoding.UTF8.GetString(buffer.WrittenSpan) + "\n";
    }

    private static decimal? Seconds(MediaTime? at) =>
        at is { } moment ? decimal.Round((decimal)moment.Units / MediaTime.UnitsPerSecond, 3) : null;

    private static string Lines(FindResult found, Dictionary<long, string> names, Timecodes codes)
    {
        var text = new StringBuilder();
        foreach (var hit in found.Hits)
        {
            string[] fields =
            [
                names.GetValueOrDefault(hit.ProductionId, ""),
                hit.Sitting?.Title ?? "",
                hit.Kind.ToString().ToLowerInvariant(),
                codes.Of(hit) is { Length: > 0 } code ? code : (hit.Range?.In.FromZero ?? hit.Shot?.Range.In.FromZero)?.ToString() ?? "",
                hit.Who,
                TextOf(hit),
            ];
            text.Append(string.Join("  ", fields.Where(f => f.Length > 0))).Append('\n');
        }
        var listed = found.Hits.Count < found.Count ? FormattableString.Invariant($", the first {found.Hits.Count} of them") : "";
        text.Append(Application.Rooms.Many.Of(found.Count, "hit")).Append(listed).Append('\n');
        return text.ToString();
    }
}
