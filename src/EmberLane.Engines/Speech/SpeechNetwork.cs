using System.Runtime.InteropServices;
using EmberLane.Core.Signal;
using EmberLane.Core.Speech;
using Microsoft.ML.OnnxRuntime;

namespace EmberLane.Engines.Speech;

/// <summary>
/// How likely somebody speaks, by a small neural network that ships with the application (<c>Network/README.md</c>): it tells talk from
/// noise where loudness can not. The same sound gives the same answer. Safe for several threads.
/// </summary>
public static class SpeechNetwork
{
    /// <summary>The network looks at so many samples at a time (32 ms), and at the last of those before.</summary>
    private const int Window = 512,
        Before = 64,
        State = 2 * 128;

    /// <summary>A long sound is heard in parts on all cores; each part begins so early that the network has heard into it.</summary>
    private const int Part = 60 * SilenceSegmenter.SampleRate / Window * Window,
        HeardInto = 3 * SilenceSegmenter.SampleRate / Window * Window;

    private const double Loud = 0.1,
        MostGain = 30;

    private const int StepSamples = SilenceSegmenter.SampleRate / Step.PerSecond;

    private static readonly Lazy<InferenceSession> Network = new(() => OnnxNetwork.Load("speech.onnx"));

    private delegate void Reader(long first, Span<short> into);

    /// <summary>
    /// A chance from 0 to 1 for each 10 ms step of 16 kHz sound, as many as <see cref="SilenceSegmenter.Energy"/> gives. Some eighty times
    /// real time on a core.
    /// </summary>
    public static float[] Chances(short[] samples) =>
        Chances(samples.Length, SilenceSegmenter.Energy(samples), (first, into) => samples.AsSpan((int)first, into.Length).CopyTo(into));

    /// <summary>
    /// The same of raw sound in a file, whose energies are given; a few minutes of it are held at a time, however long it is.
    /// </summary>
    public static float[] Chances(string pcmPath, ReadOnlySpan<float> energy)
    {
        using var file = File.OpenHandle(pcmPath);
        return Chances(
            RandomAccess.GetLength(file) / 2,
            energy,
            (first, into) =>
            {
                var bytes = MemoryMarshal.AsBytes(into);
                for (int at = 0, got; at < bytes.Length; at += got)
                {
                    got = RandomAccess.Read(file, bytes[at..], (first * 2) + at);
                    if (got == 0)
                    {
                        throw new EndOfStreamException($"{Path.GetFileName(pcmPath)} became shorter while it was heard.");
                    }
                }
            }
        );
    }

    private static float[] Chances(long samples, ReadOnlySpan<float> energy, Reader read)
    {
        var windows = (int)((samples + Window - 1) / Window);
        var said = new float[windows];
        var gain = Gain(energy);
        Parallel.For(
            0,
            (int)((samples + Part - 1) / Part),
            new ParallelOptions { MaxDegreeOfParallelism = Environment.ProcessorCount },
            part =>
            {
                int first = part * (Part / Window),
                    from = Math.Max(0, first - (HeardInto / Window)),
                    end = Math.Min(windows, first + (Part / Window));
                var sound = new short[(end - from) * Window];
                read((long)from * Window, sound.AsSpan(0, (int)Math.Min(sound.Length, samples - ((long)from * Window))));
                Hear(sound, first - from, gain, said.AsSpan(first, end - first));
            }
        );
        var steps = new float[(samples + StepSamples - 1) / StepSamples];
        for (var i = 0; i < steps.Length; i++)
        {
            // By the window that holds the step's middle.
            steps[i] = said[(int)Math.Min(windows - 1, (((long)i * StepSamples) + (StepSamples / 2)) / Window)];
        }
        return steps;
    }

    // Brings the loudest twentieth of the sound to a tenth of full scale, since soft talk is told from noise less well.
    private static float Gain(ReadOnlySpan<float> energy)
    {
        var loud = Math.Sqrt(Percentile.Of(energy.ToArray().Select(e => (double)e), 95, whenEmpty: 0)) / 32768;
        return (float)(Math.Clamp(Loud / Math.Max(loud, 1e-6), 1, MostGain) / 32768);
    }

    // Runs the network over whole windows of sound and notes what it says behind so many of them.
    private static void Hear(short[] sound, int first, float gain, Span<float> said)
    {
        var state = new float[State];
        var input = new float[Before + Window];
        long[] rate = [SilenceSegmenter.SampleRate];
        using var run = new RunOptions();
        using var ofRate = OrtValue.CreateTensorValueFromMemory(rate, [1]);
        using var ofInput = OrtValue.CreateTensorValueFromMemory(input, [1, input.Length]);
        using var ofState = OrtValue.CreateTensorValueFromMemory(state, [2, 1, 128]);
        for (var w = 0; w < sound.Length / Window; w++)
        {
            input.AsSpan(Window).CopyTo(input);
            for (var i = 0; i < Window; i++)
            {
                input[Before + i] = Math.Clamp(gain * sound[(w * Window) + i], -1, 1);
            }
            using var results = Network.Value.Run(run, ["input", "state", "sr"], [ofInput, ofState, ofRate], Network.Value.OutputNames);
            results[1].GetTensorDataAsSpan<float>().CopyTo(state);
            if (w >= first)
            {
                said[w - first] = results[0].GetTensorDataAsSpan<float>()[0];
            }
        }
    }
}
