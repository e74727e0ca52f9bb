using System.Globalization;
using System.Runtime.InteropServices;
using CliWrap;

namespace EmberLane.Footage;

/// <summary>A token of a spoken line and where it is heard, in seconds from the line's start.</summary>
internal sealed record SpokenWord(string Text, double Start, double End);

/// <summary>A line as sound: mono, 48 kHz, −1..1.</summary>
internal sealed record SpokenLine(float[] Samples, IReadOnlyList<SpokenWord> Words);

/// <summary>
/// A made person: one of Debian's flite voices, its pitch (cents) and pace changed by sox.
/// The times of the words are read from flite's own utterance, so they are true to the sound.
/// </summary>
internal sealed partial class FliteVoice(string flite, int pitchCents, double tempo)
{
    private static readonly Dictionary<string, nint> Loaded = [];

    public async Task<SpokenLine> SayAsync(string text, string workFolder)
    {
        var (samples, rate, words) = Synthesise(flite, text);
        var dry = Path.Combine(workFolder, "dry.wav");
        var wet = Path.Combine(workFolder, "wet.wav");
        WavFile.Write(dry, [samples], rate);
        await Cli.Wrap("sox")
            .WithArguments([
                dry,
                "-r",
                "48000",
                wet,
                "pitch",
                pitchCents.ToString(CultureInfo.InvariantCulture),
                "tempo",
                "-s",
                tempo.ToString(CultureInfo.InvariantCulture),
            ])
            .ExecuteAsync();
        var sound = WavFile.ReadMono(wet);
        return new SpokenLine(sound, [.. words.Select(w => new SpokenWord(w.Text, w.Start / tempo, w.End / tempo))]);
    }

    private static (float[] Samples, int Rate, List<SpokenWord> Words) Synthesise(string name, string text)
    {
        var utterance = flite_synth_text(text, Voice(name));
        try
        {
            var words = new List<SpokenWord>();
            nint lastToken = 0;
            for (var word = relation_head(utt_relation(utterance, "Word")); word != 0; word = item_next(word))
            {
                var token = item_parent(item_as(word, "Token"));
                double start = ffeature_float(word, "R:SylStructure.daughter1.daughter1.R:Segment.p.end");
                double end = ffeature_float(word, "R:SylStructure.daughtern.daughtern.R:Segment.end");
                if (token == lastToken && words.Count > 0)
                {
                    words[^1] = words[^1] with { End = end };
                }
                else
                {
                    words.Add(new SpokenWord(Marshal.PtrToStringUTF8(item_feat_string(token, "name"))!, start, end));
                }
                lastToken = token;
            }
            var wave = Marshal.PtrToStructure<Wave>(utt_wave(utterance));
            var pcm = new short[wave.SampleCount];
            Marshal.Copy(wave.Samples, pcm, 0, pcm.Length);
            return (Array.ConvertAll(pcm, s => s / 32768f), wave.SampleRate, words);
        }
        finally
        {
            delete_utterance(utterance);
        }
    }

    private static nint Voice(string name)
    {
        if (Loaded.Count == 0)
        {
            _ = flite_init();
        }
        if (!Loaded.TryGetValue(name, out var voice))
        {
            Loaded[name] = voice = name switch
            {
                "slt" => register_cmu_us_slt(null),
                "rms" => register_cmu_us_rms(null),
                "awb" => register_cmu_us_awb(null),
                "kal16" => register_cmu_us_kal16(null),
                _ => throw new ArgumentException($"There is no flite voice called {name}.", nameof(name)),
            };
        }
        return voice;
    }

    [StructLayout(LayoutKind.Sequential)]
    private struct Wave
    {
        public nint Type;
        public int SampleRate;
        public int SampleCount;
        public int ChannelCount;
        public nint Samples;
    }

    [LibraryImport("libflite.so.1")]
    private static partial int flite_init();

    [LibraryImport("libflite.so.1", StringMarshalling = StringMarshalling.Utf8)]
    private static partial nint flite_synth_text(string text, nint voice);

    [LibraryImport("libflite.so.1", StringMarshalling = StringMarshalling.Utf8)]
    private static partial nint utt_relation(nint utterance, string name);

    [LibraryImport("libflite.so.1")]
    private static partial nint relation_head(nint relation);

    [LibraryImport("libflite.so.1")]
    private static partial nint item_next(nint item);

    [LibraryImport("libflite.so.1", StringMarshalling = StringMarshalling.Utf8)]
    private static partial nint item_as(nint item, string relation);

    [LibraryImport("libflite.so.1")]
    private static partial nint item_parent(nint item);

    [LibraryImport("libflite.so.1", StringMarshalling = StringMarshalling.Utf8)]
    private static partial float ffeature_float(nint item, string path);

    [LibraryImport("libflite.so.1", StringMarshalling = StringMarshalling.Utf8)]
    private static partial nint item_feat_string(nint item, string name);

    [LibraryImport("libflite.so.1")]
    private static partial nint utt_wave(nint utterance);

    [LibraryImport("libflite.so.1")]
    private static partial void delete_utterance(nint utterance);

    [LibraryImport("libflite_cmu_us_slt.so.1", StringMarshalling = StringMarshalling.Utf8)]
    private static partial nint register_cmu_us_slt(string? folder);

    [LibraryImport("libflite_cmu_us_rms.so.1", StringMarshalling = StringMarshalling.Utf8)]
    private static partial nint register_cmu_us_rms(string? folder);

    [LibraryImport("libflite_cmu_us_awb.so.1", StringMarshalling = StringMarshalling.Utf8)]
    private static partial nint register_cmu_us_awb(string? folder);

    [LibraryImport("libflite_cmu_us_kal16.so.1", StringMarshalling = StringMarshalling.Utf8)]
    private static partial nint register_cmu_us_kal16(string? folder);
}
