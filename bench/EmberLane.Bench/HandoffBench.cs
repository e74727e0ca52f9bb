using System.Diagnostics;
using System.Globalization;
using EmberLane.Application.Rooms;
using EmberLane.Core;
using EmberLane.Core.Captions;
using EmberLane.Core.Handoff;
using EmberLane.Core.Speech;
using EmberLane.Core.Time;
using EmberLane.Running;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Bench;

/// <summary>
/// A story of a thousand cards handed off: each list, the whole package, its page; and captions of a million made words, with whether
/// their rules hold.
/// </summary>
internal static class HandoffBench
{
    private const int Sittings = 10,
        Cards = 1_000,
        Times = 7,
        Words = 1_000_000;

    public static async Task RunAsync()
    {
        var data = Directory.CreateTempSubdirectory("ember-handoff").FullName;
        try
        {
            await using var server = await RunningServer.StartAsync(data, demo: false);
            await MadeProduction.MakeAsync(server.Services, data, Sittings, Cards);
            Lists(server.Services);
            using var client = new HttpClient { BaseAddress = new Uri(server.Address) };
            var opens = Median(() => client.GetStringAsync(new Uri("/productions/1/handoff", UriKind.Relative)).GetAwaiter().GetResult());
            Say($"  the page Hand-off opens in {opens:0} ms");
        }
        finally
        {
            Directory.Delete(data, recursive: true);
        }
        Captions();
    }

    private static void Lists(IServiceProvider services)
    {
        var (desk, footage, handoff) = (
            services.GetRequiredService<Desk>(),
            services.GetRequiredService<Store.Footage>(),
            services.GetRequiredService<HandoffDesk>()
        );
        var production = footage.Production(1)!;
        var story = desk.StoryOf(production, "bench");
        var handed = handoff.Of(production, story);
        Say($"  put together: {Median(() => handoff.Of(production, story)):0} ms");
        Say($"  laid: {Median(() => desk.TimelineOf(story, new WantedTracks())):0} ms");
        var laid = Median(() => EdlWriter.Write(EdlEvents.Of(desk.TimelineOf(story, new WantedTracks()))));
        var (edl, otio) = (Median(() => EdlWriter.Write(handed.Events)), Median(() => OtioWriter.Write(handed.Timeline, m => m.FileName)));
        Say($"  EDL: {laid:0} ms with laying it, written alone {edl:0} ms; OTIO {otio:0} ms");
        foreach (var part in PackagePart.All)
        {
            Say($"  {part.Name}: {Median(() => HandoffDesk.Files(handed, [part], new CaptionRules())):0} ms");
        }
        Say($"  checks: {Median(() => HandoffChecks.Of(handed, new CaptionRules())):0} ms");
        var all = Median(() => HandoffDesk.Files(handoff.Of(production, story), PackagePart.All, new CaptionRules()));
        Say($"  the whole package without media: {all:0} ms");
    }

    // Made talk: words of the lengths of English in sentences, with pauses, two voices that take turns.
    private static void Captions()
    {
        var random = new Random(18);
        var words = new List<RecognisedWord>(Words);
        long at = 0;
        var who = "Ada";
        for (var i = 0; i < Words; i++)
        {
            var ends = random.Next(11) == 0;
            var text =
                new string('e', 1 + random.Next(4) + random.Next(6))
                + (
                    ends ? "."
                    : random.Next(9) == 0 ? ","
                    : ""
                );
            var length = 60 + (text.Length * random.Next(35, 65));
            words.Add(new RecognisedWord(text, new SourceRange(At(at), At(at + length)), null, who));
            at += length + random.Next(60) + (ends ? random.Next(1_200) : 0);
            who = ends && random.Next(4) == 0 ? (who == "Ada" ? "Bo" : "Ada") : who;
        }
        var rules = new CaptionRules();
        var watch = Stopwatch.StartNew();
        var made = CaptionMaker.Make(words, rules, []);
        var took = watch.Elapsed.TotalSeconds;
        var broken = made.Count(c =>
            c.Lines.Count > rules.Lines
            || c.Lines.Any(l => l.Shown.Length > rules.Line)
            || c.Out - c.In < rules.Shortest
            || c.Out - c.In > rules.Longest
        );
        broken += made.Zip(made.Skip(1)).Count(p => p.Second.In < p.First.Out + rules.Gap);
        var fast = made.Count(c => c.Characters * MediaTime.UnitsPerSecond > rules.Speed * (c.Out - c.In).Units);
        var late = made.Select(c => (c.In - words[c.First].Range.In.FromZero).ToMillisecondsRounded()).Order().ToList();
        var sense = made.Count(c => words[c.First + c.Words - 1].Text[^1] is '.' or ',');
        Say($"  captions of {Words} made words: {made.Count} in {took:0.0} s; {broken} against a rule that always holds;");
        Say($"    {100.0 * fast / made.Count:0.0} % faster than {rules.Speed} characters a second;");
        Say($"    {100.0 * sense / made.Count:0} % end at a comma or full stop;");
        Say($"    begin after their first word: median {late[late.Count / 2]} ms, 99th percentile {late[late.Count * 99 / 100]} ms,");
        Say($"    most {late[^1]} ms");
    }

    private static SourceTime At(long milliseconds) => new(MediaTime.FromMilliseconds(milliseconds));

    private static double Median<T>(Func<T> work)
    {
        var took = new List<double>();
        for (var i = 0; i < Times; i++)
        {
            var watch = Stopwatch.StartNew();
            work();
            took.Add(watch.Elapsed.TotalMilliseconds);
        }
        took.Sort();
        return took[Times / 2];
    }

    private static void Say(FormattableString text) => Console.WriteLine(text.ToString(CultureInfo.InvariantCulture));
}
