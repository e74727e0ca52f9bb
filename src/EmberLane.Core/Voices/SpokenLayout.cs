using System.Security.Cryptography;
using System.Text;
using EmberLane.Core.Speech;

namespace EmberLane.Core.Voices;

/// <summary>
/// One stretch to recognise: what a worn mic (its place among the mics) or the mix (null) hears over <see cref="From"/>, laid at
/// <see cref="At"/>; the row of the voice that speaks there by the mics, or null where it is nobody who wears one.
/// </summary>
public sealed record SpokenPart(int? Mic, int? Voice, StepRange From, Step At);

/// <summary>
/// The talk of a sitting in which mics are worn, laid out so that each turn is recognised from the mic of who speaks: turn after turn,
/// parted by silence, all of one voice before the next; who talk at once are each heard by their own mic. While a mic is off, its person
/// is heard in the mix. Last, from the mix, comes what is said near to no worn mic. Words found on it go back to the sitting's clock with
/// their voices.
/// </summary>
public sealed class SpokenLayout
{
    /// <summary>
    /// In steps: room left around a turn, silence between two, pauses that belong to one, and the least of talk, and of its loud steps,
    /// that the mix is listened to for.
    /// </summary>
    private const int Margin = 20,
        Gap = 40,
        Breath = 40,
        Shortest = 10,
        LeastRest = 40,
        LeastLoud = 25;

    /// <summary>A word whose voice is so unlikely while it is said, and another so likely, is bleed.</summary>
    private const double Unlikely = 0.3,
        Likely = 0.5;

    /// <summary>No word lasts longer than this: 3 s.</summary>
    private static readonly MediaTime Longest = MediaTime.FromMilliseconds(3_000);

    private readonly VoiceChances chances;

    private SpokenLayout(VoiceChances chances, IReadOnlyList<SpokenPart> parts) => (this.chances, Parts) = (chances, parts);

    /// <summary>In the order in which they are laid, apart.</summary>
    public IReadOnlyList<SpokenPart> Parts { get; }

    /// <summary>How long the laid-out sound is, in steps.</summary>
    public int Steps => Parts.Count == 0 ? 0 : Parts[^1].At.Value + Parts[^1].From.Count + Gap;

    /// <summary>Changes whenever another sound would be laid out of the same mics.</summary>
    public string Key =>
        Convert.ToHexStringLower(
            SHA256.HashData(
                Encoding.UTF8.GetBytes(
                    string.Join(
                        '\n',
                        Parts.Select(p => FormattableString.Invariant($"{p.Mic} {p.Voice} {p.From.First.Value} {p.From.End.Value}"))
                    )
                )
            )
        );

    /// <summary>
    /// From who speaks by the mics (<see cref="MicDiarisation"/>), the mix's energies and those of all mics, of the same steps; only what
    /// lies within a stretch of them.
    /// </summary>
    public static SpokenLayout Of(VoiceChances chances, float[] mix, IReadOnlyList<float[]> mics, StepRange within)
    {
        var steps = Math.Min(chances.Steps, mix.Length);
        within = within.Until(steps);
        var turns = new List<(int? Mic, int? Voice, StepRange Where)>();
        var taken = new bool[steps];
        for (var v = 0; v < chances.Rows.Count; v++)
        {
            if (VoiceChances.MicOf(chances.Labels[v]) is not { } mic)
            {
                continue;
            }
            var row = chances.Rows[v];
            var runs = StepRuns.Of(steps, i => row[i] >= 0.5f && i >= within.First.Value && i < within.End.Value);
            var off = new bool[steps];
            foreach (var dead in SwitchedOff.Of(mics[mic]).Select(d => d.Until(steps)).Where(d => d.Count > 0))
            {
                off.AsSpan(dead.First.Value, dead.Count).Fill(true);
            }
            foreach (var run in Widened(runs.Joined(Breath).AtLeast(Shortest), within))
            {
                turns.AddRange(InParts(run, off).Select(p => (p.Off ? (int?)null : mic, (int?)v, p.Part)));
                taken.AsSpan(run.First.Value, run.Count).Fill(true);
            }
        }
        turns.AddRange(Rest(mix, taken, within).Select(r => ((int?)null, (int?)null, r)));
        var parts = new List<SpokenPart>();
        var at = new Step(Gap);
        foreach (var (mic, voice, where) in turns)
        {
            parts.Add(new SpokenPart(mic, voice, where, at));
            at += where.Count + Gap;
        }
        return new SpokenLayout(chances, parts);
    }

    // Cut where the mic goes off or on; what is but the silence around a word does not count.
    private static IEnumerable<(StepRange Part, bool Off)> InParts(StepRange run, bool[] off)
    {
        var first = run.First.Value;
        foreach (var dead in StepRuns.Of(run.End.Value, i => i >= run.First.Value && off[i]).AtLeast(LeastRest).Runs)
        {
            if (dead.First.Value > first)
            {
                yield return (StepRange.Of(first, dead.First.Value), false);
            }
            yield return (dead, true);
            first = dead.End.Value;
        }
        if (first < run.End.Value)
        {
            yield return (StepRange.Of(first, run.End.Value), false);
        }
    }

    private static IReadOnlyList<StepRange> Widened(StepRuns runs, StepRange within) =>
        new StepRuns([
            .. runs.Select(r =>
                StepRange.Of(Math.Max(within.First.Value, r.First.Value - Margin), Math.Min(within.End.Value, r.End.Value + Margin))
            ),
        ])
            .Joined(0)
            .Runs;

