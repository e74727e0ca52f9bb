using EmberLane.Core.Speech;

namespace EmberLane.Engines.Speech;

/// <summary>A piece that has been recognised, with its words on the clock of the whole sound.</summary>
public sealed record DonePiece(StepRange Piece, IReadOnlyList<RecognisedWord> Words);

/// <summary>Recognises a whole sound: cut at quiet places, pieces on all cores, words put back on one clock.</summary>
public sealed class Transcription(IRecogniser recogniser, int workers, string language = "en")
{
    /// <summary>
    /// Shortest and longest piece, in 10 ms steps: long against the half second in which the recogniser starts, short enough to see it get
    /// on.
    /// </summary>
    private const int Shortest = 2_000,
        Longest = 4_000;

    private const int StepSamples = SilenceSegmenter.SampleRate / Step.PerSecond;

    /// <summary>
    /// Recognises the 16 kHz raw sound in <paramref name="pcmPath"/>. Pieces in <paramref name="done"/> from an earlier, interrupted run
    /// are not made again; each is handed to <paramref name="onPiece"/> as it comes. Throws <see cref="ToolException"/> when the recogniser
    /// fails.
    /// </summary>
    public async Task<IReadOnlyList<RecognisedWord>> RunAsync(
        string pcmPath,
        string title,
        IReadOnlyDictionary<StepRange, IReadOnlyList<RecognisedWord>> done,
        Func<DonePiece, Task> onPiece,
        CancellationToken cancel
    )
    {
        var pieces = Plan(pcmPath);
        var results = new IReadOnlyList<RecognisedWord>[pieces.Count];
        using var gate = new SemaphoreSlim(1, 1);
        // Longest first, so that no core is left with a long piece at the end.
        var order = Enumerable.Range(0, pieces.Count).OrderByDescending(i => pieces[i].Count);
        await Parallel.ForEachAsync(
            order,
            new ParallelOptions { MaxDegreeOfParallelism = workers, CancellationToken = cancel },
            async (i, stop) =>
            {
                results[i] = done.TryGetValue(pieces[i], out var kept) ? kept : await PieceAsync(pcmPath, pieces[i], title, stop);
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
        return [.. results.SelectMany(w => w)];
    }

    private IReadOnlyList<StepRange> Plan(string pcmPath)
    {
        var energy = PcmFile.Energy(pcmPath);
        return recogniser.TakesPieces ? SilenceSegmenter.Plan(energy, Shortest, Longest) : [StepRange.Of(0, energy.Length)];
    }

    private async Task<IReadOnlyList<RecognisedWord>> PieceAsync(string pcmPath, StepRange piece, string title, CancellationToken cancel)
    {
        var wav = FormattableString.Invariant($"{pcmPath}.{Guid.NewGuid():N}.wav");
        try
        {
            await PcmFile.WriteWavAsync(pcmPath, (long)piece.First.Value * StepSamples, (long)piece.End.Value * StepSamples, wav, cancel);
            var offset = piece.First.FromStart;
            var words = await recogniser.RecogniseAsync(wav, title, language, cancel);
            return [.. words.Select(w => w with { Range = new SourceRange(w.Range.In + offset, w.Range.Out + offset) })];
        }
        finally
        {
            File.Delete(wav);
        }
    }
}
