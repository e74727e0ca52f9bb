using System.Text.Json;
using EmberLane.Application.Work;
using EmberLane.Core.Speech;
using EmberLane.Engines;
using EmberLane.Engines.Speech;

namespace EmberLane.Application.Hands;

/// <summary>
/// What is asked of a recogniser: its key, how many bytes its speech model has (0 for one without), the sitting's title, the language's
/// code, and names and terms that may come up.
/// </summary>
public sealed record SpeechAsked(string Recogniser, long ModelBytes, string Title, string Language, IReadOnlyList<string> Terms);

/// <summary>The words of a piece of sound, which goes along.</summary>
public static class SpeechErrand
{
    /// <summary>A word that ends later than its piece by more than this (5 s) is none of the piece's.</summary>
    private static readonly MediaTime Beyond = MediaTime.FromMilliseconds(5_000);

    /// <summary>The errand for a piece of this length.</summary>
    public static Errand Of(string recogniser, ToRecognise sound, MediaTime length) =>
        new(
            ErrandKinds.Speech,
            sound.Title,
            JsonSerializer.Serialize(
                new SpeechAsked(recogniser, Recognisers.BytesOfModel(recogniser), sound.Title, sound.Language, sound.Terms)
            ),
            length
        )
        {
            Sound = sound.WavPath,
        };

    /// <summary>
    /// The words that an answer holds. Throws <see cref="FormatException"/> where they can not be those of this piece.
    /// </summary>
    public static WordList Read(Errand errand, string answer)
    {
        var heard = WordsJson.Read(answer);
        return heard.Words.FirstOrDefault(w => w.Range.Out.FromZero > errand.Length + Beyond) is { } late
            ? throw new FormatException($"“{late.Text}” ends at {late.Range.Out}, after the sound, which lasts {errand.Length}.")
            : heard;
    }

    internal static async Task<string> DoAsync(Errand errand, Func<SpeechAsked, IRecogniser?> recogniser, CancellationToken cancel)
    {
        var asked = Asked.Read<SpeechAsked>(errand);
        var found = recogniser(asked) ?? throw new ErrandElsewhereException($"“{Path.GetFileName(asked.Recogniser)}” is not here.");
        if (found.WhyNot(asked.Language) is { } reason)
        {
            throw new ErrandElsewhereException(reason);
        }
        var sound = errand.Sound ?? throw new FormatException("No sound came with what is to be recognised.");
        return WordsJson.Write(await found.RecogniseAsync(new ToRecognise(sound, asked.Title, asked.Language, asked.Terms), cancel));
    }
}
