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

    private static readonly Lazy<InferenceSession> Network = new(Load);

    /// <summary>
    /// A chance from 0 to 1 for each 10 ms step of 16 kHz sound, as many as <see cref="SilenceSegmenter.Energy"/> gives. Some eighty times
    /// real time on a core.
    /// </summary>
    public static float[] Chances(short[] samples)
    {
        var windows = (samples.Length + Window - 1) / Window;
        var said = new float[windows];
        var gain = Gain(samples);
        Parallel.For(
            0,
            (samples.Length + Part - 1) / Part,
            part =>
            {
                var first = part * (Part / Window);
                Hear(samples, Math.Max(0, first - (HeardInto / Window)), first, Math.Min(windows, first + (Part / Window)), gain, said);
            }
        );
        var steps = new float[(samples.Length + StepSamples - 1) / StepSamples];
        for (var i = 0; i < steps.Length; i++)
        {
            // By the window that holds the step's middle.
            steps[i] = said[Math.Min(windows - 1, ((i * StepSamples) + (StepSamples / 2)) / Window)];
        }
        return steps;
    }

    // Brings the loudest twentieth of the sound to a tenth of full scale, since soft talk is told from noise less well.
    private static float Gain(short[] samples)
    {
        var energy = SilenceSegmenter.Energy(samples);
        var loud = Math.Sqrt(Percentile.Of(energy.Select(e => (double)e), 95, whenEmpty: 0)) / 32768;
        return (float)(Math.Clamp(Loud / Math.Max(loud, 1e-6), 1, MostGain) / 32768);
    }

    // Runs the network from one window to before another and notes what it says from the second on.
    private static void Hear(short[] samples, int from, int first, int end, float gain, float[] said)
    {
        var state = new float[State];
        var input = new float[Before + Window];
        long[] rate = [SilenceSegmenter.SampleRate];
        using var run = new RunOptions();
        using var ofRate = OrtValue.CreateTensorValueFromMemory(rate, [1]);
        using var ofInput = OrtValue.CreateTensorValueFromMemory(input, [1, input.Length]);
        using var ofState = OrtValue.CreateTensorValueFromMemory(state, [2, 1, 128]);
        for (var w = from; w < end; w++)
        {
            input.AsSpan(Window).CopyTo(input);
            for (var i = 0; i < Window; i++)
            {
                var at = (w * Window) + i;
                input[Before + i] = at < samples.Length ? Math.Clamp(gain * samples[at], -1, 1) : 0;
            }
            using var results = Network.Value.Run(run, ["input", "state", "sr"], [ofInput, ofState, ofRate], Network.Value.OutputNames);
            results[1].GetTensorDataAsSpan<float>().CopyTo(state);
            if (w >= first)
            {
                said[w] = results[0].GetTensorDataAsSpan<float>()[0];
            }
        }
    }

    private static InferenceSession Load()
    {
        using var stream = typeof(SpeechNetwork).Assembly.GetManifestResourceStream("speech.onnx")!;
        var bytes = new byte[stream.Length];
        stream.ReadExactly(bytes);
        using var options = new SessionOptions
        {
            IntraOpNumThreads = 1,
            InterOpNumThreads = 1,
            ExecutionMode = ExecutionMode.ORT_SEQUENTIAL,
        };
        return new InferenceSession(bytes, options);
    }
}
