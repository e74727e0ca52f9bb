using System.Runtime.CompilerServices;
using EmberLane.Core.Parts;
using EmberLane.Core.Tidy;
using EmberLane.Store;

namespace EmberLane.Application.Tidying;

/// <summary>
/// What computation tells of a sitting's text: its units, the units with which the proposed parts begin, what each of them is about, and
/// the terms that are said most.
/// </summary>
public sealed record ComputedSheet(
    TalkUnits Units,
    IReadOnlyList<int> Begins,
    IReadOnlyList<PartText> Parts,
    IReadOnlyList<TermCount> KeyTerms
);

/// <summary>Computes log sheets; one is kept as long as the talk that it is of.</summary>
public sealed class LogSheets(Store.Transcripts transcripts)
{
    /// <summary>So many terms are told.</summary>
    private const int MostTerms = 14;

    private readonly ConditionalWeakTable<Talk, ComputedSheet> known = [];

    /// <summary>Of what was found of a sitting's text.</summary>
    public ComputedSheet Of(Sitting sitting, TextTalk text) =>
        known.GetValue(
            text.Talk,
            talk =>
            {
                var units = TalkUnits.Of(talk, transcripts.Head(sitting.TranscriptId!.Value)?.Language ?? "en");
                var begins = LikelyParts.Of(units);
                return new ComputedSheet(units, begins, PartWords.Of(units, begins), PartWords.KeyTerms(units, MostTerms));
            }
        );
}
