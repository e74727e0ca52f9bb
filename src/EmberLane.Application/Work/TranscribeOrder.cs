using System.Globalization;
using EmberLane.Core;

namespace EmberLane.Application.Work;

/// <summary>What a transcription is asked to do: by which recogniser, in which language (two letters), of which part of the sitting (null for the whole), and how many voices there are (null to find out).</summary>
public sealed record TranscribeOrder(string Recogniser, string Language, SittingRange? Part, int? Voices = null)
{
    public const string English = "en";

    /// <summary>As a job keeps it.</summary>
    public override string ToString() => string.Join('|', Recogniser, Language, Units(Part?.In), Units(Part?.Out), Voices?.ToString(CultureInfo.InvariantCulture));

    /// <summary>Reads what <see cref="ToString"/> wrote; a recogniser's key alone means the whole, in English.</summary>
    public static TranscribeOrder Read(string payload) => payload.Split('|') is [var recogniser, var language, var from, var to, var voices]
        ? new TranscribeOrder(recogniser, language, from.Length == 0 ? null : new SittingRange(At(from), At(to)), voices.Length == 0 ? null : int.Parse(voices, CultureInfo.InvariantCulture))
        : new TranscribeOrder(payload, English, null);

    private static string Units(SittingTime? at) => at?.FromZero.Units.ToString(CultureInfo.InvariantCulture) ?? "";

    private static SittingTime At(string units) => new(new MediaTime(long.Parse(units, CultureInfo.InvariantCulture)));
}
