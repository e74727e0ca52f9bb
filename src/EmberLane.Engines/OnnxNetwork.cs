using Microsoft.ML.OnnxRuntime;

namespace EmberLane.Engines;

/// <summary>A neural network that ships within this program.</summary>
internal static class OnnxNetwork
{
    /// <summary>Loads one by the name of its file; it runs on the thread that asks it.</summary>
    public static InferenceSession Load(string name)
    {
        using var stream = typeof(OnnxNetwork).Assembly.GetManifestResourceStream(name)!;
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
