namespace EmberLane.Engines.Tests;

/// <summary>The sample files that each reader must survive, beside the tests.</summary>
internal static class Sample
{
    public static string Path(string name) => System.IO.Path.Combine(AppContext.BaseDirectory, "Samples", name);
}
