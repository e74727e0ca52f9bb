using System.Globalization;
using EmberLane.Core.Speech;
using EmberLane.Engines;
using EmberLane.Engines.Speech;

namespace EmberLane.Web.Commands;

/// <summary><c>ember transcribe FILE [--out words.json]</c>: runs the local recogniser on any media file and writes words JSON.</summary>
internal static class TranscribeCommand
{
    /// <summary>Returns 0. Throws <see cref="ArgumentException"/>, <see cref="UnreadableMediaException"/> or <see cref="ToolException"/> with what to do.</summary>
    public static async Task<int> RunAsync(IReadOnlyList<string> arguments, TextWriter output, CancellationToken cancel)
    {
        if (arguments is not ([_] or [_, "--out", _]))
        {
            throw new ArgumentException("Use: ember transcribe FILE [--out words.json]");
        }
        var recogniser = new PocketSphinx();
        if (recogniser.WhyNot() is { } reason)
        {
            throw new ToolException(reason);
        }
        var facts = await MediaProbe.MeasureAsync(arguments[0], cancel);
        if (facts.Channels == 0)
        {
            throw new UnreadableMediaException($"{Path.GetFileName(arguments[0])} has no sound to transcribe.");
        }
        var work = Directory.CreateTempSubdirectory("ember-transcribe");
        try
        {
            var pcm = Path.Combine(work.FullName, "sound.pcm");
            var levels = await SittingSound.MakeAsync(SittingSound.AllOf(Path.GetFullPath(arguments[0]), facts), pcm, cancel);
            var heard = MediaTime.Zero;
            var words = await new Transcription(recogniser, Environment.ProcessorCount).RunAsync(pcm, "", new Dictionary<SoundPiece, IReadOnlyList<RecognisedWord>>(), piece =>
            {
                heard += piece.Piece.Length;
                return Console.Error.WriteLineAsync(string.Create(CultureInfo.InvariantCulture, $"{heard} of {facts.Duration}"));
            }, cancel);
            words = HeardVoices.Give(HeardVoices.In(levels, pcm, null), words);
            var json = WordsJson.Write(new WordList("en", words));
            if (arguments.Count == 3)
            {
                await File.WriteAllTextAsync(arguments[2], json, cancel);
            }
            else
            {
                await output.WriteAsync(json);
            }
            return 0;
        }
        finally
        {
            work.Delete(recursive: true);
        }
    }
}
