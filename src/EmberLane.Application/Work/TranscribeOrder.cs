using System.Globalization;
using System.Text.Json;

namespace EmberLane.Application.Work;

/// <summary>
/// What a transcription is asked to do: by which recogniser, in which language (its code), of which part of the sitting (null for the
/// whole), and how many voices there are (null to find out).
/// </summary>
public sealed record TranscribeOrder(string Recogniser, string Language, SittingRange? Part, int? Voices = null)
{
    /// <summary>The language where nobody asks for another.</summary>
    public const string English = "en";

    /// <summary>As a job keeps it: JSON.</summary>
    public override string ToString() => JsonSerializer.Serialize(this);

    /// <summary>
    /// Reads what <see cref="ToString"/> wrote; and what versions before the one change log wrote, with bars between, or a recogniser's key
    /// alone, which means the whole, in English.
    /// </summary>
    public static TranscribeOrder Read(string payload) =>
        payload.StartsWith('{') ? JsonSerializer.Deserialize<TranscribeOrder>(payload)!
        : payload.Split('|') is [var recogniser, var language, var from, var to, var voices]
            ? new TranscribeOrder(
                recogniser,
                language,
                from.Length == 0 ? null : new SittingRange(At(from), At(to)),
                voices.Length == 0 ? null : int.Parse(voices, CultureInfo.InvariantCulture)
            )
        : new TranscribeOrder(payload, English, null);

    private static SittingTime At(string units) => new(new MediaTime(long.Parse(units, CultureInfo.InvariantCulture)));
}