    // What is loud in the mix while nobody's mic is near.
    private static IEnumerable<StepRange> Rest(float[] mix, bool[] taken, StepRange within)
    {
        var loud = new bool[mix.Length];
        foreach (var run in VoiceActivity.SpeechByLoudness(mix))
        {
            loud.AsSpan(run.First.Value, run.Count).Fill(true);
        }
        return StepRuns
            .Of(taken.Length, i => !taken[i] && i >= within.First.Value && i < within.End.Value)
            .AtLeast(LeastRest)
            .Runs.Where(r => r.Steps.Count(i => loud[i]) >= LeastLoud);
    }

    /// <summary>
    /// Words found on the laid-out sound, on the clock of the steps, in order, each with its voice and how sure that is. Where two mics
    /// gave the same word for the same moment, or one gave what only bled into it, the nearer one's word stays.
    /// </summary>
    public IReadOnlyList<RecognisedWord> OnTheSitting(IReadOnlyList<RecognisedWord> words)
    {
        var placed = words.Select(Placed).OfType<(RecognisedWord Word, int? Voice)>().ToList();
        List<OwnWord> own =
        [
            .. placed
                .Where(p => p.Voice is not null)
                .Select(p => new OwnWord(p.Word, p.Voice!.Value, Chance(p.Voice!.Value, p.Word)))
                .OrderBy(o => o.Word.Range.In),
        ];
        var kept = new List<RecognisedWord>();
        for (var i = 0; i < own.Count; i++)
        {
            if (!Bled(own[i]) && !Around(own, i).Any(o => o.Is(own[i])))
            {
                kept.Add(
                    own[i].Word with
                    {
                        Voice = chances.Labels[own[i].Voice],
                        VoiceSure = PerMille.OfShare(Math.Clamp(own[i].Chance, 0, 1)),
                    }
                );
            }
        }
        RecognisedWord[] rest = [.. placed.Where(p => p.Voice is null).Select(p => p.Word).OrderBy(w => w.Range.In)];
        var given = WordVoices.Give(chances, [.. rest.Select(Over)]);
        kept.AddRange(rest.Select((w, i) => w with { Voice = chances.Labels[given[i].Voice], VoiceSure = given[i].Sure }));
        return [.. kept.OrderBy(w => w.Range.In)];
    }

    private bool Bled(OwnWord word) =>
        word.Chance < Unlikely && Enumerable.Range(0, chances.Rows.Count).Any(v => v != word.Voice && Chance(v, word.Word) > Likely);

    // Words of one list that begin near another of it; it is in order.
    private static IEnumerable<OwnWord> Around(List<OwnWord> words, int at)
    {
        var range = words[at].Word.Range;
        for (var i = at - 1; i >= 0 && words[i].Word.Range.In > range.In - Longest; i--)
        {
            yield return words[i];
        }
        for (var i = at + 1; i < words.Count && words[i].Word.Range.In < range.Out; i++)
        {
            yield return words[i];
        }
    }

    // A word from a worn mic, and how likely its voice speaks while it is said.
    private sealed record OwnWord(RecognisedWord Word, int Voice, double Chance)
    {
        // The same word of the same moment, from a mic that is nearer.
        public bool Is(OwnWord other) =>
            Voice != other.Voice
            && string.Equals(Word.Text, other.Word.Text, StringComparison.OrdinalIgnoreCase)
            && SameMoment(Word.Range, other.Word.Range)
            && (Chance > other.Chance || (Chance == other.Chance && Voice < other.Voice));
    }

    private (RecognisedWord Word, int? Voice)? Placed(RecognisedWord word)
    {
        var step = Step.At(word.Range.In.FromZero);
        int low = 0,
            high = Parts.Count - 1;
        while (low < high)
        {
            var middle = (low + high + 1) / 2;
            (low, high) = Parts[middle].At <= step ? (middle, high) : (low, middle - 1);
        }
        if (Parts.Count == 0)
        {
            return null;
        }
        var part = Parts[low];
        var late = part.From.First.FromStart - part.At.FromStart;
        var end = part.From.End.FromStart;
        MediaTime from = word.Range.In.FromZero + late,
            to = word.Range.Out.FromZero + late;
        // The recogniser may draw a word into the silence around a turn.
        from = from < part.From.First.FromStart ? part.From.First.FromStart : from;
        to = to > end ? end : to;
        return from >= to ? null : (word with { Range = new SourceRange(new SourceTime(from), new SourceTime(to)) }, part.Voice);
    }

    private static StepRange Over(RecognisedWord word) => new(Step.At(word.Range.In.FromZero), Step.At(word.Range.Out.FromZero));

    private double Chance(int voice, RecognisedWord word)
    {
        var (first, end) = Over(word);
        var row = chances.Rows[voice];
        int from = Math.Clamp(first.Value, 0, row.Length - 1),
            to = Math.Clamp(end.Value, from + 1, row.Length);
        double sum = 0;
        for (var i = from; i < to; i++)
        {
            sum += row[i];
        }
        return sum / (to - from);
    }

    // Both lie over more than half of the shorter one.
    private static bool SameMoment(SourceRange one, SourceRange other)
    {
        MediaTime from = (one.In > other.In ? one.In : other.In).FromZero,
            to = (one.Out < other.Out ? one.Out : other.Out).FromZero,
            shorter = one.Length < other.Length ? one.Length : other.Length;
        return to > from && (to - from).Units * 2 > shorter.Units;
    }
}
