using EmberLane.Core.Tidy;
using EmberLane.Core.Transcripts;
using EmberLane.Store;

namespace EmberLane.Application.Tidying;

/// <summary>
/// A take of a line in a sitting; whether a person chose it, and whether it is the one that the story gets. Places are words of the talk.
/// </summary>
public sealed record LineTake(Sitting Sitting, TextTalk Text, ScriptTake Take, ChosenTake Key, bool IsChosen, bool IsBest);

/// <summary>A line of the script with all its takes, by sitting and time.</summary>
public sealed record LineTakes(ScriptLine Line, IReadOnlyList<LineTake> Takes)
{
    /// <summary>From this likeness on a take says the line as it is written.</summary>
    public const double AsWritten = 0.95;

    /// <summary>The take that the story gets; null where nobody says the line.</summary>
    public LineTake? Best { get; } = Takes.FirstOrDefault(t => t.IsBest);
}

/// <summary>What was said in a sitting that the script does not have.</summary>
public sealed record ExtraTalk(Sitting Sitting, TextTalk Text, int First, int Last);

/// <summary>A script matched to the sittings.</summary>
public sealed record ScriptMatch(IReadOnlyList<LineTakes> Lines, IReadOnlyList<ExtraTalk> Extra);

/// <summary>Matches scripts to the texts of sittings; what was matched is kept until the script or a text changes.</summary>
public sealed class ScriptMatches(Footage footage, Store.Transcripts transcripts, Scripts scripts)
{
    /// <summary>A take is as good as the best when its score is so near; then the later one is taken.</summary>
    private const double AsGood = 0.1;

    /// <summary>More words than this, some thirty hours, are not searched at once.</summary>
    private const int MostWords = 300_000;

    private sealed record Known(long Script, TextTalk Text, IReadOnlyList<MatchedLine> Lines);

    private readonly Lock gate = new();
    private readonly Dictionary<long, Known> kept = [];

    /// <summary>
    /// The newest script of a production with its takes; null when there is no script. Throws <see cref="Core.EditRefusedException"/> where
    /// the sittings are too long to be searched at once.
    /// </summary>
    public ScriptMatch? Of(long productionId)
    {
        if (scripts.Newest(productionId) is not { } script)
        {
            return null;
        }
        var lines = ScriptText.Read(script.Text);
        var found = Find(script, lines);
        var chosen = scripts.Chosen(productionId);
        return new ScriptMatch(
            [.. lines.Select((line, n) => TakesOf(line, n))],
            [
                .. found.SelectMany(f =>
                    UnscriptedTalk.Of(f.Text.Talk, f.Lines).Select(e => new ExtraTalk(f.Sitting, f.Text, e.First, e.Last))
                ),
            ]
        );

        // A line that was written anew may take a word more or less of what is said.
        bool IsChosen(ChosenTake take) => chosen.Any(c => c.IsMostly(take));

        LineTakes TakesOf(ScriptLine line, int n)
        {
            var takes = found
                .SelectMany(f => f.Lines[n].Takes.Select(t => (f.Sitting, f.Text, Take: t, Key: KeyOf(f.Sitting, f.Text, t))))
                .ToList();
            // Where one was chosen it is taken, also where the line has since been written anew around it.
            var mine = takes.FindLastIndex(t => IsChosen(t.Key));
            var best =
                mine >= 0 ? mine
                : takes.Count == 0 ? -1
                : takes.FindLastIndex(t => t.Take.Score >= takes.Max(x => x.Take.Score) - AsGood);
            return new LineTakes(line, [.. takes.Select((t, i) => new LineTake(t.Sitting, t.Text, t.Take, t.Key, i == mine, i == best))]);
        }
    }

    private static ChosenTake KeyOf(Sitting sitting, TextTalk text, ScriptTake take) =>
        new(sitting.TranscriptId!.Value, text.Text.At(text.FirstOf(take.First)).Number, text.Text.At(text.LastOf(take.Last)).Number);

    private IReadOnlyList<(Sitting Sitting, TextTalk Text, IReadOnlyList<MatchedLine> Lines)> Find(
        KeptScript script,
        IReadOnlyList<ScriptLine> lines
    )
    {
        var sittings = footage
            .Sittings(script.ProductionId)
            .Where(s => s.TranscriptId is not null && (script.Sittings is null || script.Sittings.Contains(s.Id)))
            .ToList();
        lock (gate)
        {
            var texts = sittings.Select(s => (Sitting: s, Text: transcripts.Get(s.TranscriptId!.Value))).ToList();
            if (texts.Sum(t => t.Text.Words.Count) > MostWords)
            {
                throw new Core.EditRefusedException(
                    FormattableString.Invariant(
                        $"These sittings have more than {MostWords} words together, too many to be searched at once. Tick fewer of them."
                    )
                );
            }
            // Only the script in hand is kept, and a text is matched again only where its words are others.
            foreach (var other in kept.Where(k => k.Value.Script != script.Id).Select(k => k.Key).ToList())
            {
                kept.Remove(other);
            }
            return [.. texts.Select(t => Matched(script.Id, lines, t.Sitting, t.Text))];
        }
    }

    private (Sitting Sitting, TextTalk Text, IReadOnlyList<MatchedLine> Lines) Matched(
        long script,
        IReadOnlyList<ScriptLine> lines,
        Sitting sitting,
        Transcript text
    )
    {
        var id = sitting.TranscriptId!.Value;
        if (!kept.TryGetValue(id, out var known) || known.Text.Under(text) is not { } under)
        {
            under = new TextTalk(text);
            kept[id] = known = new Known(script, under, ScriptTakes.Of(under.Talk, lines));
        }
        return (sitting, under, known.Lines);
    }
}
