using System.Globalization;
using EmberLane.Core.Speech;

namespace EmberLane.Core.Voices;

/// <summary>
/// How likely each voice speaks in each 10 ms step, 0–1, a row a voice, all of one length. Several may speak at once. Labels name the
/// voices for a person who reads a list: <c>mic 2</c>, <c>room</c>, <c>voice 1</c>.
/// </summary>
public sealed record VoiceChances(IReadOnlyList<string> Labels, IReadOnlyList<float[]> Rows)
{
    private const string Mic = "mic ";

    /// <summary>No one speaks for less than this on purpose, in steps: 0.2 s.</summary>
    private const int Shortest = 20;

    /// <summary>Gaps up to this are a breath within what one voice says, in steps: 0.4 s.</summary>
    private const int Breath = 40;

    /// <summary>Whether there may be one voice more or fewer; null where that is sure, or where mics tell.</summary>
    public VoiceDoubt? Doubt { get; init; }

    /// <summary>Which mic a label names, from 0; null for another voice.</summary>
    public static int? MicOf(string label) =>
        label.StartsWith(Mic, StringComparison.Ordinal) ? int.Parse(label.AsSpan(Mic.Length), CultureInfo.InvariantCulture) - 1 : null;

    /// <summary>The label of a voice near a mic, from 0.</summary>
    internal static string NearMic(int mic) => FormattableString.Invariant($"{Mic}{mic + 1}");

    /// <summary>How many steps of 10 ms there are.</summary>
    public int Steps => Rows.Count == 0 ? 0 : Rows[0].Length;

    /// <summary>
    /// Who speaks when, in order of their starts: where a voice is more likely than not to speak, breaths filled, clicks left out.
    /// Stretches of different voices may overlap.
    /// </summary>
    public IReadOnlyList<Spoken> Spoken() =>
        [
            .. Enumerable
                .Range(0, Rows.Count)
                .SelectMany(v =>
                    StepRuns
                        .Of(Rows[v].Length, i => Rows[v][i] >= 0.5f)
                        .Joined(Breath)
                        .AtLeast(Shortest)
                        .Select(r => new Spoken(v, r.First, r.End))
                )
                .OrderBy(s => s.First)
                .ThenBy(s => s.Voice),
        ];
}

/// <summary>A stretch in which a voice is heard, the end exclusive.</summary>
public readonly record struct Spoken(int Voice, Step First, Step End);
