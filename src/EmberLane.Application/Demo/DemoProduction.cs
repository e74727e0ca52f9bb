using System.Text.Json;
using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Core.Bites;
using EmberLane.Core.Marks;
using EmberLane.Core.Speech;
using EmberLane.Core.Stories;
using EmberLane.Core.Transcripts;
using EmberLane.Store;

namespace EmberLane.Application.Demo;

/// <summary>Makes the demonstration production in an empty data folder, through the same doors as a person's own footage.</summary>
public sealed class DemoProduction(
    Footage footage,
    FootageFolders folders,
    Intake intake,
    Store.Transcripts transcripts,
    Texts texts,
    Store.Bites bites,
    Store.Stories stories,
    Upkeep upkeep,
    Options options,
    TimeProvider clock
)
{
    private sealed record Plan(
        string Production,
        List<PlannedSitting> Sittings,
        List<string> Loose,
        Dictionary<string, Dictionary<string, string>> Labels,
        List<PlannedBite> Bites,
        List<PlannedMark> Marks,
        string Story
    );

    private sealed record PlannedSitting(
        string Title,
        List<string> Files,
        string? Words,
        string? Typed,
        Dictionary<string, string>? Voices
    );

    // A bite by the words that it opens and closes with, without capitals and marks.
    private sealed record PlannedBite(string Sitting, string From, string To, string Theme, string Note, int? Card);

    // What is set aside, or a flag before the first word, by its kind.
    private sealed record PlannedMark(string Sitting, string From, string To, string Kind, string Note);

    private static readonly JsonSerializerOptions Json = new() { PropertyNameCaseInsensitive = true };

    /// <summary>
    /// Does nothing when the data folder holds a production already. A break in the middle is made good by starting with --fresh.
    /// </summary>
    public async Task PrepareAsync(string demoFolder, TextWriter says, CancellationToken cancel)
    {
        if (footage.Productions().Count > 0)
        {
            return;
        }
        var plan = JsonSerializer.Deserialize<Plan>(
            await File.ReadAllTextAsync(Path.Combine(demoFolder, "production.json"), cancel),
            Json
        )!;
        await says.WriteLineAsync($"Laying out the footage of {plan.Production} in {folders.Uploads}");
        var target = Path.Combine(folders.Uploads, "slack-water");
        Directory.CreateDirectory(target);
        foreach (var sheet in Directory.EnumerateFiles(Path.Combine(demoFolder, "footage"), "*.recorder.json"))
        {
            await RecorderFile.WriteAsync(sheet, target, cancel);
        }
        foreach (
            var file in plan
                .Sittings.SelectMany(s => s.Files)
                .Concat(plan.Loose)
                .Where(f => File.Exists(Path.Combine(demoFolder, "footage", f)))
        )
        {
            File.Copy(Path.Combine(demoFolder, "footage", file), Path.Combine(target, file), overwrite: true);
        }
        await says.WriteLineAsync("Measuring the files and making the sittings");
        var production = footage.AddProduction(plan.Production);
        foreach (var sitting in plan.Sittings)
        {
            var result = await intake.BringInAsync(
                production,
                sitting.Title,
                [.. sitting.Files.Select(f => Path.Combine(target, f))],
                cancel
            );
            foreach (var left in result.LeftOut)
            {
                await says.WriteLineAsync($"  left out: {left.Name}: {left.Reason}");
            }
            if (sitting.Words is { } words && result.SittingId is { } id)
            {
                await AddTextsAsync(id, sitting, Path.Combine(demoFolder, "transcripts"), words, cancel);
            }
        }
        await intake.BringInAsync(production, null, [.. plan.Loose.Select(f => Path.Combine(target, f))], cancel);
        foreach (var source in footage.Sources(production).Where(s => plan.Labels.ContainsKey(s.Name)))
        {
            footage.SetLabels(
                source.Id,
                plan.Labels[source.Name].Aggregate(source.Labels, (l, written) => l.With(written.Key, written.Value))
            );
        }
        Mark(production, plan);
        upkeep.Ask(production);
        await says.WriteLineAsync($"{plan.Production} is laid out in {options.Data}");
    }

    // What was heard, and what a typist made of it, by which the sitting is read.
    private async Task AddTextsAsync(long id, PlannedSitting sitting, string folder, string words, CancellationToken cancel)
    {
        var (heard, labels) = Record(WordsJson.Read(await File.ReadAllTextAsync(Path.Combine(folder, words), cancel)));
        var names = sitting.Voices ?? [];
        transcripts.Add(
            id,
            "local",
            "en",
            heard,
            labels.Select((l, i) => (l, i)).Where(l => names.ContainsKey(l.l)).ToDictionary(l => l.i, l => names[l.l])
        );
        if (sitting.Typed is { } typed)
        {
            var (read, people) = Record(WordsJson.Read(await File.ReadAllTextAsync(Path.Combine(folder, typed), cancel)));
            texts.Choose(
                id,
                transcripts.AddBeside(
                    id,
                    Recognisers.Brought + typed.Replace(".typed.json", ".txt", StringComparison.Ordinal),
                    "en",
                    read,
                    people.Select((n, i) => (n, i)).ToDictionary(n => n.i, n => n.n)
                ),
                "logger"
            );
        }
    }

    private static (List<RecordWord> Words, List<string> Voices) Record(WordList list)
    {
        var voices = list.Words.Select(w => w.Voice ?? "").Distinct().ToList();
        return (
            [
                .. list.Words.Select(
                    (w, i) =>
                        new RecordWord(
                            new WordNumber(i),
                            w.Text,
                            new SittingRange(new SittingTime(w.Range.In.FromZero), new SittingTime(w.Range.Out.FromZero)),
                            w.Confidence,
                            voices.IndexOf(w.Voice ?? ""),
                            w.VoiceSure
                        )
                ),
            ],
            voices
        );
    }

    private void Mark(long production, Plan plan)
    {
        var cards = new List<(int Place, Bite Bite, long Id)>();
        foreach (var planned in plan.Bites)
        {
            var (sitting, transcript, first, last) = Place(production, planned.Sitting, planned.From, planned.To);
            var bite = Bite.Of(
                sitting.Id,
                sitting.TranscriptId!.Value,
                transcript.At(first).Number,
                transcript.At(last).Number,
                transcript.RangeOf(first, last),
                planned.Theme,
                planned.Note,
                "producer"
            );
            var id = bites.Add(bite);
            if (planned.Card is { } place)
            {
                cards.Add((place, bite, id));
            }
        }
        foreach (var planned in plan.Marks)
        {
            var (sitting, transcript, first, last) = Place(production, planned.Sitting, planned.From, planned.To);
            var by = new Signed("logger", clock.GetUtcNow());
            transcripts.Apply(
                sitting.TranscriptId!.Value,
                MarkKind.Find(planned.Kind) is { Use: MarkUse.Flags } flag
                    ? Marking.Flag(transcript, first, flag, planned.Note, by)
                    : Marking.TurnAside(transcript, first, last, by),
                by.Owner
            );
        }
        var start = new Timecode(new TimecodeCount(FrameRate.R25, false), 1, 0, 0, 0);
        var story = stories.Add(production, plan.Story, start, MediaTime.FromMilliseconds(90_000), "producer");
        stories.TakeInHand(production, story);
        foreach (var (place, bite, id) in cards.OrderBy(c => c.Place))
        {
            var stored = stories.Get(story, "producer")!;
            stories.Apply(
                story,
                stored.Version,
                new LayCard(new Card(Guid.NewGuid(), id, bite.SittingId, bite.Range, null), stored.Story.Pieces.Count),
                "producer"
            );
        }
    }

    // The places of the words that a passage opens and closes with.
    private (Sitting Sitting, Transcript Transcript, TextPlace First, TextPlace Last) Place(
        long production,
        string title,
        string from,
        string to
    )
    {
        var sitting = footage.Sittings(production).First(s => s.Title == title);
        var transcript = transcripts.Get(sitting.TranscriptId!.Value);
        var text = transcript.Words.Select(w => w.Text.ToLowerInvariant().Trim('.', ',', '?')).ToList();
        return Find(text, from, 0) is { } first && Find(text, to, first) is { } last
            ? (sitting, transcript, new TextPlace(first), new TextPlace(last + to.Split(' ').Length - 1))
            : throw new InvalidDataException($"demo/production.json: the words “{from}” … “{to}” are not in the transcript of {title}.");
    }

    private static int? Find(List<string> text, string phrase, int from)
    {
        var words = phrase.Split(' ');
        for (var i = from; i + words.Length <= text.Count; i++)
        {
            if (words.Select((w, n) => text[i + n] == w).All(same => same))
            {
                return i;
            }
        }
        return null;
    }
}
