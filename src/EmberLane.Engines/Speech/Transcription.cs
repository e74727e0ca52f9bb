using System.Collections.Concurrent;
using EmberLane.Core.Speech;

namespace EmberLane.Engines.Speech;

/// <summary>A piece that has been recognised, with its words on the clock of the whole sound and the language that was heard.</summary>
public sealed record DonePiece(StepRange Piece, WordList Heard);

/// <summary>Recognises a whole sound: cut at quiet places, pieces on all cores, words put back on one clock.</summary>
public sealed class Transcription(IRecogniser recogniser, string language = "en", IReadOnlyList<string>? terms = null)
{
    /// <summary>So many pieces fail before the rest is given up: then it is not the pieces.</summary>
    private const int MostFailed = 3;

    private const int StepSamples = SilenceSegmenter.SampleRate / Step.PerSecond;

    /// <summary>
    /// Recognises the 16 kHz raw sound in <paramref name="pcmPath"/>. Pieces in <paramref name="done"/> from an earlier, interrupted run
    /// are not made again; each is handed to <paramref name="onPiece"/> as it comes. The language is the one of most words. Throws
    /// <see cref="ToolException"/> when the recogniser fails: where it fails for a piece, the others are recognised before, unless it fails
    /// for several.
    /// </summary>
    public async Task<WordList> RunAsync(
        string pcmPath,
        string title,
        IReadOnlyDictionary<StepRange, WordList> done,
        Func<DonePiece, Task> onPiece,
        CancellationToken cancel
    )
    {
        var pieces = Plan(pcmPath);
        var results = new WordList[pieces.Count];
        using var gate = new SemaphoreSlim(1, 1);
        var failed = new ConcurrentQueue<ToolException>();
        // Longest first, so that no core is left with a long piece at the end.
        var order = Enumerable.Range(0, pieces.Count).OrderByDescending(i => pieces[i].Count);
        await Parallel.ForEachAsync(
            order,
            new ParallelOptions { MaxDegreeOfParallelism = recogniser.Pieces?.AtOnce ?? 1, CancellationToken = cancel },
            async (i, stop) =>
            {
                try
                {
                    results[i] = done.TryGetValue(pieces[i], out var kept) ? kept : await PieceAsync(pcmPath, pieces[i], title, stop);
                }
                catch (ToolException reason) when (failed.Count + 1 < MostFailed)
                {
                    failed.Enqueue(reason);
                    return;
                }
                await gate.WaitAsync(stop);
                try
                {
                    await onPiece(new DonePiece(pieces[i], results[i]));
                }
                finally
                {
                    gate.Release();
                }
            }
        );
        if (failed.TryPeek(out var first))
        {
            throw new ToolException(
                $"{failed.Count} of {pieces.Count} pieces could not be recognised; the others are kept for another try. {first.Message}",
                first
            );
        }
        var spoken = results.GroupBy(r => r.Language).MaxBy(g => g.Sum(r => r.Words.Count))?.Key ?? language;
        return new WordList(spoken, [.. results.SelectMany(r => r.Words)]);
    }

    private IReadOnlyList<StepRange> Plan(string pcmPath)
    {
        var energy = PcmFile.Energy(pcmPath);
        return recogniser.Pieces is { } taken
            ? SilenceSegmenter.Plan(energy, taken.Shortest, taken.Longest)
            : [StepRange.Of(0, energy.Length)];
    }

    private async Task<WordList> PieceAsync(string pcmPath, StepRange piece, string title, CancellationToken cancel)
    {
        var wav = FormattableString.Invariant($"{pcmPath}.{Guid.NewGuid():N}.wav");
        try
        {
            await PcmFile.WriteWavAsync(pcmPath, (long)piece.First.Value * StepSamples, (long)piece.End.Value * StepSamples, wav, cancel);
            var offset = piece.First.FromStart;
            var heard = await recogniser.RecogniseAsync(new ToRecognise(wav, title, language, terms ?? []), cancel);
            return heard with
            {
                Words = [.. heard.Words.Select(w => w with { Range = new SourceRange(w.Range.In + offset, w.Range.Out + offset) })],
            };
        }
        finally
        {
            File.Delete(wav);
        }
    }
}
