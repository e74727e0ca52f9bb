using EmberLane.Core;
using EmberLane.Core.Speech;
using EmberLane.Engines.Speech;
using EmberLane.Engines.Speech.Models;
using Whisper.net;

namespace EmberLane.Listener;

/// <summary>Hears a piece of speech by a model: its words with their times, how sure each is, and the language.</summary>
internal sealed class Listening(SpeechModel model, int threads)
{
    /// <summary>The first part that is no part of a word, in models of English only and of many languages.</summary>
    private const int EndOfEnglish = 50_256,
        EndOfMany = 50_257;

    private static readonly MediaTime Hundredth = MediaTime.FromMilliseconds(10);

    /// <summary>
    /// Hears a 16 kHz WAV. <paramref name="terms"/> are names that may come up. Throws what the library throws for a model or a sound that
    /// it can not use.
    /// </summary>
    public async Task<WordList> HearAsync(string wav, string language, string terms)
    {
        var samples = PcmFile.ReadWav(wav);
        using var factory = WhisperFactory.FromPath(model.Path, Options());
        var builder = factory.CreateBuilder().WithThreads(threads).WithTokenTimestamps().WithProbabilities().WithLanguage(language);
        await using var processor = (terms.Length > 0 ? builder.WithPrompt(terms) : builder).Build();
        var words = new List<RecognisedWord>();
        var found = language;
        await foreach (var segment in processor.ProcessAsync(Array.ConvertAll(samples, s => s / 32768f), CancellationToken.None))
        {
            found = segment.Language;
            words.AddRange(TokenWords.Of(segment.Text, Tokens(segment), SpokenLanguage.HasSpaces(found)));
        }
        return new WordList(found, HeardWords.Within(words, SilenceSegmenter.Energy(samples)));
    }

    // Where the form of the model is known, words find their times by what it attends to; that needs its plain way of attending.
    private WhisperFactoryOptions Options() =>
        model.Heads is { } heads
            ? new WhisperFactoryOptions
            {
                UseGpu = false,
                UseFlashAttention = false,
                UseDtwTimeStamps = true,
                HeadsPreset = Enum.Parse<WhisperAlignmentHeadsPreset>(heads),
            }
            : new WhisperFactoryOptions { UseGpu = false };

    private List<SpokenToken> Tokens(SegmentData segment)
    {
        var parts = segment.Tokens.Where(t => t.Id < (model.KnowsManyLanguages ? EndOfMany : EndOfEnglish)).ToList();
        var followed = parts.Count > 0 && parts.All(p => p.DtwTimestamp >= 0) && parts[^1].DtwTimestamp > 0;
        var ends = MediaTime.FromMilliseconds((long)segment.End.TotalMilliseconds);
        return
        [
            .. parts.Select(
                (p, i) =>
                {
                    // Followed times say where a part begins; it lasts to the next.
                    var begins = Hundredth * (followed ? p.DtwTimestamp : p.Start);
                    var until =
                        !followed ? Hundredth * p.End
                        : i + 1 < parts.Count ? Hundredth * parts[i + 1].DtwTimestamp
                        : ends;
                    return new SpokenToken(
                        p.Text ?? "",
                        new SourceRange(new SourceTime(begins), new SourceTime(MediaTime.Max(begins, until))),
                        PerMille.OfShare(p.Probability)
                    );
                }
            ),
        ];
    }
}
