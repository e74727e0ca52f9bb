using EmberLane.Core.Speech;

namespace EmberLane.Engines.Speech;

/// <summary>A piece that has been recognised: its place among the pieces and its words on the clock of the whole sound.</summary>
public sealed record DonePiece(int Index, IReadOnlyList<RecognisedWord> Words);

/// <summary>Recognises a whole sound: cut at quiet places, pieces on all cores, words put back on one clock.</summary>
public sealed class Transcription(IRecogniser recogniser, int workers)
{
    /// <summary>Shortest and longest piece, in 10 ms steps. The recogniser settles anew in each, so they are long; an hour still keeps every core busy.</summary>
    private const int Shortest = 4_000, Longest = 7_000;

    /// <summary>
    /// Recognises the 16 kHz raw sound in <paramref name="pcmPath"/>. Pieces in <paramref name="done"/> from an earlier, interrupted run are not made again; each new one is handed to
    /// <paramref name="onPiece"/> as it comes, with the amount of sound that it held and the number of pieces. Throws <see cref="ToolException"/> when the recogniser fails.
    /// </summary>
    public async Task<IReadOnlyList<RecognisedWord>> RunAsync(
        string pcmPath, string title, IReadOnlyDictionary<int, IReadOnlyList<RecognisedWord>> done, Func<DonePiece, MediaTime, int, Task> onPiece, CancellationToken cancel)
    {
        var pieces = Plan(pcmPath);
        var results = new IReadOnlyList<RecognisedWord>[pieces.Count];
        var sample = FormattableString.Invariant($"{pcmPath}.{Guid.NewGuid():N}.sample.wav");
        try
        {
            var ready = await TunedAsync(pcmPath, pieces, sample, cancel);
            await RecogniseAsync(ready, pcmPath, title, pieces, results, done, onPiece, cancel);
            return [.. results.SelectMany(w => w)];
        }
        finally
        {
            File.Delete(sample);
            File.Delete(sample + ".params");
        }
    }

    // The longest piece stands for the whole sound.
    private async Task<IRecogniser> TunedAsync(string pcmPath, List<(long First, long End)> pieces, string sample, CancellationToken cancel)
    {
        if (!recogniser.TakesPieces || pieces.Count == 0)
        {
            return recogniser;
        }
        var (first, end) = pieces.MaxBy(p => p.End - p.First);
        await PcmFile.WriteWavAsync(pcmPath, first, end, sample, cancel);
        return await recogniser.TunedAsync(sample, cancel);
    }

    private async Task RecogniseAsync(
        IRecogniser ready, string pcmPath, string title, List<(long First, long End)> pieces, IReadOnlyList<RecognisedWord>[] results, IReadOnlyDictionary<int, IReadOnlyList<RecognisedWord>> done,
        Func<DonePiece, MediaTime, int, Task> onPiece, CancellationToken cancel)
    {
        using var gate = new SemaphoreSlim(1, 1);
        // Longest first, so that no core is left with a long piece at the end.
        var order = Enumerable.Range(0, pieces.Count).OrderByDescending(i => pieces[i].End - pieces[i].First);
        await Parallel.ForEachAsync(order, new ParallelOptions { MaxDegreeOfParallelism = workers, CancellationToken = cancel }, async (i, stop) =>
        {
            var length = MediaTime.FromSamples(pieces[i].End - pieces[i].First, QuietCut.SampleRate);
            if (!done.TryGetValue(i, out var words))
            {
                words = await PieceAsync(ready, pcmPath, pieces[i], title, stop);
            }
            results[i] = words;
            await gate.WaitAsync(stop);
            try
            {
                await onPiece(new DonePiece(i, words), length, pieces.Count);
            }
            finally
            {
                gate.Release();
            }
        });
    }

    private List<(long First, long End)> Plan(string pcmPath)
    {
        const int step = QuietCut.SampleRate / 100;
        var energy = PcmFile.Energy(pcmPath);
        if (!recogniser.TakesPieces)
        {
            return [(0, (long)energy.Length * step)];
        }
        return [.. QuietCut.Plan(energy, Shortest, Longest).Select(p => ((long)p.First * step, (long)p.End * step))];
    }

    private static async Task<IReadOnlyList<RecognisedWord>> PieceAsync(IRecogniser ready, string pcmPath, (long First, long End) piece, string title, CancellationToken cancel)
    {
        var wav = FormattableString.Invariant($"{pcmPath}.{Guid.NewGuid():N}.wav");
        try
        {
            await PcmFile.WriteWavAsync(pcmPath, piece.First, piece.End, wav, cancel);
            var offset = MediaTime.FromSamples(piece.First, QuietCut.SampleRate);
            var words = await ready.RecogniseAsync(wav, title, cancel);
            return [.. words.Select(w => w with { Range = new SourceRange(w.Range.In + offset, w.Range.Out + offset) })];
        }
        finally
        {
            File.Delete(wav);
        }
    }
}
