using System.Globalization;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>
/// What happens to sittings as soon as they are made: whether they are transcribed, by which recogniser, in which language (its code).
/// </summary>
public sealed record OnArrival(bool Transcribe, string Recogniser, string Language);

/// <summary>
/// The choice of a production for what arrives. Sync and the first look at mics are always done; the transcription follows them.
/// </summary>
public sealed class Arrival(Productions productions, Footage footage, Recognisers recognisers)
{
    private const string Transcribe = "arrival.transcribe",
        Recogniser = "arrival.recogniser",
        Language = "arrival.language",
        From = "arrival.from-sitting";

    /// <summary>What a production wants done with a sitting as soon as it is made.</summary>
    public OnArrival Of(long production) =>
        new(
            productions.Setting(production, Transcribe) == "yes",
            recognisers.Find(productions.Setting(production, Recogniser))?.Key ?? recognisers.Chosen.Key,
            productions.Setting(production, Language) ?? TranscribeOrder.English
        );

    /// <summary>
    /// Chooses for all sittings that are made from now on. Why the recogniser can not do that is returned and nothing is chosen; null when
    /// it can.
    /// </summary>
    public string? Choose(long production, OnArrival choice, string who)
    {
        if (
            choice.Transcribe
            && (recognisers.Find(choice.Recogniser) ?? recognisers.Chosen).Recogniser.WhyNot(choice.Language) is { } reason
        )
        {
            return reason;
        }
        var from = Of(production).Transcribe ? productions.Setting(production, From) : null;
        productions.Choose(
            production,
            who,
            choice.Transcribe
                ? $"sittings are transcribed as soon as they are made, by {choice.Recogniser} in {choice.Language}"
                : "sittings wait to be transcribed until somebody asks",
            (Transcribe, choice.Transcribe ? "yes" : "no"),
            (Recogniser, choice.Recogniser),
            (Language, choice.Language),
            (
                From,
                from ?? (footage.Sittings(production).Select(s => s.Id).DefaultIfEmpty(0).Max() + 1).ToString(CultureInfo.InvariantCulture)
            )
        );
        return null;
    }

    /// <summary>How a sitting that was made since is to be transcribed; null when it was made before, or nothing was chosen.</summary>
    internal TranscribeOrder? OrderFor(Sitting sitting) =>
        Of(sitting.ProductionId) is { Transcribe: true } choice
        && long.TryParse(productions.Setting(sitting.ProductionId, From), NumberStyles.None, CultureInfo.InvariantCulture, out var from)
        && sitting.Id >= from
            ? new TranscribeOrder(choice.Recogniser, choice.Language, null)
            : null;
}
