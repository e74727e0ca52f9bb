using System.Globalization;
using EmberLane.Core.Speech;
using EmberLane.Engines.Speech.Models;
using EmberLane.Listener;
using Whisper.net;

// EmberLane.Listener MODEL LANGUAGE WAV THREADS TERMS: the words of a piece of at most 30 s, as words JSON. A program of its own, since a
// damaged model ends the program that reads it.
if (args is not [var path, var language, var wav, var threads, var terms])
{
    await Console.Error.WriteLineAsync("Ember Lane starts this program itself, to recognise a piece of speech by a model.");
    return 2;
}
try
{
    var listening = new Listening(SpeechModelFile.Read(path), int.Parse(threads, CultureInfo.InvariantCulture));
    await Console.Out.WriteAsync(WordsJson.Write(await listening.HearAsync(wav, language, terms)));
    return 0;
}
catch (Exception e)
    when (e is FormatException or IOException or WhisperModelLoadException or WhisperProcessingException or DllNotFoundException)
{
    await Console.Error.WriteLineAsync(e.Message);
    return 1;
}
